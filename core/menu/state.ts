// The state of one style in one program, from what was observed, when.

export const SIGHTING_STATES = ["seen", "due", "reopen", "load-by-hand", "swapped", "off", "lapsed", "not-here"] as const;
export type SightingState = (typeof SIGHTING_STATES)[number];

interface Looked {
  result: "seen" | "swapped" | "faked" | "not-there";
  at: number;
  instead: readonly string[];
  /** By what it is known: a file or picture, somebody's eye, or the device itself. */
  means: "file" | "eye" | "device";
  /** Who looked; empty when that was not said. */
  who: string;
  /** It was said though the device knew that it could not be. */
  doubted: boolean;
}

export interface CellFacts {
  program: string;
  device: string;
  readsWhen: "always" | "document" | "start" | "by-hand";
  /** Copies on the device that this program would read. `visible`: the device's font cache knows it. */
  readable: readonly { on: boolean; visible: boolean; since: number }[];
  /** Copies on the device that it would not. */
  elsewhere: number;
  /** The latest evidence; milliseconds since 1970. */
  sighting: Looked | undefined;
  /** When a document from it last asked for the style without showing it. */
  askedAt?: number;
  /** The licence under which it could be used has ended. */
  lapsed?: boolean;
  /** When the program was last known to start; undefined when nobody said. */
  openedAt: number | undefined;
  /** When the program was last updated; undefined when nobody said. */
  updatedAt?: number;
  /** When another file of the same name came to where the program reads; undefined when there is none. */
  rivalSince?: number;
  /** For programs that are given files by hand: nobody can look into their store, so that looking at them is all that tells. */
  storeUnknown?: boolean;
  /** Such a program has what was loaded into it the next time too. */
  keeps?: boolean;
}

export interface CellState {
  state: SightingState;
  reason: string;
}

/** What was seen, by whom or what: a person's word is told as such. */
function shown({ means, who }: Looked, program: string, device: string): string {
  if (means === "eye") return `${who || "You"} saw it in ${program}.`;
  return means === "device" ? `${device} drew it in ${program} with its own copy.` : `Evidence shows ${program} drawing it.`;
}
function drawnInstead({ means, who, instead }: Looked, program: string): string {
  const other = instead.join(", ");
  return means === "eye"
    ? `${who || "You"} saw ${other || "other letters"} in ${program} instead.`
    : `${program} drew ${other || "another font"} instead.`;
}

/**
 * What speaks against a style being seen in a program just now, though somebody says so; empty when nothing does. Given facts as they are
 * without a sighting.
 */
export function againstSeeing(facts: Omit<CellFacts, "sighting">): string {
  const { state, reason } = cellState({ ...facts, lapsed: false, sighting: undefined });
  if (state === "load-by-hand" && facts.storeUnknown) return "";
  if (state !== "due") return reason;
  // What a real computer has noticed may be known too late; of a practice device it is known.
  const unread = !facts.storeUnknown && facts.readable.every((copy) => !copy.on || !copy.visible);
  return unread ? reason : "";
}

/** Evidence counts while it is younger than the copy it speaks of. */
export function cellState(all: CellFacts): CellState {
  // What the device knew could not be does not count.
  const facts = all.sighting?.doubted ? { ...all, sighting: undefined } : all;
  const { program, device } = facts;
  const on = facts.readable.filter((copy) => copy.on);
  if (facts.lapsed && facts.readable.length + facts.elsewhere > 0) {
    return on.length > 0
      ? { state: "lapsed", reason: `Its licence has ended, and it is still on ${device}: switch it off or renew it.` }
      : { state: "lapsed", reason: `Its licence has ended; it is turned off on ${device}.` };
  }
  const since = Math.min(...on.map((copy) => copy.since));
  if (on.length === 0) {
    const swapped = facts.sighting?.result === "swapped" ? facts.sighting : undefined;
    if (swapped)
      return {
        state: "swapped",
        reason: `It is not on ${device}. ${drawnInstead(swapped, program)}`,
      };
    if (facts.readsWhen === "by-hand" && facts.storeUnknown && facts.sighting?.result === "seen") {
      if (facts.sighting.at < (facts.updatedAt ?? 0))
        return { state: "due", reason: `It was seen in ${program} before ${program} was updated; it has to be looked for anew.` };
      if (facts.keeps !== false) return { state: "seen", reason: `It was loaded into ${program} by hand and seen there.` };
      if (facts.openedAt === undefined || facts.openedAt <= facts.sighting.at)
        return { state: "seen", reason: `It was seen in ${program}, which forgets it when it is closed: load it again then.` };
      return {
        state: "load-by-hand",
        reason: `${program} was closed since it was seen there, and forgets what was loaded: load it again.`,
      };
    }
    if (facts.readsWhen === "by-hand")
      return {
        state: "load-by-hand",
        reason: `${program} reads no font folder: load the file into it by hand, ${facts.keeps === false ? "each time it is opened" : "and have it kept"}.`,
      };
    if (facts.readable.length > 0) return { state: "off", reason: `It is on ${device}, but turned off.` };
    if (facts.elsewhere > 0) return { state: "not-here", reason: `It is on ${device}, in a folder ${program} does not read.` };
    return { state: "not-here", reason: `It is not on ${device}.` };
  }
  const counts = facts.sighting !== undefined && facts.sighting.at >= Math.max(since, facts.updatedAt ?? 0, facts.rivalSince ?? 0);
  const missed = counts && facts.sighting?.result === "not-there";
  if (facts.sighting && counts && !missed) {
    if (facts.sighting.result === "faked")
      return { state: "swapped", reason: `${program} drew another style in its place, made bold or slanted by itself.` };
    return facts.sighting.result === "seen"
      ? { state: "seen", reason: shown(facts.sighting, program, device) }
      : { state: "swapped", reason: drawnInstead(facts.sighting, program) };
  }
  if (on.every((copy) => !copy.visible))
    return { state: "due", reason: `It is on ${device}, which has not looked through its font folders since: look at ${device} again.` };
  const opened = facts.openedAt !== undefined && facts.openedAt >= since;
  if (facts.readsWhen === "start" && !opened)
    return { state: "reopen", reason: `${program} reads fonts only when it starts; it has not been reopened since the font was placed.` };
  if (facts.readsWhen === "document" && !opened)
    return {
      state: "reopen",
      reason: `${program} reads fonts when a document is opened: close the document and open it again, then look.`,
    };
  if (missed) return { state: "due", reason: `It should be in ${program}, and somebody looked and did not find it.` };
  if (facts.sighting?.result === "seen" && facts.sighting.at < (facts.rivalSince ?? 0) && facts.sighting.at >= since)
    return {
      state: "due",
      reason: `Another file of the same name has come to ${device} since it was seen in ${program}; it has to be looked for anew.`,
    };
  if (facts.sighting?.result === "seen" && facts.sighting.at >= since)
    return { state: "due", reason: `It was seen in ${program} before ${program} was updated; it has to be looked for anew.` };
  if (facts.sighting?.result === "seen")
    return { state: "due", reason: `It was seen in ${program} before it was placed again; it has to be looked for anew.` };
  if (facts.askedAt !== undefined && facts.askedAt >= since)
    return { state: "due", reason: `A document from ${program} asks for it; whether it was drawn is open.` };
  return { state: "due", reason: `It should be in ${program} by now; nobody has looked yet.` };
}
