// From what is wanted and what was observed on a device to the steps between them.
import { compareNamesakes, takenTwins } from "../family/kinship.ts";
import { folderWords, freeName, isSlot, placedFileName, type PlacedFile, type Slot, type Target, type WantedStyle } from "./files.ts";
import { indexDevice, meet, type Choice, type Met, type Situation } from "./situations.ts";

export interface Step {
  op: "copy" | "keep" | "leave" | "remove" | "switch-on" | "switch-off";
  styleId: number | null;
  styleName: string;
  sha256: string;
  fileName: string;
  /** What the style's file was called when it came; empty when that is not known. */
  original: string;
  slot: Slot;
  bytes: number;
  reason: string;
  /** For a file that is removed: whether it was on. */
  wasOn?: boolean;
}

/** One style of a plan: what it meets, what was chosen, and the steps that follow. */
export interface Item {
  /** Names it within its plan, however often that is drawn. */
  key: string;
  /** The family its style belongs to in the library; empty when to none. */
  family: string;
  situation: Situation;
  /** The first one is recommended. */
  choices: readonly Choice[];
  chosen: Choice;
  steps: Step[];
}

/** Choices other than the recommended ones, by item. */
export type Choices = Readonly<Record<string, Choice>>;

const stepFor = (style: WantedStyle, slot: Slot, fileName: string, op: Step["op"], reason: string): Step => ({
  op,
  styleId: style.styleId,
  styleName: style.name,
  sha256: style.sha256,
  fileName,
  original: style.original,
  slot,
  bytes: style.bytes,
  reason,
});

function removal(file: PlacedFile, reason: string, style?: WantedStyle): Step {
  const { fileName, sha256, bytes, on } = file;
  const own = file.sha256 === style?.sha256 ? style : undefined;
  return {
    op: "remove",
    styleId: own?.styleId ?? null,
    styleName: own?.name ?? nameOf(file),
    sha256,
    fileName,
    original: own?.original ?? "",
    slot: file.folder as Slot,
    bytes,
    reason,
    wasOn: on,
  };
}

/** What a file calls itself, for people. */
function nameOf(file: PlacedFile): string {
  const [claim] = file.claims;
  return claim ? `${claim.family} ${claim.style}` : file.fileName;
}

/** What becomes of styles that go by one name within a plan. */
interface Doubled {
  /** Left out for another that stands for them: a twin in the preferred format, or a newer version. */
  left: Map<WantedStyle, string>;
  /** Different drawings under one name: which of them are placed only a person can say. */
  clashing: Map<WantedStyle, string>;
}

/** Groups of styles that are one style: versions of it, or its twins. Order is kept. */
function sameStyles(styles: readonly WantedStyle[]): WantedStyle[][] {
  const groups: WantedStyle[][] = [];
  for (const style of styles) {
    const group = groups.find((members) => members.some(({ claim }) => compareNamesakes(claim, style.claim) !== "other"));
    if (group) group.push(style);
    else groups.push([style]);
  }
  return groups;
}

function doubled(wanted: readonly WantedStyle[], prefers: Target["prefers"]): Doubled {
  const [left, clashing] = [new Map<WantedStyle, string>(), new Map<WantedStyle, string>()];
  const byKey = new Map<string, WantedStyle[]>();
  for (const style of wanted) {
    const group = byKey.get(style.claim.key);
    if (group) group.push(style);
    else byKey.set(style.claim.key, [style]);
  }
  for (const namesakes of byKey.values()) {
    if (namesakes.length < 2) continue;
    const groups = sameStyles(namesakes.filter((style) => !style.refused));
    const taken = groups.map((group) => {
      const chosen = takenTwins(
        group.map((style) => ({ ...style.claim, wanted: style })),
        prefers,
      );
      for (const { left: others } of chosen)
        for (const { wanted: other } of others)
          left.set(other, "The same style in the other format is placed by this plan; both would be listed twice.");
      const [newest, ...others] = chosen.map(({ taken: one }) => one).sort((a, b) => b.revision - a.revision);
      for (const other of others) {
        const reason =
          newest!.revision === other.revision
            ? `${newest!.wanted.original || "Another file"} of the same style, drawn alike, is placed by this plan; both would be listed twice.`
            : `${newest!.version || "A newer version"} of the same style is placed by this plan; programs show only one of them.`;
        left.set(other.wanted, reason);
      }
      return newest!.wanted;
    });
    if (taken.length < 2) continue;
    const others =
      taken.length === 2 ? "Another file, drawn differently, names" : `${taken.length - 1} other files, drawn differently, name`;
    for (const style of taken)
      clashing.set(
        style,
        `${others} ${taken.length === 2 ? "itself" : "themselves"} “${style.name}”, too: many programs will show only one of them.`,
      );
  }
  return { left, clashing };
}

/** What a plan for several devices asks about the same styles is worked out once. */
const known = new WeakMap<readonly WantedStyle[], Partial<Record<Target["prefers"], Wants>>>();
interface Wants extends Doubled {
  hashes: ReadonlySet<string>;
}
function wantsOf(wanted: readonly WantedStyle[], prefers: Target["prefers"]): Wants {
  let kept = known.get(wanted);
  if (!kept) known.set(wanted, (kept = {}));
  return (kept[prefers] ??= { ...doubled(wanted, prefers), hashes: new Set(wanted.map((style) => style.sha256)) });
}

/** The steps that follow from a choice. `name` gives a copy its file name; `spared` files are not taken off, whatever goes by their name. */
function follow(
  style: WantedStyle,
  found: Met,
  chosen: Choice,
  target: Target,
  name: (style: WantedStyle) => string,
  spared: (file: PlacedFile) => boolean,
): Step[] {
  const { slot } = target;
  const removable = () =>
    found.files.filter((file) => isSlot(file.folder) && (chosen === "replace" ? !spared(file) : file.sha256 === style.sha256));
  switch (chosen) {
    case "keep":
      return [stepFor(style, slot, found.files[0]!.fileName, "keep", found.reason)];
    case "switch-on":
      return [stepFor(style, slot, found.files[0]!.fileName, "switch-on", "Programs get to see it again.")];
    case "place":
    case "both":
      return [stepFor(style, slot, name(style), "copy", chosen === "both" ? `${found.reason} Placed anyway.` : found.reason)];
    case "move":
    case "replace":
      // First in, then out: it is never missing in between.
      return [
        stepFor(style, slot, name(style), "copy", found.reason),
        ...removable().map((file) =>
          removal(
            file,
            chosen === "move" ? `Out of ${folderWords(file.folder)}, once the copy is in.` : "Replaced; Buvano keeps it for undo.",
            style,
          ),
        ),
      ];
    default:
      return [stepFor(style, slot, found.files[0]?.fileName ?? placedFileName(style), "leave", found.reason)];
  }
}

function pick(key: string, allowed: readonly Choice[], choices: Choices | undefined): Choice {
  const wished = choices?.[key];
  return wished !== undefined && allowed.includes(wished) ? wished : allowed[0]!;
}

/** Choices that bring a file in. */
const COPIED: ReadonlySet<Choice> = new Set(["place", "both", "move", "replace"]);

/** Brings `wanted` to `target.slot` of a device. Each item recommends an answer; `choices` may say otherwise. */
export function planPlacing(wanted: readonly WantedStyle[], device: readonly PlacedFile[], target: Target, choices?: Choices): Item[] {
  const index = indexDevice(device);
  const taken = new Set(device.filter((file) => file.folder === target.slot).map((file) => file.fileName.toLowerCase()));
  const { left, clashing, hashes } = wantsOf(wanted, target.prefers);
  const replaced = new Set<PlacedFile>();
  // What is wanted too stays, and what another style of this plan replaces goes once.
  const spared = (file: PlacedFile): boolean => {
    const stays = hashes.has(file.sha256) || replaced.has(file);
    if (!stays) replaced.add(file);
    return stays;
  };
  const nameFor = (style: WantedStyle): string => {
    const fileName = freeName(placedFileName(style), taken);
    taken.add(fileName.toLowerCase());
    return fileName;
  };
  let free = target.freeBytes ?? Infinity;
  return wanted.map((style) => {
    let found = meet(style, index, target);
    const double = left.get(style);
    // Whatever it meets: what would be copied here is copied for the one that stands for it.
    if (double !== undefined && COPIED.has(found.choices[0]!))
      found = { ...found, situation: "also-wanted", reason: double, choices: ["leave", ...found.choices.filter((one) => one !== "leave")] };
    const clash = clashing.get(style);
    if (clash !== undefined && found.situation === "free")
      found = { situation: "names-clash", reason: clash, choices: ["place", "leave"], files: [] };
    const key = `${target.slot}/${style.sha256}`;
    let chosen = pick(key, found.choices, choices);
    const copies = COPIED.has(chosen);
    if (copies && style.bytes > free) {
      const reason = `There is no room left for it on the device.`;
      found = { situation: "space", reason, choices: ["leave", chosen], files: found.files };
      chosen = pick(key, found.choices, choices);
    }
    if (copies && chosen !== "leave") free -= style.bytes;
    const steps = follow(style, found, chosen, target, nameFor, spared);
    return { key, family: style.family, situation: found.situation, choices: found.choices, chosen, steps };
  });
}

/** One item for every copy of `wanted` in the device's slots, as `decide` says. */
function forCopies(
  wanted: readonly WantedStyle[],
  device: readonly PlacedFile[],
  decide: (file: PlacedFile, style: WantedStyle) => Step,
): Item[] {
  const { bySum } = indexDevice(device);
  return wanted.flatMap((style) =>
    (bySum.get(style.sha256) ?? [])
      .filter((file) => isSlot(file.folder))
      .map((file): Item => {
        const step = decide(file, style);
        return {
          key: `${file.folder}/${file.fileName}`,
          family: style.family,
          situation: "there",
          choices: [choiceOf(step.op)],
          chosen: choiceOf(step.op),
          steps: [step],
        };
      }),
  );
}
const choiceOf = (op: Step["op"]): Choice => (op === "remove" ? "remove" : op === "switch-on" ? "switch-on" : "keep");

/** Takes `wanted` off the device, from wherever it was placed. */
export const planRemoving = (wanted: readonly WantedStyle[], device: readonly PlacedFile[]): Item[] =>
  forCopies(wanted, device, (file, style) => removal(file, `Out of ${folderWords(file.folder)}; the library keeps it.`, style));

/** Switches `wanted` on or off where it lies. Copies that are so already are kept. */
export const planSwitching = (wanted: readonly WantedStyle[], device: readonly PlacedFile[], on: boolean): Item[] =>
  forCopies(wanted, device, (file, style) => {
    if (file.on === on) return stepFor(style, file.folder as Slot, file.fileName, "keep", `It is ${on ? "on" : "off"} already.`);
    const reason = on ? "Programs get to see it again." : "The file stays where it is; programs no longer get to see it.";
    return stepFor(style, file.folder as Slot, file.fileName, on ? "switch-on" : "switch-off", reason);
  });

/**
 * Brings a device to the same fonts as another: what is on there is placed here, in the folder `slotOf` names; what only this device has
 * is left alone unless a choice says otherwise.
 */
export function planLike(
  there: readonly { style: WantedStyle; slot: Slot; on: boolean }[],
  device: readonly PlacedFile[],
  target: Omit<Target, "slot">,
  choices?: Choices,
): Item[] {
  const slots = [...new Set(there.map((one) => one.slot))];
  const items = slots.flatMap((slot) => {
    const wanted = there.filter((one) => one.slot === slot && one.on).map((one) => one.style);
    const off = there.filter((one) => one.slot === slot && !one.on);
    return [
      ...planPlacing(wanted, device, { ...target, slot }, choices),
      ...off.map(({ style }): Item => {
        const step = stepFor(style, slot, placedFileName(style), "leave", "It is turned off on the other device.");
        return {
          key: `${slot}/${style.sha256}`,
          family: style.family,
          situation: "off-there",
          choices: ["leave"],
          chosen: "leave",
          steps: [step],
        };
      }),
    ];
  });
  const known = new Set(there.map((one) => one.style.sha256));
  const touched = new Set(items.flatMap((item) => item.steps.map((step) => `${step.slot}/${step.fileName}/${step.op}`)));
  const extra = device.filter(
    (file) => isSlot(file.folder) && !known.has(file.sha256) && !touched.has(`${file.folder}/${file.fileName}/remove`),
  );
  return [
    ...items,
    ...extra.map((file): Item => {
      const key = `${file.folder}/${file.fileName}`;
      const chosen = pick(key, ["leave", "remove"], choices);
      const out = removal(file, "The other device does not have it; Buvano keeps it for undo.");
      const step: Step = chosen === "remove" ? out : { ...out, op: "leave", reason: "Only this device has it; it is left alone." };
      return { key, family: file.claims[0]?.family ?? "", situation: "only-here", choices: ["leave", "remove"], chosen, steps: [step] };
    }),
  ];
}

/** Takes off or switches single files, whatever is in them. */
export const planFiles = (files: readonly PlacedFile[], how: "remove" | "switch-off" | "switch-on", reason: string): Item[] =>
  files.map((file): Item => {
    const out = removal(file, reason);
    const step: Step = how === "remove" ? out : { ...out, op: file.on === (how === "switch-on") ? "keep" : how };
    return {
      key: `${file.folder}/${file.fileName}`,
      family: file.claims[0]?.family ?? "",
      situation: "there",
      choices: ["remove"],
      chosen: "remove",
      steps: [step],
    };
  });

/** Steps that change something on the device. */
export const changes = (step: Pick<Step, "op">): boolean => step.op !== "keep" && step.op !== "leave";

/** The steps that take back what was done, last first. */
export function planUndo(done: readonly Step[]): Step[] {
  return done
    .filter(changes)
    .toReversed()
    .flatMap((step): Step[] => {
      const { wasOn, ...back } = { ...step, reason: "Taken back." };
      if (step.op === "copy") return [{ ...back, op: "remove", wasOn: true }];
      if (step.op === "switch-on") return [{ ...back, op: "switch-off" }];
      if (step.op === "switch-off") return [{ ...back, op: "switch-on" }];
      return wasOn === false
        ? [
            { ...back, op: "copy" },
            { ...back, op: "switch-off" },
          ]
        : [{ ...back, op: "copy" }];
    });
}

/**
 * How often a passcode is asked for, and how often it would be font by font. Folders are asked for once together; a profile asks once
 * each, and `profileOf` says which steps share one.
 */
export function passcodes(
  steps: readonly Step[],
  guarded: readonly Slot[],
  profileOf: (step: Step) => string,
): { asked: number; fontByFont: number } {
  const needing = steps.filter((step) => changes(step) && guarded.includes(step.slot));
  const profiles = new Set(needing.filter((step) => step.slot === "profile").map(profileOf));
  const folders = needing.some((step) => step.slot !== "profile") ? 1 : 0;
  return { asked: profiles.size + folders, fontByFont: needing.length };
}
