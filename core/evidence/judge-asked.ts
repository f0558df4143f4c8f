// Whether a document that names fonts asks for a style, and whether what it carries proves that the style is drawn from it. That a program drew
// it is never shown by a name.
import * as hb from "harfbuzzjs";
import { openContainer } from "../sfnt/container.ts";
import { unwrapWebFont } from "../sfnt/unwrap.ts";
import { loadWoff2 } from "../sfnt/woff2.ts";
import { glyphShape } from "./drawing/shapes.ts";
import type { Shape } from "./drawing/same.ts";
import type { WantedFont } from "./drawing/programs.ts";
import { asksFor, BOLD, settingName, type MeantStyle } from "./meant.ts";
import { plainly } from "./names.ts";
import { GENERIC, type AskedDocument, type AskedText, type HeldFont, type Setting } from "./asked/text.ts";
import { counted, lettersOf, listed, type Verdict, verdictsBy } from "./verdict.ts";

/** A program a document carries, as outlines by character. */
async function outlinesOf(bytes: Uint8Array): Promise<((character: string) => Shape | undefined | null) | undefined> {
  try {
    const head = new TextDecoder("latin1").decode(bytes.subarray(0, 4));
    const plain = /^wOF[F2]$/.test(head) ? unwrapWebFont(bytes, await loadWoff2()).bytes : bytes;
    openContainer(plain);
    const face = new hb.Face(new hb.Blob(Uint8Array.from(plain)), 0);
    const font = new hb.Font(face);
    const there = new Set(face.collectUnicodes());
    if (there.size === 0) return undefined;
    return (character) => {
      const code = character.codePointAt(0)!;
      const glyph = there.has(code) ? font.nominalGlyph(code) : undefined;
      return glyph === undefined ? null : glyphShape(font, face.upem || 1000, glyph);
    };
  } catch {
    return undefined;
  }
}

const samples = (texts: readonly AskedText[]): string => {
  const text = texts
    .map(({ sample }) => sample)
    .join(" ")
    .replace(/\s+/g, " ")
    .trim();
  return text.length > 40 ? `${text.slice(0, 39)}…` : text;
};
const namesOf = (texts: readonly AskedText[]): string[] => [
  ...new Set(
    texts.flatMap((text) =>
      text.families
        .filter((family) => !GENERIC.test(family))
        .slice(0, 1)
        .map((family) => settingName(family, text)),
    ),
  ),
];

/** The fonts carried for a family, those whose weight and slant fit first. */
function carried(held: readonly HeldFont[], family: string, { weight, italic }: Omit<Setting, "families">): HeldFont[] {
  const own = held.filter((one) => plainly(one.family) === plainly(family));
  const bold = weight >= BOLD;
  return own.filter(
    (one) => (one.weight === undefined || one.weight >= BOLD === bold) && (one.italic === undefined || one.italic === italic),
  );
}

/** Judges a document for one style. */
export async function judgeAsked(document: AskedDocument, style: MeantStyle, wanted: WantedFont, words = ""): Promise<Verdict> {
  const by = [document.origin.creator, document.origin.producer].filter(Boolean).join(", ") || "";
  const name = style.fullName;
  const what =
    document.kind === "CSS" ? "style sheet" : document.kind === "SVG" ? "drawing" : document.kind === "HTML" ? "page" : "document";
  const verdict = verdictsBy(by);
  const shown = document.texts.filter(({ hidden }) => hidden === "");
  const first = (text: AskedText) => text.families.find((family) => !GENERIC.test(family));
  const ofStyle = (text: AskedText) => {
    const family = text.families[0];
    return family !== undefined && asksFor(family, text, style) === "style";
  };
  const asking = shown.filter(ofStyle);
  const asked = lettersOf(words);
  const PROOF = "Export a PDF from the program, or take a picture of the words: that shows what was drawn.";
  if (asking.length > 0) {
    const letters = asking.reduce((sum, text) => sum + text.letters, 0);
    const said = `“${samples(asking)}”: ${counted(letters, "letter", "letters")}`;
    const there = new Set(asking.flatMap(({ characters }) => [...characters]));
    if (document.kind !== "CSS" && asked.length > 0 && !asked.every((one) => there.has(one)))
      return verdict("cannot-tell", `The ${what} asks for ${name}, but not for all of these words: ${said}.`, {
        next: "Give the words as they stand in the file.",
      });
    const open = (reason: string) => verdict("asked-for", reason, { letters, next: PROOF });
    if (document.kind === "CSS")
      return verdict("asked-for", `The style sheet asks for ${name}; it sets no text by itself.`, { next: PROOF });
    const proofs: Proof[] = [];
    for (const text of asking) proofs.push(await proofOf(document, text, wanted));
    const worst = (["installed", "other", "missing", "unreadable", "lacking", "none"] as const).find((one) => proofs.includes(one));
    if (worst === undefined)
      return verdict("seen", `The ${what} carries ${name} and sets its text in it, letters as the file's: ${said}.`, {
        letters,
        pages: [],
      });
    if (worst === "installed")
      return open(
        `The ${what} takes ${name} from the computer where it is installed, and only else the file it carries; which was drawn is open: ${said}.`,
      );
    if (worst === "other")
      return verdict("swapped", `The ${what} asks for ${name} and carries another font under that name: ${said}.`, {
        instead: [`another font called ${asking[0]!.families[0]}`],
      });
    if (worst === "missing") return open(`The ${what} asks for ${name} and names a file of it that is not there: ${said}.`);
    if (worst === "unreadable") return open(`The ${what} asks for ${name} and carries something for it that cannot be opened: ${said}.`);
    if (worst === "lacking")
      return verdict("cannot-tell", `The ${what} carries ${name} without all the letters its text needs: ${said}.`, {
        letters,
        next: PROOF,
      });
    return open(`The ${what} asks for ${name}; whether the program drew it is open: ${said}.`);
  }
  const later = shown.filter((text) => text.families.slice(1).some((family) => asksFor(family, text, style) === "style"));
  if (later.length > 0) {
    const before = later[0]!.families[0]!;
    return verdict("cannot-tell", `The ${what} asks for ${before} first and for ${name} where that is missing.`, { next: PROOF });
  }
  const unseen = document.texts.filter((text) => text.hidden !== "" && ofStyle(text));
  if (unseen.length > 0) {
    const why = unseen[0]!.hidden;
    return why.startsWith("perhaps")
      ? verdict("cannot-tell", `The ${what} asks for ${name} for text that is ${why}.`, { next: PROOF })
      : verdict("not-in-it", `The ${what} asks for ${name} only for text that is ${why}.`);
  }
  const kin = shown.filter((text) => text.families.some((family) => asksFor(family, text, style) === "family"));
  const instead = namesOf(kin.length > 0 ? kin : shown);
  if (kin.length > 0)
    return verdict("not-in-it", `Of this family the ${what} asks for ${listed(instead)}, and not for ${name}.`, { instead });
  const unnamed = shown.filter((text) => first(text) === undefined);
  if (unnamed.length > 0 && instead.length === 0)
    return verdict("cannot-tell", `The ${what} sets its text in no font it names.`, {
      next: "Choose the font in the program, type something, and export again.",
    });
  if (
    document.declared.some(
      (family) =>
        plainly(family) === plainly(style.family) ||
        plainly(family) === plainly(style.legacyFamily) ||
        plainly(family) === plainly(style.fullName),
    )
  )
    return verdict("not-in-it", `The ${what} names ${name}'s family and sets no text in it.`, { instead });
  if (shown.length === 0)
    return verdict("cannot-tell", `The ${what} sets no text.`, {
      next: "Choose the font in the program, type something, and export again.",
    });
  return verdict("not-in-it", `The ${what} asks for ${listed(instead)}, and for no style of this family.`, { instead });
}

type Proof = "same" | "installed" | "other" | "missing" | "unreadable" | "lacking" | "none";
/** What the fonts a document carries prove for a piece of its text. */
async function proofOf(document: AskedDocument, text: AskedText, wanted: WantedFont): Promise<Proof> {
  const own = carried(document.held, text.families[0] ?? "", text);
  if (own.length === 0) return "none";
  if (own.some(({ installedFirst }) => installedFirst)) return "installed";
  const left = new Set(text.characters);
  let found: Exclude<Proof, "same"> = "missing";
  for (const one of own) {
    if (one.bytes === null || one.bytes.length === 0) continue;
    const outline = await outlinesOf(one.bytes);
    if (!outline) {
      if (found === "missing") found = "unreadable";
      continue;
    }
    found = "lacking";
    const shapes: { shape: Shape; text: string }[] = [];
    for (const character of left) {
      const code = character.codePointAt(0)!;
      if (one.ranges && !one.ranges.some(([from, to]) => code >= from && code <= to)) continue;
      const shape = outline(character);
      if (shape === null) continue;
      left.delete(character);
      if (shape) shapes.push({ shape, text: character });
    }
    if (wanted.own(shapes).some((is) => !is)) return wanted.variable || wanted.coloured ? "unreadable" : "other";
    if (left.size === 0) return "same";
  }
  return found;
}
