// How well what browsers refuse is known: on every font of the real downloads and on damaged copies; every third package is kept unseen
// while rules are made (`unseen`).
import { mkdtempSync, readFileSync, rmSync, statSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { LayoutMaker } from "../hostile/layout-tables.ts";
import { damagedCopy, hold, noAgreement, type Agreement } from "../hostile/sanitizer.ts";
import { numbersFrom, runSeed } from "../amount.ts";

const COPIES = 3000;

export function benchBrowsers(fonts: readonly string[], print: (line: string) => void): void {
  const dir = mkdtempSync(join(tmpdir(), "buvano-browsers-"));
  const packages = [...new Set(fonts.map(packageOf))].sort();
  const unseen = new Set(packages.filter((_, i) => i % 3 === 2));
  const seed = runSeed();
  const tell = (kind: string, { refused, missed, passed, marked }: Agreement) =>
    print(`  ${kind}: of ${refused} refused ${missed.length} missed; of ${passed} passed ${marked.length} marked`);
  print(`Browsers: ${fonts.length} fonts of ${packages.length} packages, ${COPIES} damaged copies (seed ${seed})`);
  for (const [name, own] of [
    ["seen", fonts.filter((path) => !unseen.has(packageOf(path)))],
    ["unseen", fonts.filter((path) => unseen.has(packageOf(path)))],
  ] as const) {
    const whole = noAgreement();
    for (const path of own) hold(whole, path, path);
    const copies = noAgreement();
    const random = numbersFrom(seed);
    const small = own.filter((path) => statSync(path).size < 250_000);
    for (let i = 0; i < COPIES / 2; i++) {
      const path = small[Math.floor(random() * small.length)]!;
      hold(copies, path, join(dir, "copy"), damagedCopy(readFileSync(path), random));
    }
    tell(`${name}, whole`, whole);
    tell(`${name}, damaged`, copies);
  }
  const made = noAgreement();
  const maker = new LayoutMaker(numbersFrom(seed));
  for (let i = 0; i < COPIES; i++) hold(made, String(i), join(dir, "made"), maker.font());
  tell("tables made at random", made);
  rmSync(dir, { recursive: true });
}

const packageOf = (path: string): string => /trees\/([^/]+)\//.exec(path)?.[1] ?? path;
