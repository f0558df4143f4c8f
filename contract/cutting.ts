// Cutting a line of a sheet: what is chosen, what was made, files.
import { z } from "zod";
import { BACKINGS, CUT_SIZES, CUT_UNITS, JOINS, MOST_COPIES, MOST_MM, type CutSettings, type CutUnit } from "../core/cutting/settings.ts";
import { CUT_FORMATS, DXF_CURVES } from "../core/cutting/sheets/formats.ts";
import { BenchLine } from "./bench.ts";

const Mm = z.number().min(0).max(1000);
const Colour = z.string().regex(/^#[0-9a-f]{6}$/);
const Place = z.object({ x: z.number().min(-1e7).max(1e7), y: z.number().min(-1e7).max(1e7) });
const UNITS = Object.keys(CUT_UNITS) as [CutUnit, ...CutUnit[]];

export const CutChoice = z.object({
  size: z.object({ of: z.enum(CUT_SIZES), value: z.number().gt(0).max(MOST_MM), unit: z.enum(UNITS) }),
  join: z.enum(JOINS),
  touch: z.boolean(),
  hollowMm: Mm,
  backing: z.object({ shape: z.enum(BACKINGS), mm: Mm, colour: Colour }),
  underMm: z.number().min(-20).max(20),
  mirror: z.boolean(),
  marks: z.boolean(),
  stencil: z.boolean(),
  bridgeMm: z.number().min(0.1).max(100),
  bridges: z.array(Place.extend({ degrees: z.number().min(0).max(360), length: z.number().min(0).max(1e7) })).max(500),
  leftOut: z.array(Place).max(500),
  limitMm: z.number().min(0.05).max(20),
  sheet: z.object({ widthMm: z.number().gt(0).max(MOST_MM), heightMm: z.number().gt(0).max(MOST_MM) }).nullable(),
  copies: z.number().int().min(1).max(MOST_COPIES),
  gapMm: Mm,
  turn: z.boolean(),
}) satisfies z.ZodType<CutSettings>;

/** What an SVG of a cut holds in its metadata. */
export const CutSource = z.object({ line: BenchLine, settings: CutChoice });
export type CutSource = z.infer<typeof CutSource>;

const CutNumbers = z.object({
  widthMm: z.number(),
  heightMm: z.number(),
  pieces: z.number().int(),
  closedPaths: z.number().int(),
  cutLengthMm: z.number(),
  areaMm2: z.number(),
  overlapsBefore: z.number().int(),
  overlapsAfter: z.number().int(),
  thinnestMm: z.number().nullable(),
  engine: z.string(),
  areaErrorPct: z.number(),
  joined: z.boolean(),
});

/** A cut that was saved as a file, with the line and settings of that moment. */
export const CutMade = z.object({
  id: z.number().int(),
  /** How many colours, and the families they are from. */
  colours: z.number().int(),
  families: z.array(z.string()),
  at: z.iso.datetime(),
  /** The line says or looks something else by now. */
  changedSince: z.boolean(),
  source: CutSource,
  numbers: CutNumbers,
});
export type CutMade = z.infer<typeof CutMade>;

/** The cut of a line: what is chosen for it (null before anything was), and what was made of it, the latest first. */
export const LineCut = z.object({
  settings: CutChoice.nullable(),
  made: z.array(CutMade),
  /** Why the job asks to think twice; "" when there is nothing to ask. */
  clearance: z.string(),
});
export type LineCut = z.infer<typeof LineCut>;

export const CutFilesRequest = z.object({
  format: z.enum(CUT_FORMATS),
  curves: z.enum(DXF_CURVES).default("splines"),
  apart: z.boolean().default(false),
  /** Made although the font is not cleared for the job. */
  despite: z.boolean().default(false),
  /** One that was made before, as it was then. */
  again: z.number().int().optional(),
});
export type CutFilesRequest = z.input<typeof CutFilesRequest>;

/** What a machine would follow, as it stands: every outline, millimetres from the top left of all of it. */
export const MachineView = z.object({
  path: z.string(),
  widthMm: z.number(),
  heightMm: z.number(),
  lengthMm: z.number(),
  outlines: z.number().int(),
  crossings: z.array(z.object({ x: z.number(), y: z.number() })),
  crossed: z.number().int(),
});
export type MachineView = z.infer<typeof MachineView>;
