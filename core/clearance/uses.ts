// What fonts are used for, and what a licence says to each use.
import type { PaperKind } from "./paper-kinds.ts";
import type { Aside } from "./speech.ts";

/** own: for oneself. given-away: without money. sold: goods or services that are sold. client: work for a client. document: embedded in documents. video: films and titles. web: on a web page. */
export const USES = ["own", "given-away", "sold", "client", "document", "video", "web"] as const;
export type Use = (typeof USES)[number];

/** Not stated is never taken for yes. */
export const ANSWERS = ["yes", "credit", "no", "not-stated"] as const;
export type Answer = (typeof ANSWERS)[number];

export const USE_WORDS: Record<Use, string> = {
  own: "Own use",
  "given-away": "Given away",
  sold: "Sold goods",
  client: "Client work",
  document: "Embedded in documents",
  video: "Video",
  web: "Web page",
};
/** A use within a sentence: cleared for… */
export const FOR_USE: Record<Use, string> = {
  own: "own use",
  "given-away": "giving away",
  sold: "sold goods",
  client: "client work",
  document: "embedding in documents",
  video: "video",
  web: "web pages",
};
export const ANSWER_WORDS: Record<Answer, string> = {
  yes: "Yes",
  credit: "Yes, with credit",
  no: "No",
  "not-stated": "Not stated",
};

/** Where something was read, so that it can be looked at there. */
export type Source =
  | { kind: "name-field"; id: number; key?: string }
  | { kind: "embedding"; fsType: number; key?: string }
  | { kind: "paper"; path: string; sha256: string; line: number; paper: PaperKind };

/** One thing that was read: it answers one or more uses. */
export interface Statement {
  answers: Partial<Record<Use, Exclude<Answer, "not-stated">>>;
  /** The sentence it was read from, as it stands there; for licence texts and bits, what they mean. */
  sentence: string;
  source: Source;
  /** SPDX identifier, when it is a known licence's text or name. */
  licence?: string;
  /** Uses the licence leaves open. */
  open?: readonly Use[];
  /** What stands before and after the sentence in its paragraph. */
  around?: { before: string; after: string };
  /** Further places where the very same stands. */
  again?: number;
  /** Why it does not count, where it has the words of a statement and is none, or is outranked. */
  aside?: Aside;
}

/** Stricter first: when statements conflict, the stricter one counts until a person decides. */
const STRICTNESS: readonly Answer[] = ["no", "credit", "yes", "not-stated"];
export const stricter = (a: Answer, b: Answer): Answer => (STRICTNESS.indexOf(a) <= STRICTNESS.indexOf(b) ? a : b);
