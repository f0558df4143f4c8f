// What a page draws: its operators are carried out on a plane that remembers areas instead of pixels, so that for each letter it can be said
// whether it shows (ISO 32000-1, 8 "Graphics", 9 "Text", 11 "Transparency").
import { STATE_OPERATORS } from "./graphics-state.ts";
import type { DrawnLetter } from "./letters.ts";
import { OBJECT_OPERATORS } from "./objects.ts";
import { PATH_OPERATORS } from "./paths.ts";
import { Plane, type Operator, type PageSource } from "./plane.ts";
import { TEXT_OPERATORS } from "./text.ts";
import { judgeVisibility } from "./visibility.ts";

export interface DrawnPage {
  letters: DrawnLetter[];
  /** Filled paths of more than a few straight edges: letters turned into outlines look like this. */
  shapes: number;
  pictures: number;
}

const OPERATORS: ReadonlyMap<number, Operator> = new Map([...STATE_OPERATORS, ...PATH_OPERATORS, ...OBJECT_OPERATORS, ...TEXT_OPERATORS]);

/** Follows a page's drawing. Throws `PageTooLarge` when it is larger than is followed (`BOUNDS`). */
export function drawPage(source: PageSource): DrawnPage {
  const plane = new Plane(source, OPERATORS);
  plane.run(source.operators, 0);
  const letters = judgeVisibility(plane.letters, plane.painted, plane.overflown);
  return { letters, shapes: plane.shapes, pictures: plane.pictures };
}
