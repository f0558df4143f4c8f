// `buvano evidence`: what a file shows of one font. Exit code 0 when that was told, 1 when the file or the font cannot be read.
import { readdir, readFile } from "node:fs/promises";
import { basename, dirname, join, resolve } from "node:path";
import { WantedFont } from "../core/evidence/drawing/programs.ts";
import { readPicture } from "../core/evidence/image.ts";
import { judgePicture, type Candidate } from "../core/evidence/picture.ts";
import { tellingWords } from "../core/evidence/better-words.ts";
import { isWebp, loadWebp } from "../core/evidence/webp.ts";
import { judgeEvidence, readEvidence } from "../core/evidence/read.ts";
import type { Verdict } from "../core/evidence/verdict.ts";
import { inspectFont } from "../core/inspect.ts";
import { ok, type Problem, type Result } from "../core/problem.ts";
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
  if (isPicture(bytes)) {
    const shown = await ofPicture(bytes, words, { font, name: record.fullName, bytes: fontBytes });
    if (!shown.ok) return say(shown.problem);
    tell(shown.value, json);
    return 0;
  }
  const read = await readEvidence(basename(file), bytes);
  if (!read.ok) return say(read.problem);
  const sought = new WantedFont(
    { bytes: fontBytes, face: 0 },
    record.instances.map(({ at }) => at),
  );
  tell(await judgeEvidence(read.value, record, sought, words), json);
  return 0;
}

function tell({ state, by, letters, pages, instead, reason, next }: Verdict, json: boolean): void {
  if (json) process.stdout.write(`${JSON.stringify({ state, by, letters, pages, instead, reason })}\n`);
  else process.stdout.write(`${WORDS[state]}: ${reason}${next === "" ? "" : ` ${next}`}\n`);
}

const isPicture = (bytes: Uint8Array): boolean =>
  isWebp(bytes) || (bytes[0] === 0x89 && bytes[1] === 0x50) || (bytes[0] === 0xff && bytes[1] === 0xd8);

/** What a picture of known words shows: the font, or one of those that lie beside it. */
async function ofPicture(
  picture: Uint8Array,
  words: string,
  wanted: { font: string; name: string; bytes: Uint8Array },
): Promise<Result<Verdict>> {
  const read = readPicture(picture, isWebp(picture) ? await loadWebp() : undefined);
  if (!read.ok) return read;
  const beside = dirname(resolve(wanted.font));
  const others: Candidate[] = [];
  for (const name of await readdir(beside)) {
    if (!/\.(ttf|otf)$/i.test(name) || name === basename(wanted.font)) continue;
    const bytes = await readFile(join(beside, name)).catch(() => undefined);
    const inspected = bytes && inspectFont(bytes, name);
    if (inspected?.ok) others.push({ id: name, name: inspected.value[0]!.fullName, bytes: new Uint8Array(bytes!), face: 0 });
  }
  const own: Candidate = { id: "", name: wanted.name, bytes: wanted.bytes, face: 0 };
  const { light, width, height } = read.value;
  const judged = judgePicture(light, width, height, words, [own, ...others]);
  if (!judged.ok) return judged;
  const { shown, scores } = judged.value;
  const verdict = (state: Verdict["state"], reason: string, more: Partial<Verdict> = {}) =>
    ok({ state, by: "", letters: 0, pages: [], instead: [], reason, next: "", ...more });
  if (!shown) {
    const rivals = [...scores.flatMap(({ id }) => others.find((one) => one.id === id) ?? []), ...others];
    const better = tellingWords(own, rivals);
    return verdict("cannot-tell", `The picture shows neither ${wanted.name} nor another font beside it surely enough.`, {
      next: `Set ${better === "" ? "the words" : `“${better}”`} at 96 px or larger, and take it again.`,
    });
  }
  if (shown.id !== "") return verdict("swapped", `The picture shows ${shown.name} in its place.`, { instead: [shown.name] });
  return verdict("seen", `The picture shows ${wanted.name}.`, { letters: [...words.replace(/\s/gu, "")].length });
}
