// 'name': the font's names in many languages (OpenType specification, "name — Naming Table").
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
  wwsFamily: 21,
  wwsStyle: 22,
} as const;

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
const isEnglish = (record: NameRecord): boolean =>
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

/** All names; records that point outside the table are skipped, as the programs that read fonts do. */
export class Names {
  readonly records: NameRecord[] = [];
  /** Records whose text lies outside the table. */
  readonly outside: number = 0;

  constructor(view: View) {
    const count = view.u16(2);
    const storage = view.u16(4);
    for (let i = 0; i < count; i++) {
      const at = 6 + 12 * i;
      if (at + 12 > view.length) {
        this.outside++;
        continue;
      }
      const platform = view.u16(at);
      const encoding = view.u16(at + 2);
      const language = view.u16(at + 4);
      const id = view.u16(at + 6);
      const length = view.u16(at + 8);
      const start = storage + view.u16(at + 10);
      if (start + length > view.length) {
        this.outside++;
        continue;
      }
      const text = decode(view.bytes(start, length), platform, encoding).replace(/\0/g, "").trim();
      this.records.push({ platform, encoding, language, id, text });
    }
  }

  /** The first of `all`: the English name, else any. */
  get(id: number): string | undefined {
    return this.all(id)[0]?.text;
  }

  /** Every record of one ID with text: English ones first, then Windows before Unicode before Mac. */
  all(id: number): NameRecord[] {
    const rank = (record: NameRecord): number => [WINDOWS, UNICODE, MAC].indexOf(record.platform) + (isEnglish(record) ? 0 : 10);
    return this.records.filter((record) => record.id === id && record.text !== "").sort((a, b) => rank(a) - rank(b));
  }
}
