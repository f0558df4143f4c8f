// 'name': the font's names in many languages (OpenType specification, "name — Naming Table").
import { plainName, plainProse } from "../words/plain.ts";
import type { View } from "./view.ts";

/** Name IDs used here (same section, "Name IDs"). */
export const NAME = {
  copyright: 0,
  family: 1,
  style: 2,
  uniqueId: 3,
  fullName: 4,
  version: 5,
  postScriptName: 6,
  trademark: 7,
  manufacturer: 8,
  designer: 9,
  description: 10,
  vendorUrl: 11,
  designerUrl: 12,
  licence: 13,
  licenceUrl: 14,
  typographicFamily: 16,
  typographicStyle: 17,
  compatibleFull: 18,
  sampleText: 19,
  postScriptFindFont: 20,
  wwsFamily: 21,
  wwsStyle: 22,
  variationsPrefix: 25,
} as const;

/** What is read as a text; every other name stands in one line. */
const PROSE = new Set<number>([NAME.copyright, NAME.trademark, NAME.description, NAME.licence, NAME.sampleText]);

export interface NameRecord {
  platform: number;
  encoding: number;
  language: number;
  id: number;
  text: string;
}

const WINDOWS = 3;
const MAC = 1;
const UNICODE = 0;
/** Windows language identifiers whose primary part is English. */
const isEnglish = (record: Omit<NameRecord, "text">): boolean =>
  record.platform === WINDOWS ? (record.language & 0x3ff) === 0x09 : record.platform === MAC ? record.language === 0 : true;

// Multi-byte Windows encodings that old fonts use for their names (same section, "Windows encoding IDs").
const windowsCharset: Record<number, string> = { 2: "shift_jis", 3: "gb18030", 4: "big5", 5: "euc-kr" };

function decode(bytes: Uint8Array, platform: number, encoding: number): string {
  if (platform === MAC) return new TextDecoder(macCharset[encoding] ?? "macintosh").decode(bytes);
  const charset = platform === WINDOWS ? windowsCharset[encoding] : undefined;
  if (charset !== undefined && bytes.length % 2 === 0) {
    // In these encodings each character takes two bytes, and a single-byte one is padded with a zero byte.
    return new TextDecoder(charset).decode(bytes.filter((byte) => byte !== 0));
  }
  return new TextDecoder("utf-16be").decode(bytes);
}

const macCharset: Record<number, string> = { 1: "shift_jis", 2: "big5", 3: "euc-kr", 7: "x-mac-cyrillic", 25: "gb18030" };

/** A name this long in bytes is a licence; what follows is left out. */
const MOST_BYTES = 40_000;
/** Records of one ID that are looked at: more than there are languages to name a font in. */
const MOST_OF_ONE_ID = 1000;

/** A record whose text is read when it is asked for: many records may share one text. */
interface Slot extends Omit<NameRecord, "text"> {
  start: number;
  length: number;
}

/** All names; records that point outside the table are skipped, as the programs that read fonts do. */
export class Names {
  /** Records whose text lies outside the table. */
  readonly outside: number = 0;
  private readonly view: View;
  private readonly slots = new Map<number, Slot[]>();
  private readonly texts = new Map<string, string>();

  constructor(view: View) {
    this.view = view;
    const count = view.u16(2);
    const storage = view.u16(4);
    for (let i = 0; i < count; i++) {
      const at = 6 + 12 * i;
      if (at + 12 > view.length) {
        this.outside += count - i;
        break;
      }
      const [platform, encoding, language, id] = [view.u16(at), view.u16(at + 2), view.u16(at + 4), view.u16(at + 6)];
      const length = view.u16(at + 8);
      const start = storage + view.u16(at + 10);
      if (start + length > view.length) {
        this.outside++;
        continue;
      }
      const slot = { platform, encoding, language, id, start, length: Math.min(length, MOST_BYTES) };
      const there = this.slots.get(id);
      if (!there) this.slots.set(id, [slot]);
      else if (there.length < MOST_OF_ONE_ID) there.push(slot);
    }
    for (const slots of this.slots.values()) slots.sort((a, b) => rank(a) - rank(b));
  }

  private read({ start, length, ...about }: Slot): NameRecord {
    const { platform, encoding } = about;
    const key = `${start} ${length} ${platform} ${encoding} ${PROSE.has(about.id)}`;
    let text = this.texts.get(key);
    if (text === undefined) {
      const written = decode(this.view.copied(start, length), platform, encoding).replace(/\0/g, "");
      text = PROSE.has(about.id) ? plainProse(written) : plainName(written);
      this.texts.set(key, text);
    }
    return { ...about, text };
  }

  /** Every record, by ID. */
  get records(): NameRecord[] {
    return [...this.slots.values()].flatMap((slots) => slots.map((slot) => this.read(slot)));
  }

  /** The first of `all`: the English name, else any. */
  get(id: number): string | undefined {
    for (const slot of this.slots.get(id) ?? []) {
      const { text } = this.read(slot);
      if (text !== "") return text;
    }
    return undefined;
  }

  /** Every record of one ID with text: English ones first, then Windows before Unicode before Mac. */
  all(id: number): NameRecord[] {
    return (this.slots.get(id) ?? []).map((slot) => this.read(slot)).filter(({ text }) => text !== "");
  }
}

const rank = (record: Omit<NameRecord, "text">): number => [WINDOWS, UNICODE, MAC].indexOf(record.platform) + (isEnglish(record) ? 0 : 10);
