// A font as font lists see it, from its record.
import { hasLatin } from "../coverage/text.ts";
import { isSymbolFont } from "../family/symbols.ts";
import type { Inspection } from "../inspect.ts";
import type { MenuFont } from "./menu.ts";

/** What a font's characters say of it, by its bytes and face: the same for ever. */
const alphabets = new Map<string, { latin: boolean; symbols: boolean }>();

export const menuFont = ({ sha256, face, record }: { sha256: string; face: number; record: Inspection }): MenuFont => {
  const { family, style, legacyFamily, legacyStyle, fullName, postScriptName, container, otherNames, axes, instances } = record;
  const names = { family, style, legacyFamily, legacyStyle, fullName, postScriptName, container, otherNames };
  const id = `${sha256}#${face}`;
  let alphabet = alphabets.get(id);
  if (!alphabet) alphabets.set(id, (alphabet = { latin: hasLatin(record.ranges), symbols: isSymbolFont(record.ranges) }));
  return {
    ...names,
    ...alphabet,
    id,
    variable: axes.length > 0,
    instances: instances.map((one) => one.name).filter(Boolean),
    outlines: record.outlines === "CFF" || record.outlines === "CFF2" ? "otf" : "ttf",
    colour: record.colour.length > 0,
  };
};
