// Whether a PDF shows a style drawn. Its letters are taken from the pages, their outlines from the programs the file carries, and these are
// held against the wanted file's: names lead nowhere by themselves.
import type { DrawnFont, PdfDrawing } from "./drawing/document.ts";
import { UNSEEN, type DrawnLetter } from "./drawing/letters.ts";
import type { WantedFont } from "./drawing/programs.ts";
import { scaledShape, type Shape } from "./drawing/same.ts";
import { kinOf, namedOtherwise, type WantedName } from "./names.ts";
import { codePointText } from "../symbols/symbols.ts";
import { begun } from "../words/words.ts";
import { counted, lettersOf, listed, type Verdict, verdictsBy } from "./verdict.ts";

/** Edges that together tell a font: an "l" and a full stop are the same in many. */
const TELLING_EDGES = 24;
/** So many curved shapes beside a few letters may be words turned to outlines. */
const OUTLINED = 3;
/** So many of a font's letters may be changed on the way to a page without its being another font; a guess, no source. */
const FEW_CHANGED = 0.1;
const SET_LARGER = "Export again with the words set in plain dark letters on an empty page.";

interface Judged {
  font: DrawnFont;
  /** But for those that are boxes. */
  letters: DrawnLetter[];
  /** Letters of which the font's box for missing characters is drawn: they prove nothing. */
  boxes: DrawnLetter[];
  is: "wanted" | "other" | "partly" | "unknown";
  kin: ReturnType<typeof kinOf>;
  /** Glyphs that are not the wanted file's. */
  unlike: number;
  glyphs: number;
  /** Of each glyph that is the wanted file's, by what names it. */
  edges: ReadonlyMap<string, number>;
}

/** So many letters must be found at one scale. */
const LEAST_SCALED = 3;
/**
 * Which shapes are the wanted file's. A producer may count a program's units otherwise than the file (a CFF of 2,000 units under the usual
 * matrix): letters that are all its own at one scale are its own.
 */
function ownOf(shapes: readonly { shape: Shape; text: string }[], wanted: WantedFont): boolean[] {
  const own = wanted.own(shapes);
  if (own.some(Boolean) || shapes.length < LEAST_SCALED) return own;
  const high = ({ box }: Shape) => box.y1 - box.y0;
  const tallest = [...shapes].sort((a, b) => high(b.shape) - high(a.shape)).find(({ text }) => wanted.shapeOf(text));
  const meant = tallest && wanted.shapeOf(tallest.text);
  if (!meant || high(tallest.shape) === 0) return own;
  const by = high(meant) / high(tallest.shape);
  const scaled = wanted.own(shapes.map(({ shape, text }) => ({ shape: scaledShape(shape, by), text })));
  return scaled.every(Boolean) ? scaled : own;
}

function judgeFont(font: DrawnFont, all: readonly DrawnLetter[], style: WantedName, wanted: WantedFont): Judged {
  const kin = kinOf(font.name, style);
  const shapes = new Map<string, { shape: Shape; text: string }>();
  const boxed = new Set<string>();
  const empty = new Set<string>();
  let unknown = false;
  for (const { glyph, text } of font.program ? all : []) {
    if (shapes.has(glyph) || boxed.has(glyph) || empty.has(glyph)) continue;
    const shape = font.program!.shape(glyph);
    if (shape === null) unknown = true;
    else if (font.program!.missing(glyph) || (shape && wanted.missing(shape))) boxed.add(glyph);
    else if (shape) shapes.set(glyph, { shape, text });
    else empty.add(glyph);
  }
  const letters = all.filter(({ glyph }) => !boxed.has(glyph) && !empty.has(glyph));
  const boxes = all.filter(({ glyph }) => boxed.has(glyph));
  const judged: Judged = { font, letters, boxes, is: "unknown", kin, unlike: 0, glyphs: 0, edges: new Map() };
  const list = [...shapes];
  if (list.length === 0 || unknown) return judged;
  const own = ownOf(
    list.map(([, one]) => one),
    wanted,
  );
  const unlike = own.filter((is) => !is).length;
  const edges = new Map(
    list.flatMap(([glyph, { shape }], i) => (own[i] ? [[glyph, shape.polygons.reduce((n, one) => n + one.length, 0)] as const] : [])),
  );
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
const HOW_FAKED = { bold: "made bold by thickening", slanted: "made slanted by leaning" } as const;

/** Parts of an em by which letters of one line may be moved: by rounding. */
const ONE_LINE = 0.1;
/** Runs of letters one after the other on one line and in one size. */
function together(letters: readonly DrawnLetter[]): DrawnLetter[][] {
  const runs: DrawnLetter[][] = [];
  for (const letter of letters) {
    const last = runs.at(-1)?.[0];
    const { page, size, line } = letter;
    const same = last?.page === page && Math.abs(last.size - size) < 0.05 && Math.abs(last.line - line) < ONE_LINE * size;
    if (same) runs.at(-1)!.push(letter);
    else runs.push([letter]);
  }
  return runs;
}
/** A character as it can be read in a sentence: what has no form of its own by its number. */
const legible = (character: string): string =>
  /[\p{L}\p{N}\p{P}\p{S}]/u.test(character) ? character : codePointText(character.codePointAt(0)!);

/** What else is drawn among a style's own letters: boxes for what it lacks, and what other fonts draw beside them of that. */
function amongThem(drawing: PdfDrawing, own: readonly Judged[], judged: readonly Judged[], wanted: WantedFont): string {
  const keys = new Set(own.map(({ font }) => font.key));
  const others = new Map(judged.filter(({ font }) => !keys.has(font.key)).map((one) => [one.font.key, one]));
  const standIns = new Map<string, Set<string>>();
  for (const run of together(drawing.letters)) {
    if (!run.some(({ font }) => keys.has(font))) continue;
    for (const letter of run) {
      const other = others.get(letter.font);
      const lacked = [...letter.text].filter((one) => one.trim() !== "" && !wanted.characters.has(one.codePointAt(0)!));
      if (!other || !shows(letter)) continue;
      for (const one of lacked) standIns.set(titled(other), (standIns.get(titled(other)) ?? new Set()).add(legible(one)));
    }
  }
  const boxes = own.flatMap((one) => one.boxes.filter(shows));
  return [
    ...[...standIns].map(([font, lacked]) => ` It has no ${listed([...lacked].sort(), 12)}: on the same line ${font} is drawn for that.`),
    ...(boxes.length > 0 ? [` ${begun(boxedWords(boxes))} drawn as the box of a missing character.`] : []),
  ].join("");
}
const boxedWords = (boxes: readonly DrawnLetter[]): string =>
  shortly(boxes) === "" ? `${counted(boxes.length, "letter is", "letters are")}` : `“${shortly(boxes)}” is`;

/** Judges a PDF for one style; `words` are known to be set in it, or empty. */
export function judgePdf(drawing: PdfDrawing, style: WantedName, wanted: WantedFont, words = ""): Verdict {
  const by = [drawing.origin.creator, drawing.origin.producer].filter(Boolean).join(", ");
  const name = style.fullName;
  const verdict = verdictsBy(by);
  const cannot = (reason: string, next: string) => verdict("cannot-tell", reason, { next });
  const ofFont = new Map<string, DrawnLetter[]>(drawing.fonts.map(({ key }) => [key, []]));
  for (const letter of drawing.letters) ofFont.get(letter.font)?.push(letter);
  const all = drawing.fonts.map((font) =>
    judgeFont(
      font,
      (ofFont.get(font.key) ?? []).filter(({ why }) => why !== "blank"),
      style,
      wanted,
    ),
  );
  const judged = all.filter(({ letters }) => letters.length > 0);
  const boxes = all.filter(({ kin }) => kin !== "none").flatMap((one) => one.boxes.filter(shows));
  if (judged.length === 0) {
    if (boxes.length > 0)
      return cannot(
        `Of ${name} only the box of a missing character is drawn, which proves nothing.`,
        "Set words it has the letters for, and export again.",
      );
    return drawing.shapes + drawing.pictures > 0
      ? cannot("This PDF sets no letters: its text was turned into outlines or is a picture.", "Export it again with text kept as text.")
      : cannot("This PDF sets no letters.", "Set the words, and export it again.");
  }
  const given = lettersOf(words);
  const asked = given.filter((one) => wanted.characters.has(one.codePointAt(0)!));
  if (given.length > 0 && asked.length === 0)
    return cannot(`${name} has none of these letters, so these words cannot be set in it.`, "Give words it has the letters for.");

  const own = judged.filter(({ is }) => is === "wanted");
  const ownLetters = own.flatMap(({ letters }) => letters);
  const clear = ownLetters.filter((letter) => shows(letter) && !letter.faked);
  const faked = ownLetters.filter((letter) => shows(letter) && letter.faked);
  const unsure = ownLetters.filter((letter) => letter.shows === "unsure");
  const edgesOf = (letters: readonly DrawnLetter[]): number =>
    own.reduce((sum, { font, edges }) => {
      const glyphs = new Set(letters.filter((letter) => letter.font === font.key).map(({ glyph }) => glyph));
      return sum + [...glyphs].reduce((n, glyph) => n + (edges.get(glyph) ?? 0), 0);
    }, 0);
  const spoken = own.flatMap(({ font }) => ofFont.get(font.key) ?? []);
  /** With the spaces between them. */
  const spokenBy = (letters: readonly DrawnLetter[]) => {
    const meant = new Set(letters);
    return spoken.filter((letter) => letter.why === "blank" || meant.has(letter));
  };
  /** Fonts whose letters are the file's but for a few: which font that is cannot be told. */
  const nearly = judged.filter((one) => one.is === "partly" && one.unlike <= one.glyphs * FEW_CHANGED && one.letters.some(shows));
  const others = judged.filter((one) => (one.is === "other" || one.is === "partly") && !nearly.includes(one) && one.letters.some(shows));
  const unknown = judged.filter(({ is, letters }) => is === "unknown" && letters.some(({ shows: how }) => how !== "no"));
  /** Fonts that together draw the words, none of them the wanted one. */
  const inPlace = asked.length < 2 ? [] : others.filter(({ letters }) => holdsAll(letters.filter(shows), asked));
  const swapped = (fonts: readonly Judged[], reason: string) => verdict("swapped", reason, { instead: [...new Set(fonts.map(titled))] });

  const tells = edgesOf(clear) >= TELLING_EDGES;
  /** Fonts that draw the file's letters under a name that is none of its own: fonts drawn alike are told by it. */
  const otherwise = own.filter(({ font, letters }) => letters.some(shows) && namedOtherwise(font.name, style, wanted.names));
  const besides = clear.length + faked.length === 0 ? "" : amongThem(drawing, own, judged, wanted);
  if (otherwise.length > 0 && own.every((one) => otherwise.includes(one) || !one.letters.some(shows)))
    return cannot(
      `Its letters are those of ${name}'s file: ${found(spokenBy(ownLetters), ownLetters.filter(shows))}. But the PDF calls their font ${listed(otherwise.map(titled))}, and ${name} goes by no such name: it may be another font that draws them alike.`,
      "Look in the program which font is chosen, or export letters that the two draw differently.",
    );
  if (clear.length > 0 && tells && (asked.length === 0 ? faked.length === 0 : holdsAll(clear, asked))) {
    const also = faked.length === 0 ? "" : ` Elsewhere “${shortly(spokenBy(faked))}” is ${HOW_FAKED[faked[0]!.faked!]}.`;
    return verdict("seen", `${name} is drawn, its letters as the file's: ${found(spokenBy(clear), clear)}.${also}${besides}`, {
      letters: clear.length,
      pages: pagesOf(clear),
    });
  }
  if (faked.length > 0 && (asked.length === 0 || holdsAll([...clear, ...faked], asked))) {
    const how = HOW_FAKED[faked[0]!.faked!];
    const right = clear.length === 0 ? "" : ` Drawn right: ${found(spokenBy(clear), clear)}.`;
    return verdict(
      "faked",
      `The letters are ${name}'s, ${how}, and no style of their own: ${found(spokenBy(faked), faked)}.${right}${besides}`,
      {
        letters: faked.length,
        pages: pagesOf(faked),
        next: tells && asked.length === 0 ? "To record the words that are drawn right, give those words with the file." : "",
      },
    );
  }
  if (unsure.length > 0 && (asked.length === 0 || holdsAll([...clear, ...unsure], asked)))
    return cannot(`${name} is in it, but its letters may be ${UNSEEN[unsure[0]!.why ?? "covered"]}.`, SET_LARGER);
  const [changed] = clear.length > 0 ? [] : nearly;
  if (changed)
    return cannot(
      `${changed.glyphs - changed.unlike} of the ${changed.glyphs} letters drawn as ${titled(changed)} are those of ${name}'s file, and ${counted(changed.unlike, "is", "are")} not: a converter may have changed ${changed.unlike === 1 ? "it" : "them"}, or it is another version.`,
      "Export it again from the program, without a converter in between.",
    );
  if (inPlace.length > 0)
    return swapped(
      inPlace,
      `The words are drawn in ${listed(inPlace.map(titled))}: ${found(inPlace[0]!.letters, inPlace[0]!.letters.filter(shows))}.`,
    );
  if (clear.length > 0) {
    return asked.length === 0 || holdsAll(clear, asked)
      ? cannot(
          `${counted(clear.length, "letter", "letters")} of ${name} are in it, too few to tell it from others: “${shortly(spokenBy(clear))}”.${besides}`,
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
  if (drawing.read < drawing.pages)
    return cannot(
      `Of its ${drawing.pages} pages the first ${drawing.read} were looked at (limit “pages”), and ${name} is on none of them.`,
      "Give the page with the words by itself.",
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
