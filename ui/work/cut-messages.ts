// What the page asks of the cutting worker, and what it answers.
import type { Bridge } from "../../core/cutting/making/bridges.ts";
import type { CutPreview } from "../../core/cutting/preview.ts";
import type { CutSettings } from "../../core/cutting/settings.ts";
import type { CutLayerWanted, CutView } from "../../core/cutting/view.ts";
import type { Direction } from "../../core/bench/line.ts";
import type { Problem } from "../../core/problem.ts";

export interface CutWanted {
  text: string;
  letterSpacing: number;
  lineSpacing: number;
  direction: Direction;
  layers: readonly CutLayerWanted[];
  settings: CutSettings;
}
export type CutAsk = { id: number } & (
  | { kind: "cut"; wanted: CutWanted }
  /** A bridge through what was cut last, nearest to a place in millimetres. */
  | { kind: "bridge"; x: number; y: number }
);
export type CutReply = { id: number } & (
  | { kind: "preview"; preview: CutPreview }
  | { kind: "cut"; view: CutView }
  | { kind: "problem"; problem: Problem }
  | { kind: "bridge"; bridge: Bridge | null }
);
