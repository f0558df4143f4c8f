// The practice room: a simulated program's window, as it is drawn from real font bytes.
import { z } from "zod";
import { ProgramSummary } from "./programs.ts";

const PracticeMenuEntry = z.object({ label: z.string(), styles: z.array(z.string()) });
type PracticeMenuEntry = z.infer<typeof PracticeMenuEntry>;

export const PracticeProgram = z.object({
  program: ProgramSummary,
  deviceName: z.string(),
  open: z.boolean(),
  openedAt: z.iso.datetime().nullable(),
  menu: z.array(PracticeMenuEntry),
});
export type PracticeProgram = z.infer<typeof PracticeProgram>;

export const PracticeText = z.object({
  font: z.string().max(300),
  style: z.string().max(300).default(""),
  bold: z.boolean().default(false),
  italic: z.boolean().default(false),
  text: z.string().max(2000),
  sizePt: z.number().min(4).max(400),
  /** Width of the page's text block in points. */
  widthPt: z.number().min(50).max(5000).default(500),
});
export type PracticeText = z.input<typeof PracticeText>;

const PracticeRun = z.object({
  /** SVG path data, y downwards, in points from the page's top left. */
  path: z.string(),
  text: z.string(),
  /** Full name of the font that drew it. */
  drawnWith: z.string(),
  /** asked: the chosen font. fallback: another font stands in. box: no font has the character. */
  how: z.enum(["asked", "fallback", "box"]),
  /** Width of the line a faked bold adds around the outlines. */
  strokePt: z.number(),
});
export const PracticeDrawing = z.object({
  widthPt: z.number(),
  heightPt: z.number(),
  runs: z.array(PracticeRun),
  /** What the program shows for the font that was asked for. */
  fontFound: z.boolean(),
  faked: z.array(z.enum(["bold", "italic"])),
});
export type PracticeDrawing = z.infer<typeof PracticeDrawing>;

/** Loads a style of the library into a program by hand; `keep` has it there next time too. */
export const LoadStyleRequest = z.object({ styleId: z.number().int(), keep: z.boolean().default(false) });
export type LoadStyleRequest = z.infer<typeof LoadStyleRequest>;
