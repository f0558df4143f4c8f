// A family's trail: its five stations, and the first of them that waits for something.
import { isCleared, type Clearance } from "../clearance/clearance.ts";
import { beingReadWords, summaryWords } from "../clearance/words.ts";
import type { SightingState } from "../menu/state.ts";
import { count } from "../words/words.ts";
import type { Station, StationKey } from "./stations.ts";

export const inStation = (styles: number): Station => ({ key: "in", state: "done", words: count(styles, "style") });

/** `verdicts` are its styles'. */
export function soundStation(verdicts: readonly string[]): Station {
  const refused = verdicts.filter((verdict) => verdict === "refused").length;
  const usable = verdicts.filter((verdict) => verdict === "usable").length;
  if (refused > 0) return { key: "sound", state: "stuck", words: `${count(refused, "style")} damaged` };
  if (usable > 0) return { key: "sound", state: "remark", words: `Usable, with ${count(usable, "remark")}` };
  return { key: "sound", state: "done", words: "Whole and sound" };
}

/**
 * Silence is never shown as allowed; a job that wants more than is cleared holds a family up, and so does a licence that has ended.
 * `conflicts` are names of jobs it is not cleared for.
 */
export function clearedStation(clearance: Clearance, conflicts: readonly string[]): Station {
  const key = "cleared";
  if (clearance.lapsed) return { key, state: "stuck", words: summaryWords(clearance) };
  if (clearance.uses.some((one) => one.reading)) return { key, state: "open", words: beingReadWords(clearance.beingRead) };
  if (conflicts.length > 0) return { key, state: "stuck", words: `Not cleared for ${conflicts.map((name) => `“${name}”`).join(", ")}` };
  if (!isCleared(clearance, "own")) {
    const silent = clearance.uses.find((one) => one.use === "own")!.answer === "not-stated";
    return { key, state: silent ? "open" : "stuck", words: silent ? "Nothing stated for your own use" : "Not cleared for your own use" };
  }
  const all = clearance.uses.every((one) => one.answer === "yes" || one.answer === "credit");
  return { key, state: all && clearance.term?.state !== "ending" ? "done" : "remark", words: summaryWords(clearance) };
}

/** `devices` is on how many it was placed. */
export const placedStation = (devices: number): Station =>
  devices === 0
    ? { key: "placed", state: "open", words: "On no device" }
    : { key: "placed", state: "done", words: `On ${count(devices, "device")}` };

/** One of its styles in one program. */
export interface Standing {
  styleId: number;
  programId: number;
  state: SightingState;
}
/** `standings` are those of its styles in programs, where they are. What was seen is counted; one style never speaks for another. */
export function seenStation(standings: readonly Standing[]): Station {
  const states = new Set(standings.map(({ state }) => state));
  const distinct = (of: "styleId" | "programId", only?: SightingState) =>
    new Set(standings.filter(({ state }) => only === undefined || state === only).map((one) => one[of])).size;
  const [programs, all] = [distinct("programId", "seen"), distinct("programId")];
  if (states.has("swapped")) {
    const seen = programs > 0 ? `, seen in ${programs}` : "";
    return { key: "seen", state: "stuck", words: `Swapped in ${distinct("programId", "swapped")} of ${count(all, "program")}${seen}` };
  }
  if (states.has("seen")) {
    const [styles, listed] = [distinct("styleId", "seen"), distinct("styleId")];
    const ofStyles = styles < listed ? `, ${styles} of ${count(listed, "style")}` : "";
    const whole = standings.every(({ state }) => state === "seen");
    return { key: "seen", state: whole ? "done" : "remark", words: `Seen in ${programs} of ${count(all, "program")}${ofStyles}` };
  }
  if (states.has("reopen")) return { key: "seen", state: "open", words: "Reopen the program" };
  return { key: "seen", state: "open", words: "Not looked for yet" };
}

/** The first station that waits for something. */
export const whereStuck = (trail: readonly Station[]): StationKey | null =>
  trail.find((station) => station.state !== "done" && station.state !== "remark")?.key ?? null;
