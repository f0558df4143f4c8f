// Why a style is not where it should be: ranked reasons, each with what it is suspected from, a test that tells, and a fix.
import type { MenuPlace } from "./menu.ts";

type ReasonCode =
  | "behind-back"
  | "not-placed"
  | "off"
  | "other-folder"
  | "own-store"
  | "format"
  | "damaged"
  | "lapsed"
  | "not-taken-up"
  | "not-reopened"
  | "other-name"
  | "stands-behind"
  | "shadowed"
  | "filed-after"
  | "other-script"
  | "looked-too-soon";

/** What Buvano can do about it at one tap. */
type Act = "place" | "switch-on" | "look-again" | "reopen" | "load" | "renew" | "duplicates";

export interface Reason {
  code: ReasonCode;
  /** 1 to 100: how likely it is to be the reason. */
  weight: number;
  reason: string;
  /** What it is suspected from. */
  because: string;
  /** How to find out. */
  test: string;
  fix: string;
  act: Act | null;
}

export interface DiagnosisFacts {
  program: string;
  device: string;
  family: string;
  fullName: string;
  /** Folders the program reads. */
  reads: readonly string[];
  readsWhen: "always" | "document" | "start" | "by-hand";
  /** Of what is loaded into it by hand. */
  keeps: boolean;
  /** Copies on the device; times in milliseconds since 1970. */
  copies: readonly { readable: boolean; folder: string; on: boolean; visible: boolean; since: number }[];
  openedAt: number | undefined;
  /** Why the program would not take its format; empty when it would. */
  refusal: string;
  damaged: boolean;
  lapsed: boolean;
  place: MenuPlace | undefined;
  /** Names of scripts it draws, when Latin is not among them; empty otherwise. */
  onlyScripts: readonly string[];
  /** It has no Latin letters, and the program lists such fonts after all others. */
  filedAfter: boolean;
  /** Somebody looked and did not find it, at this time. */
  missedAt: number | undefined;
  /** What somebody else did to its file on the device; undefined when nothing is known. */
  behind?: { how: "deleted" | "overwritten" | "turned off"; fileName: string; at: number } | undefined;
}

const plain = (name: string): string =>
  name
    .normalize("NFKC")
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]/gu, "");

/** All reasons the facts allow, the likeliest first. */
export function diagnose(facts: DiagnosisFacts): Reason[] {
  const { program, device, copies, place } = facts;
  const found: Reason[] = [];
  const add = (code: ReasonCode, weight: number, reason: string, because: string, test: string, fix: string, act: Act | null = null) =>
    found.push({ code, weight, reason, because, test, fix, act });
  const readable = copies.filter((copy) => copy.readable);
  const on = readable.filter((copy) => copy.on);
  const since = Math.min(...on.map((copy) => copy.since));
  const list = `Open the font list of ${program} and type “${place?.type ?? facts.family}”.`;

  if (facts.behind && on.length === 0) {
    const { how, fileName } = facts.behind;
    const off = how === "turned off";
    add(
      "behind-back",
      100,
      `${fileName} was ${how} on ${device}, and not by Buvano.`,
      `${device} was looked at just now, and is not as it was left.`,
      `Look into the folder on ${device}.`,
      off ? "Turn it on again." : "Place it again.",
      off ? "switch-on" : "place",
    );
  }
  if (facts.lapsed && on.length === 0) {
    add(
      "lapsed",
      99,
      "Its licence has ended, and it is turned off.",
      "The term recorded for it is over.",
      "Look at its clearance.",
      "Renew the licence, then turn it on.",
      "renew",
    );
  }
  if (facts.damaged) {
    add(
      "damaged",
      98,
      "The file is damaged; programs pass over it.",
      "Its checks found faults that stop programs.",
      "Open the file by itself in any viewer.",
      "Download it again and place the sound file.",
    );
  }
  if (facts.refusal) {
    add(
      "format",
      97,
      `${program} does not take this kind of file.`,
      facts.refusal,
      `Try another font of the same format in ${program}.`,
      "Place it in another format, or as single styles.",
    );
  }
  if (facts.readsWhen === "by-hand" && readable.length === 0) {
    add(
      "own-store",
      96,
      `${program} lists only what is loaded into it.`,
      "It reads no font folder of the device.",
      "See whether it lists any other font you installed.",
      facts.keeps ? "Load the file into it, and have it kept for next time." : "Load the file into it, each time it is opened.",
      "load",
    );
  } else if (copies.length === 0) {
    add(
      "not-placed",
      96,
      `It is not on ${device}.`,
      `${device} was looked at, and none of its folders holds the file.`,
      `Look at ${device} again.`,
      `Place it on ${device}.`,
      "place",
    );
  } else if (readable.length === 0) {
    add(
      "other-folder",
      95,
      `It lies in a folder ${program} does not read.`,
      `${program} reads ${facts.reads.join(" and ") || "none of the folders"}; the file lies in ${[...new Set(copies.map((copy) => copy.folder))].join(" and ")}.`,
      "See whether it lists another font from the same folder.",
      "Move it to a folder this program reads.",
      "place",
    );
  } else if (on.length === 0) {
    add(
      "off",
      94,
      "It is turned off.",
      `The file is on ${device} and marked as off.`,
      `See whether any other program on ${device} lists it.`,
      "Turn it on.",
      "switch-on",
    );
  } else {
    if (on.every((copy) => !copy.visible)) {
      add(
        "not-taken-up",
        93,
        `${device} has not taken it up yet.`,
        "It came into the font folder without the device being told.",
        `See whether any other program on ${device} lists it.`,
        "Have the device look through its font folders.",
        "look-again",
      );
    }
    if ((facts.readsWhen === "start" || facts.readsWhen === "document") && (facts.openedAt === undefined || facts.openedAt < since)) {
      const atStart = facts.readsWhen === "start";
      const what = atStart ? "starts" : "opens a document";
      const did = atStart ? "started" : "opened one";
      const because = facts.openedAt === undefined ? `Nobody knows when it last ${did}.` : `It last ${did} before the font was placed.`;
      add(
        "not-reopened",
        facts.openedAt === undefined ? 80 : 92,
        `${program} reads fonts only when it ${what}.`,
        because,
        atStart ? "Close it completely, open it again, and look." : "Open a document anew, and look.",
        atStart ? `Close ${program} completely and open it again.` : `Close the document in ${program} and open it again.`,
        "reopen",
      );
    }
  }
  if (place && readable.length > 0 && !facts.refusal) {
    const [label, own] = [plain(place.menuName), plain(facts.family)];
    if (label !== own) {
      const far = label.slice(0, 3) !== own.slice(0, 3);
      add(
        "other-name",
        far ? 85 : 60,
        `It is listed as “${place.menuName}”.`,
        `This program goes by another of the font's names than “${facts.family}”.`,
        list,
        `Look between “${place.before.at(-1) ?? "the beginning"}” and “${place.after[0] ?? "the end"}”.`,
      );
    }
    if (place.standsBehind) {
      add(
        "stands-behind",
        84,
        `${place.standsBehind} is reached in its place.`,
        "Both share one entry and one button in lists with bold and italic buttons.",
        `Choose “${place.menuName}” and compare the letters.`,
        "Use a program with full families for this style.",
      );
    }
    if (place.clashes.length > 0) {
      add(
        "shadowed",
        83,
        `Another file goes by the same name: ${place.clashes.join(", ")}.`,
        "Programs show one of several files that claim one name.",
        "Compare the copies on the device.",
        "Keep one of them.",
        "duplicates",
      );
    }
    if (facts.filedAfter) {
      add(
        "filed-after",
        82,
        "It stands at the end of the list, not at its letter.",
        `${program} lists fonts without Latin letters after all others.`,
        list,
        `Look between “${place.before.at(-1) ?? "the beginning"}” and “${place.after[0] ?? "the end"}”.`,
      );
    }
    if (facts.onlyScripts.length > 0) {
      add(
        "other-script",
        50,
        `It draws ${facts.onlyScripts.join(" and ")} only.`,
        "Latin words show another font in its place, also where a list draws each name in its own font.",
        `Type a word in ${facts.onlyScripts[0]}.`,
        "Set text in its own script.",
      );
    }
    if (found.length === 0 && facts.missedAt !== undefined && facts.missedAt < since) {
      add("looked-too-soon", 40, "It was looked for before it was placed.", "The look is older than the file.", list, "Look again.");
    }
  }
  return found.sort((a, b) => b.weight - a.weight);
}
