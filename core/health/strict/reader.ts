// Reads a table the way browsers do before they hand a font to their drawing code: whatever does not fit ends it.
import type { ReadingBudget } from "../../sfnt/view.ts";

/** Why a strict reader refuses a table, as the end of a sentence: "a lookup points outside the table". */
export class Refusal extends Error {}

/** Positions are bytes from the table's start. Every read is checked against its end. */
export class Strict {
  readonly bytes: Uint8Array;
  readonly end: number;
  private readonly data: DataView;
  private readonly budget: ReadingBudget;

  constructor(bytes: Uint8Array, budget: ReadingBudget, end = bytes.length) {
    this.bytes = bytes;
    this.end = end;
    this.budget = budget;
    this.data = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  }

  fail(reason: string): never {
    throw new Refusal(reason);
  }
  /** Counts work that is not reading one number. */
  spend(work: number): void {
    this.budget.spend(work);
  }
  /** Ends it unless `size` bytes follow from `at`. */
  has(at: number, size: number): void {
    if (at + size > this.end) this.fail("something ends before it should");
  }
  u8(at: number): number {
    if (at + 1 > this.end) this.fail("something ends before it should");
    return this.bytes[at]!;
  }
  u16(at: number): number {
    if (at + 2 > this.end) this.fail("something ends before it should");
    return this.data.getUint16(at);
  }
  i16(at: number): number {
    if (at + 2 > this.end) this.fail("something ends before it should");
    return this.data.getInt16(at);
  }
  u24(at: number): number {
    return this.u8(at) * 0x10000 + this.u16(at + 1);
  }
  u32(at: number): number {
    if (at + 4 > this.end) this.fail("something ends before it should");
    return this.data.getUint32(at);
  }
  i32(at: number): number {
    return this.u32(at) | 0;
  }
  tag(at: number): string {
    return String.fromCharCode(this.u8(at), this.u8(at + 1), this.u8(at + 2), this.u8(at + 3));
  }

  /** Where a part lies whose offset from `base` is given; it must come after the first `least` bytes and begin before the table's end. */
  inside(base: number, offset: number, least: number, what: string): number {
    if (offset < least || base + offset >= this.end) this.fail(`${what} points to the wrong place`);
    return base + offset;
  }
  /** The same for the 16-bit offset stored at `at`. */
  part(base: number, at: number, least: number, what: string): number {
    return this.inside(base, this.u16(at), least, what);
  }
  /** A list of offsets must end where 16 bits still reach. */
  reach(end: number, what: string): number {
    if (end > 0xffff) this.fail(`${what} is too long`);
    return end;
  }
  /** The same bytes as a table of their own that ends at `end`. */
  upTo(end: number): Strict {
    return new Strict(this.bytes, this.budget, end);
  }
}
