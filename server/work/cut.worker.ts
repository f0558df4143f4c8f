// Runs in a worker thread: computes cuts and writes their files.
import { readFile } from "node:fs/promises";
import type { Layer } from "../../core/bench/line.ts";
import { openDrawFace } from "../../core/bench/draw-face.ts";
import { cut } from "../../core/cutting/cut.ts";
import { type LineToCut } from "../../core/cutting/drawing.ts";
import { type CutLayer } from "../../core/cutting/drawing.ts";
import { summaryOf, type CutSummary } from "../../core/cutting/findings/summary.ts";
import { cutFiles, type CutFile, type FilesWanted } from "../../core/cutting/sheets/files.ts";
import { machineLines, type MachineLines } from "../../core/cutting/outlines/machine.ts";
import { pathKit } from "../../core/cutting/outlines/path-kit.ts";
import type { CutSettings } from "../../core/cutting/settings.ts";
import { readOwnSvg, type About } from "../../core/cutting/sheets/sheet-svg.ts";
import { ProblemError, type Result } from "../../core/problem.ts";
import { serve } from "./serve.ts";

export interface LayerSource extends Layer {
  path: string;
  face: number;
}
export type CutTask =
  | {
      kind: "files";
      line: Omit<LineToCut, "layers">;
      layers: LayerSource[];
      settings: CutSettings;
      about: About;
      wanted: FilesWanted;
      stem: string;
    }
  /** What an SVG of a cut was made from. */
  | { kind: "source"; svg: string }
  /** What a machine would follow in an SVG, or in path data of so many millimetres a unit. */
  | { kind: "machine"; svg?: string; paths?: string[]; unitMm?: number };
export type CutValue =
  | { kind: "files"; files: CutFile[]; numbers: CutSummary; colours: number }
  | { kind: "source"; source: unknown }
  | { kind: "machine"; lines: MachineLines };
export type CutOutcome = Result<CutValue>;

async function compute(task: CutTask): Promise<CutValue> {
  if (task.kind === "source") return { kind: "source", source: readOwnSvg(task.svg) };
  if (task.kind === "machine") return { kind: "machine", lines: machineLines(task) };
  const { line, settings, about, wanted, stem } = task;
  const layers: CutLayer[] = [];
  for (const { path, face: index, axes, ...layer } of task.layers) {
    const bytes = await readFile(path).catch(() => undefined);
    const face = bytes && openDrawFace(Uint8Array.from(bytes), index, axes);
    if (!face)
      throw new ProblemError(
        "style-gone",
        "A font of this line is not in the library, so it cannot be cut.",
        "Add it again from its download, or choose another style.",
      );
    layers.push({ ...layer, face });
  }
  const drawing = await cut({ ...line, layers }, settings, pathKit);
  const numbers = summaryOf(drawing);
  // A preview may show what is wrong; a machine must not be given it.
  if (!numbers.joined && wanted.format !== "png")
    throw new ProblemError(
      "not-joined",
      "These outlines could not be joined so that the result is certain to be right. Nothing was saved.",
      "Change the size or spacing a little, join word by word, or save it with nothing joined.",
    );
  return { kind: "files", files: await cutFiles(drawing, settings, about, wanted, stem), numbers, colours: drawing.sheets.length };
}

serve<CutTask, CutOutcome>(async (task) => {
  try {
    return { ok: true, value: await compute(task) };
  } catch (error) {
    if (error instanceof ProblemError) return { ok: false, problem: error.problem };
    throw error;
  }
});
