// Cutting at real size: thousands of words of the fonts of Debian packages, each joined and held against shapely (GEOS); and how long each step takes.
import { spawn, type ChildProcess } from "node:child_process";
import { createInterface } from "node:readline";
import { readFileSync } from "node:fs";
import { openDrawFace } from "../../core/bench/draw-face.ts";
import { cut } from "../../core/cutting/cut.ts";
import { type LineToCut } from "../../core/cutting/drawing.ts";
import { joined } from "../../core/cutting/outlines/join.ts";
import { offset } from "../../core/cutting/making/offset.ts";
import { pathKit } from "../../core/cutting/outlines/path-kit.ts";
import { preview } from "../../core/cutting/preview.ts";
import { USUAL_CUT } from "../../core/cutting/settings.ts";
import { singleFonts } from "./corpus.ts";
import { cutCases, type CutCase } from "../reference/cut-cases.ts";
import { p95 } from "./running.ts";

const MOST_CASES = 5200;
const MOST_ERROR = 0.001;
const JUDGES = 2;
/** Words of more pieces of outline take the judge gigabytes. */
const MOST_SEGMENTS = 5000;
const middle = (values: readonly number[]): number => [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)]!;

interface Answer {
  area: number;
  difference: number;
  twice: number;
  unsound: number;
  pieces: number;
  piecesMade: number;
}

/** So long the judge may think about a word. */
const PATIENCE_MS = 30_000;
/** A judge in a process of its own, asked one word after another; one that thinks too long is ended, and the word counts as too intricate for it. */
class Judge {
  private child: ChildProcess | undefined;
  private last: Promise<unknown> = Promise.resolve();
  ask(question: object): Promise<Answer | undefined> {
    const answer = this.last.then(() => this.one(question));
    this.last = answer;
    return answer;
  }
  private one(question: object): Promise<Answer | undefined> {
    const child = (this.child ??= spawn("/usr/bin/python3", ["tests/reference/cut_judge.py"], { stdio: ["pipe", "pipe", "inherit"] }));
    return new Promise((resolve) => {
      const lines = createInterface({ input: child.stdout! });
      const done = (answer: Answer | undefined) => {
        clearTimeout(timer);
        lines.close();
        resolve(answer);
      };
      const timer = setTimeout(() => {
        this.end();
        done(undefined);
      }, PATIENCE_MS);
      lines.once("line", (line) => done(JSON.parse(line) as Answer));
      child.stdin!.write(`${JSON.stringify(question)}\n`);
    });
  }
  end(): void {
    this.child?.kill("SIGKILL");
    this.child = undefined;
  }
}

interface Tally {
  cases: number;
  fonts: Set<string>;
  right: number;
  told: number;
  wrong: string[];
  alike: number;
  engines: Map<string, number>;
}
const tally = (): Tally => ({ cases: 0, fonts: new Set(), right: 0, told: 0, wrong: [], alike: 0, engines: new Map() });

function count(into: Tally, one: CutCase, engine: string, answer: Answer): void {
  into.cases++;
  into.fonts.add(one.font);
  into.engines.set(engine, (into.engines.get(engine) ?? 0) + 1);
  if (engine === "none") into.told++;
  else if (answer.difference > answer.area * MOST_ERROR || answer.twice > 1e-3 || answer.unsound > 1e-3)
    into.wrong.push(`${one.font} “${one.words}” ${one.how}: ${((answer.difference / answer.area) * 100).toFixed(3)} %`);
  else into.right++;
  if (answer.pieces === answer.piecesMade) into.alike++;
}

/** Every font of `fonts` in up to two words of its script, each plain, tight, damaged and on its axes, until there are enough. */
async function joining(fonts: readonly string[], name: string, most: number, print: (line: string) => void): Promise<number> {
  const judges = Array.from({ length: JUDGES }, () => new Judge());
  const [studied, unseen] = [tally(), tally()];
  const running = new Set<Promise<void>>();
  let [asked, damaged, tooLarge] = [0, 0, 0];
  for (const one of cutCases(fonts, 2)) {
    if (asked >= most) break;
    if (one.letters.flat().reduce((sum, contour) => sum + contour.length, 0) > MOST_SEGMENTS) {
      tooLarge++;
      continue;
    }
    const result = await joined(one.letters, one.emMm, pathKit);
    if (one.how === "damaged") damaged++;
    const judging = judges[asked++ % JUDGES]!.ask({ letters: one.letters, joined: result.contours ?? [] })
      .then((answer) => {
        if (answer) count(one.unseen ? unseen : studied, one, result.contours ? result.engine : "none", answer);
        else tooLarge++;
      })
      .then(() => void running.delete(judging));
    running.add(judging);
    if (running.size > 12) await Promise.race(running);
  }
  await Promise.all(running);
  for (const judge of judges) judge.end();
  for (const [which, own] of [
    ["studied", studied],
    ["unseen", unseen],
  ] as const) {
    if (own.cases === 0) continue;
    const engines = [...own.engines].map(([engine, n]) => `${engine} ${n}`).join(", ");
    print(
      `joined, ${name}, ${which}: ${own.right} of ${own.cases} words of ${own.fonts.size} fonts right within 0.1 % (${((own.right / own.cases) * 100).toFixed(2)} %), ${own.told} told as not joined, ${own.wrong.length} wrong; as many pieces as the judge in ${((own.alike / own.cases) * 100).toFixed(1)} %; by engine: ${engines}`,
    );
    for (const wrong of own.wrong.slice(0, 10)) print(`  wrong: ${wrong}`);
  }
  print(`  of these words ${damaged} had damaged outlines; ${tooLarge} more were too intricate for the judge`);
  return asked;
}

const SIXTY = "Wild fennel, tall and yellow along the seed walk since spring";
/** How long each step takes, once the code is warm: medians over several fonts. */
async function times(print: (line: string) => void): Promise<void> {
  const fonts = singleFonts().filter((_, i) => i % 12 === 0);
  const took = new Map<string, number[]>();
  const timed = async (what: string, work: () => unknown): Promise<void> => {
    const begun = performance.now();
    await work();
    took.set(what, [...(took.get(what) ?? []), performance.now() - begun]);
  };
  const run = async (measure: boolean): Promise<void> => {
    for (const path of fonts) {
      const face = openDrawFace(Uint8Array.from(readFileSync(path)), 0);
      if (!face || ![..."Wildfenl"].every((c) => face.has(c.codePointAt(0)!)) || face.heights.capitals === undefined) continue;
      const layer = { face, features: {}, colour: "#000000", dx: 0, dy: 0, letters: "all", made: { kind: "none" } } as const;
      for (const [name, text] of [
        ["a word", "Fennel"],
        ["a line of 61 letters", SIXTY],
      ] as const) {
        const line: LineToCut = { text, letterSpacing: -40, lineSpacing: 1000, direction: "auto", layers: [layer] };
        const drawing = await cut(line, { ...USUAL_CUT, join: "nothing" }, pathKit);
        const letters = drawing.sheets[0]!.letters.map(({ contours }) => contours).filter((contours) => contours.length > 0);
        if (!measure) {
          preview(line, USUAL_CUT);
          await joined(letters, drawing.emMm, pathKit);
          continue;
        }
        await timed(`first look at ${name}`, () => preview(line, USUAL_CUT));
        let contours = (await joined(letters, drawing.emMm, pathKit)).contours;
        await timed(`joined and checked, ${name}`, async () => {
          contours = (await joined(letters, drawing.emMm, pathKit)).contours;
        });
        if (contours) await timed(`contour of 3 mm around ${name}`, () => offset(contours!, 3));
        await timed(`all of a cut with what is found, ${name}`, () => cut(line, USUAL_CUT, pathKit));
      }
    }
  };
  await run(false);
  await run(true);
  for (const [what, values] of took)
    print(`${what}: ${middle(values).toFixed(1)} ms, p95 ${p95(values).toFixed(1)} ms (${values.length} fonts)`);
}

/** `others`: fonts of packages that nobody looked at while the joining was built. */
export async function benchCuts(others: readonly string[], print: (line: string) => void): Promise<void> {
  await times(print);
  const asked = await joining(singleFonts(), "installed fonts", MOST_CASES, print);
  const rest = others.filter((path) => /\.(ttf|otf)$/i.test(path));
  if (asked < MOST_CASES && rest.length > 0) {
    // Evenly from all packages.
    const each = Math.max(1, Math.floor(rest.length / Math.ceil((MOST_CASES - asked) / 4)));
    await joining(
      rest.filter((_, i) => i % each === 0),
      "fonts of other packages",
      MOST_CASES - asked,
      print,
    );
  }
}
