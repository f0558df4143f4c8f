// A page's operators, one chapter of ISO 32000-1 after the other: what each does to whether a letter shows.
import { describe, expect, test } from "@jest/globals";
import { OPS, type Operators, type ShownGlyph } from "./operators.ts";
import { drawPage, type DrawnPage } from "./page.ts";
import { PageTooLarge, type PageSource } from "./plane.ts";

type Step = readonly [operator: number, ...args: unknown[]];
const operators = (steps: readonly Step[]): Operators => ({
  fnArray: steps.map(([operator]) => operator),
  argsArray: steps.map(([, ...args]) => args),
});
const glyph = (unicode: string): ShownGlyph => ({ fontChar: unicode, unicode, width: 500, isSpace: unicode === " " });
/** A font whose every letter is a box of half an em. */
const FONT = {
  matrix: [0.001, 0, 0, 0.001, 0, 0],
  vertical: false,
  verticalDefault: [0, 0, 0] as const,
  ink: (char: string) => (char === " " ? undefined : { x0: 0, y0: 0, x1: 0.5, y1: 0.5 }),
};
function drawn(steps: readonly Step[], more: Partial<PageSource> = {}): DrawnPage {
  return drawPage({
    number: 1,
    view: [0, 0, 200, 100],
    operators: operators(steps),
    font: () => FONT,
    layerShows: () => true,
    pixels: () => undefined,
    ...more,
  });
}
const words = (text: string, x = 10, y = 40, size = 20): Step[] => [
  [OPS.beginText],
  [OPS.setFont, "F1", size],
  [OPS.setTextMatrix, [1, 0, 0, 1, x, y]],
  [OPS.showText, [...text].map(glyph)],
];
const box = (x: number, y: number, width: number, height: number): Step => [OPS.constructPath, [OPS.rectangle], [x, y, width, height]];
/** How each letter shows, and why not. */
const shows = ({ letters }: DrawnPage): string[] => letters.map(({ text, shows: how, why }) => `${text} ${how}${why ? ` ${why}` : ""}`);

describe("graphics state (8.4)", () => {
  test("black letters on paper show; what is restored is as it was saved", () => {
    expect(shows(drawn(words("ab")))).toEqual(["a yes", "b yes"]);
    expect(shows(drawn([[OPS.save], [OPS.setFillRGBColor, 255, 255, 255], ...words("a"), [OPS.restore], ...words("b", 60)]))).toEqual([
      "a no paper",
      "b yes",
    ]);
  });
  test("what is moved off the page is outside of it, and what is nearly clear cannot be seen", () => {
    expect(shows(drawn([[OPS.transform, 1, 0, 0, 1, 500, 0], ...words("a")]))).toEqual(["a no outside"]);
    expect(shows(drawn([[OPS.setGState, [["ca", 0.01]]], ...words("a")]))).toEqual(["a no clear"]);
    expect(shows(drawn([[OPS.setGState, [["SMask", {}]]], ...words("a")]))).toEqual(["a unsure clear"]);
  });
});

describe("paths (8.5)", () => {
  test("a box over letters covers them, one under them is their ground, a wash leaves them", () => {
    expect(shows(drawn([...words("a"), box(0, 0, 200, 100), [OPS.fill]]))).toEqual(["a no covered"]);
    const red: Step = [OPS.setFillRGBColor, 200, 0, 0];
    expect(shows(drawn([red, box(0, 0, 200, 100), [OPS.fill], ...words("a")]))).toEqual(["a no paper"]);
    expect(shows(drawn([...words("a"), [OPS.setGState, [["ca", 0.3]]], box(0, 0, 200, 100), [OPS.fill]]))).toEqual(["a yes"]);
    expect(shows(drawn([...words("a"), box(0, 0, 200, 100), [OPS.endPath]]))).toEqual(["a yes"]);
  });
  test("letters outside a clip are cut away; one turned inside out by the even-odd rule lets them through", () => {
    expect(shows(drawn([box(100, 0, 50, 50), [OPS.clip], [OPS.endPath], ...words("a")]))).toEqual(["a no clipped"]);
    const twice: Step = [OPS.constructPath, [OPS.rectangle, OPS.rectangle], [0, 0, 200, 100, 0, 30, 100, 40]];
    expect(shows(drawn([twice, [OPS.eoClip], [OPS.endPath], ...words("a")]))).toEqual(["a no clipped"]);
    expect(shows(drawn([twice, [OPS.clip], [OPS.endPath], ...words("a")]))).toEqual(["a yes"]);
  });
  test("curved shapes are counted as letters turned to outlines may be; a plain box is none", () => {
    const curve = [OPS.moveTo, OPS.curveTo, OPS.curveTo, OPS.curveTo, OPS.closePath];
    const at = [0, 0, 0, 5, 5, 10, 10, 10, 15, 10, 20, 5, 20, 0, 15, -5, 5, -5, 0, 0];
    expect(drawn([[OPS.constructPath, curve, at], [OPS.fill]]).shapes).toBe(1);
    expect(drawn([box(0, 0, 9, 9), [OPS.fill]]).shapes).toBe(0);
  });
  test("a pattern's letters show wherever its area lies; one beside the page draws nothing", () => {
    const tiled = (x: number): Step[] => [
      [OPS.setFillColorN, "TilingPattern", null, operators(words("t", 900)), null],
      box(x, 0, 50, 50),
      [OPS.fill],
    ];
    expect(shows(drawn(tiled(0)))).toEqual(["t unsure outside"]);
    expect(shows(drawn(tiled(700)))).toEqual([]);
  });
});

describe("forms, groups and annotations (8.10, 11.6.6, 12.5.5)", () => {
  test("a form is cut to its box, where its matrix puts it", () => {
    const form = (bounds: number[]): Step[] => [
      [OPS.paintFormXObjectBegin, [1, 0, 0, 1, 100, 0], bounds],
      ...words("a"),
      [OPS.paintFormXObjectEnd],
    ];
    expect(shows(drawn(form([0, 0, 90, 90])))).toEqual(["a yes"]);
    expect(shows(drawn(form([0, 0, 5, 5])))).toEqual(["a no clipped"]);
    // What comes after it is where it was before.
    expect(shows(drawn([...form([0, 0, 5, 5]), ...words("b")]))).toEqual(["a no clipped", "b yes"]);
  });
  test("a group as a whole may be clear", () => {
    const group: Step[] = [[OPS.setGState, [["ca", 0.01]]], [OPS.beginGroup, { bbox: [0, 0, 200, 100] }], ...words("a"), [OPS.endGroup]];
    expect(shows(drawn(group))).toEqual(["a no clear"]);
  });
  test("an annotation begins with a state of its own", () => {
    const note: Step[] = [
      [OPS.transform, 1, 0, 0, 1, 500, 0],
      [OPS.beginAnnotation, "n", [0, 0, 200, 100], [1, 0, 0, 1, 0, 0], [1, 0, 0, 1, 0, 0]],
      ...words("a"),
      [OPS.endAnnotation],
      ...words("b"),
    ];
    expect(shows(drawn(note))).toEqual(["a yes", "b no outside"]);
  });
  test("letters of a layer that is off do not show", () => {
    const layered: Step[] = [[OPS.beginMarkedContentProps, "OC", "g"], ...words("a"), [OPS.endMarkedContent], ...words("b", 60)];
    expect(shows(drawn(layered, { layerShows: () => false }))).toEqual(["a no layer", "b yes"]);
  });
  test("a picture covers what lies under it; where its pixels are not known that is as sure", () => {
    const picture: Step[] = [...words("a"), [OPS.transform, 200, 0, 0, 100, 0, 0], [OPS.paintImageXObject, "p"]];
    const pixels = { width: 1, height: 1, kind: 2, data: Uint8Array.from([9, 9, 9]) };
    const page = drawn(picture, { pixels: () => pixels });
    expect([shows(page), page.pictures]).toEqual([["a no covered"], 1]);
    // Many at once: where each lies is not followed.
    expect(shows(drawn([...words("a"), [OPS.paintImageXObjectRepeat, "p"]]))).toEqual(["a unsure covered"]);
  });
});

describe("text (9)", () => {
  test("letters follow one another by their widths, spacing and stretch; a space is blank", () => {
    const spaced: Step[] = [[OPS.setCharSpacing, 4], [OPS.setWordSpacing, 10], [OPS.setHScale, 200], ...words("a b")];
    expect(shows(drawn(spaced))).toEqual(["a yes", "  no blank", "b yes"]);
    // The second letter of a line that is as long as the page lies outside.
    expect(shows(drawn([[OPS.setCharSpacing, 300], ...words("ab")]))).toEqual(["a yes", "b no outside"]);
  });
  test("modes: stroked letters show, invisible ones do not, those a clip is made of cannot be told", () => {
    const mode = (number: number) => shows(drawn([[OPS.setTextRenderingMode, number], ...words("a")]));
    expect([mode(1), mode(3), mode(7)]).toEqual([["a yes"], ["a no mode"], ["a unsure mode"]]);
  });
  test("lines are moved down by their leading, and letters too small for an eye are none", () => {
    const lines: Step[] = [...words("a"), [OPS.setLeadingMoveText, 0, -90], [OPS.showText, [glyph("b")]]];
    expect(shows(drawn(lines))).toEqual(["a yes", "b no outside"]);
    expect(shows(drawn(words("a", 10, 40, 0.2)))).toEqual(["a no size"]);
  });
  test("letters that lean, are stroked as well, or are drawn twice a little apart are faked", () => {
    const faked = (steps: readonly Step[]) => drawn(steps).letters.map((letter) => letter.faked);
    const leaning: Step[] = [
      [OPS.beginText],
      [OPS.setFont, "F1", 20],
      [OPS.setTextMatrix, [1, 0, 0.3, 1, 10, 40]],
      [OPS.showText, [glyph("a")]],
    ];
    expect(faked(leaning)).toEqual(["slanted"]);
    expect(faked([[OPS.setTextRenderingMode, 2], [OPS.setLineWidth, 0.6], ...words("a")])).toEqual(["bold"]);
    // A line as wide as that was put around the letter by somebody.
    expect(faked([[OPS.setTextRenderingMode, 2], [OPS.setLineWidth, 3], ...words("a")])).toEqual([undefined]);
    expect(faked([...words("a"), ...words("a", 10.5)])).toEqual(["bold", "bold"]);
    expect(faked([...words("a"), ...words("a", 40)])).toEqual([undefined, undefined]);
  });
});

test("a page within itself is followed so deep and no deeper", () => {
  const endless: { fnArray: number[]; argsArray: unknown[] } = { fnArray: [], argsArray: [] };
  const steps: Step[] = [[OPS.setFillColorN, "TilingPattern", null, endless, null], box(0, 0, 50, 50), [OPS.fill]];
  Object.assign(endless, operators(steps));
  expect(() => drawn(steps)).toThrow(PageTooLarge);
});
