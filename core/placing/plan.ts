// From what is wanted and what was observed on a device to the steps between them.

export type Account = "me" | "everyone";

export interface WantedStyle {
  styleId: number;
  name: string;
  postScriptName: string;
  sha256: string;
  /** File ending with its dot. */
  ending: string;
  bytes: number;
  refused: boolean;
}

export interface ObservedFile {
  fileName: string;
  account: Account;
  sha256: string;
  on: boolean;
}

export interface Step {
  op: "copy" | "keep" | "leave" | "remove" | "switch-on" | "switch-off";
  styleId: number;
  styleName: string;
  sha256: string;
  fileName: string;
  account: Account;
  bytes: number;
  reason: string;
}

/** A file name every system takes, from the PostScript name, which is plain ASCII in sound fonts. */
export function placedFileName(style: Pick<WantedStyle, "postScriptName" | "name" | "ending">): string {
  const base = (style.postScriptName || style.name)
    .normalize("NFKD")
    .replace(/[^A-Za-z0-9._-]+/g, "-")
    .replace(/^[-.]+|[-.]+$/g, "");
  return `${(base || "font").slice(0, 100)}${style.ending.toLowerCase()}`;
}

function freeName(wanted: string, taken: Set<string>): string {
  const dot = wanted.lastIndexOf(".");
  for (let n = 1; ; n++) {
    const name = n === 1 ? wanted : `${wanted.slice(0, dot)}-${n}${wanted.slice(dot)}`;
    if (!taken.has(name.toLowerCase())) return name;
  }
}

/** Steps that put `wanted` into one account's folder. Files already there are kept, refused styles left out. */
export function planPlacing(wanted: readonly WantedStyle[], observed: readonly ObservedFile[], account: Account): Step[] {
  const taken = new Set(observed.filter((file) => file.account === account).map((file) => file.fileName.toLowerCase()));
  return wanted.map((style) => {
    const base = { styleId: style.styleId, styleName: style.name, sha256: style.sha256, account, bytes: style.bytes };
    const here = observed.find((file) => file.sha256 === style.sha256 && file.account === account);
    if (here) return { ...base, op: "keep", fileName: here.fileName, reason: "The same file is already there." };
    const other = observed.find((file) => file.sha256 === style.sha256);
    if (other) {
      const folder = other.account === "me" ? "your own folder" : "the folder for everyone";
      return {
        ...base,
        op: "leave",
        fileName: other.fileName,
        reason: `The same file is already in ${folder}; a second copy would be listed twice.`,
      };
    }
    const fileName = freeName(placedFileName(style), taken);
    if (style.refused) return { ...base, op: "leave", fileName, reason: "The file is damaged; programs would refuse it." };
    taken.add(fileName.toLowerCase());
    return {
      ...base,
      op: "copy",
      fileName,
      reason: account === "me" ? "Into your own font folder." : "Into the font folder for everyone.",
    };
  });
}

/** One step for every copy of `wanted` on the device, as `decide` says. */
function forCopies(
  wanted: readonly WantedStyle[],
  observed: readonly ObservedFile[],
  decide: (file: ObservedFile) => Pick<Step, "op" | "reason">,
): Step[] {
  return wanted.flatMap(({ styleId, name, sha256, bytes }) =>
    observed
      .filter((file) => file.sha256 === sha256)
      .map((file) => ({ ...decide(file), styleId, styleName: name, sha256, fileName: file.fileName, account: file.account, bytes })),
  );
}

/** Steps that take `wanted` off the device, from whichever folder holds them. */
export const planRemoving = (wanted: readonly WantedStyle[], observed: readonly ObservedFile[]): Step[] =>
  forCopies(wanted, observed, ({ account }) => ({
    op: "remove",
    reason: `Out of ${account === "me" ? "your own font folder" : "the folder for everyone"}; the library keeps it.`,
  }));

/** Steps that switch `wanted` on or off where they are. Copies that are so already are kept. */
export const planSwitching = (wanted: readonly WantedStyle[], observed: readonly ObservedFile[], on: boolean): Step[] =>
  forCopies(wanted, observed, (file) => {
    if (file.on === on) return { op: "keep", reason: `It is ${on ? "on" : "off"} already.` };
    const reason = on ? "Programs get to see it again." : "The file stays where it is; programs no longer get to see it.";
    return { op: on ? "switch-on" : "switch-off", reason };
  });

/** Steps that change something on the device. */
export const changes = (step: Pick<Step, "op">): boolean => step.op !== "keep" && step.op !== "leave";

const BACK: Partial<Record<Step["op"], Step["op"]>> = {
  copy: "remove",
  remove: "copy",
  "switch-on": "switch-off",
  "switch-off": "switch-on",
};

/** The steps that take back what was done: copies are removed, removals copied back, switches turned. */
export const planUndo = (done: readonly Step[]): Step[] =>
  done.filter(changes).map((step) => ({ ...step, op: BACK[step.op]!, reason: "Taken back." }));
