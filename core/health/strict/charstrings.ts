// The programs that draw CFF glyphs (Technical Note 5177, "The Type 2 Charstring Format"; OpenType specification, "CFF2"), run without
// drawing: whether each operator finds the numbers it needs.
import type { Strict } from "./reader.ts";

/** An INDEX: where each object begins, and where the last ends. */
export type Index = readonly number[];
export const countOf = (index: Index): number => Math.max(0, index.length - 1);

export interface Programs {
  t: Strict;
  cff2: boolean;
  global: Index;
  /** Regions of each part of the store of variations. */
  regions: readonly number[];
}

/** Appendix B. */
const MOST_LENGTH = 65535;
const MOST_HINTS = 96;
const DEEPEST = 10;
const MOST_NUMBERS = 48;
const MOST_NUMBERS_CFF2 = 513;
/** A number that was computed: it may stand for any. */
const COMPUTED = 0x7fffffff;

/** Operators CFF2 has dropped: return, endchar, and everything that computes. */
const NOT_IN_CFF2 = new Set([
  11,
  14,
  ...[0, 3, 4, 5, 9, 10, 11, 12, 14, 15, 18, 20, 21, 22, 23, 24, 26, 27, 28, 29, 30].map((op) => 1200 + op),
]);

const bias = (count: number): number => (count < 1240 ? 107 : count < 33900 ? 1131 : 32768);

/** Runs one glyph's program. `local` are its own subroutines, `part` the part of the store its numbers vary by. */
export class Runner {
  private readonly programs: Programs;
  private readonly stack = new Int32Array(MOST_NUMBERS_CFF2 + 2);
  private size = 0;
  private hints = 0;
  private width = false;
  private ended = false;
  private blended = false;
  private chosen = false;
  private part = 0;
  private local: Index = [];

  constructor(programs: Programs) {
    this.programs = programs;
  }

  run(from: number, to: number, local: Index, part: number): void {
    const { cff2, t } = this.programs;
    this.size = this.hints = 0;
    this.width = cff2;
    this.ended = this.blended = this.chosen = false;
    this.part = part;
    this.local = local;
    if (to - from > MOST_LENGTH) t.fail("a glyph's program is too long");
    this.execute(from, to, 0);
    if (!cff2 && !this.ended) t.fail("a glyph's program has no end");
  }

  private push(value: number): void {
    const { t, cff2 } = this.programs;
    if (this.size >= (cff2 ? MOST_NUMBERS_CFF2 : MOST_NUMBERS)) t.fail("a glyph's program piles up too many numbers");
    this.stack[this.size++] = value;
  }
  private need(numbers: number): void {
    if (this.size < numbers) this.wrong();
  }
  private wrong(): never {
    return this.programs.t.fail("a glyph's program does not have the numbers it needs");
  }
  private compute(takes: number, gives: number): void {
    this.need(takes);
    this.size -= takes;
    for (let i = 0; i < gives; i++) this.push(COMPUTED);
  }

  private execute(from: number, to: number, depth: number): void {
    const { t } = this.programs;
    const { bytes } = t;
    if (depth > DEEPEST) t.fail("subroutines are nested too deep");
    t.spend((to - from) >> 1);
    this.ended = false;
    for (let at = from; at < to;) {
      const b0 = bytes[at++]!;
      if (b0 >= 32 || b0 === 28) {
        const more = b0 === 28 ? 2 : b0 <= 246 ? 0 : b0 <= 254 ? 1 : 4;
        if (at + more > to) t.fail("a glyph's program ends in the middle of a number");
        if (b0 === 28) this.push(bytes[at]! * 256 + bytes[at + 1]!);
        else if (b0 <= 246) this.push(b0 - 139);
        else if (b0 <= 250) this.push((b0 - 247) * 256 + bytes[at]! + 108);
        else if (b0 <= 254) this.push(-(b0 - 251) * 256 - bytes[at]! - 108);
        else this.push(COMPUTED);
        at += more;
        continue;
      }
      let operator = b0;
      if (b0 === 12) {
        if (at >= to) t.fail("a glyph's program ends in the middle of an operator");
        operator = 1200 + bytes[at++]!;
      }
      if (operator === 19 || operator === 20) {
        at += this.mask();
        if (at > to) t.fail("a glyph's program ends in the middle of a mask");
      } else this.operate(operator, depth);
      if (this.ended || operator === 11) return;
    }
    if (!this.programs.cff2) t.fail("a glyph's program has no end");
  }

  /** hintmask and cntrmask; how many bytes of mask follow. */
  private mask(): number {
    const { size } = this;
    if (size !== 0 && !(!this.width && size === 1)) {
      if (this.width && size % 2 !== 0) this.wrong();
      this.stems(size >> 1);
    }
    if (this.hints === 0) this.wrong();
    this.clear();
    return (this.hints + 7) >> 3;
  }
  private stems(count: number): void {
    if ((this.hints += count) > MOST_HINTS) this.programs.t.fail("a glyph has too many hints");
  }
  private clear(): void {
    this.size = 0;
    this.width = true;
  }
  /** A drawing operator, which needs a move before it and its own number of numbers. */
  private draw(fits: boolean): void {
    if (!this.width || !fits) this.wrong();
    this.size = 0;
  }

  private call(subroutines: Index, depth: number): void {
    const { t } = this.programs;
    this.need(1);
    const number = this.stack[--this.size]!;
    const chosen = number + bias(countOf(subroutines));
    if (number === COMPUTED || chosen < 0 || chosen >= countOf(subroutines))
      t.fail("a glyph's program calls a subroutine that is not there");
    const [from, to] = [subroutines[chosen]!, subroutines[chosen + 1]!];
    if (to - from > MOST_LENGTH) t.fail("a subroutine is too long");
    this.execute(from, to, depth + 1);
  }

  private operate(operator: number, depth: number): void {
    const { t, cff2, global, regions } = this.programs;
    const { size } = this;
    if (cff2 && NOT_IN_CFF2.has(operator)) t.fail("a glyph's program uses an unknown operator");
    switch (operator) {
      case 10:
        return this.call(this.local, depth);
      case 29:
        return this.call(global, depth);
      case 11: // return
        return;
      case 14: // endchar
        this.ended = this.width = true;
        return;
      case 15: // vsindex
        if (!cff2 || size !== 1 || this.blended || this.chosen) this.wrong();
        if (this.stack[0]! < 0 || this.stack[0]! >= regions.length) t.fail("a glyph varies by a part that is not there");
        this.chosen = true;
        this.part = this.stack[0]!;
        this.size = 0;
        return;
      case 16: {
        // blend: of n numbers and their changes in each of k regions the n numbers stay
        if (!cff2) return t.fail("a glyph's program uses an unknown operator");
        this.need(1);
        if (this.part >= regions.length) t.fail("a glyph varies by a part that is not there");
        const k = regions[this.part]!;
        const n = this.stack[size - 1]! & 0xffff;
        this.need(n * (k + 1) + 1);
        this.size = size - (n * k + 1);
        this.blended = true;
        return;
      }
      case 1: // hstem
      case 3: // vstem
      case 18: // hstemhm
      case 23: // vstemhm
        this.need(2);
        if (size % 2 !== 0 && this.width) this.wrong();
        this.stems(size >> 1);
        return this.clear();
      case 21: // rmoveto
      case 4: // vmoveto
      case 22: {
        // hmoveto
        const wanted = operator === 21 ? 2 : 1;
        if (size !== wanted && !(!this.width && size === wanted + 1)) this.wrong();
        return this.clear();
      }
      case 5: // rlineto
        return this.draw(size >= 2 && size % 2 === 0);
      case 6: // hlineto
      case 7: // vlineto
        return this.draw(size >= 1);
      case 8: // rrcurveto
        return this.draw(size >= 6 && size % 6 === 0);
      case 24: // rcurveline
        return this.draw(size >= 8 && (size - 2) % 6 === 0);
      case 25: // rlinecurve
        return this.draw(size >= 8 && size % 2 === 0);
      case 26: // vvcurveto
      case 27: // hhcurveto
        return this.draw(size >= 4 && size % 4 <= 1);
      case 30: // vhcurveto
      case 31: // hvcurveto
        return this.draw(size >= 4 && size % 4 <= 1);
      case 1200: // dotsection
        if (size !== 0) this.wrong();
        return;
      case 1203: // and
      case 1204: // or
      case 1215: // eq
      case 1210: // add
      case 1211: // sub
      case 1212: // div
      case 1224: // mul
        return this.compute(2, 1);
      case 1205: // not
      case 1209: // abs
      case 1214: // neg
      case 1226: // sqrt
        return this.compute(1, 1);
      case 1218: // drop
        return this.compute(1, 0);
      case 1222: // ifelse
        return this.compute(4, 1);
      case 1227: // dup
        return this.compute(1, 2);
      case 1228: // exch
        return this.compute(2, 2);
      case 1234: // hflex
        return this.draw(size === 7);
      case 1235: // flex
        return this.draw(size === 13);
      case 1236: // hflex1
        return this.draw(size === 9);
      case 1237: // flex1
        return this.draw(size === 11);
      default:
        // put, get, index, roll and random among them: what they lead to cannot be told beforehand.
        t.fail("a glyph's program uses an unknown operator");
    }
  }
}
