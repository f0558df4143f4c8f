// Writes a name table (OpenType specification, "name — Naming Table"): Windows platform, Unicode, English.
export interface FontNames {
  family: string;
  style: string;
  /** Four-style names where they differ from the typographic ones. */
  legacyFamily?: string;
  legacyStyle?: string;
  copyright: string;
  licence: string;
  version: string;
}

export const postScriptName = ({ family, style }: FontNames): string =>
  `${family.replace(/[^A-Za-z0-9]/g, "")}-${style.replace(/[^A-Za-z0-9]/g, "")}`;
const fullName = ({ family, style }: FontNames): string => (style === "Regular" ? family : `${family} ${style}`);

export function nameTable(names: FontNames, more: readonly (readonly [id: number, text: string])[] = []): Uint8Array {
  const legacyFamily = names.legacyFamily ?? names.family;
  const legacyStyle = names.legacyStyle ?? names.style;
  const differs = legacyFamily !== names.family || legacyStyle !== names.style;
  const records: [id: number, text: string][] = [
    [0, names.copyright],
    [1, legacyFamily],
    [2, legacyStyle],
    [3, `${names.version};${postScriptName(names)}`],
    [4, fullName(names)],
    [5, `Version ${names.version}`],
    [6, postScriptName(names)],
    [13, names.licence],
    ...(differs
      ? ([
          [16, names.family],
          [17, names.style],
        ] as [number, string][])
      : []),
    ...more.map(([id, text]): [number, string] => [id, text]),
  ];
  records.sort((a, b) => a[0] - b[0]);
  const texts = records.map(([, text]) =>
    Uint8Array.from([...Array(text.length).keys()].flatMap((i) => [text.charCodeAt(i) >> 8, text.charCodeAt(i) & 255])),
  );
  const storage = 6 + 12 * records.length;
  const table = new Uint8Array(texts.reduce((sum, text) => sum + text.length, storage));
  const view = new DataView(table.buffer);
  view.setUint16(2, records.length);
  view.setUint16(4, storage);
  let offset = 0;
  for (const [i, [id]] of records.entries()) {
    const at = 6 + 12 * i;
    for (const [k, value] of [3, 1, 0x409, id, texts[i]!.length, offset].entries()) view.setUint16(at + 2 * k, value);
    table.set(texts[i]!, storage + offset);
    offset += texts[i]!.length;
  }
  return table;
}
