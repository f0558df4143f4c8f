// Runs in a worker thread: reads evidence, which may be large or hostile, so that the server goes on answering meanwhile.
import { readPicture } from "../../core/evidence/image.ts";
import { judgePicture, type Candidate, type PictureJudgement } from "../../core/evidence/picture.ts";
import { readEvidence, type Evidence } from "../../core/evidence/read.ts";
import { ok, type Result } from "../../core/problem.ts";

export type EvidenceJob =
  | { kind: "document"; fileName: string; bytes: Uint8Array }
  | { kind: "picture"; bytes: Uint8Array; words: string; candidates: Candidate[] };
export type PictureRead = PictureJudgement & { width: number; height: number };
export type EvidenceOutcome<J extends EvidenceJob> = J extends { kind: "document" } ? Result<Evidence> : Result<PictureRead>;

/** Fonts compared lately, by their id: opened fonts stay open while their bytes are held. */
const held = new Map<string, Uint8Array>();
const MOST_HELD = 160;

function heldBytes({ id, bytes }: Candidate): Uint8Array {
  const known = held.get(id) ?? bytes;
  held.delete(id);
  if (held.size >= MOST_HELD) held.delete(held.keys().next().value!);
  held.set(id, known);
  return known;
}

function picture(bytes: Uint8Array, words: string, candidates: readonly Candidate[]): Result<PictureRead> {
  const read = readPicture(bytes);
  if (!read.ok) return read;
  const { light, width, height } = read.value;
  const fonts = candidates.map((candidate) => ({ ...candidate, bytes: heldBytes(candidate) }));
  const judged = judgePicture(light, width, height, words, fonts);
  return judged.ok ? ok({ ...judged.value, width, height }) : judged;
}

export default async function readGiven(job: EvidenceJob): Promise<Result<Evidence> | Result<PictureRead>> {
  return job.kind === "document" ? readEvidence(job.fileName, job.bytes) : picture(job.bytes, job.words, job.candidates);
}
