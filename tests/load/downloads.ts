// Real downloads: Debian font packages with the papers they come with, each zipped as it is. Nothing of them is installed.
import { execFileSync } from "node:child_process";
import { existsSync, mkdirSync, readdirSync, renameSync, rmSync } from "node:fs";
import { join } from "node:path";
import { PACKAGES } from "./packages.ts";

export interface Downloads {
  /** One zip a package. */
  zips: string[];
  /** Every font file in them, unpacked. */
  fonts: string[];
}

/** Files under a folder, by their ending. */
function filesUnder(dir: string, ending: RegExp): string[] {
  return readdirSync(dir, { recursive: true, withFileTypes: true })
    .filter((one) => one.isFile() && ending.test(one.name))
    .map((one) => join(one.parentPath, one.name))
    .sort();
}

/** Fetches, unpacks and zips the packages under `dir`, those that are not there yet. */
export function realDownloads(dir: string): Downloads {
  const [debs, trees, zipped] = ["debs", "trees", "zips"].map((name) => join(dir, name)) as [string, string, string];
  for (const one of [debs, trees, zipped]) mkdirSync(one, { recursive: true });
  const missing = PACKAGES.filter((name) => !existsSync(join(zipped, `${name}.zip`)));
  if (missing.length > 0) {
    execFileSync("apt-get", ["update", "-qq"], { stdio: ["ignore", 2, 2] });
    execFileSync("apt-get", ["download", "-qq", ...missing], { cwd: debs, stdio: ["ignore", 2, 2] });
    for (const deb of readdirSync(debs)) {
      const name = deb.split("_")[0]!;
      const tree = join(trees, name);
      rmSync(tree, { recursive: true, force: true });
      execFileSync("dpkg-deb", ["-x", join(debs, deb), tree]);
      execFileSync("find", [tree, "-xtype", "l", "-delete"]);
      // People's downloads do not hold the packager's folders above the fonts and papers.
      const unfinished = join(zipped, `.${name}.zip`);
      rmSync(unfinished, { force: true });
      execFileSync("zip", ["-qr", unfinished, "."], { cwd: existsSync(join(tree, "usr", "share")) ? join(tree, "usr", "share") : tree });
      renameSync(unfinished, join(zipped, `${name}.zip`));
      rmSync(join(debs, deb));
    }
  }
  return { zips: PACKAGES.map((name) => join(zipped, `${name}.zip`)).filter(existsSync), fonts: filesUnder(trees, /\.(ttf|otf|ttc)$/i) };
}
