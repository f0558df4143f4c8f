// What one parcel is, wherever files come from: dropped in the interface, found in a folder, named on the command line.
import { count } from "../words/words.ts";
import { isFontName } from "./kinds.ts";

/** A file on its way in. `path` is relative, with forward slashes: "folder/a.ttf" for what came in a folder. */
export interface Arriving {
  path: string;
}

/** What a parcel is called: its one file, the folder its files came in, or their number. */
export function parcelName(paths: readonly string[]): string {
  const [first = ""] = paths;
  if (paths.length === 1) return first.split("/").at(-1) || "parcel";
  const folder = first.includes("/") ? first.split("/")[0]! : "";
  return folder && paths.every((path) => path.startsWith(`${folder}/`)) ? folder : count(paths.length, "loose file");
}

/** Groups files into parcels: loose fonts together are one and come first, a folder is one, and every other file is one by itself. */
export function parcelsOf<F extends Arriving>(files: readonly F[]): { name: string; files: F[] }[] {
  const groups = new Map<string, F[]>([["loose", []]]);
  for (const [i, file] of files.entries()) {
    const key = file.path.includes("/") ? `folder ${file.path.split("/")[0]!}` : isFontName(file.path) ? "loose" : `file ${i}`;
    const group = groups.get(key);
    if (group) group.push(file);
    else groups.set(key, [file]);
  }
  return [...groups.values()]
    .filter((group) => group.length > 0)
    .map((group) => ({ name: parcelName(group.map((file) => file.path)), files: group }));
}
