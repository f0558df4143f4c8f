// A window on a font's bytes. Nothing is copied; every read is checked against the window's end.
import { ProblemError } from "../problem.ts";

/** Thrown when a table says there is more than the file holds. */
export function shortBytes(where: string): ProblemError {
  return new ProblemError(
    "font-truncated",
    `The font file ends before its ${where} does.`,
    "Download it again; if it stays like this, ask whoever made it for a whole copy.",
  );
}

/**
 * How much reading one font file may cause. Tables point into one another and may overlap: a small file can promise endless work, and
 * no table by itself shows it.
 */
export class ReadingBudget {
  private left: number;
  constructor(reads: number) {
    this.left = reads;
  }
  /** For one file of so many bytes. Real fonts take less than a twentieth of it (`tests/hostile/limits.test.ts`). */
  static for(fileBytes: number): ReadingBudget {
    return new ReadingBudget(40_000_000 + 4 * fileBytes);
  }
  spend(reads: number): void {
    if ((this.left -= reads) >= 0) return;
    throw new ProblemError(
      "font-work-limit",
      "Reading this font takes more work than any font should (limit “Reading work”).",
      "Leave it out, or ask whoever made it for a mended copy.",
    );
  }
}

/** Bytes read in one go that cost as much as one number. */
const BYTES_A_READ = 4;

/** Big-endian reads, as the OpenType specification stores every number. Offsets are bytes from the window's start. */
export class View {
  readonly data: DataView;
  readonly where: string;
  readonly budget: ReadingBudget;
  constructor(bytes: Uint8Array, where: string, budget = ReadingBudget.for(bytes.length)) {
    this.data = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
    this.where = where;
    this.budget = budget;
  }
  get length(): number {
    return this.data.byteLength;
  }
  private need(at: number, size: number): void {
    if (at < 0 || at + size > this.data.byteLength) throw shortBytes(this.where);
    this.budget.spend(1);
  }
  u8(at: number): number {
    this.need(at, 1);
    return this.data.getUint8(at);
  }
  u16(at: number): number {
    this.need(at, 2);
    return this.data.getUint16(at);
  }
  i16(at: number): number {
    this.need(at, 2);
    return this.data.getInt16(at);
  }
  u24(at: number): number {
    this.need(at, 3);
    return (this.data.getUint8(at) << 16) | this.data.getUint16(at + 1);
  }
  u32(at: number): number {
    this.need(at, 4);
    return this.data.getUint32(at);
  }
  i32(at: number): number {
    this.need(at, 4);
    return this.data.getInt32(at);
  }
  /** 16.16 fixed point. */
  fixed(at: number): number {
    return this.i32(at) / 65536;
  }
  /** Seconds since 1904-01-01, as LONGDATETIME stores them. */
  longDateTime(at: number): number {
    this.need(at, 8);
    return Number(this.data.getBigInt64(at));
  }
  tag(at: number): string {
    this.need(at, 4);
    let tag = "";
    for (let i = 0; i < 4; i++) tag += String.fromCharCode(this.data.getUint8(at + i));
    return tag;
  }
  bytes(at: number, size: number): Uint8Array {
    this.need(at, size);
    return new Uint8Array(this.data.buffer, this.data.byteOffset + at, size);
  }
  /** The same, to be gone through byte by byte: that costs as much as reading them. */
  copied(at: number, size: number): Uint8Array {
    this.budget.spend(Math.ceil(size / BYTES_A_READ));
    return this.bytes(at, size);
  }
  /** A smaller window, `size` bytes from `at`; to this window's end when no size is given. */
  part(at: number, size = this.length - at, where = this.where): View {
    return new View(this.bytes(at, size), where, this.budget);
  }
}
