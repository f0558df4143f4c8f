// Matching: a picture, its frame and words, and which fonts it may show; look-alikes of a family.
import { z } from "zod";
import { ALIKENESS, VERDICTS } from "../core/matching/answer/said.ts";
import { ANSWERS } from "../core/clearance/uses.ts";

/** In the picture's pixels; corners may lie a little outside. */
const Corner = z.tuple([z.number().min(-1e5).max(1e5), z.number().min(-1e5).max(1e5)]);
/** Left top, right top, right bottom, left bottom of a line as it is read. */
const MatchFrame = z.tuple([Corner, Corner, Corner, Corner]);
const MOST_STROKES = 60;
const MOST_WORDS = 120;
export const MatchAsked = z.object({
  frame: MatchFrame,
  /** Marks that were brushed away. */
  strokes: z.array(z.object({ points: z.array(Corner).min(1).max(400), radius: z.number().min(0.5).max(2000) })).max(MOST_STROKES),
  /** The letters' colour, where it was chosen. */
  colour: z
    .string()
    .regex(/^#[0-9a-f]{6}$/)
    .nullable(),
  words: z.string().max(MOST_WORDS),
  jobId: z.number().int().nullable(),
  /** Only fonts that are cleared for the job are looked among. */
  onlyCleared: z.boolean(),
});
export type MatchAsked = z.infer<typeof MatchAsked>;

/** A letter of the framed line. */
const MatchLetter = z.object({
  /** Typed or recognised; empty when it is neither. */
  letter: z.string(),
  /** 0 to 1; 1 when it was typed. */
  sure: z.number(),
  /** Where it lies in the straightened line, in parts of its width and height; null when it could not be told apart. */
  box: z.object({ x: z.number(), y: z.number(), width: z.number(), height: z.number() }).nullable(),
});
export const MatchReading = z.object({
  letters: z.array(MatchLetter),
  /** What is read, where nobody typed it; letters that are not sure are "·". */
  words: z.string(),
  /** Letters hang together, so the line is compared as a whole. */
  joined: z.boolean(),
  /** How it had to be turned to be read. */
  turned: z.enum(["", "half", "mirror"]),
  /** The straightened line as a PNG, with its size. */
  picture: z.string(),
  width: z.number().int(),
  height: z.number().int(),
  colours: z.object({ letters: z.string(), ground: z.string() }),
});
export type MatchReading = z.infer<typeof MatchReading>;

/** Where a font is. */
const MatchPlace = z.object({
  kind: z.enum(["library", "parcel", "device"]),
  /** The parcel or the device. */
  id: z.number().int().nullable(),
  name: z.string(),
});
export const MatchCandidate = z.object({
  sha256: z.string(),
  face: z.number().int(),
  family: z.string(),
  style: z.string(),
  styleId: z.number().int().nullable(),
  familyId: z.number().int().nullable(),
  place: MatchPlace,
  likeness: z.number(),
  verdict: z.enum(VERDICTS),
  /** In words: "Near relative". */
  said: z.string(),
  differences: z.array(z.object({ letter: z.string(), sentence: z.string() })),
  /** Its outlines, as SVG path data in the picture's pixels. */
  overlay: z.string(),
  /** What it is drawn like, by name, when another before it draws these words alike; empty otherwise. */
  drawnLike: z.string(),
  /** For the job; null without one, or where no clearance is known. */
  cleared: z.enum(ANSWERS).nullable(),
  clearance: z.string(),
});
export type MatchCandidate = z.infer<typeof MatchCandidate>;

export const MatchAnswer = z.object({
  /** The whole of it in a sentence. */
  sentence: z.string(),
  /** Nobody typed the words, so it is a weaker answer. */
  weaker: z.boolean(),
  turned: z.enum(["", "half", "mirror"]),
  /** By how many degrees the frame was turned, because the letters stood askew in it. */
  straightened: z.number().default(0),
  candidates: z.array(MatchCandidate),
  /** Faces that were looked among. */
  among: z.number().int(),
  /** Faces that are not measured yet, and so were not. */
  unmeasured: z.number().int(),
  at: z.iso.datetime(),
});
export type MatchAnswer = z.infer<typeof MatchAnswer>;

export const MatchSummary = z.object({
  id: z.number().int(),
  name: z.string(),
  words: z.string(),
  /** The best answer's sentence; empty before there is one. */
  sentence: z.string(),
  jobName: z.string().nullable(),
  at: z.iso.datetime(),
});
export type MatchSummary = z.infer<typeof MatchSummary>;
export const MatchView = MatchSummary.extend({
  width: z.number().int(),
  height: z.number().int(),
  lines: z.array(MatchFrame),
  asked: MatchAsked.nullable(),
  answer: MatchAnswer.nullable(),
});
export type MatchView = z.infer<typeof MatchView>;
export const MatchList = z.object({ matches: z.array(MatchSummary), unmeasured: z.number().int() });
export type MatchList = z.infer<typeof MatchList>;
/** Candidates by their place in the answer. */
export const MatchChoice = z.object({ chosen: z.array(z.number().int().min(0).max(99)).min(1).max(4) });
export const MatchToJob = z.object({ jobId: z.number().int(), chosen: z.number().int().min(0).max(99) });

/** Families that look like one, the nearest first. */
export const AlikeFamily = z.object({
  familyId: z.number().int(),
  family: z.string(),
  /** The style that is nearest, and the own style it is nearest to. */
  styleId: z.number().int(),
  style: z.string(),
  ofStyleId: z.number().int(),
  ofStyle: z.string(),
  alike: z.enum(ALIKENESS),
  likeness: z.number(),
  cleared: z.enum(ANSWERS).nullable(),
  clearance: z.string(),
});
export type AlikeFamily = z.infer<typeof AlikeFamily>;
export const AlikeView = z.object({
  familyId: z.number().int(),
  family: z.string(),
  /** What clearance is asked for: a job's name, or own use. */
  asked: z.string(),
  families: z.array(AlikeFamily),
  /** The family's own styles that are not measured yet. */
  unmeasured: z.number().int(),
});
export type AlikeView = z.infer<typeof AlikeView>;
export const AlikeQuery = z.object({ job: z.coerce.number().int().optional() });
