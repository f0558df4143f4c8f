// Whether a document's fonts show that a style was drawn, or that another stood in for it.
import type { FaceNames } from "../family/names.ts";
import { fail, ok, type Result } from "../problem.ts";
import type { PdfFont } from "./pdf.ts";

/** The names a style may be exported under. */
export interface WantedName extends Omit<FaceNames, "version"> {
  /** A variable font's own styles: each of them shows that it was drawn. */
  instances?: readonly { name: string }[];
}

export interface Judgement {
  result: "seen" | "swapped";
  /** Fonts drawn instead, when swapped. */
  instead: string[];
  sentence: string;
}

/** Programs write names with and without spaces, hyphens and commas; letters and figures alone are compared. */
const plain = (name: string): string =>
  name
    .normalize("NFKC")
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]/gu, "");

/** Every way a style is named in exports. A family name alone stands for its regular style. */
function spellings(style: WantedName): Set<string> {
  const names = [style.postScriptName, style.fullName, `${style.family}${style.style}`, `${style.legacyFamily}${style.legacyStyle}`];
  if (/^(regular|roman|book|normal|medium)?$/i.test(style.legacyStyle) && /^(regular|roman|normal)?$/i.test(style.style)) {
    names.push(style.family, style.legacyFamily);
  }
  for (const { name } of style.instances ?? []) names.push(`${style.family}${name}`, `${style.postScriptName}_${name}`);
  return new Set(names.filter(Boolean).map(plain));
}

/**
 * Judges a document's fonts for one style. A font that is only named, not embedded, proves nothing about what was
 * drawn: when the wanted style is among those, the answer is the problem "evidence-named-only".
 */
export function judgeFonts(fonts: readonly PdfFont[], style: WantedName): Result<Judgement> {
  const wanted = spellings(style);
  const matching = fonts.filter((font) => wanted.has(plain(font.name)));
  if (matching.some((font) => font.embedded)) {
    return ok({ result: "seen", instead: [], sentence: `The export embeds ${style.fullName}: the program drew it.` });
  }
  if (matching.length > 0) {
    return fail(
      "evidence-named-only",
      `The export names ${style.fullName} but does not hold it, so it does not show what was drawn.`,
      "Export again with fonts embedded.",
    );
  }
  const instead = [...new Set(fonts.map((font) => font.name).filter(Boolean))];
  const named = instead.length > 0 ? instead.join(", ") : "a font without a name";
  return ok({ result: "swapped", instead, sentence: `${style.fullName} is not in the export; ${named} was used instead.` });
}
