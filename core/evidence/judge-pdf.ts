// Whether a PDF shows a style drawn. Its letters are taken from the pages, their outlines from the programs the file carries, and these are
// held against the wanted file's: names lead nowhere by themselves.
import type { DrawnFont, PdfDrawing } from "./drawing/document.ts";
import { UNSEEN, type DrawnLetter } from "./drawing/letters.ts";
import type { WantedFont } from "./drawing/programs.ts";
import type { Shape } from "./drawing/same.ts";
import { kinOf, type WantedName } from "./names.ts";
import { counted, lettersOf, listed, type Verdict, verdictsBy } from "./verdict.ts";

/** Edges that together tell a font: an "l" and a full stop are the same in many. */
const TELLING_EDGES = 24;
/** So many curved shapes beside a few letters may be words turned to outlines. */
const OUTLINED = 3;
const SET_LARGER = "Export again with the words set in plain dark letters on an empty page.";

interface Judged {
  font: DrawnFont;
  letters: DrawnLetter[];
  is: "wanted" | "other" | "partly" | "unknown";
  kin: ReturnType<typeof kinOf>;
  /** Glyphs that are not the wanted file's. */
  unlike: number;
  glyphs: number;
  edges: number;
}

function judgeFont(font: DrawnFont, letters: DrawnLetter[], style: WantedName, wanted: WantedFont): Judged {
  const kin = kinOf(font.name, style);
  const judged: Judged = { font, letters, is: "unknown", kin, unlike: 0, glyphs: 0, edges: 0 };
  if (!font.program) return judged;
  const shapes = new Map<string, { shape: Shape; text: string }>();
  let unknown = false;
  for (const { glyph, text } of letters) {
    if (shapes.has(glyph)) continue;
    const shape = font.program.shape(glyph);
    if (shape === null) unknown = true;
    else if (shape) shapes.set(glyph, { shape, text });
  }
  const list = [...shapes.values()];
  if (list.length === 0 || unknown) return judged;
  const own = wanted.own(list);
  const unlike = own.filter((is) => !is).length;
  const edges = list.reduce((sum, { shape }, i) => sum + (own[i] ? shape.polygons.reduce((n, one) => n + one.length, 0) : 0), 0);
  const is =
    unlike === 0
      ? "wanted"
      : (wanted.coloured || wanted.variable) && kin !== "none"
        ? "unknown"
        : unlike < list.length / 2
          ? "partly"
          : "other";
  return { ...judged, is, unlike, glyphs: list.length, edges };
}

const textOf = (letters: readonly DrawnLetter[]): string => letters.map(({ text }) => text).join("");
/** The beginning of what letters spell. */
export const shortly = (letters: readonly DrawnLetter[]): string => {
  const text = textOf(letters).replace(/\s+/g, " ").trim();
  return text.length > 40 ? `${text.slice(0, 39)}…` : text;
};
/** Pages letters stand on, from 1. */
export const pagesOf = (letters: readonly DrawnLetter[]): number[] => [...new Set(letters.map(({ page }) => page))].sort((a, b) => a - b);
/** "“Wild fennel”: 11 letters, page 1, 24 pt". */
function found(all: readonly DrawnLetter[], showing: readonly DrawnLetter[]): string {
  const pages = pagesOf(showing);
  const first = pages[0] ?? 1;
  const sizes = new Map<number, number>();
  for (const { size } of showing) sizes.set(Math.round(size * 10) / 10, (sizes.get(Math.round(size * 10) / 10) ?? 0) + 1);
  const size = [...sizes].sort((a, b) => b[1] - a[1])[0]?.[0] ?? 0;
  const where = pages.length > 1 ? `${counted(pages.length, "page", "pages")} from page ${first}` : `page ${first}`;
  return `“${shortly(all)}”: ${counted(showing.length, "letter", "letters")}, ${where}, ${size} pt`;
}
const holdsAll = (letters: readonly DrawnLetter[], wordLetters: readonly string[]): boolean => {
  const there = new Set(lettersOf(textOf(letters)));
  return wordLetters.every((one) => there.has(one));
};
const titled = ({ font }: Judged): string => font.name || "a font without a name";
const shows = (letter: DrawnLetter): boolean => letter.shows === "yes";

/** Judges a PDF for one style; `words` are known to be set in it, or empty. */
export function judgePdf(drawing: PdfDrawing, style: WantedName, wanted: WantedFont, words = ""): Verdict {
  const by = [drawing.origin.creator, drawing.origin.producer].filter(Boolean).join(", ");
  const name = style.fullName;
  const verdict = verdictsBy(by);
  const cannot = (reason: string, next: string) => verdict("cannot-tell", reason, { next });
  const ofFont = new Map<string, DrawnLetter[]>(drawing.fonts.map(({ key }) => [key, []]));
  for (const letter of drawing.letters) ofFont.get(letter.font)?.push(letter);
  const judged = drawing.fonts
    .map((font) =>
      judgeFont(
        font,
        (ofFont.get(font.key) ?? []).filter(({ why }) => why !== "blank"),
        style,
        wanted,
      ),
    )
    .filter(({ letters }) => letters.length > 0);
  if (judged.length === 0) {
    return drawing.shapes + drawing.pictures > 0
      ? cannot("This PDF sets no letters: its text was turned into outlines or is a picture.", "Export it again with text kept as text.")
      : cannot("This PDF sets no letters.", "Set the words, and export it again.");
  }
  const asked = lettersOf(words);
  const lacking = asked.filter((one) => !wanted.characters.has(one.codePointAt(0)!));
  if (asked.length > 0 && lacking.length > 0)
    return cannot(`${name} has no “${lacking[0]}”, so these words cannot all be set in it.`, "Give words it has the letters for.");

  const own = judged.filter(({ is }) => is === "wanted");
  const ownLetters = own.flatMap(({ letters }) => letters);
  const clear = ownLetters.filter((letter) => shows(letter) && !letter.faked);
  const faked = ownLetters.filter((letter) => shows(letter) && letter.faked);
  const unsure = ownLetters.filter((letter) => letter.shows === "unsure");
  const edges = own.reduce((sum, one) => sum + (one.letters.some((letter) => shows(letter) && !letter.faked) ? one.edges : 0), 0);
  const spoken = own.flatMap(({ font }) => ofFont.get(font.key) ?? []);
  const others = judged.filter(({ is, letters }) => (is === "other" || is === "partly") && letters.some(shows));
  const unknown = judged.filter(({ is, letters }) => is === "unknown" && letters.some(({ shows: how }) => how !== "no"));
  /** Fonts that together draw the words, none of them the wanted one. */
  const inPlace = asked.length < 2 ? [] : others.filter(({ letters }) => holdsAll(letters.filter(shows), asked));
  const swapped = (fonts: readonly Judged[], reason: string) => verdict("swapped", reason, { instead: [...new Set(fonts.map(titled))] });

  if (clear.length > 0 && (asked.length === 0 ? edges >= TELLING_EDGES : holdsAll(clear, asked))) {
    return verdict("seen", `${name} is drawn, its letters as the file's: ${found(spoken, clear)}.`, {
      letters: clear.length,
      pages: pagesOf(clear),
    });
  }
  if (faked.length > 0 && (asked.length === 0 || holdsAll([...clear, ...faked], asked))) {
    const how = faked[0]!.faked === "bold" ? "made bold by thickening" : "made slanted by leaning";
    return verdict("faked", `The letters are ${name}'s, ${how}, and no style of their own: ${found(spoken, faked)}.`, {
      letters: faked.length,
      pages: pagesOf(faked),
    });
  }
  if (unsure.length > 0 && (asked.length === 0 || holdsAll([...clear, ...unsure], asked)))
    return cannot(`${name} is in it, but its letters may be ${UNSEEN[unsure[0]!.why ?? "covered"]}.`, SET_LARGER);
  if (inPlace.length > 0)
    return swapped(
      inPlace,
      `The words are drawn in ${listed(inPlace.map(titled))}: ${found(inPlace[0]!.letters, inPlace[0]!.letters.filter(shows))}.`,
    );
  if (clear.length > 0) {
    return asked.length === 0
      ? cannot(
          `${counted(clear.length, "letter", "letters")} of ${name} are in it, too few to tell it from others: “${shortly(spoken)}”.`,
          "Set a whole word, and export it again.",
        )
      : cannot(
          `${name} is drawn, but not all of the words are in it: ${found(spoken, clear)}.`,
          "Give the words as they stand in the file.",
        );
  }
  const named = others.filter(({ kin }) => kin === "style");
  if (named.length > 0) {
    const [one] = named;
    const telling =
      one!.is === "partly"
        ? `${one!.unlike} of its ${one!.glyphs} letters differ: another version of it, or an altered copy`
        : "its letters are another font's";
    return swapped(named, `A font is drawn under the name ${titled(one!)}, but ${telling}.`);
  }
  const bareNames = unknown.filter(({ font, kin }) => kin === "style" && !font.program);
  if (bareNames.length > 0) {
    return verdict(
      "asked-for",
      `The PDF asks for ${name} and carries no program for it that can be opened, so that it does not show what was drawn.`,
      {
        next: "Export it again with fonts embedded.",
      },
    );
  }
  if (unknown.some(({ kin }) => kin !== "none"))
    return cannot(
      `A font named ${titled(unknown.find(({ kin }) => kin !== "none")!)} is drawn in a way that cannot be held against the file.`,
      "Export it again with fonts embedded as they are.",
    );
  const family = others.filter(({ kin }) => kin === "family");
  if (family.length > 0) return swapped(family, `Of this family ${listed(family.map(titled))} is drawn, and not ${name}.`);
  const hidden = ownLetters.filter(({ shows: how }) => how === "no");
  if (hidden.length > 0)
    return verdict(
      "not-in-it",
      `${name} is in the file, but none of its letters can be seen: they are ${UNSEEN[hidden[0]!.why ?? "covered"]}.`,
      { next: SET_LARGER },
    );
  if (unknown.length > 0) {
    return cannot(
      unknown.some(({ font }) => font.program)
        ? `Some letters are drawn as pictures or in colours, and cannot be held against ${name}.`
        : `The PDF names ${listed(unknown.map(titled))} and carries no program for it, so that it does not show what was drawn.`,
      "Export it again with fonts embedded as they are.",
    );
  }
  const other = listed(others.map(titled));
  if (drawing.shapes >= OUTLINED || (drawing.pictures > 0 && others.every(({ letters }) => letters.length < 8)))
    return cannot(
      `The text is in ${other || "no font that shows"}, and there are shapes or pictures that may be words turned to outlines.`,
      "Export it again with text kept as text.",
    );
  if (asked.length >= 2)
    return cannot(
      `The words are not in it; what can be read is in ${other || "no font that shows"}.`,
      "Give the words as they stand in the file.",
    );
  return verdict(
    "not-in-it",
    others.length === 0 ? "None of its letters can be seen." : `This PDF uses none of this family: its letters are in ${other}.`,
    {
      instead: [...new Set(others.map(titled))],
    },
  );
}
