// Words of plans.
import type { PlanChoice, PlanItem, PlanStep, PlanView, Situation } from "../../contract/placing.ts";
import { count, listWords } from "../../core/words/words.ts";
import { SAY } from "../sentences/parts.ts";

export const OP_WORDS: Record<PlanStep["op"], string> = {
  copy: SAY.copy,
  keep: SAY.alreadySo,
  leave: SAY.leaveOut,
  remove: SAY.takeOff,
  "switch-on": SAY.turnOn,
  "switch-off": SAY.turnOff,
};
export const OP_DONE: Record<PlanStep["op"], string> = {
  copy: SAY.copied,
  keep: SAY.alreadySo,
  leave: SAY.leftOut,
  remove: SAY.takenOff,
  "switch-on": SAY.turnedOn,
  "switch-off": SAY.turnedOff,
};
const CHOICE_WORDS: Record<PlanChoice, string> = {
  place: SAY.placeItAnyway,
  keep: SAY.keepIt,
  leave: SAY.leaveItOut,
  "switch-on": SAY.turnItOn,
  move: SAY.moveItHere,
  both: SAY.placeItAsWell,
  replace: SAY.replaceIt,
  remove: SAY.takeItOff,
};
/** Only a person can say what is right here: nothing is recommended. */
const OPEN: ReadonlySet<Situation> = new Set(["names-clash", "same-names"]);
/** What somebody should look at before the plan is carried out. */
const NEEDS_YOU: ReadonlySet<Situation> = new Set([...OPEN, "damaged", "lapsed", "uncleared", "space"]);

/** What a choice is called where it is made; the recommended one says so, where one is. */
export function choiceWords(item: PlanItem): Record<string, string> {
  const own = (choice: PlanChoice) => {
    if (choice === "leave" && item.situation === "only-here") return SAY.leaveItAlone;
    return choice === "place" && item.situation === "names-clash" ? SAY.placeIt : CHOICE_WORDS[choice];
  };
  const recommended = OPEN.has(item.situation) ? -1 : 0;
  return Object.fromEntries(item.choices.map((choice, i) => [choice, i === recommended ? `${own(choice)} (recommended)` : own(choice)]));
}

/** A line of a plan's list: a heading, or an item. */
export type PlanLine = { key: string; heading: string } | { key: string; item: PlanItem };
/** The items in the order they are looked at: what needs somebody first, then the rest, family by family. */
export function planLines(plan: Pick<PlanView, "state" | "items">): PlanLine[] {
  const needing = plan.state === "drawn" ? plan.items.filter((item) => item.choices.length > 1 && NEEDS_YOU.has(item.situation)) : [];
  const families = new Map<string, PlanItem[]>();
  for (const item of plan.items) if (!needing.includes(item)) families.set(item.family, [...(families.get(item.family) ?? []), item]);
  const lines = (items: readonly PlanItem[]): PlanLine[] => items.map((item) => ({ key: item.key, item }));
  const headed = needing.length > 0 || families.size > 1;
  return [
    ...(needing.length > 0 ? [{ key: "needs-you", heading: SAY.needYou(needing.length) }, ...lines(needing)] : []),
    ...[...families].flatMap(([family, items]): PlanLine[] => [
      ...(headed ? [{ key: `family/${family}`, heading: family === "" ? SAY.notInYourLibrary : family }] : []),
      ...lines(items),
    ]),
  ];
}
export const SITUATION_WORDS: Partial<Record<Situation, string>> = {
  "there-off": SAY.turnedOffThere,
  elsewhere: SAY.inAnotherFolder,
  "older-there": SAY.olderVersionThere,
  "newer-there": SAY.newerVersionThere,
  "twin-there": SAY.otherFormatThere,
  "same-names": SAY.anotherFontOfThisName,
  "also-wanted": SAY.wantedTwice,
  "names-clash": SAY.oneNameSeveralDrawings,
  damaged: SAY.damaged,
  lapsed: SAY.lapsed,
  uncleared: SAY.notCleared,
  format: SAY.formatNotTaken,
  space: SAY.noRoom,
  "only-here": SAY.onlyOnThisDevice,
  "off-there": SAY.offOnTheOther,
};

/** What each kind of plan is called before it is done, after, and on its button. */
const ACTION_WORDS: Record<
  PlanView["action"],
  (names: string, device: string, from: string) => { todo: string; done: string; button: string }
> = {
  place: (names, device) => ({ todo: SAY.placeNamesOnDevice(names, device), done: SAY.placedOnDevice(device), button: SAY.place }),
  remove: (names, device) => ({ todo: SAY.takeNamesOffDevice(names, device), done: SAY.takenOffDevice(device), button: SAY.takeOff }),
  "switch-on": (names, device) => ({
    todo: SAY.turnOnNamesOnDevice(names, device),
    done: SAY.turnedOnNamesOnDevice(names, device),
    button: SAY.turnOn,
  }),
  "switch-off": (names, device) => ({
    todo: SAY.turnOffNamesOnDevice(names, device),
    done: SAY.turnedOffNamesOnDevice(names, device),
    button: SAY.turnOff,
  }),
  like: (_names, device, from) => ({
    todo: SAY.makeDeviceLikeFrom(device, from),
    done: SAY.deviceIsLikeFromNow(device, from),
    button: SAY.change,
  }),
  tidy: (_names, device) => ({
    todo: SAY.removeDuplicatesFromDevice(device),
    done: SAY.duplicatesRemovedFromDevice(device),
    button: SAY.removeDuplicates,
  }),
};
export function planWords(plan: PlanView): { todo: string; done: string; button: string } {
  const all = listWords(plan.families.map((family) => family.name));
  if (plan.families.length === 0) return ACTION_WORDS[plan.action](count(plan.items.length, "font"), plan.deviceName, plan.fromName);
  const names = plan.families.length > 1 && all.length > 30 ? count(plan.families.length, "family", "families") : all;
  return ACTION_WORDS[plan.action](names, plan.deviceName, plan.fromName);
}
export function planTitle(plan: PlanView): string {
  if (plan.state === "undone") return SAY.takenBack;
  return plan.state === "done" ? planWords(plan).done : planWords(plan).todo;
}
export function planCounts(plan: PlanView): string {
  const before = count(plan.fontsBefore, "placed font");
  if (plan.state === "drawn" || plan.state === "handed") return SAY.beforeNowFontsAfterAfter(before, plan.fontsAfter);
  return SAY.beforeBeforeNowFontsAfter(before, plan.fontsAfter);
}
export const stepsOf = (plan: PlanView): PlanStep[] => plan.items.flatMap((item) => item.steps);
export const changesOf = (plan: PlanView): number => stepsOf(plan).filter((step) => step.op !== "keep" && step.op !== "leave").length;
