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

/**
 * Fetches Debian packages and unpacks each, papers and all, into a folder of its name under `dir`; those that are there already are left as they
 * are. Gives the folders of those that could be had.
 */
export function unpackedPackages(dir: string, names: readonly string[]): Map<string, string> {
  const debs = join(dir, "debs");
  mkdirSync(debs, { recursive: true });
  const missing = names.filter((name) => !existsSync(join(dir, name)));
  const fetch = () => execFileSync("apt-get", ["download", "-qq", ...missing], { cwd: debs, stdio: ["ignore", "ignore", 2] });
  if (missing.length > 0) {
    try {
      fetch();
    } catch {
      execFileSync("apt-get", ["update", "-qq"], { stdio: ["ignore", 2, 2] });
      fetch();
    }
    for (const deb of readdirSync(debs)) {
      const tree = join(dir, deb.split("_")[0]!);
      const unfinished = `${tree}.unfinished`;
      rmSync(unfinished, { recursive: true, force: true });
      execFileSync("dpkg-deb", ["-x", join(debs, deb), unfinished]);
      execFileSync("find", [unfinished, "-xtype", "l", "-delete"]);
      renameSync(unfinished, tree);
      rmSync(join(debs, deb));
    }
  }
  return new Map(names.map((name): [string, string] => [name, join(dir, name)]).filter(([, tree]) => existsSync(tree)));
}

/** Fetches, unpacks and zips the packages under `dir`, those that are not there yet. */
export function realDownloads(dir: string): Downloads {
  const [trees, zipped] = ["trees", "zips"].map((name) => join(dir, name)) as [string, string];
  mkdirSync(zipped, { recursive: true });
  for (const [name, tree] of unpackedPackages(trees, PACKAGES)) {
    const zip = join(zipped, `${name}.zip`);
    if (existsSync(zip)) continue;
    // People's downloads do not hold the packager's folders above the fonts and papers.
    const unfinished = join(zipped, `.${name}.zip`);
    rmSync(unfinished, { force: true });
    execFileSync("zip", ["-qr", unfinished, "."], { cwd: existsSync(join(tree, "usr", "share")) ? join(tree, "usr", "share") : tree });
    renameSync(unfinished, zip);
  }
  return { zips: PACKAGES.map((name) => join(zipped, `${name}.zip`)).filter(existsSync), fonts: filesUnder(trees, /\.(ttf|otf|ttc)$/i) };
}
