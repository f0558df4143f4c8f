// Type 2 charstrings: CFF outlines as a small program a glyph (Technical Note 5177 "The Type 2 Charstring Format").
import { ProblemError } from "../problem.ts";
import type { CffIndex } from "./cff.ts";
import type { Contour, Outline } from "./outline.ts";
import type { View } from "./view.ts";

/** Section 3.1: subroutines are nested ten deep at most. */
const DEEPEST = 10;
/** Far more than any glyph draws; a charstring that goes on is damaged. */
const MOST_OPERATORS = 100_000;
/** Bytes run through in all, those of subroutines each time they are called. */
const MOST_BYTES = 2_000_000;
/** Appendix B: numbers that may wait for their operator. */
const MOST_NUMBERS = 48;

const damaged = (): ProblemError =>
  new ProblemError(
    "cff-damaged",
    "Its CFF outlines are damaged.",
    "Download it again; if it stays like this, ask whoever made it for a mended copy.",
  );

/** Section 4.7: subroutine numbers are biased by how many there are. */
const biasOf = (count: number): number => (count < 1240 ? 107 : count < 33900 ? 1131 : 32768);

/** Draws a charstring. Arithmetic operators, which no font of today uses, end the glyph as damaged. */
export function drawCharString(charString: View, globalSubrs: CffIndex, localSubrs: CffIndex | undefined): Outline {
  const outline: Outline = [];
  let contour: Contour | undefined;
  let [x, y] = [0, 0];
  let stack: number[] = [];
  let hints = 0;
  let operators = 0;
  let bytes = 0;
  let done = false;

  const move = (dx: number, dy: number) => {
    x += dx;
    y += dy;
    contour = { startX: x, startY: y, segments: [] };
    outline.push(contour);
  };
  const current = (): Contour => {
    if (!contour) throw damaged();
    return contour;
  };
  const line = (dx: number, dy: number) => {
    x += dx;
    y += dy;
    current().segments.push([x, y]);
  };
  const curve = (d1x: number, d1y: number, d2x: number, d2y: number, d3x: number, d3y: number) => {
    const [ax, ay] = [x + d1x, y + d1y];
    const [bx, by] = [ax + d2x, ay + d2y];
    x = bx + d3x;
    y = by + d3y;
    current().segments.push([ax, ay, bx, by, x, y]);
  };
  const n = (i: number): number => {
    const value = stack[i];
    if (value === undefined) throw damaged();
    return value;
  };
  const countHints = () => {
    hints += stack.length >> 1;
    stack = [];
  };
  /** hvcurveto and vhcurveto: curves that start level and upright by turns. */
  const alternate = (level: boolean) => {
    for (let i = 0; i + 4 <= stack.length; i += 4) {
      const last = stack.length - i === 5 ? n(i + 4) : 0;
      if (level) curve(n(i), 0, n(i + 1), n(i + 2), last, n(i + 3));
      else curve(0, n(i), n(i + 1), n(i + 2), n(i + 3), last);
      level = !level;
    }
  };
  const flex = (operator: number) => {
    if (operator === 35) {
      curve(n(0), n(1), n(2), n(3), n(4), n(5));
      curve(n(6), n(7), n(8), n(9), n(10), n(11));
    } else if (operator === 34) {
      curve(n(0), 0, n(1), n(2), n(3), 0);
      curve(n(4), 0, n(5), -n(2), n(6), 0);
    } else if (operator === 36) {
      curve(n(0), n(1), n(2), n(3), n(4), 0);
      curve(n(5), 0, n(6), n(7), n(8), -(n(1) + n(3) + n(7)));
    } else {
      const dx = n(0) + n(2) + n(4) + n(6) + n(8);
      const dy = n(1) + n(3) + n(5) + n(7) + n(9);
      curve(n(0), n(1), n(2), n(3), n(4), n(5));
      const level = Math.abs(dx) > Math.abs(dy);
      curve(n(6), n(7), n(8), n(9), level ? n(10) : -dx, level ? -dy : n(10));
    }
  };

  const run = (view: View, depth: number): void => {
    if (depth > DEEPEST) throw damaged();
    for (let at = 0; at < view.length && !done;) {
      const b0 = view.u8(at++);
      if (++bytes > MOST_BYTES) throw damaged();
      if (b0 >= 32 || b0 === 28) {
        if (stack.length >= MOST_NUMBERS) throw damaged();
        if (b0 === 28) {
          stack.push(view.i16(at));
          at += 2;
        } else if (b0 <= 246) stack.push(b0 - 139);
        else if (b0 <= 250) stack.push((b0 - 247) * 256 + view.u8(at++) + 108);
        else if (b0 <= 254) stack.push(-(b0 - 251) * 256 - view.u8(at++) - 108);
        else {
          stack.push(view.fixed(at));
          at += 4;
        }
        continue;
      }
      if (++operators > MOST_OPERATORS) throw damaged();
      switch (b0) {
        case 1: // hstem
        case 3: // vstem
        case 18: // hstemhm
        case 23: // vstemhm
          countHints();
          continue;
        case 19: // hintmask
        case 20: // cntrmask
          countHints();
          at += (hints + 7) >> 3;
          continue;
        case 21: // rmoveto; the numbers before the last two are the width
          move(n(stack.length - 2), n(stack.length - 1));
          break;
        case 22: // hmoveto
          move(n(stack.length - 1), 0);
          break;
        case 4: // vmoveto
          move(0, n(stack.length - 1));
          break;
        case 5: // rlineto
          for (let i = 0; i + 2 <= stack.length; i += 2) line(n(i), n(i + 1));
          break;
        case 6: // hlineto
        case 7: // vlineto
          for (let i = 0; i < stack.length; i++) {
            if ((b0 === 6) === (i % 2 === 0)) line(n(i), 0);
            else line(0, n(i));
          }
          break;
        case 8: // rrcurveto
        case 24: {
          // rcurveline
          let i = 0;
          for (; i + 6 <= stack.length; i += 6) curve(n(i), n(i + 1), n(i + 2), n(i + 3), n(i + 4), n(i + 5));
          if (b0 === 24) line(n(i), n(i + 1));
          break;
        }
        case 25: {
          // rlinecurve
          let i = 0;
          for (; i + 8 <= stack.length; i += 2) line(n(i), n(i + 1));
          curve(n(i), n(i + 1), n(i + 2), n(i + 3), n(i + 4), n(i + 5));
          break;
        }
        case 26: {
          // vvcurveto
          let first = stack.length % 4 === 1 ? n(0) : 0;
          for (let i = stack.length % 4 === 1 ? 1 : 0; i + 4 <= stack.length; i += 4, first = 0)
            curve(first, n(i), n(i + 1), n(i + 2), 0, n(i + 3));
          break;
        }
        case 27: {
          // hhcurveto
          let first = stack.length % 4 === 1 ? n(0) : 0;
          for (let i = stack.length % 4 === 1 ? 1 : 0; i + 4 <= stack.length; i += 4, first = 0)
            curve(n(i), first, n(i + 1), n(i + 2), n(i + 3), 0);
          break;
        }
        case 30: // vhcurveto
          alternate(false);
          break;
        case 31: // hvcurveto
          alternate(true);
          break;
        case 10: // callsubr
        case 29: {
          // callgsubr
          const subrs = b0 === 10 ? localSubrs : globalSubrs;
          const number = (stack.pop() ?? NaN) + biasOf(subrs?.count ?? 0);
          if (!subrs || !(number >= 0 && number < subrs.count)) throw damaged();
          run(subrs.object(number), depth + 1);
          continue;
        }
        case 11: // return
          return;
        case 14: // endchar
          done = true;
          break;
        case 12: {
          const b1 = view.u8(at++);
          if (b1 < 34 || b1 > 37) throw damaged();
          flex(b1);
          break;
        }
        default:
          throw damaged();
      }
      stack = [];
    }
  };
  run(charString, 0);
  return outline;
}
