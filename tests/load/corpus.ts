// The Debian font packages as archives, the way people meet fonts: one zip a family folder, at most 13 fonts each.
import { execFileSync } from "node:child_process";
import { existsSync, mkdirSync } from "node:fs";
import { basename, join } from "node:path";

const PACKAGES = [
  ...["fonts-noto-core", "fonts-ebgaramond", "fonts-linuxlibertine", "fonts-cabin", "fonts-lato", "fonts-cantarell", "fonts-dejavu-core"],
  ...[
    "fonts-dejavu-extra",
    "fonts-hosny-amiri",
    "fonts-lobster",
    "fonts-comfortaa",
    "fonts-fantasque-sans",
    "fonts-fork-awesome",
    "culmus",
  ],
];

/** Every font file of the packages that are installed. */
export function corpusFonts(): string[] {
  const text = execFileSync("dpkg", ["-L", ...PACKAGES], { encoding: "utf8" });
  return [...new Set(text.split("\n").filter((path) => /\.(ttf|otf|ttc)$/i.test(path) && existsSync(path)))].sort();
}

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
