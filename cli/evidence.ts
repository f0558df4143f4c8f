// `buvano evidence`: what a file shows of one font. Exit code 0 when that was told, 1 when the file or the font cannot be read.
import { readFile } from "node:fs/promises";
import { basename } from "node:path";
import { WantedFont } from "../core/evidence/drawing/programs.ts";
import { judgeEvidence, readEvidence } from "../core/evidence/read.ts";
import type { Verdict } from "../core/evidence/verdict.ts";
import { inspectFont } from "../core/inspect.ts";
import type { Problem } from "../core/problem.ts";
import { isWoff2, loadWoff2 } from "../core/sfnt/woff2.ts";
import { unwrapWebFont } from "../core/sfnt/unwrap.ts";

export interface EvidenceOrder {
  file: string;
  font: string;
  /** Words that are known to be set in it; empty when none are. */
  words: string;
  json: boolean;
}

const WORDS: Record<Verdict["state"], string> = {
  seen: "Seen",
  swapped: "Swapped",
  faked: "Faked",
  "asked-for": "Asked for",
  "cannot-tell": "Cannot tell",
  "not-in-it": "Not in it",
};

async function readFont(path: string) {
  const bytes = new Uint8Array(await readFile(path));
  const unpack = isWoff2(bytes) ? await loadWoff2() : undefined;
  const inspected = inspectFont(bytes, basename(path).replace(/\.\w+$/, ""), unpack);
  if (!inspected.ok) return inspected;
  const web = /^wOF/.test(new TextDecoder("latin1").decode(bytes.subarray(0, 4)));
  return { ok: true, value: { record: inspected.value[0]!, bytes: web ? unwrapWebFont(bytes, unpack).bytes : bytes } } as const;
}

export async function evidence({ file, font, words, json }: EvidenceOrder): Promise<number> {
  const say = (problem: Pick<Problem, "code" | "message" | "next">): number => {
    if (json) process.stdout.write(`${JSON.stringify({ state: "cannot-tell", reason: problem.message, problem: problem.code })}\n`);
    else process.stderr.write(`${problem.message} ${problem.next}\n`);
    return 1;
  };
  let bytes: Uint8Array;
  let wanted: Awaited<ReturnType<typeof readFont>>;
  try {
    bytes = new Uint8Array(await readFile(file));
    wanted = await readFont(font);
  } catch (error) {
    return say({
      code: "not-readable",
      message: `It cannot be read: ${(error as Error).message}.`,
      next: "Give the paths of a file and of a font.",
    });
  }
  if (!wanted.ok) return say(wanted.problem);
  const { record, bytes: fontBytes } = wanted.value;
  const read = await readEvidence(basename(file), bytes);
  if (!read.ok) return say(read.problem);
  const sought = new WantedFont(
    { bytes: fontBytes, face: 0 },
    record.instances.map(({ at }) => at),
  );
  const { state, by, letters, pages, instead, reason, next } = await judgeEvidence(read.value, record, sought, words);
  if (json) process.stdout.write(`${JSON.stringify({ state, by, letters, pages, instead, reason })}\n`);
  else process.stdout.write(`${WORDS[state]}: ${reason}${next === "" ? "" : ` ${next}`}\n`);
  return 0;
}
