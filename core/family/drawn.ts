// What differs between two faces when they are drawn: letter by letter, whatever kind of outlines they have.
import { attempt } from "../problem.ts";
import type { Face } from "../sfnt/face.ts";
import { boxOf, signedAreas, type Outline } from "../sfnt/outline.ts";

/** Letters and figures that are compared, with Hebrew for faces without Latin. */
const COMPARED = [..."ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789&@?אבגדהוזחטיכלמנסעפצקרשת"];
/** Parts of the em by which the same drawing may differ between quadratic and cubic curves. */
const BOX_EM = 0.004;
const AREA_EM2 = 0.002;

const ink = (outline: Outline): number => Math.abs(signedAreas(outline).reduce((sum, area) => sum + area, 0));

function drawnAlike(a: Outline, aUnits: number, b: Outline, bUnits: number): boolean {
  const [boxA, boxB] = [boxOf(a), boxOf(b)];
  if (!boxA || !boxB) return !boxA && !boxB;
  const sides = (["xMin", "yMin", "xMax", "yMax"] as const).every((side) => Math.abs(boxA[side] / aUnits - boxB[side] / bUnits) <= BOX_EM);
  return sides && Math.abs(ink(a) / aUnits ** 2 - ink(b) / bUnits ** 2) <= AREA_EM2;
}

export interface DrawnDifference {
  /** Letters both have, and those of them that are drawn differently. */
  compared: number;
  differing: string[];
}

/** Compares the letters both faces have. Undefined when the outlines of one cannot be read. */
export function drawnDifference(a: Face, b: Face): DrawnDifference | undefined {
  const read = attempt(
    () => {
      const [aUnits, bUnits] = [a.head?.unitsPerEm ?? 0, b.head?.unitsPerEm ?? 0];
      if (aUnits === 0 || bUnits === 0) return undefined;
      let compared = 0;
      const differing: string[] = [];
      for (const letter of COMPARED) {
        const code = letter.codePointAt(0)!;
        const [glyphA, glyphB] = [a.cmap?.glyph(code) ?? 0, b.cmap?.glyph(code) ?? 0];
        if (glyphA === 0 || glyphB === 0) continue;
        const [outlineA, outlineB] = [a.outline(glyphA), b.outline(glyphB)];
        if (!outlineA || !outlineB) return undefined;
        compared++;
        if (!drawnAlike(outlineA, aUnits, outlineB, bUnits)) differing.push(letter);
      }
      return { compared, differing };
    },
    { code: "drawn-unreadable", message: "The letters cannot be compared.", next: "Look at both by eye." },
  );
  return read.ok ? read.value : undefined;
}

/** The comparison as a sentence. */
export function drawnWords(difference: DrawnDifference | undefined): string {
  if (!difference) return "Their letters cannot be compared here; look at both.";
  const { compared, differing } = difference;
  if (compared === 0) return "They share no letters that could be compared.";
  if (differing.length === 0) return `All ${compared} letters compared are drawn alike.`;
  if (differing.length === compared) return `All ${compared} letters compared are drawn differently.`;
  const shown = differing.slice(0, 12).join(" ");
  return `${differing.length} of ${compared} letters are drawn differently: ${shown}${differing.length > 12 ? " …" : ""}`;
}
