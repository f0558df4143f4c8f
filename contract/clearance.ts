// What a family may be used for, where that was read, and the licences recorded for it.
import { z } from "zod";
import { ANSWERS, USES } from "../core/clearance/uses.ts";

export const Use = z.enum(USES);
export type Use = z.infer<typeof Use>;
export const Answer = z.enum(ANSWERS);
export type Answer = z.infer<typeof Answer>;
/** What a licence says; silence is not said. */
const Said = Answer.exclude(["not-stated"]);

export const EvidenceOfUse = z.object({
  answer: Said,
  /** The very sentence; for licence texts and bits, what they mean. */
  sentence: z.string(),
  /** What stands before and after it in its paragraph. */
  before: z.string(),
  after: z.string(),
  /** Where it stands, in words. */
  where: z.string(),
  /** Further places where the very same stands. */
  again: z.number().int(),
  /** The text it stands in, to leave it out there: a paper's sha-256, or the key of a font's own fields. */
  text: z.string(),
  /** The paper it stands in; null for the font's own fields. */
  paperSha256: z.string().nullable(),
  line: z.number().int().nullable(),
  /** SPDX identifier of a known licence, or of several of which one may be chosen. */
  licence: z.string().nullable(),
  /** Why it does not count, as a sentence; empty when it does. */
  aside: z.string(),
  /** A person left it out. */
  leftOut: z.boolean(),
});
export type EvidenceOfUse = z.infer<typeof EvidenceOfUse>;

export const UseClearance = z.object({
  use: Use,
  answer: Answer,
  by: z.enum(["papers", "person", "licence", "nobody"]),
  /** Why, as a sentence. */
  reason: z.string(),
  /** Papers contradict one another. */
  conflict: z.boolean(),
  /** Papers are still being read that may say more. */
  reading: z.boolean(),
  evidence: z.array(EvidenceOfUse),
  /** What else speaks of this use and does not count, with the reason. */
  also: z.array(EvidenceOfUse),
  /** So many further statements are not listed. */
  more: z.number().int().default(0),
  /** A person's own reading; empty when there is none. */
  note: z.string(),
});
export type UseClearance = z.infer<typeof UseClearance>;

export const LicenceKind = z.enum(["personal", "commercial", "time-limited", "other"]);
export type LicenceKind = z.infer<typeof LicenceKind>;
const Day = z.iso.date();
const Term = z.union([z.object({ until: Day }), z.object({ days: z.number().int().min(1).max(36_500) })]);
type Term = z.infer<typeof Term>;

export const TermView = z.object({
  state: z.enum(["not-begun", "running", "ending", "over"]),
  /** "42 days left, until 3 May 2027". */
  words: z.string(),
  last: Day.nullable(),
});
export type TermView = z.infer<typeof TermView>;

const shortText = z.string().trim().max(300);
const LicenceTerms = z.object({
  kind: LicenceKind,
  answers: z.partialRecord(Use, Said),
  seats: z.number().int().min(1).max(1_000_000).nullable(),
  boughtOn: Day.nullable(),
  /** In the currency's smallest unit. */
  priceMinor: z.number().int().min(0).max(1_000_000_000_000).nullable(),
  /** ISO 4217; empty without a price. */
  currency: z.string().regex(/^([A-Z]{3})?$/, "Three capital letters, like EUR."),
  orderNumber: shortText,
  note: z.string().trim().max(2000),
  term: Term.nullable(),
});
export const LicenceRequest = LicenceTerms.refine(({ priceMinor, currency }) => priceMinor === null || currency !== "", {
  path: ["currency"],
  message: "A price needs its currency: three capital letters, like EUR.",
});
export type LicenceRequest = z.infer<typeof LicenceRequest>;

export const LicenceView = LicenceTerms.extend({
  id: z.number().int(),
  receiptName: z.string().nullable(),
  termView: TermView.nullable(),
  madeAt: z.iso.datetime(),
});
export type LicenceView = z.infer<typeof LicenceView>;

/** A paper as it was read. */
const PaperRead = z.object({
  path: z.string(),
  sha256: z.string(),
  /** What kind of paper it is, in words. */
  kind: z.string(),
  /** Languages, in words. */
  languages: z.array(z.string()),
  /** Why it says less than it might; empty when it was read. */
  unread: z.string(),
});
type PaperRead = z.infer<typeof PaperRead>;

export const ClearanceView = z.object({
  /** What is seen first: what it may be used for, in a sentence or two a person can act on. */
  headline: z.string(),
  uses: z.array(UseClearance),
  term: TermView.nullable(),
  lapsed: z.boolean(),
  /** So many papers are still being read. */
  beingRead: z.number().int(),
  /** One sentence that sums it up. */
  summary: z.string(),
});
export type ClearanceView = z.infer<typeof ClearanceView>;

export const FamilyClearance = ClearanceView.extend({
  familyId: z.number().int(),
  familyName: z.string(),
  licences: z.array(LicenceView),
  /** Time limits papers speak of that nobody recorded yet. */
  suggestedTerms: z.array(z.object({ term: Term, sentence: z.string(), where: z.string() })),
  creditLine: z.string(),
  /** What could not be read, as sentences. */
  unread: z.array(z.string()),
  papers: z.array(PaperRead),
});
export type FamilyClearance = z.infer<typeof FamilyClearance>;

/** `answer` null takes a correction back. */
export const CorrectionRequest = z.object({ use: Use, answer: Answer.nullable(), note: z.string().trim().max(1000) });
export type CorrectionRequest = z.infer<typeof CorrectionRequest>;

/** A sentence of a text that does not count, or counts again. */
export const LeaveOutRequest = z.object({
  text: z.string().regex(/^[0-9a-f]{64}$/),
  sentence: z.string().min(1).max(4000),
  out: z.boolean(),
});
export type LeaveOutRequest = z.infer<typeof LeaveOutRequest>;
