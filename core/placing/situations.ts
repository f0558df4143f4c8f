// How a wanted style meets what is on a device already: the situation, what is recommended, and what else can be chosen.
import { compareToLibrary, type Known } from "../family/kinship.ts";
import { folderWords, isSlot, type PlacedFile, type Target, type WantedStyle } from "./files.ts";

export type Situation =
  | "free"
  | "there"
  | "there-off"
  | "elsewhere"
  | "older-there"
  | "newer-there"
  | "twin-there"
  | "same-names"
  | "also-wanted"
  | "damaged"
  | "lapsed"
  | "uncleared"
  | "format"
  | "space"
  | "only-here"
  | "off-there";

export type Choice = "place" | "keep" | "leave" | "switch-on" | "move" | "both" | "replace" | "remove";

export interface Met {
  situation: Situation;
  reason: string;
  /** The first one is recommended. */
  choices: readonly Choice[];
  /** Files of the device this is about. */
  files: readonly PlacedFile[];
}

/** A device's files, found by their sum and by the names they claim. */
export interface DeviceIndex {
  bySum: ReadonlyMap<string, readonly PlacedFile[]>;
  byClaim: ReadonlyMap<string, readonly PlacedFile[]>;
}

function into<K, V>(map: Map<K, V[]>, key: K, value: V): void {
  const there = map.get(key);
  if (there) there.push(value);
  else map.set(key, [value]);
}

export function indexDevice(files: readonly PlacedFile[]): DeviceIndex {
  const bySum = new Map<string, PlacedFile[]>();
  const byClaim = new Map<string, PlacedFile[]>();
  for (const file of files) {
    into(bySum, file.sha256, file);
    for (const key of new Set(file.claims.map((claim) => claim.key))) into(byClaim, key, file);
  }
  return { bySum, byClaim };
}

const met = (situation: Situation, reason: string, choices: readonly Choice[], files: readonly PlacedFile[] = []): Met => ({
  situation,
  reason,
  choices,
  files,
});

const readers = (target: Target, folder: string): string[] =>
  target.programs.filter((program) => program.reads.includes(folder)).map((program) => program.name);

function sameFileElsewhere(copy: PlacedFile, target: Target): Met {
  if (copy.folder === "built-in") return met("elsewhere", "It came with the device already.", ["leave", "both"], [copy]);
  const reach = readers(target, copy.folder);
  const gained = readers(target, target.slot).filter((name) => !reach.includes(name));
  const where = folderWords(copy.folder);
  if (gained.length > 0) {
    const reason = `The same file is in ${where}, which ${gained.join(" and ")} ${gained.length === 1 ? "does" : "do"} not read.`;
    return met("elsewhere", reason, isSlot(copy.folder) ? ["move", "leave", "both"] : ["both", "leave"], [copy]);
  }
  return met("elsewhere", `The same file is already in ${where}; a second copy would be listed twice.`, ["leave", "move", "both"], [copy]);
}

function claimedBy(style: WantedStyle, files: readonly PlacedFile[]): Met {
  const relation = (file: PlacedFile): Known | undefined => {
    const claim = file.claims.find((one) => one.key === style.claim.key);
    return claim && compareToLibrary(style.claim, claim);
  };
  const known = files.map((file) => ({ file, how: relation(file) }));
  const replaceable = files.every((file) => isSlot(file.folder));
  const more = (first: Choice, ...others: Choice[]): Choice[] => [first, ...others].filter((one) => one !== "replace" || replaceable);
  // From this device's side: what it holds is newer when the wanted one is older.
  const newer = known.find(({ how }) => how === "older");
  if (newer) {
    const words = versionWords(newer.file, style);
    return met("newer-there", `A newer version is there already${words}.`, more("leave", "replace", "both"), files);
  }
  if (known.some(({ how }) => how === "twin")) {
    return met(
      "twin-there",
      "The same style is there in the other format; both would be listed twice.",
      more("leave", "replace", "both"),
      files,
    );
  }
  const older = known.find(({ how }) => how === "newer");
  if (older) {
    const words = versionWords(older.file, style);
    return met(
      "older-there",
      `An older version is there${words}; it is taken off once this one is in.`,
      more("replace", "leave", "both"),
      files,
    );
  }
  const [file] = files;
  if (!replaceable) {
    return met(
      "same-names",
      `${file!.fileName} came with the device and goes by the same name; programs would mix them up.`,
      ["leave", "both"],
      files,
    );
  }
  return met(
    "same-names",
    `${file!.fileName} in ${folderWords(file!.folder)} goes by the same name and is another font; programs show only one of them.`,
    ["replace", "leave", "both"],
    files,
  );
}

function versionWords(file: PlacedFile, style: WantedStyle): string {
  const there = file.claims.find((one) => one.key === style.claim.key)?.version;
  return there && style.claim.version && there !== style.claim.version ? ` (${there} there, ${style.claim.version} here)` : "";
}

/** How one style meets a device. Space and other wanted styles are looked at by the plan, which knows them all. */
export function meet(style: WantedStyle, device: DeviceIndex, target: Target): Met {
  const same = device.bySum.get(style.sha256) ?? [];
  const here = same.find((file) => file.folder === target.slot);
  if (here?.on) return met("there", "The same file is already there.", ["keep"], [here]);
  if (style.refused) return met("damaged", "The file is damaged; programs would refuse it.", ["leave", "place"]);
  if (!target.takes.includes(style.claim.container)) return met("format", formatReason(style.claim.container, target), ["leave"]);
  if (style.held) return met(style.held.why, style.held.sentence, ["leave", here ? "switch-on" : "place"], here ? [here] : []);
  if (here) return met("there-off", "It is there, but switched off.", ["switch-on", "leave"], [here]);
  const copy = same.find((file) => file.folder !== "own");
  if (copy) return sameFileElsewhere(copy, target);
  const claimants = (device.byClaim.get(style.claim.key) ?? []).filter((file) => file.folder !== "own");
  if (claimants.length > 0) return claimedBy(style, claimants);
  return met("free", target.slot === "profile" ? "Into a profile the device reads itself." : `Into ${folderWords(target.slot)}.`, [
    "place",
  ]);
}

function formatReason(container: string, target: Target): string {
  if (container === "woff" || container === "woff2") return "A file for web pages; unwrap it in its parcel first.";
  return target.slot === "profile" ? "A profile takes single .otf and .ttf files only." : "This device takes no files of this format.";
}
