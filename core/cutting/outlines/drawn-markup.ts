// Drawings that come from anywhere, read element by element in time that grows with their length.
import { Parser } from "htmlparser2";
import { ProblemError } from "../../problem.ts";

/** Groups within groups: no drawing that a person made goes deeper, and the parser's cost of closing one grows with its depth. */
const MOST_DEPTH = 500;

interface DrawingHandlers {
  opened: (name: string, attributes: Readonly<Record<string, string>>) => void;
  text?: (piece: string) => void;
  closed: () => void;
}

/** Walks an SVG. Throws a `ProblemError` for one nested deeper than is read, and what the handlers throw. */
export function walkDrawing(svg: string, { opened, text, closed }: DrawingHandlers): void {
  let depth = 0;
  const parser = new Parser(
    {
      onopentag: (name, attributes) => {
        if (++depth > MOST_DEPTH)
          throw new ProblemError(
            "drawing-deep",
            "The groups of this drawing lie deeper within one another than is read (limit “groups within groups”).",
            "Give an SVG that was exported from a cut.",
          );
        opened(name, attributes);
      },
      ...(text ? { ontext: text } : {}),
      onclosetag: () => {
        depth--;
        closed();
      },
    },
    { xmlMode: true },
  );
  parser.end(svg);
}
