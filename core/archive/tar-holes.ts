// Files with holes in tars of GNU tar ("Storing Sparse Files" in its manual): only what lies between the holes is stored, with a map.
import { ProblemError } from "../problem.ts";

const BLOCK = 512;
/** Pieces between holes; real maps have some thousand. */
const MOST_PIECES = 100_000;
const ZEROS = new Uint8Array(64 * 1024);

interface Piece {
  at: number;
  size: number;
}

const damaged = (): ProblemError =>
  new ProblemError("entry-damaged", "Its packed data is damaged.", "It was left out; the rest is here. Download the archive again.");

/** Hands out exact numbers of bytes from a stream of chunks. */
class Taking {
  private readonly source: AsyncIterator<Uint8Array>;
  private rest: Uint8Array = new Uint8Array();
  constructor(source: AsyncIterable<Uint8Array>) {
    this.source = source[Symbol.asyncIterator]();
  }
  /** The next chunk, no longer than `most`; undefined at the end. */
  async chunk(most: number): Promise<Uint8Array | undefined> {
    while (this.rest.length === 0) {
      const next = await this.source.next();
      if (next.done) return undefined;
      this.rest = next.value;
    }
    const chunk = this.rest.subarray(0, most);
    this.rest = this.rest.subarray(chunk.length);
    return chunk;
  }
  /** Exactly `size` bytes, or fewer at the end. */
  async bytes(size: number): Promise<Buffer> {
    const parts: Uint8Array[] = [];
    for (let left = size; left > 0;) {
      const chunk = await this.chunk(left);
      if (!chunk) break;
      parts.push(chunk);
      left -= chunk.length;
    }
    return Buffer.concat(parts);
  }
  async *pass(size: number): AsyncGenerator<Uint8Array> {
    for (let left = size; left > 0;) {
      const chunk = await this.chunk(left);
      if (!chunk) return;
      left -= chunk.length;
      yield chunk;
    }
  }
}

/** A number in a header: octal digits, or 256-based with the first bit set for large ones. */
function numberAt(header: Buffer, at: number, length: number): number {
  if (header[at]! & 0x80) {
    let value = header[at]! & 0x7f;
    for (let i = 1; i < length; i++) value = value * 256 + header[at + i]!;
    return value;
  }
  const text = header
    .toString("latin1", at, at + length)
    .replace(/\0.*$/s, "")
    .trim();
  return /^[0-7]+$/.test(text) ? parseInt(text, 8) : 0;
}
function piecesAt(header: Buffer, at: number, count: number, pieces: Piece[]): void {
  for (let i = 0; i < count; i++) {
    const start = at + 24 * i;
    if (header[start] === 0) return;
    if (pieces.length >= MOST_PIECES) throw damaged();
    pieces.push({ at: numberAt(header, start, 12), size: numberAt(header, start + 12, 12) });
  }
}

async function* zeros(size: number): AsyncGenerator<Uint8Array> {
  for (let left = size; left > 0; left -= ZEROS.length) yield ZEROS.subarray(0, Math.min(left, ZEROS.length));
}

async function* filled(taking: Taking, pieces: readonly Piece[], size: number): AsyncGenerator<Uint8Array> {
  let done = 0;
  for (const piece of pieces) {
    if (piece.at < done || piece.at + piece.size > size) throw damaged();
    yield* zeros(piece.at - done);
    yield* taking.pass(piece.size);
    done = piece.at + piece.size;
  }
  yield* zeros(size - done);
}

/** The header of a file without holes in place of one with holes (type "S"). */
function plainHeader(header: Buffer, size: number): Buffer {
  const plain = Buffer.from(header);
  plain.write("0", 156, "latin1");
  // 256-based: any size fits.
  plain.fill(0, 124, 136);
  plain[124] = 0x80;
  plain.writeUIntBE(size, 130, 6);
  plain.fill(0, 345, 500);
  plain.fill(" ", 148, 156);
  let sum = 0;
  for (const byte of plain) sum += byte;
  plain.write(`${sum.toString(8).padStart(6, "0")}\0 `, 148, "latin1");
  return plain;
}

/** Passes a tar on, its files with holes (GNU tar's old way, type "S") filled. */
export async function* withoutHoles(source: AsyncIterable<Uint8Array>): AsyncGenerator<Uint8Array> {
  const taking = new Taking(source);
  for (;;) {
    const header = await taking.bytes(BLOCK);
    if (header.length < BLOCK) {
      if (header.length > 0) yield header;
      return;
    }
    const stored = numberAt(header, 124, 12);
    const padding = (size: number) => (BLOCK - (size % BLOCK)) % BLOCK;
    if (header[156] !== 0x53 || header.toString("latin1", 257, 262) !== "ustar") {
      yield header;
      // Links and folders may state a size and hold nothing; only the closing blocks are all zero.
      const holds = !"123456".includes(String.fromCharCode(header[156]!));
      if (holds) yield* taking.pass(stored + padding(stored));
      continue;
    }
    const pieces: Piece[] = [];
    piecesAt(header, 386, 4, pieces);
    for (let more = header[482] === 1; more;) {
      const block = await taking.bytes(BLOCK);
      if (block.length < BLOCK) return;
      piecesAt(block, 0, 21, pieces);
      more = block[504] === 1;
    }
    const size = numberAt(header, 483, 12);
    yield plainHeader(header, size);
    yield* filled(taking, pieces, size);
    await taking.bytes(padding(stored));
    yield* zeros(padding(size));
  }
}

/** A file whose map stands in its extended header (0.1) or before its bytes (1.0); undefined when it has no holes. */
export function unfolded(pax: Readonly<Record<string, string>>, body: AsyncIterable<Uint8Array>): AsyncIterable<Uint8Array> | undefined {
  const size = Number(pax["GNU.sparse.realsize"] ?? pax["GNU.sparse.size"]);
  if (pax["GNU.sparse.map"] !== undefined) {
    const numbers = pax["GNU.sparse.map"].split(",").map(Number);
    return filled(new Taking(body), piecesOf(numbers), size);
  }
  if (pax["GNU.sparse.major"] === "1") return afterMap(body, size);
  return undefined;
}
function piecesOf(numbers: readonly number[]): Piece[] {
  if (numbers.length > 2 * MOST_PIECES || numbers.some((one) => !Number.isSafeInteger(one) || one < 0)) throw damaged();
  return Array.from({ length: numbers.length >> 1 }, (_, i) => ({ at: numbers[2 * i]!, size: numbers[2 * i + 1]! }));
}
async function* afterMap(body: AsyncIterable<Uint8Array>, size: number): AsyncGenerator<Uint8Array> {
  const taking = new Taking(body);
  let text = "";
  const numbers: number[] = [];
  let expected: number | undefined;
  while (expected === undefined || numbers.length < expected) {
    const block = await taking.bytes(BLOCK);
    if (block.length < BLOCK) throw damaged();
    text += block.toString("latin1").replace(/\0/g, "");
    const lines = text.split("\n");
    text = lines.pop()!;
    for (const line of lines) {
      if (expected === undefined) expected = 2 * Number(line);
      else if (numbers.length < expected) numbers.push(Number(line));
    }
    if (!Number.isSafeInteger(expected ?? 0) || (expected ?? 0) > 2 * MOST_PIECES) throw damaged();
  }
  yield* filled(taking, piecesOf(numbers), size);
}
