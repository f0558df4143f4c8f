// 'CFF ' and 'CFF2' (Technical Note 5176, "The Compact Font Format Specification"; OpenType specification, "CFF2"), read strictly.
import { countOf, Runner, type Index } from "./charstrings.ts";
import { type Strict } from "./reader.ts";
import { checkItemStore } from "./variations.ts";

/** Appendix A: strings that are known without being stored. */
const KNOWN_STRINGS = 390;
const MOST_OPERANDS = 48;
const MOST_OPERANDS_CFF2 = 513;

interface Number {
  value: number;
  whole: boolean;
}
type Kind = "top" | "fonts";

/** An INDEX (section 5) and the byte after it. */
function readIndex(t: Strict, at: number, cff2: boolean): { index: Index; end: number } {
  const count = cff2 ? t.u32(at) : t.u16(at);
  const head = cff2 ? 4 : 2;
  if (count === 0) return { index: [], end: at + head };
  const size = t.u8(at + head);
  if (size < 1 || size > 4) t.fail("a list has offsets of an impossible size");
  const first = at + head + 1;
  const base = first + (count + 1) * size;
  if (base >= t.end) t.fail("a list ends before it should");
  t.spend(count);
  const index: number[] = [];
  for (let i = 0; i <= count; i++) {
    let offset = 0;
    for (let k = 0; k < size; k++) offset = offset * 256 + t.bytes[first + i * size + k]!;
    if (offset < 1 || (i === 0 && offset !== 1) || base + offset - 1 > t.end) t.fail("a list points to the wrong place");
    index.push(base + offset - 1);
    if (i > 0 && index[i]! < index[i - 1]!) t.fail("a list is out of order");
  }
  return { index, end: index[count]! };
}

/** The operators of a DICT (section 4) with the numbers before each; two-byte operators are 1200 and the second byte. */
function* dictOf(
  t: Strict,
  from: number,
  to: number,
  cff2: boolean,
): Generator<{ operator: number; numbers: Number[] }, void, Number[] | undefined> {
  let numbers: Number[] = [];
  const own = t.upTo(to);
  for (let at = from; at < to;) {
    const b0 = own.u8(at++);
    own.spend(1);
    if (b0 <= 24) {
      const operator = b0 === 12 ? 1200 + own.u8(at++) : b0;
      const second = operator - 1200;
      if (b0 === 12 && !(second <= 14 || (second >= 17 && second <= 23) || (second >= 30 && second <= 38)))
        t.fail("a dictionary holds an unknown entry");
      if (numbers.length + 1 > (cff2 ? MOST_OPERANDS_CFF2 : MOST_OPERANDS)) t.fail("a dictionary piles up too many numbers");
      numbers = (yield { operator, numbers }) ?? [];
      continue;
    }
    let value = 0;
    let whole = true;
    if (b0 === 28) {
      value = own.u16(at);
      at += 2;
    } else if (b0 === 29) {
      value = own.u32(at);
      at += 4;
    } else if (b0 === 30) {
      at = realEnd(own, at);
      whole = false;
    } else if (b0 >= 32 && b0 <= 246) value = b0 - 139;
    else if (b0 >= 247 && b0 <= 250) value = (b0 - 247) * 256 + own.u8(at++) + 108;
    else if (b0 >= 251 && b0 <= 254) value = -(b0 - 251) * 256 + own.u8(at++) - 108;
    else t.fail("a dictionary holds an unknown number");
    // Numbers are compared as if they had no sign: a negative offset lies far outside.
    numbers.push({ value: value >>> 0, whole });
    if (numbers.length > (cff2 ? MOST_OPERANDS_CFF2 : MOST_OPERANDS)) t.fail("a dictionary piles up too many numbers");
  }
}

/** The byte after a real number (table 5), whose second half-bytes are looked at as browsers do. */
function realEnd(t: Strict, at: number): number {
  let [point, exponent] = [false, false];
  for (;;) {
    const byte = t.u8(at++);
    if (byte >> 4 === 0xf && byte !== 0xff) t.fail("a number has no end");
    const half = byte & 0x0f;
    if (half === 0xf) return at;
    if (half === 0xd || half === 0xe || (half === 0xa && point) || ((half === 0xb || half === 0xc) && exponent))
      t.fail("a number cannot be read");
    if (half === 0xa) point = true;
    if (half === 0xb || half === 0xc) exponent = true;
  }
}

const STRINGS = new Set([0, 1, 2, 3, 4, 1200, 1221, 1222, 1238]);
const ARRAYS = new Set([5, 14, 1207, 1223]);
const SINGLE = new Set([13, 1202, 1203, 1204, 1205, 1208, 1220]);
const CID_ONLY = new Set([1231, 1232, 1233, 1234, 1235]);

const PRIVATE_PAIRS = new Set([6, 7, 8, 9]);
const PRIVATE_ARRAYS = new Set([1212, 1213]);
const PRIVATE_SINGLE = new Set([10, 11, 20, 21, 1209, 1210, 1211, 1217, 1218, 1219]);

/** Entries a CFF2 dictionary may have. */
const inCff2 = (operator: number, kind: Kind | "private"): boolean =>
  kind === "top"
    ? [1207, 17, 1236, 1237, 24].includes(operator)
    : kind === "fonts"
      ? operator === 18
      : ![1214, 1219, 20, 21].includes(operator);

class CffCheck {
  private readonly t: Strict;
  private readonly cff2: boolean;
  private readonly glyphs: number;
  private readonly axes: number | undefined;
  private strings = KNOWN_STRINGS;
  private charStrings: Index = [];
  private regions: number[] = [];
  /** Which dictionary each glyph goes by; undefined when there are none to choose from. */
  private select: Int32Array | undefined;
  private fonts = 0;
  private readonly subroutines: { local: Index; part: number }[] = [];
  private ownSubroutines: Index | undefined;

  constructor(t: Strict, cff2: boolean, glyphs: number, axes: number | undefined) {
    this.t = t;
    this.cff2 = cff2;
    this.glyphs = glyphs;
    this.axes = axes;
  }

  check(): void {
    const { t } = this;
    const global = this.cff2 ? this.headCff2() : this.head();
    if (this.select) for (const font of this.select) if (font >= this.fonts) t.fail("a glyph goes by a dictionary that is not there");
    if (countOf(this.charStrings) === 0) t.fail("there are no glyphs");
    const runner = new Runner({ t, cff2: this.cff2, global, regions: this.regions });
    for (let glyph = 0; glyph < countOf(this.charStrings); glyph++) {
      const { local, part } = this.subroutinesOf(glyph);
      runner.run(this.charStrings[glyph]!, this.charStrings[glyph + 1]!, local, part);
    }
  }

  private subroutinesOf(glyph: number): { local: Index; part: number } {
    const { t, select, subroutines } = this;
    const own = select?.[glyph] ?? -1;
    const chosen = own >= 0 ? own : undefined;
    let local: Index = [];
    if (select && subroutines.length > 0) {
      const font = subroutines[chosen ?? -1];
      if (!font) return t.fail("a glyph goes by a dictionary that is not there");
      local = font.local;
    } else if (this.ownSubroutines) local = this.ownSubroutines;
    else if (this.cff2 && subroutines.length === 1) local = subroutines[0]!.local;
    if (!this.cff2) return { local, part: 0 };
    const font = subroutines[chosen ?? 0];
    if (!font) return t.fail("a glyph goes by a dictionary that is not there");
    return { local, part: font.part };
  }

  private head(): Index {
    const { t } = this;
    const [major, minor, size, offSize] = [t.u8(0), t.u8(1), t.u8(2), t.u8(3)];
    if (offSize < 1 || offSize > 4 || major !== 1 || minor !== 0 || size !== 4 || size >= t.end) t.fail("its version is unknown");
    const names = readIndex(t, size, false);
    if (countOf(names.index) !== 1) t.fail("it has not one name but several, or none");
    this.name(names.index[0]!, names.index[1]!);
    const tops = readIndex(t, names.end, false);
    if (countOf(tops.index) !== 1) t.fail("it holds not one font but several, or none");
    const strings = readIndex(t, tops.end, false);
    if (countOf(strings.index) >= 65000 - KNOWN_STRINGS) t.fail("it holds too many strings");
    this.strings += countOf(strings.index);
    this.dictionary(tops.index[0]!, tops.index[1]!, "top");
    return readIndex(t, strings.end, false).index;
  }
  private headCff2(): Index {
    const { t } = this;
    const [major, minor, size, top] = [t.u8(0), t.u8(1), t.u8(2), t.u16(3)];
    if (major !== 2 || minor !== 0 || size >= t.end || top === 0 || size + top > t.end) t.fail("its version is unknown");
    this.dictionary(size, size + top, "top");
    return readIndex(t, size + top, true).index;
  }

  /** Section 7. */
  private name(from: number, to: number): void {
    const { t } = this;
    if (to - from > 127) t.fail("its PostScript name is too long");
    for (let at = from; at < to; at++) {
      const byte = t.u8(at);
      if (at === from && byte === 0) continue;
      if (byte < 33 || byte > 126 || "[](){}<>/%".includes(String.fromCharCode(byte)))
        t.fail("its PostScript name holds signs that are not allowed there");
    }
  }

  private offset(number: Number): number {
    if (!number.whole || number.value >= this.t.end) this.t.fail("a dictionary points to the wrong place");
    return number.value;
  }

  private dictionary(from: number, to: number, kind: Kind): void {
    const { t, cff2 } = this;
    if (cff2) this.store(from, to, kind);
    let format: "" | "cid" | "other" = "";
    let charset = 0;
    let haveGlyphs = false;
    let stores = 0;
    const one = (numbers: readonly Number[]): Number => {
      if (numbers.length !== 1) t.fail("a dictionary's entry has a wrong number of numbers");
      return numbers[0]!;
    };
    for (const { operator, numbers } of dictOf(t, from, to, cff2)) {
      if (cff2 && !inCff2(operator, kind)) t.fail("a dictionary holds an unknown entry");
      if (STRINGS.has(operator)) this.string(one(numbers));
      else if (ARRAYS.has(operator)) {
        if (numbers.length === 0) t.fail("a dictionary's entry is empty");
      } else if (SINGLE.has(operator)) one(numbers);
      else if (CID_ONLY.has(operator)) {
        one(numbers);
        if (format !== "cid") t.fail("a dictionary's entries are out of order");
      } else if (operator === 1206) {
        if (!one(numbers).whole || numbers[0]!.value !== 2) t.fail("its glyphs are drawn in an unknown way");
      } else if (operator === 1201) {
        if (!one(numbers).whole || numbers[0]!.value >= 2) t.fail("a dictionary's entry is neither yes nor no");
      } else if (operator === 15) {
        if (one(numbers).value > 2) {
          if (charset !== 0) t.fail("it names its glyphs twice");
          charset = this.offset(numbers[0]!);
        }
      } else if (operator === 16) {
        if (one(numbers).value > 1 && (t.u8(this.offset(numbers[0]!)) & 0x80) !== 0) t.fail("its encoding is of an unknown kind");
      } else if (operator === 17) {
        if (kind !== "top" || haveGlyphs) t.fail("it draws its glyphs twice");
        haveGlyphs = true;
        const { index } = readIndex(t, this.offset(one(numbers)), cff2);
        if (countOf(index) < 2 || countOf(index) !== this.glyphs) t.fail("it draws another number of glyphs than there are");
        this.charStrings = index;
      } else if (operator === 24) {
        if (!cff2 || stores++ > 0) t.fail("a dictionary holds an unknown entry");
      } else if (operator === 1236) this.fontDictionaries(kind, one(numbers));
      else if (operator === 1237) this.fontSelect(kind, one(numbers));
      else if (operator === 18) this.private(numbers, kind);
      else if (operator === 1230) {
        if (format !== "" || numbers.length !== 3) t.fail("a dictionary's entries are out of order");
        format = "cid";
        this.string(numbers[1]!);
        this.string(numbers[0]!);
      } else t.fail("a dictionary holds an unknown entry");
      if (format === "") format = "other";
    }
    if (charset !== 0) this.charset(charset, format === "cid");
  }

  private string(number: Number): void {
    if (!number.whole || number.value > this.strings) this.t.fail("a dictionary names a string that is not there");
  }

  /** CFF2's store of variations comes before what varies by it. */
  private store(from: number, to: number, kind: Kind): void {
    const { t } = this;
    let hasPrivate = false;
    for (const { operator, numbers } of dictOf(t, from, to, true)) {
      if (operator === 18) hasPrivate = true;
      if (operator !== 24) continue;
      if (kind !== "top" || numbers.length !== 1) t.fail("a dictionary holds an unknown entry");
      const at = this.offset(numbers[0]!);
      const length = t.u16(at);
      if (length > t.end - at - 2) t.fail("a store of variations ends before it should");
      if (length > 0) this.regions = checkItemStore(t.upTo(at + 2 + length), at + 2, this.axes);
      break;
    }
    if (kind === "fonts" && !hasPrivate) t.fail("a dictionary lacks its own values");
  }

  private fontDictionaries(kind: Kind, number: Number): void {
    const { t } = this;
    if (kind !== "top") t.fail("a dictionary holds an unknown entry");
    const { index } = readIndex(t, this.offset(number), this.cff2);
    for (let i = 0; i < countOf(index); i++) this.dictionary(index[i]!, index[i + 1]!, "fonts");
    if (this.fonts !== 0) t.fail("it has two lists of dictionaries");
    this.fonts = countOf(index);
  }

  /** Section 19. */
  private fontSelect(kind: Kind, number: Number): void {
    const { t, glyphs } = this;
    if (kind !== "top") t.fail("a dictionary holds an unknown entry");
    const at = this.offset(number);
    const format = t.u8(at);
    const select = (this.select ??= new Int32Array(glyphs).fill(-1));
    if (format === 0) {
      t.has(at + 1, glyphs);
      for (let glyph = 0; glyph < glyphs; glyph++) select[glyph] = t.u8(at + 1 + glyph);
      return;
    }
    if (format !== 3 && !(this.cff2 && format === 4)) t.fail("its choice of dictionaries has an unknown format");
    const wide = format === 4;
    const ranges = wide ? t.u32(at + 1) : t.u16(at + 1);
    if (ranges === 0) t.fail("its choice of dictionaries is empty");
    const [step, start] = [wide ? 6 : 3, at + (wide ? 5 : 3)];
    const first = (i: number) => (wide ? t.u32(start + step * i) : t.u16(start + step * i));
    for (let i = 0; i < ranges; i++) {
      t.spend(1);
      const [from, to] = [first(i), first(i + 1)];
      if ((i === 0 && from !== 0) || to <= from || from >= glyphs || to > glyphs) t.fail("its choice of dictionaries is out of order");
      if (i < ranges - 1 && to >= glyphs) t.fail("its choice of dictionaries is out of order");
      const font = wide ? t.u16(start + step * i + 4) : t.u8(start + step * i + 2);
      for (let glyph = from; glyph < to; glyph++) {
        if (select[glyph] !== -1) t.fail("it chooses its dictionaries twice");
        select[glyph] = font;
      }
    }
  }

  /** Section 15. */
  private private(numbers: readonly Number[], kind: Kind): void {
    const { t, cff2 } = this;
    const [length, offset] = numbers;
    if (numbers.length !== 2 || !length!.whole || !offset!.whole) return t.fail("a dictionary's entry has a wrong number of numbers");
    const from = offset!.value;
    if (from > t.end || length!.value >= t.end || from + length!.value > t.end) t.fail("a dictionary points to the wrong place");
    const own: { local: Index; part: number } = { local: [], part: 0 };
    if (kind === "fonts") this.subroutines.push(own);
    let blended = false;
    const dict = dictOf(t, from, from + length!.value, cff2);
    let step = dict.next();
    while (!step.done) {
      const { operator, numbers: own16 } = step.value;
      let kept: Number[] = [];
      if (cff2 && !inCff2(operator, "private")) t.fail("a dictionary holds an unknown entry");
      const single = (): Number => {
        if (own16.length !== 1) t.fail("a dictionary's entry has a wrong number of numbers");
        return own16[0]!;
      };
      if (PRIVATE_PAIRS.has(operator)) {
        if (own16.length % 2 !== 0) t.fail("a dictionary's entry has a wrong number of numbers");
      } else if (PRIVATE_ARRAYS.has(operator)) {
        if (own16.length === 0) t.fail("a dictionary's entry is empty");
      } else if (PRIVATE_SINGLE.has(operator)) single();
      else if (operator === 19) {
        const { value, whole } = single();
        if (!whole || value >= 2 ** 30 || value + from >= t.end) t.fail("a dictionary points to the wrong place");
        if (kind === "top" && this.ownSubroutines) t.fail("it has two lists of subroutines");
        const { index } = readIndex(t, value + from, cff2);
        if (kind === "fonts") own.local = index;
        else this.ownSubroutines = index;
      } else if (operator === 1214) {
        const { value, whole } = single();
        if (!whole || value >= 2) t.fail("a dictionary's entry is neither yes nor no");
      } else if (operator === 22 && cff2) {
        const { value, whole } = single();
        if (!whole || blended || (value | 0) < 0 || value >= this.regions.length) t.fail("a dictionary varies by a part that is not there");
        own.part = value;
      } else if (operator === 23 && cff2) {
        if (own16.length < 1 || own.part >= this.regions.length) t.fail("a dictionary varies by a part that is not there");
        const k = this.regions[own.part]!;
        const n = own16.at(-1)!.value & 0xffff;
        if (own16.length < n * (k + 1) + 1) t.fail("a dictionary's entry has a wrong number of numbers");
        kept = own16.slice(0, own16.length - (n * k + 1));
        blended = true;
      } else t.fail("a dictionary holds an unknown entry");
      step = dict.next(kept);
    }
  }

  /** Section 13. */
  private charset(at: number, cid: boolean): void {
    const { t, glyphs } = this;
    const format = t.u8(at);
    if (format > 2) t.fail("its glyphs' names have an unknown format");
    let next = at + 1;
    for (let named = 1; named < glyphs;) {
      t.spend(1);
      const string = t.u16(next);
      if (!cid && string > this.strings) t.fail("a glyph's name is missing");
      next += 2;
      if (format === 0) named++;
      else {
        named += (format === 1 ? t.u8(next) : t.u16(next)) + 1;
        next += format;
      }
    }
  }
}

export const checkCff = (t: Strict, glyphs: number): void => new CffCheck(t, false, glyphs, undefined).check();
export const checkCff2 = (t: Strict, glyphs: number, axes: number | undefined): void => new CffCheck(t, true, glyphs, axes).check();
