// The Debian font packages as archives, the way people meet fonts: one zip a family folder, at most 13 fonts each.
import { execFileSync } from "node:child_process";
import { existsSync, mkdirSync } from "node:fs";
import { basename, join } from "node:path";
import { corpus } from "../../scripts/own-machine.mjs";

/** Every font file of the packages checks are made with; what is missing is said, and what else is installed is not looked at. */
export function corpusFonts(): string[] {
  const { fonts, missing } = corpus();
  if (missing.length > 0) process.stderr.write(`Not installed, so not looked at: ${missing.join(" ")}\n`);
  return fonts;
}
/** Those that are no collections, where one file is one font. */
export const singleFonts = (): string[] => corpusFonts().filter((path) => /\.(ttf|otf)$/.test(path));

/** The fonts in `count` zips under `dir`, made when they are not there yet. */
export function corpusZips(dir: string, count = 36): string[] {
  mkdirSync(dir, { recursive: true });
  const fonts = corpusFonts();
  const each = Math.ceil(fonts.length / count);
  return Array.from({ length: count }, (_, i) => {
    const zip = join(dir, `fonts-${String(i).padStart(2, "0")}.zip`);
    const members = fonts.slice(i * each, (i + 1) * each);
    if (members.length > 0 && !existsSync(zip))
      execFileSync("zip", ["-qj", zip, ...new Map(members.map((path) => [basename(path), path])).values()]);
    return zip;
  }).filter(existsSync);
}
