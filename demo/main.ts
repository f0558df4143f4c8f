// Makes the demo's fonts and archives into a folder: `built-in/` for practice devices, `downloads/` for the visitor.
import { mkdir, rename, rm, writeFile } from "node:fs/promises";
import { join } from "node:path";
import { makeArchives } from "./archives.ts";
import { builtInFonts } from "./fonts.ts";

const target = process.argv[2];
if (!target) throw new Error("Name the folder to make.");
const fresh = `${target}-new`;
await rm(fresh, { recursive: true, force: true });
for (const [folder, files] of [
  ["built-in", await builtInFonts()],
  ["downloads", await makeArchives()],
] as const) {
  await mkdir(join(fresh, folder), { recursive: true });
  for (const [name, bytes] of files) await writeFile(join(fresh, folder, name), bytes);
}
await rm(target, { recursive: true, force: true });
await rename(fresh, target);
