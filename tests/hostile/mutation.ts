// Damage of many kinds: what transfers, disks, editors and attackers do to files.

const WORDS = [
  "0",
  "-1",
  "65535",
  "65536",
  "4294967295",
  "99999999999999999999",
  "1e309",
  "NaN",
  "%00",
  "../../../x",
  "\\..\\x",
  "C:\\x",
  "\u202E",
  "\u0000",
  "\uFEFF",
  "\uD800",
  "\r\n\r\n",
  "<",
  ">",
  "&amp;",
  "&#0;",
  "]]>",
  "<!--",
  "{",
  "}",
  "\\",
  '"',
  "'",
  "(",
  "/*",
  "personal use only",
  "free for commercial use",
  "not ",
  "except ",
  "http://",
  "@font-face{",
  "<style>",
  "<svg>",
  "obj<<",
  "stream\n",
].map((word) => new TextEncoder().encode(word));
const NUMBERS = [0, 1, 0x7f, 0x80, 0xff, 0x7fff, 0x8000, 0xffff, 0x10000, 0x7fffffff, 0x80000000, 0xfffffffe, 0xffffffff];

/** A copy of one of `whole`, changed in up to eight ways. */
export function mutated(whole: readonly Uint8Array[], random: () => number): Uint8Array {
  const below = (most: number) => Math.floor(random() * most);
  let bytes = Uint8Array.from(whole[below(whole.length)]!);
  const joined = (...parts: readonly Uint8Array[]) => Uint8Array.from(Buffer.concat(parts));
  for (let changes = 1 + below(8); changes > 0 && bytes.length > 8; changes--) {
    // Half of the changes where directories are: near one of the ends.
    const near = random();
    const span = near < 0.5 ? Math.min(400, bytes.length) : bytes.length;
    const at = near < 0.25 ? bytes.length - 1 - below(span) : below(span);
    const length = 1 + below(random() < 0.7 ? 16 : Math.min(4000, bytes.length));
    const view = new DataView(bytes.buffer);
    switch (below(10)) {
      case 0:
      case 1:
        bytes[at] = below(256);
        break;
      case 2:
        bytes[at]! ^= 1 << below(8);
        break;
      case 3: {
        if (at + 4 > bytes.length) break;
        const number = NUMBERS[below(NUMBERS.length)]!;
        if (random() < 0.5) view.setUint32(at, number, random() < 0.5);
        else view.setUint16(at, number, random() < 0.5);
        break;
      }
      case 4:
        bytes = joined(bytes.subarray(0, at), bytes.subarray(Math.min(bytes.length, at + length)));
        break;
      case 5:
        // The same piece again, up to a hundred times.
        bytes = joined(
          bytes.subarray(0, at),
          ...Array.from({ length: 1 + below(random() < 0.9 ? 2 : 100) }, () => bytes.subarray(at, at + length)),
          bytes.subarray(at),
        );
        break;
      case 6:
        bytes = joined(bytes.subarray(0, at), WORDS[below(WORDS.length)]!, bytes.subarray(at));
        break;
      case 7: {
        const other = whole[below(whole.length)]!;
        const from = below(other.length);
        bytes = joined(bytes.subarray(0, at), other.subarray(from, from + length), bytes.subarray(Math.min(bytes.length, at + length)));
        break;
      }
      case 8:
        bytes.fill(random() < 0.5 ? 0 : 0xff, at, at + length);
        break;
      default:
        if (random() < 0.4) bytes = bytes.slice(0, at);
    }
  }
  return bytes;
}
