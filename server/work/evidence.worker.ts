// Runs in a worker thread: reads evidence, which may be large or hostile, and sums it, so that the server goes on answering meanwhile.
import { createHash } from "node:crypto";
import { readFile } from "node:fs/promises";
import { readPicture } from "../../core/evidence/image.ts";
import { judgePicture, type Candidate, type PictureJudgement } from "../../core/evidence/picture.ts";
import { readEvidence, type Evidence } from "../../core/evidence/read.ts";
import { ok, type Result } from "../../core/problem.ts";
import { serve } from "./serve.ts";

/** A font a picture may show: where its file lies, or its bytes. */
export type PictureCandidate = Omit<Candidate, "bytes"> & ({ path: string } | { bytes: Uint8Array });
export type EvidenceTask =
  { kind: "document"; fileName: string; path: string } | { kind: "picture"; path: string; words: string; candidates: PictureCandidate[] };
/** `sha256` is the sum of the file given. */
export type DocumentRead = Evidence & { sha256: string };
export type PictureRead = PictureJudgement & { width: number; height: number; sha256: string };
export type EvidenceOutcome<T extends EvidenceTask> = T extends { kind: "document" } ? Result<DocumentRead> : Result<PictureRead>;

/** Fonts compared lately, by their id: opened fonts stay open while their bytes are held. */
const held = new Map<string, Uint8Array>();
const MOST_HELD = 160;

async function heldBytes(candidate: PictureCandidate): Promise<Uint8Array | undefined> {
  const { id } = candidate;
  const known = held.get(id) ?? ("bytes" in candidate ? candidate.bytes : await readFile(candidate.path).catch(() => undefined));
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
  const read = readPicture(bytes);
  if (!read.ok) return read;
  const { light, width, height } = read.value;
  const fonts: Candidate[] = [];
  for (const candidate of candidates) {
    const own = await heldBytes(candidate);
    if (own) fonts.push({ id: candidate.id, name: candidate.name, face: candidate.face, bytes: own });
  }
  const judged = judgePicture(light, width, height, words, fonts);
  return judged.ok ? ok({ ...judged.value, width, height }) : judged;
}

// The reader of PDF tells the console what it steps over in damaged ones; whoever gave the file is told what matters of it.
globalThis.console.warn = () => undefined;

serve<EvidenceTask, Result<DocumentRead> | Result<PictureRead>>(async (task) => {
  const bytes = await readFile(task.path);
  const sha256 = createHash("sha256").update(bytes).digest("hex");
  const read: Result<Evidence | Omit<PictureRead, "sha256">> =
    task.kind === "document" ? await readEvidence(task.fileName, bytes) : await picture(bytes, task.words, task.candidates);
  return (read.ok ? ok({ ...read.value, sha256 }) : read) as Result<DocumentRead> | Result<PictureRead>;
});
