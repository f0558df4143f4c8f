// A set line as letters to be cut: exact outlines, each knowing its word and line, sorted into colours.
import type { DrawFace } from "../../bench/draw-face.ts";
import { isDrawnBy, type SetText } from "../../bench/setting.ts";
import type { LettersOf } from "../../bench/line.ts";
import { boxOf, contoursOf, movedBy, type Box, type Contour } from "../outlines/curve.ts";
import { untilTheyTouch } from "./touching.ts";

export interface Letter {
  /** What it stands for. */
  text: string;
  word: number;
  line: number;
  /** Filled by nonzero winding; empty for a space. */
  contours: Contour[];
  box: Box;
  /** "#rrggbb"; undefined for the layer's own colour. */
  colour: string | undefined;
}

/** Letters of a layer, and characters that are pictures and cannot be cut. */
export interface Letters {
  letters: Letter[];
  pictures: string[];
}

/** `unitMm` millimetres a font unit; moved by (x, y) millimetres from the start of the first baseline. */
export function lettersOf(set: SetText, face: DrawFace, only: LettersOf, unitMm: number, x: number, y: number, touch: boolean): Letters {
  const found: Letter[] = [];
  const pictures: string[] = [];
  let [word, drawn, lastLine] = [0, true, 0];
  for (const { glyph, text, line, x: gx, y: gy } of set.glyphs) {
    if (line !== lastLine) [word, lastLine] = [word + 1, line];
    if (text !== "") drawn = isDrawnBy(only, text);
    if (text !== "" && text.trim() === "") word++;
    const place = [x + gx * unitMm, y + gy * unitMm] as const;
    const parts = face.colours(glyph) ?? [{ glyph, colour: undefined }];
    parts.forEach(({ glyph: part, colour }, i) => {
      const contours = drawn ? contoursOf(face.outline(part), unitMm, ...place) : [];
      const last = found.at(-1);
      // A cluster's other glyphs go with its first.
      if (text === "" && i === 0 && last && last.line === line && last.colour === colour?.slice(0, 7))
        last.contours = [...last.contours, ...contours];
      else found.push({ text, word, line, contours, box: boxOf(contours), colour: colour?.slice(0, 7) });
    });
    if (
      drawn &&
      text.trim() !== "" &&
      face.picture(glyph) !== undefined &&
      parts.every(({ glyph: part }) => face.outline(part).length === 0)
    )
      pictures.push(text);
  }
  const letters = found.map((letter) => ({ ...letter, box: boxOf(letter.contours) }));
  return { letters: touch ? together(letters) : letters, pictures };
}

/** Letters of each line moved together until they touch; lines keep their left edge. */
function together(letters: readonly Letter[]): Letter[] {
  const lines = new Map<number, Letter[]>();
  for (const letter of letters) lines.set(letter.line, [...(lines.get(letter.line) ?? []), letter]);
  return [...lines.values()].flatMap((line) => {
    const moves = untilTheyTouch(line.map(({ contours }) => contours));
    return line.map((letter, i) => {
      const contours = letter.contours.map((contour) => movedBy(contour, moves[i]!, 0));
      return { ...letter, contours, box: boxOf(contours) };
    });
  });
}
