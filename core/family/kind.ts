// What kind of face a style is, for finding it again.
import type { Inspection } from "../inspect.ts";
import type { FaceKind } from "./kind-list.ts";
import { isSymbolFont } from "./symbols.ts";

export type { FaceKind };

export function kindsOf(record: Pick<Inspection, "ranges" | "axes" | "colour" | "monospaced" | "capitals">): FaceKind[] {
  const symbols = isSymbolFont(record.ranges);
  const capitals = record.capitals === "capitals-only" || record.capitals === "small-capitals";
  const outlined = record.capitals === "outlined" || record.capitals === "outlined-capitals";
  const found: [kind: FaceKind, is: boolean][] = [
    ["symbols", symbols],
    ["variable", record.axes.length > 0],
    ["colour", record.colour.length > 0],
    ["monospaced", record.monospaced && !symbols],
    ["capitals", capitals],
    ["outlined", outlined],
    ["text", !symbols && !capitals && !outlined],
  ];
  return found.filter(([, is]) => is).map(([kind]) => kind);
}
