// Matching at real size: pictures of words in the fonts of Debian packages, as screens and as photos show them, found again among all of them.
import { singleFonts } from "./corpus.ts";
import { execFileSync } from "node:child_process";
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { alikeFaces } from "../../core/matching/answer/alike.ts";
import { LETTERS } from "../../core/matching/faces/alphabet.ts";
import { LETTER_BYTES } from "../../core/matching/faces/face-shape.ts";
import { FaceIndex } from "../../core/matching/faces/index-of-faces.ts";
import {
  areKin,
  counterparts,
  breathe,
  drawnLettering,
  isUnseen,
  matched,
  fontsUnder,
  measuredCorpus,
  type Answer,
  type Corpus,
} from "../reference/match-cases.ts";
import { unpackedPackages } from "./downloads.ts";

const MOST_BYTES = 5_000_000;
/** Every font package of ordinary size. */
function fontPackages(): string[] {
  const names = execFileSync("apt-cache", ["search", "--names-only", "^(fonts|ttf)-"], { encoding: "utf8" })
    .split("\n")
    .map((line) => line.split(" ")[0]!)
    .filter(Boolean);
  const shown = execFileSync("apt-cache", ["show", "--no-all-versions", ...names], { encoding: "utf8", maxBuffer: 1e8 });
  return shown
    .split("\n\n")
    .flatMap((stanza) => {
      const [, name] = /^Package: (\S+)/m.exec(stanza) ?? [];
      const [, size] = /^Size: (\d+)/m.exec(stanza) ?? [];
      return name !== undefined && Number(size) < MOST_BYTES ? [name] : [];
    })
    .sort();
}

const percent = (part: number, of: number): string => `${((100 * part) / Math.max(1, of)).toFixed(1)} %`;
const middle = (values: readonly number[]): number => [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)] ?? NaN;

export async function benchMatching(downloads: string, print: (line: string) => void): Promise<void> {
  const count = Number(process.env["MATCH_COUNT"] ?? 150);
  const packages = unpackedPackages(join(downloads, "trees"), fontPackages());
  const corpus = await measuredCorpus([...singleFonts(), ...fontsUnder([...packages.values()])]);
  const { fonts, index, measuredMs } = corpus;
  const families = new Set(fonts.filter((_, i) => index.has(i, "latin")).map(({ family }) => family));
  print(`matching: ${fonts.length} faces, ${families.size} families with Latin letters, of ${packages.size} packages and those installed`);
  print(
    `  measured ${((1000 * fonts.length) / measuredMs).toFixed(0)} faces a second in one thread; the index takes ${(index.bytes / fonts.length / 1000).toFixed(2)} kB a face`,
  );
  const dir = mkdtempSync(join(tmpdir(), "buvano-matching-"));
  try {
    for (const [name, among] of [
      ["studied", (font: { family: string }) => !isUnseen(font)],
      ["unseen third", isUnseen],
    ] as const) {
      for (const photo of [false, true]) {
        const cases = await drawnLettering(corpus, among, count, photo, join(dir, `${name}-${photo}`));
        const kind = photo ? "photo-like" : "screenshots";
        for (const [typed, absent] of photo
          ? ([
              [true, false],
              [true, true],
            ] as const)
          : ([
              [true, false],
              [true, true],
              [false, false],
            ] as const)) {
          const answers: Answer[] = [];
          for (const one of cases) {
            await breathe();
            const answer = await matched(corpus, one, typed, absent);
            if (
              process.env["MATCH_SHOW"] &&
              (absent ? answer.candidates.ok && answer.candidates.value[0]?.verdict === "it" : answer.place !== 0)
            ) {
              const found = answer.candidates.ok ? answer.candidates.value : [];
              const [first] = found;
              print(
                `    ${fonts[one.font]!.name} “${one.words}” ${one.renderer} ${one.size}: place ${answer.place}, ${first ? `${fonts[first.face]!.name} ${first.error.toFixed(4)} worst ${first.worst.toFixed(4)} then ${found.find(({ asIn }, i) => i > 0 && asIn !== 0)?.error.toFixed(4)} ${first.verdict}` : answer.candidates.ok ? "none" : answer.candidates.problem.message}`,
              );
            }
            answers.push(answer);
          }
          tell(
            `${kind}, ${name}${typed ? "" : ", words not typed"}${absent ? ", the true font taken out" : ""}`,
            answers,
            absent,
            corpus,
            cases,
            print,
          );
        }
      }
    }
    await many(join(dir, "many"), corpus, print);
  } finally {
    rmSync(dir, { recursive: true });
  }
  await relatives(corpus, print);
}

function tell(
  kind: string,
  answers: readonly Answer[],
  absent: boolean,
  { fonts }: Corpus,
  cases: readonly { font: number }[],
  print: (line: string) => void,
): void {
  const n = answers.length;
  const first = answers.map(({ candidates }) => (candidates.ok ? candidates.value[0] : undefined));
  const it = answers.filter((_, i) => first[i]?.verdict === "it");
  const time = `median ${middle(answers.map(({ ms }) => ms)).toFixed(0)} ms`;
  if (absent) {
    const own = answers.filter((_, i) => fonts.some((font) => font !== fonts[cases[i]!.font] && areKin(font, fonts[cases[i]!.font]!)));
    const near = own.filter(({ kinPlace }) => kinPlace >= 0 && kinPlace < 3);
    print(
      `  ${kind}: ${n}; "this is it" ${it.length} times; a style of its design within three ${percent(near.length, own.length)} of ${own.length}; ${time}`,
    );
    return;
  }
  const within = (most: number) => answers.filter(({ place }) => place >= 0 && place < most).length;
  const right = it.filter(({ place }) => place === 0);
  print(
    `  ${kind}: ${n}; first ${percent(within(1), n)}, within five ${percent(within(5), n)}; "this is it" ${it.length} times, right ${percent(right.length, it.length)}; ${time}`,
  );
}

/** Of faces whose design other families have too: whether the nearest face of another family is one of those. */
async function relatives(corpus: Corpus, print: (line: string) => void): Promise<void> {
  const { fonts, index } = corpus;
  let [asked, right] = [0, 0];
  const times: number[] = [];
  const done = new Set<string>();
  for (const [i, font] of fonts.entries()) {
    const others = counterparts(corpus, i);
    // A face of each style of each family, once.
    if (!index.has(i, "latin") || others.length === 0 || done.has(font.name)) continue;
    done.add(font.name);
    const from = performance.now();
    const [nearest] = alikeFaces(index, i, (face) => fonts[face]!.family === font.family);
    times.push(performance.now() - from);
    asked++;
    if (nearest && areKin(font, fonts[nearest.face]!)) right++;
    else if (process.env["MATCH_SHOW"]) print(`    ${font.name}: ${nearest && fonts[nearest.face]!.name} ${nearest?.distance.toFixed(3)}`);
    if (asked % 50 === 0) await breathe();
  }
  print(
    `  look-alikes: of ${asked} faces with relatives under other names, ${percent(right, asked)} have one of them nearest; ${middle(times).toFixed(0)} ms each`,
  );
}

/** Faces a library may hold at most, for times and memory. */
const MANY = 20_000;
async function many(dir: string, corpus: Corpus, print: (line: string) => void): Promise<void> {
  const { fonts, index } = corpus;
  const large = new FaceIndex();
  const latin = fonts.flatMap((_, i) => (index.has(i, "latin") ? [i] : []));
  large.reserve("latin", MANY);
  for (let n = 0; n < MANY; n++) large.add(new Map([["latin", tableOf(index, latin[n % latin.length]!)]]));
  const [one] = await drawnLettering(corpus, (font) => /^DejaVu Sans$/.test(font.name), 1, false, dir);
  if (!one) return;
  const grown: Corpus = { ...corpus, index: large, fonts: Array.from({ length: MANY }, (_, n) => fonts[latin[n % latin.length]!]!) };
  const times: number[] = [];
  for (let k = 0; k < 5; k++) {
    await breathe();
    times.push((await matched(grown, { ...one, font: latin.indexOf(one.font) }, true, false)).ms);
  }
  print(`  among ${MANY} faces: an answer in ${middle(times).toFixed(0)} ms; the index takes ${(large.bytes / 1e6).toFixed(1)} MB`);
}
function tableOf(index: FaceIndex, face: number): Int8Array {
  const table = new Int8Array(LETTERS.latin.length * LETTER_BYTES).fill(-128);
  for (let i = 0; i < LETTERS.latin.length; i++) {
    const own = index.letter(face, "latin", i);
    if (own) table.set(own.table.subarray(own.at, own.at + LETTER_BYTES), i * LETTER_BYTES);
  }
  return table;
}
