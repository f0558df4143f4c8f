// Runs in a worker thread: reads evidence, which may be large or hostile, and sums it, so that the server goes on answering meanwhile.
import { createHash } from "node:crypto";
import { readFile } from "node:fs/promises";
import { WantedFont } from "../../core/evidence/drawing/programs.ts";
import { readPicture } from "../../core/evidence/image.ts";
import type { MeantStyle } from "../../core/evidence/meant.ts";
import type { Origin } from "../../core/evidence/origin.ts";
import type { PdfFont } from "../../core/evidence/drawing/document.ts";
import type { NeededFont } from "../../core/evidence/meant.ts";
import { needsOf } from "../../core/evidence/needs.ts";
import { canFit, judgePicture, lineRatios, type Candidate, type PictureJudgement } from "../../core/evidence/picture.ts";
import { judgeEvidence, readEvidence } from "../../core/evidence/read.ts";
import { tellingWords } from "../../core/evidence/better-words.ts";
import type { Verdict } from "../../core/evidence/verdict.ts";
import { isWebp, loadWebp } from "../../core/evidence/webp.ts";
import { ok, type Result } from "../../core/problem.ts";
import { serve } from "./serve.ts";

/** A font a picture may show: where its file lies, or its bytes. */
export type PictureCandidate = Omit<Candidate, "bytes"> & ({ path: string } | { bytes: Uint8Array });
/** A style that evidence is judged for, and its file. */
export interface SoughtStyle {
  style: MeantStyle;
  path: string;
  face: number;
}
export type EvidenceTask =
  | { kind: "document"; fileName: string; path: string; words: string; styles: readonly SoughtStyle[] }
  | { kind: "needs"; fileName: string; path: string }
  | { kind: "picture"; path: string; words: string; candidates: PictureCandidate[] };
/** `sha256` is the sum of the file given. */
export interface DocumentRead {
  /** What kind of file it is, in words. */
  kind: string;
  fonts: PdfFont[];
  origin: Origin;
  /** One for each style, in their order. */
  verdicts: Verdict[];
  sha256: string;
  bytes: number;
}
/** What fonts a document sets text in. */
export type NeedsRead = Pick<DocumentRead, "kind" | "origin" | "sha256"> & {
  needs: NeededFont[];
  /** Pages that were not looked at. */
  unread: number;
};
/** `better`: words that would tell where these did not; empty when there are none, or it is told. */
export type PictureRead = PictureJudgement & { width: number; height: number; better: string; sha256: string };
interface Reads {
  document: DocumentRead;
  needs: NeedsRead;
  picture: PictureRead;
}
export type EvidenceOutcome<T extends EvidenceTask> = Result<Reads[T["kind"]]>;

/** Fonts compared lately, by their id: opened fonts stay open while their bytes are held. */
const held = new Map<string, Uint8Array>();
const MOST_HELD = 160;

const bytesOf = (candidate: PictureCandidate): Promise<Uint8Array | undefined> =>
  "bytes" in candidate ? Promise.resolve(candidate.bytes) : readFile(candidate.path).catch(() => undefined);

async function heldBytes(candidate: PictureCandidate): Promise<Uint8Array | undefined> {
  const { id } = candidate;
  const known = held.get(id) ?? (await bytesOf(candidate));
  if (!known) return undefined;
  held.delete(id);
  if (held.size >= MOST_HELD) held.delete(held.keys().next().value!);
  held.set(id, known);
  return known;
}

async function picture(
  bytes: Uint8Array,
  words: string,
  candidates: readonly PictureCandidate[],
): Promise<Result<Omit<PictureRead, "sha256">>> {
  const read = readPicture(bytes, isWebp(bytes) ? await loadWebp() : undefined);
  if (!read.ok) return read;
  const { light, width, height } = read.value;
  const fonts: Candidate[] = [];
  const ratios = candidates.length > MOST_AT_ONCE ? lineRatios(light, width, height) : undefined;
  for (const [i, candidate] of candidates.entries()) {
    const { id, name, face } = candidate;
    const few = i < MOST_AT_ONCE / 2;
    const own = few || !ratios ? await heldBytes(candidate) : await bytesOf(candidate);
    // Of very many only those that can fit are kept.
    if (own && (few || !ratios || canFit({ bytes: own, face }, words, ratios))) fonts.push({ id, name, face, bytes: own });
  }
  const judged = judgePicture(light, width, height, words, fonts);
  if (!judged.ok) return judged;
  // Where it cannot be told, words are found that would.
  const wanted = fonts.find(({ id }) => id === candidates[0]?.id);
  const likest = judged.value.scores.flatMap(({ id }) => fonts.find((one) => one.id === id && one !== wanted) ?? []);
  const rivals = [...likest, ...fonts.filter((one) => one !== wanted && !likest.includes(one))];
  const better = judged.value.shown || !wanted ? "" : tellingWords(wanted, rivals);
  return ok({ ...judged.value, width, height, better });
}
/** So many fonts are laid over a picture whatever their proportions. */
const MOST_AT_ONCE = 80;

async function document(
  bytes: Uint8Array,
  { fileName, words, styles }: Extract<EvidenceTask, { kind: "document" }>,
): Promise<Result<Omit<DocumentRead, "sha256">>> {
  const read = await readEvidence(fileName, bytes);
  if (!read.ok) return read;
  const { kind, fonts, origin } = read.value;
  const verdicts: Verdict[] = [];
  for (const { style, path, face } of styles) {
    const wanted = new WantedFont(
      { bytes: await readFile(path), face },
      style.instances?.map(({ at }) => at ?? {}),
    );
    verdicts.push(await judgeEvidence(read.value, style, wanted, words));
  }
  return ok({ kind, fonts, origin, verdicts, bytes: bytes.length });
}

async function needs(
  bytes: Uint8Array,
  { fileName }: Extract<EvidenceTask, { kind: "needs" }>,
): Promise<Result<Omit<NeedsRead, "sha256">>> {
  const read = await readEvidence(fileName, bytes);
  if (!read.ok) return read;
  const { kind, origin, drawn } = read.value;
  return ok({ kind, origin, needs: needsOf(read.value), unread: drawn ? drawn.pages - drawn.read : 0 });
}

// The reader of PDF tells the console what it steps over in damaged ones; whoever gave the file is told what matters of it.
globalThis.console.warn = () => undefined;

serve<EvidenceTask, Result<Reads[keyof Reads]>>(async (task) => {
  const bytes = await readFile(task.path);
  const sha256 = createHash("sha256").update(bytes).digest("hex");
  const read =
    task.kind === "document"
      ? await document(bytes, task)
      : task.kind === "needs"
        ? await needs(bytes, task)
        : await picture(bytes, task.words, task.candidates);
  return (read.ok ? ok({ ...read.value, sha256 }) : read) as Result<Reads[keyof Reads]>;
});
