// What became of a plan: whether a step is done, by what the device holds; what programs need now; the sentence for the history.
import { changes, type Step } from "./plan.ts";

/** Whether a step is done, whoever did it; `there` is the file it concerns as the device holds it now, if it does. */
export function isStepDone(step: Pick<Step, "op">, there: { on: boolean } | undefined): boolean {
  if (!changes(step)) return true;
  if (step.op === "remove") return there === undefined;
  return there !== undefined && (step.op === "copy" || there.on === (step.op === "switch-on"));
}

/** What a program needs before it lists what came to `slots`, or no longer lists what left them. */
export function programNeed(
  program: { name: string; traits: { reads: readonly string[]; readsWhen: string } },
  gains: boolean,
  slots: ReadonlySet<string>,
): string {
  const { name, traits } = program;
  if (traits.readsWhen === "by-hand") return `${name} reads no font folder: load the file into it by hand.`;
  if (![...slots].some((slot) => traits.reads.includes(slot))) return `${name} does not read this folder and will not list it.`;
  if (traits.readsWhen === "start") return `Close ${name} completely and open it again.`;
  return gains ? `${name} notices by itself.` : `${name} drops it by itself.`;
}

/** What is to be done next in a program whose folder was changed; null when it will not list what came. */
export function programNext(
  traits: { reads: readonly string[]; readsWhen: string },
  gains: boolean,
  slots: ReadonlySet<string>,
): "check" | "reopen" | "load" | null {
  if (!gains || slots.size === 0) return null;
  if (traits.readsWhen === "by-hand") return "load";
  if (![...slots].some((slot) => traits.reads.includes(slot))) return null;
  return traits.readsWhen === "always" ? "check" : "reopen";
}

/** What was done on a device, for the history. */
export function planSentence(steps: readonly (Pick<Step, "op" | "slot"> & { state: string })[], device: string, undo: boolean): string {
  const done = (op: Step["op"]) => steps.filter((step) => step.op === op && step.state === "done").length;
  const files = (count: number) => `${count} ${count === 1 ? "file" : "files"}`;
  const slots = new Set<string>(steps.filter((step) => step.op === "copy").map((step) => step.slot));
  const owner = slots.has("profile") ? "in a profile" : slots.has("me") ? "for me" : "for everyone";
  const words = [
    done("copy") > 0 && `${files(done("copy"))} placed on ${device}, ${owner}`,
    done("remove") > 0 && `${files(done("remove"))} taken off ${device}`,
    done("switch-off") > 0 && `${files(done("switch-off"))} turned off on ${device}`,
    done("switch-on") > 0 && `${files(done("switch-on"))} turned on, on ${device}`,
  ].filter(Boolean);
  return `${undo ? "Undone: " : ""}${words.join("; ") || `Nothing changed on ${device}`}.`;
}
