// How a wanted style meets what is on a device already: the situation, what is recommended, and what else can be chosen.
import { compareNamesakes, type Known } from "../family/kinship.ts";
import { folderWords, isSlot, type Folder, type PlacedFile, type Target, type WantedStyle } from "./files.ts";

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
  | "names-clash"
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
    if (file.claims.length === 1) into(byClaim, file.claims[0]!.key, file);
    else for (const key of new Set(file.claims.map((claim) => claim.key))) into(byClaim, key, file);
  }
  return { bySum, byClaim };
}

const met = (situation: Situation, reason: string, choices: readonly Choice[], files: readonly PlacedFile[] = []): Met => ({
  situation,
  reason,
  choices,
  files,
});

const LEAVE_OR_REPLACE: readonly Choice[] = ["leave", "replace", "both"];
const REPLACE_OR_LEAVE: readonly Choice[] = ["replace", "leave", "both"];
const LEAVE_OR_BOTH: readonly Choice[] = ["leave", "both"];
const PLACE: readonly Choice[] = ["place"];
const KEEP: readonly Choice[] = ["keep"];

const readers = (target: Target, folder: string): string[] =>
  target.programs.filter((program) => program.reads.includes(folder)).map((program) => program.name);

/** What to say of a copy in another folder, worked out once for each target and folder. */
const elsewhere = new WeakMap<Target, Map<string, Omit<Met, "files">>>();
function sameFileElsewhere(copy: PlacedFile, target: Target): Met {
  let known = elsewhere.get(target);
  if (!known) elsewhere.set(target, (known = new Map()));
  let said = known.get(copy.folder);
  if (!said) known.set(copy.folder, (said = elsewhereWords(copy.folder, target)));
  return met("elsewhere", said.reason, said.choices, [copy]);
}
function elsewhereWords(folder: Folder, target: Target): Omit<Met, "files"> {
  const situation = "elsewhere";
  if (folder === "built-in") return { situation, reason: "It came with the device already.", choices: LEAVE_OR_BOTH };
  const reach = readers(target, folder);
  const gained = readers(target, target.slot).filter((name) => !reach.includes(name));
  const where = folderWords(folder);
  if (gained.length > 0) {
    const reason = `The same file is in ${where}, which ${gained.join(" and ")} ${gained.length === 1 ? "does" : "do"} not read.`;
    return { situation, reason, choices: ["move", "leave", "both"] };
  }
  const reason = `The same file is already in ${where}; a second copy would be listed twice.`;
  return { situation, reason, choices: ["leave", "move", "both"] };
}

function claimedBy(style: WantedStyle, files: readonly PlacedFile[]): Met {
  const [first] = files;
  const how: Partial<Record<Known, PlacedFile>> = {};
  let replaceable = true;
  for (const file of files) {
    if (!isSlot(file.folder)) replaceable = false;
    const claim = file.claims.find((one) => one.key === style.claim.key);
    const known = claim && compareNamesakes(style.claim, claim);
    if (known) how[known] ??= file;
  }
  // Said from this device's side: what it holds is newer when the wanted one is older.
  if (how.older) {
    const reason = `A newer version is there already${versionWords(how.older, style)}.`;
    return met("newer-there", reason, replaceable ? LEAVE_OR_REPLACE : LEAVE_OR_BOTH, files);
  }
  if (how.twin) {
    const reason = "The same style is there in the other format; both would be listed twice.";
    return met("twin-there", reason, replaceable ? LEAVE_OR_REPLACE : LEAVE_OR_BOTH, files);
  }
  if (how.alike) {
    const reason = "The same style is there, drawn alike, in another file; both would be listed twice.";
    return met("twin-there", reason, replaceable ? LEAVE_OR_REPLACE : LEAVE_OR_BOTH, files);
  }
  if (how.newer) {
    const words = versionWords(how.newer, style);
    if (!replaceable) return met("older-there", `An older version came with the device${words}.`, LEAVE_OR_BOTH, files);
    return met("older-there", `An older version is there${words}; it is taken off once this one is in.`, REPLACE_OR_LEAVE, files);
  }
  if (!replaceable) {
    const reason = `${first!.fileName} came with the device and goes by the same name; programs would mix them up.`;
    return met("same-names", reason, LEAVE_OR_BOTH, files);
  }
  const where = folderWords(first!.folder);
  const reason = `${first!.fileName} in ${where} goes by the same name and is another font; programs show only one of them.`;
  return met("same-names", reason, REPLACE_OR_LEAVE, files);
}

function versionWords(file: PlacedFile, style: WantedStyle): string {
  const there = file.claims.find((one) => one.key === style.claim.key)?.version;
  return there && style.claim.version && there !== style.claim.version ? ` (${there} there, ${style.claim.version} here)` : "";
}

const NOTHING: readonly PlacedFile[] = [];
const free = (reason: string): Met => met("free", reason, PLACE);
const FREE: Record<Target["slot"], Met> = {
  me: free(`Into ${folderWords("me")}.`),
  everyone: free(`Into ${folderWords("everyone")}.`),
  profile: free("Into a profile the device reads itself."),
};

/** How one style meets a device. Space and other wanted styles are looked at by the plan, which knows them all. */
export function meet(style: WantedStyle, device: DeviceIndex, target: Target): Met {
  let here: PlacedFile | undefined;
  let copy: PlacedFile | undefined;
  for (const file of device.bySum.get(style.sha256) ?? NOTHING) {
    if (file.folder === target.slot) here ??= file;
    if (file.folder !== "own") copy ??= file;
  }
  if (here?.on) return met("there", "The same file is already there.", KEEP, [here]);
  if (style.refused) return met("damaged", "The file is damaged; programs would refuse it.", ["leave", "place"]);
  if (!target.takes.includes(style.claim.container)) return met("format", formatReason(style.claim.container, target), ["leave"]);
  if (style.held) return met(style.held.why, style.held.sentence, ["leave", here ? "switch-on" : "place"], here ? [here] : []);
  if (here) return met("there-off", "It is there, but turned off.", ["switch-on", "leave"], [here]);
  if (copy) return sameFileElsewhere(copy, target);
  const namesakes = device.byClaim.get(style.claim.key);
  const claimants = namesakes?.some((file) => file.folder === "own") ? namesakes.filter((file) => file.folder !== "own") : namesakes;
  return claimants && claimants.length > 0 ? claimedBy(style, claimants) : FREE[target.slot];
}

function formatReason(container: string, target: Target): string {
  if (container === "woff" || container === "woff2") return "A file for web pages; unwrap it in its parcel first.";
  return target.slot === "profile" ? "A profile takes single .otf and .ttf files only." : "This device takes no files of this format.";
}
