// What the last noted runs took and counted: docs/checked.md, written by the runs themselves.
import { execFileSync } from "node:child_process";
import { existsSync, readFileSync, writeFileSync } from "node:fs";
import { cpus } from "node:os";
import { join } from "node:path";
import { root } from "./setup.mjs";

const PAGE = join(root, "docs", "checked.md");
/** A part that takes so many times as long as noted is named. */
export const SLOWER = 1.25;
const HEADINGS = { short: "## `npm test`", long: "## `npm run test:long`", mutants: "## `npm run test:mutants`" };
const BEGINNING = `# Checked

Written by \`npm test -- --note\`, \`npm run test:long\` and \`npm run test:mutants\`. \`npm test\` names a part that takes a quarter longer than is noted here.
`;

/** The sections of the page as they stand, by their headings. */
function sections() {
  const text = existsSync(PAGE) ? readFileSync(PAGE, "utf8") : "";
  return new Map(
    Object.values(HEADINGS).flatMap((heading) => {
      const from = text.indexOf(heading);
      if (from < 0) return [];
      const to = text.indexOf("\n## ", from + 1);
      return [[heading, text.slice(from, to < 0 ? undefined : to).trim()]];
    }),
  );
}

const commitNow = () => execFileSync("git", ["rev-parse", "--short", "HEAD"], { cwd: root, encoding: "utf8" }).trim();
const today = () => new Date().toISOString().slice(0, 10);

/** Minutes noted of each part. */
export function minutesKept(long) {
  const section = sections().get(long ? HEADINGS.long : HEADINGS.short) ?? "";
  return new Map([...section.matchAll(/^\| ([^|]+?) +\| +([\d.]+) +\|/gm)].map(([, name, minutes]) => [name, Number(minutes)]));
}

/** Writes the figures of a run into their section; parts that did not run keep what is noted of them. */
export function noteFigures({ long, parts, passed, failed, versions }) {
  const all = sections();
  const heading = long ? HEADINGS.long : HEADINGS.short;
  const [commit, day] = [commitNow(), today()];
  const rows = parts.map(({ name, minutes, checks }) => `| ${name} | ${minutes} | ${checks} | ${day} | ${commit} |`);
  const names = new Set(parts.map(({ name }) => name));
  const before = [...(all.get(heading) ?? "").matchAll(/^\| ([^|]+?) +\| +[\d.]+ +\|.*$/gm)].filter(([, name]) => !names.has(name));
  const fonts = Object.entries(versions).map(([name, version]) => `${name} ${version}`);
  all.set(
    heading,
    [
      heading,
      "",
      `${day}, ${commit}, Node.js ${process.version}, ${cpus().length} processors: ${passed} passed, ${failed} failed.`,
      "",
      "| part | minutes | passed | day | commit |",
      "|---|---|---|---|---|",
      ...rows,
      ...before.map(([row]) => row),
      "",
      `Fonts: ${fonts.join(", ")}.`,
    ].join("\n"),
  );
  write(all);
}
function write(all) {
  writeFileSync(
    PAGE,
    `${BEGINNING}\n${Object.values(HEADINGS)
      .flatMap((one) => all.get(one) ?? [])
      .join("\n\n")}\n`,
  );
}

/** Writes which emptied functions a run of the unit tests did not notice. */
export function noteMutants({ tried, noticed, seed, survivors }) {
  const all = sections();
  all.set(
    HEADINGS.mutants,
    [
      HEADINGS.mutants,
      "",
      `${today()}, ${commitNow()}, seed ${seed}: of ${tried} functions of core and server, emptied one at a time, the unit tests noticed ${noticed} (${((100 * noticed) / tried).toFixed(1)} %). The others:`,
      "",
      ...survivors.map((one) => `- ${one}`),
    ].join("\n"),
  );
  write(all);
}
