// Words of devices, the same on every screen.
import type { DeviceFont, DeviceSummary, Folder, Surprise } from "../../contract/device.ts";
import type { ProgramSummary } from "../../contract/program.ts";
import { count } from "../../core/words/words.ts";

export const KIND_WORDS: Record<ProgramSummary["kind"], string> = {
  design: "design program",
  office: "office program",
  video: "video program",
  cutting: "cutting program",
  notes: "notes program",
  browser: "browser-based editor",
};
export const READS_WORDS: Record<ProgramSummary["traits"]["readsWhen"], string> = {
  start: "reads fonts when it starts",
  always: "notices new fonts by itself",
  document: "reads fonts when a document is opened",
  "by-hand": "lists only what is loaded into it by hand",
};
export const SORT_WORDS: Record<DeviceSummary["sort"], string> = {
  practice: "Practice device",
  computer: "The computer Buvano runs on",
  paired: "Paired over the network",
};
export const FOLDER_WORDS: Record<Folder, string> = {
  me: "for me",
  everyone: "for everyone",
  profile: "in a profile",
  "built-in": "came with the device",
  own: "in a program's own store",
};
export const SURPRISE_WORDS: Record<Surprise["how"], string> = {
  appeared: "appeared",
  vanished: "is gone",
  changed: "is another file now",
  "switched-on": "was turned on",
  "switched-off": "was turned off",
};

/** A placed font among those of its device, by where it lies. */
export const fontKey = ({ folder, fileName }: Pick<DeviceFont, "folder" | "fileName">): string => `${folder}/${fileName}`;
export function fontOfKey(key: string): { folder: Folder; fileName: string } {
  const at = key.indexOf("/");
  return { folder: key.slice(0, at) as Folder, fileName: key.slice(at + 1) };
}

/** What wants looking at, the gravest first. */
export function troubleWords({ trouble }: Pick<DeviceSummary, "trouble">): string[] {
  const { duplicates, off, unseen, outdated, lapsed, surprises } = trouble;
  return [
    lapsed > 0 && `${lapsed} lapsed`,
    duplicates > 0 && count(duplicates, "duplicate"),
    unseen > 0 && `${unseen} not taken up`,
    surprises > 0 && `${count(surprises, "change")} made outside Buvano`,
    outdated > 0 && `${outdated} outdated`,
    off > 0 && `${off} off`,
  ].filter((words) => words !== false);
}

export { momentOf as when } from "../../core/words/dates.ts";
