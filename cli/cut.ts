// `buvano cut`: words in a font as a machine cuts them, joined and checked, in true size. Exit code 1 when they cannot be.
import { createHash } from "node:crypto";
import { missingWords } from "../core/bench/compare.ts";
import { cut as compute } from "../core/cutting/cut.ts";
import { summaryOf, thinnestOf } from "../core/cutting/findings/summary.ts";
import { cutFiles } from "../core/cutting/sheets/files.ts";
import type { CutFormat } from "../core/cutting/sheets/formats.ts";
import { pathKit } from "../core/cutting/outlines/path-kit.ts";
import { MOST_MM, USUAL_CUT, type CutSettings } from "../core/cutting/settings.ts";
import { writeWhole } from "../core/disk/whole.ts";
import { ProblemError } from "../core/problem.ts";
import { fileStem } from "../core/words/file-names.ts";
import { count } from "../core/words/words.ts";
import { openFont, said, settings as read } from "./font.ts";

export interface CutArgs {
  font: string;
  face: number;
  text: string;
  heightMm: number;
  features: string;
  axes: string;
  join: boolean;
  contourMm: number;
  mirror: boolean;
  to: string;
  json: boolean;
}

export async function cut(args: CutArgs): Promise<number> {
  const format = /\.(svg|dxf|pdf)$/i.exec(args.to)?.[1]?.toLowerCase() as CutFormat | undefined;
  if (!format) return said({ message: "The cut has no kind.", next: "Let its name end in .svg, .dxf or .pdf." });
  const [features, axes] = [read(args.features, /^\d+$/), read(args.axes, /^-?\d/)];
  if (!features || !axes) return said({ message: "The features or axes cannot be read.", next: "Write them as smcp,ss01=2 and wght=600." });
  if (!(args.heightMm > 0 && args.heightMm <= MOST_MM))
    return said({ message: "The height is out of bounds.", next: `Give more than 0 and at most ${MOST_MM} mm.` });
  if (!(args.contourMm >= 0 && args.contourMm <= 1000))
    return said({ message: "The contour's distance is out of bounds.", next: "Give 0 to 1000 mm." });
  const font = await openFont(args.font, args.face, axes);
  if (!font.ok) return said(font.problem);
  const { face, family, style } = font.value;
  const settings: CutSettings = {
    ...USUAL_CUT,
    size: { of: "whole", value: args.heightMm, unit: "mm" },
    join: args.join ? "line" : "nothing",
    mirror: args.mirror,
    backing: args.contourMm > 0 ? { ...USUAL_CUT.backing, shape: "contour", mm: args.contourMm } : USUAL_CUT.backing,
  };
  const line = { text: args.text, letterSpacing: 0, lineSpacing: 1000, direction: "auto" as const };
  const layer = { features, colour: "#1d1a16", dx: 0, dy: 0, letters: "all" as const, made: { kind: "none" as const } };
  try {
    const drawing = await compute({ ...line, layers: [{ ...layer, face }] }, settings, pathKit);
    const summary = { ...summaryOf(drawing), thinnestMm: thinnestOf(drawing) };
    if (args.join && !summary.joined)
      return said({
        message: "These outlines could not be joined so that the result is certain to be right; nothing was written.",
        next: "Try another height or style, or cut them as they are, without --join.",
      });
    const sha256 = createHash("sha256").update(font.value.bytes).digest("hex");
    const source = {
      line: {
        id: "line",
        ...line,
        size: { of: "em", value: drawing.emMm, unit: "mm" },
        layers: [{ ...layer, axes, style: { sha256, face: args.face, family, style } }],
      },
      settings,
    };
    const about = {
      title: args.text.slice(0, 200),
      description: `${family} ${style}, ${args.heightMm} mm high${args.join ? ", joined" : ""}`,
      source,
    };
    const [file] = await cutFiles(drawing, settings, about, { format, curves: "splines", apart: false }, fileStem(args.text, "Cut"));
    await writeWhole(args.to, file!.bytes);
    if (drawing.missing.length > 0) process.stderr.write(`${missingWords(drawing.missing)}; it is left out.\n`);
    const findings = drawing.findings.map(({ kind, x, y, words, next, mm }) => ({ kind, xMm: x, yMm: y, words, next, mm }));
    if (args.json) process.stdout.write(`${JSON.stringify({ ...summary, findings })}\n`);
    else {
      const size = `${summary.widthMm.toFixed(1)} × ${summary.heightMm.toFixed(1)} mm`;
      process.stdout.write(
        `${size}, ${count(summary.pieces, "piece")}, ${count(summary.closedPaths, "closed path")}, ${summary.cutLengthMm.toFixed(0)} mm to cut\n`,
      );
      for (const { words, next } of findings) process.stdout.write(`${words} ${next}\n`);
    }
    return 0;
  } catch (error) {
    if (error instanceof ProblemError) return said(error.problem);
    throw error;
  }
}
