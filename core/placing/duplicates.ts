// Copies that get in one another's way on a device: the same file twice, or several files that go by the same names.
import { areTwins, compareNamesakes } from "../family/kinship.ts";
import { folderWords, isSlot, type Claim, type PlacedFile, type Target } from "./files.ts";

export interface FoundDuplicates {
  /** Names the group: the family and style its files claim. */
  key: string;
  family: string;
  style: string;
  /** same-file: one file in several places. versions, twins: the same style. names: different fonts under one name. */
  how: "same-file" | "versions" | "twins" | "names";
  files: PlacedFile[];
  /** Which one to keep, and why. */
  keep: PlacedFile;
  reason: string;
}

const claimIn = (file: PlacedFile, key: string): Claim => file.claims.find((claim) => claim.key === key)!;

function howAlike(files: readonly PlacedFile[], key: string): FoundDuplicates["how"] {
  if (new Set(files.map((file) => file.sha256)).size === 1) return "same-file";
  const [first, ...others] = files.map((file) => claimIn(file, key));
  if (others.every((other) => other.sha256 === first!.sha256 || areTwins(first!, other))) return "twins";
  return others.every((other) => compareNamesakes(first!, other) !== "other") ? "versions" : "names";
}

/** The better of the group, by reasons in order; the first reason that tells them apart is the one given. */
function choose(files: readonly PlacedFile[], key: string, target: Pick<Target, "programs" | "prefers">): [PlacedFile, string] {
  const reach = (file: PlacedFile) =>
    file.folder === "built-in"
      ? target.programs.length + 1
      : target.programs.filter((program) => program.reads.includes(file.folder)).length;
  const wanted = target.prefers === "otf" ? "CFF" : "TrueType";
  const reasons: [rank: (file: PlacedFile) => number, words: (file: PlacedFile) => string][] = [
    [(file) => Number(!isSlot(file.folder)), (file) => `It lies in ${folderWords(file.folder)} and cannot be taken off from here.`],
    [(file) => claimIn(file, key).revision, (file) => `It is the newest: ${claimIn(file, key).version || "a later version"}.`],
    [(file) => claimIn(file, key).codepoints, (file) => `It has the most characters: ${claimIn(file, key).codepoints}.`],
    [reach, () => "More programs read it where it lies."],
    [(file) => Number(file.on), () => "It is the one that is on."],
    [(file) => Number(claimIn(file, key).outlines === wanted), () => `It is the format you prefer, .${target.prefers}.`],
  ];
  let best = [...files];
  for (const [rank, words] of reasons) {
    const most = Math.max(...best.map(rank));
    const those = best.filter((file) => rank(file) === most);
    if (those.length === 1) return [those[0]!, words(those[0]!)];
    best = those;
  }
  const oldest = best.reduce((a, b) => (b.since < a.since ? b : a));
  if (best.every((file) => file === oldest || file.since > oldest.since)) return [oldest, "It was there first."];
  const [first] = best.sort((a, b) => (`${a.folder}/${a.fileName}` < `${b.folder}/${b.fileName}` ? -1 : 1));
  return [first!, "They are alike in everything; the first is as good as any."];
}

/** Groups of files that programs would confuse. Fonts that only came with the device are left alone, and so are programs' own stores. */
export function findDuplicates(files: readonly PlacedFile[], target: Pick<Target, "programs" | "prefers">): FoundDuplicates[] {
  const byKey = new Map<string, PlacedFile[]>();
  for (const file of files) {
    if (file.folder === "own") continue;
    for (const key of new Set(file.claims.map((claim) => claim.key))) byKey.set(key, [...(byKey.get(key) ?? []), file]);
  }
  const groups: FoundDuplicates[] = [];
  for (const [key, members] of byKey) {
    if (members.length < 2 || !members.some((file) => isSlot(file.folder))) continue;
    const [keep, reason] = choose(members, key, target);
    const { family, style } = claimIn(keep, key);
    groups.push({ key, family, style, how: howAlike(members, key), files: members, keep, reason });
  }
  const order = new Intl.Collator("en");
  return groups.sort((a, b) => order.compare(a.family, b.family) || order.compare(a.style, b.style));
}

/** Whether a group still is in the way: more than one of its files is on. */
export const inTheWay = (group: FoundDuplicates): boolean => group.files.filter((file) => file.on).length > 1;
