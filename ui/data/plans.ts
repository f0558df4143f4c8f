// Words of plans.
import type { PlanChoice, PlanItem, PlanStep, PlanView, Situation } from "../../contract/plan.ts";
import { count } from "../../core/words/words.ts";

export const OP_WORDS: Record<PlanStep["op"], string> = {
  copy: "Copy",
  keep: "Already so",
  leave: "Leave out",
  remove: "Take off",
  "switch-on": "Turn on",
  "switch-off": "Turn off",
};
export const OP_DONE: Record<PlanStep["op"], string> = {
  copy: "Copied",
  keep: "Already so",
  leave: "Left out",
  remove: "Taken off",
  "switch-on": "Turned on",
  "switch-off": "Turned off",
};
const CHOICE_WORDS: Record<PlanChoice, string> = {
  place: "Place it all the same",
  keep: "Keep it",
  leave: "Leave it out",
  "switch-on": "Switch it on",
  move: "Move it here",
  both: "Place it as well",
  replace: "Replace it",
  remove: "Take it off",
};
/** What a choice is called where it is made; the recommended one says so. */
export function choiceWords(item: PlanItem): Record<string, string> {
  const own = (choice: PlanChoice) => (choice === "leave" && item.situation === "only-here" ? "Leave it alone" : CHOICE_WORDS[choice]);
  return Object.fromEntries(item.choices.map((choice, i) => [choice, i === 0 ? `${own(choice)} (recommended)` : own(choice)]));
}
export const SITUATION_WORDS: Partial<Record<Situation, string>> = {
  "there-off": "Turned off there",
  elsewhere: "In another folder",
  "older-there": "Older version there",
  "newer-there": "Newer version there",
  "twin-there": "Other format there",
  "same-names": "Another font of this name",
  "also-wanted": "Wanted twice",
  damaged: "Damaged",
  lapsed: "Lapsed",
  uncleared: "Not cleared",
  format: "Format not taken",
  space: "No room",
  "only-here": "Only on this device",
  "off-there": "Off on the other",
};

/** What each kind of plan is called before it is done, after, and on its button. */
const ACTION_WORDS: Record<
  PlanView["action"],
  (names: string, device: string, from: string) => { todo: string; done: string; button: string }
> = {
  place: (names, device) => ({ todo: `Place ${names} on ${device}`, done: `Placed on ${device}`, button: "Place" }),
  remove: (names, device) => ({ todo: `Take ${names} off ${device}`, done: `Taken off ${device}`, button: "Take off" }),
  "switch-on": (names, device) => ({ todo: `Turn on ${names} on ${device}`, done: `Turned on: ${names}, on ${device}`, button: "Turn on" }),
  "switch-off": (names, device) => ({
    todo: `Turn off ${names} on ${device}`,
    done: `Turned off: ${names}, on ${device}`,
    button: "Turn off",
  }),
  like: (_names, device, from) => ({ todo: `Make ${device} like ${from}`, done: `${device} is like ${from} now`, button: "Change" }),
  tidy: (_names, device) => ({
    todo: `Remove duplicates from ${device}`,
    done: `Duplicates removed from ${device}`,
    button: "Remove duplicates",
  }),
};
export function planWords(plan: PlanView): { todo: string; done: string; button: string } {
  const all = plan.families.map((family) => family.name).join(", ");
  if (plan.families.length === 0) return ACTION_WORDS[plan.action](count(plan.items.length, "font"), plan.deviceName, plan.fromName);
  const names = plan.families.length > 1 && all.length > 30 ? count(plan.families.length, "family", "families") : all;
  return ACTION_WORDS[plan.action](names, plan.deviceName, plan.fromName);
}
export function planTitle(plan: PlanView): string {
  if (plan.state === "undone") return "Taken back";
  return plan.state === "done" ? planWords(plan).done : planWords(plan).todo;
}
export function planCounts(plan: PlanView): string {
  const before = count(plan.fontsBefore, "placed font");
  if (plan.state === "drawn" || plan.state === "handed") return `${before} now, ${plan.fontsAfter} after.`;
  return `${before} before, now ${plan.fontsAfter}.`;
}
export const stepsOf = (plan: PlanView): PlanStep[] => plan.items.flatMap((item) => item.steps);
export const changesOf = (plan: PlanView): number => stepsOf(plan).filter((step) => step.op !== "keep" && step.op !== "leave").length;
