// Plans for devices where a person carries the steps out: which profiles they come to, and what the person does.
import { join } from "node:path";
import type { ProfilesBy } from "../../../contract/placing.ts";
import { fontEnding, placedFileName } from "../../../core/placing/files.ts";
import { changes } from "../../../core/placing/plan.ts";
import type { PracticeRoom } from "../../../practice/room.ts";
import type { Parts } from "../../parts.ts";
import type { DeviceRow } from "../../store/devices/devices.ts";
import type { PlanRow, StoredItem, StoredStep } from "../../store/placing/plans.ts";
import type { ProfileToWrite } from "../../work/profiles.ts";
import type { WorkPool } from "../../work/pool.ts";

const ORGANISATION = "Your own font library";

export interface ProfileFile {
  fullName: string;
  postScriptName: string;
  ending: string;
  sha256: string;
}
/** What a plan does on a device, and how it is spread over profiles. */
export interface Handed {
  items: readonly StoredItem[];
  by: ProfilesBy;
}
export const handedOf = ({ items, request }: Pick<PlanRow, "items" | "request">): Handed => ({ items, by: request.profiles ?? "family" });
/** What the one profile is called that holds everything; in its identifier too, so that a newer one takes its place. */
const TOGETHER = "Fonts from Buvano";
/** One profile a plan leads to; without fonts it is to be removed. */
export interface PlannedProfile {
  /** What it is called in the tablet's list. */
  name: string;
  subject: string;
  fonts: ProfileFile[];
}

export const profileName = (subject: string, styles: number): string => `${subject}, ${styles === 1 ? "1 style" : `${styles} styles`}`;

/** A profile's fonts by the hashes of their files. Styles that share a PostScript name cannot both be in one; the first one stands. */
export function profilePlan(settings: Parts["settings"], subject: string, files: readonly ProfileFile[]): Omit<ProfileToWrite, "fileName"> {
  const fonts: ProfileToWrite["fonts"] = [];
  const seen = new Set<string>();
  for (const { fullName, postScriptName, ending, sha256 } of files) {
    const key = postScriptName || fullName;
    if (seen.has(key)) continue;
    seen.add(key);
    fonts.push({ fullName, postScriptName, fileName: placedFileName({ name: fullName, postScriptName, ending }), sha256 });
  }
  return { subject, organisation: ORGANISATION, library: settings.libraryId(), fonts };
}
type Uses = Pick<Parts, "config" | "library" | "devices" | "plans" | "files" | "settings" | "observed">;

export class Handing {
  private readonly uses: Uses;
  private readonly room: PracticeRoom;
  private readonly pool: WorkPool;
  constructor(uses: Uses, room: PracticeRoom, pool: WorkPool) {
    this.uses = uses;
    this.room = room;
    this.pool = pool;
  }

  /** A profile as a file; it may hold many large fonts, and is written in a thread. */
  profileFile(subject: string, files: readonly ProfileFile[]): Promise<Uint8Array> {
    const profile = profilePlan(this.uses.settings, subject, files);
    return this.pool.font({ kind: "profile", profile, filesDir: join(this.uses.config.dataDir, "files") });
  }

  private subjectOf(sha256: string, styleName: string, by: ProfilesBy): string {
    if (by === "together") return TOGETHER;
    const [face] = this.uses.library.facesBrief(sha256);
    return by === "style" || !face ? styleName : face.brief.family;
  }
  /** Names the profile a step touches: that in which a file is to come, or that in which it lies. */
  namesProfiles(device: DeviceRow): (step: Pick<StoredStep, "op" | "sha256" | "styleName">, by: ProfilesBy) => string {
    const placed = this.uses.plans.placedHow(device.id);
    return ({ op, sha256, styleName }, by) => {
      const before = op === "copy" ? undefined : placed.get(sha256);
      return before
        ? this.subjectOf(sha256, before.styleName, before.by)
        : this.subjectOf(sha256, styleName, op === "copy" ? by : "family");
    };
  }

  private file(sha256: string): ProfileFile | undefined {
    const [face] = this.uses.library.facesBrief(sha256);
    if (!face) return undefined;
    return { fullName: face.brief.fullName, postScriptName: face.brief.postScriptName, ending: fontEnding(face.brief), sha256 };
  }

  /** The profiles plans come to together: each holds what it held already, with what is placed and without what is taken off. */
  profiles(device: DeviceRow, plans: readonly Handed[]): PlannedProfile[] {
    const nameOf = this.namesProfiles(device);
    const steps = plans.flatMap(({ items, by }) =>
      items.flatMap((item) => item.steps.filter(changes).map((step) => ({ ...step, subject: nameOf(step, by) }))),
    );
    const there = this.uses.observed
      .on(device.id)
      .filter((row) => row.folder === "profile")
      .map(({ sha256 }) => ({ sha256, subject: nameOf({ op: "keep", sha256, styleName: nameIn(this.uses.library, sha256) }, "family") }));
    return [...new Set(steps.map(({ subject }) => subject))].map((subject) => {
      const own = steps.filter((step) => step.subject === subject);
      const removed = new Set(own.filter((step) => step.op === "remove").map((step) => step.sha256));
      const kept = there.filter((row) => row.subject === subject && !removed.has(row.sha256));
      const added = own.filter((step) => step.op === "copy");
      const files = new Map([...kept, ...added].map(({ sha256 }) => [sha256, this.file(sha256)]));
      const fonts = [...files.values()].filter((font) => font !== undefined);
      return { subject, name: profileName(subject, fonts.length), fonts };
    });
  }

  /**
   * Gives the device what it needs. A practice tablet gets its profiles; a paired device fetches them itself. What `others` wait for there
   * already stays in the profiles they share with this plan; those they do not share are left as they are.
   */
  async hand(device: DeviceRow, plan: Handed, others: readonly Handed[]): Promise<void> {
    await this.offer(device, this.shared(device, plan, [...others, plan]));
  }
  /** Takes back what was handed over and not installed yet; what others wait for waits on. */
  async withdraw(device: DeviceRow, plan: Handed, others: readonly Handed[]): Promise<void> {
    const tablet = this.room.device(device.slug);
    if (!tablet) return;
    const names = new Set(this.shared(device, plan, [...others, plan]).map((profile) => profile.name));
    for (const waiting of await tablet.profiles.waiting()) if (names.has(waiting.name)) await tablet.profiles.refuse(waiting.id);
    await this.offer(device, this.shared(device, plan, others));
  }
  /** Of the profiles some plans come to, those one plan concerns. */
  private shared(device: DeviceRow, plan: Handed, plans: readonly Handed[]): PlannedProfile[] {
    const subjects = new Set(this.profiles(device, [plan]).map(({ subject }) => subject));
    return this.profiles(device, plans).filter(({ subject }) => subjects.has(subject));
  }
  private async offer(device: DeviceRow, profiles: readonly PlannedProfile[]): Promise<void> {
    const tablet = this.room.device(device.slug);
    if (!tablet) return;
    for (const { subject, fonts } of profiles) if (fonts.length > 0) await tablet.profiles.offer(await this.profileFile(subject, fonts));
  }

  /** What the person does at the device, in its own order of steps. */
  instructions(device: DeviceRow, plans: readonly Handed[]): string[] {
    if (device.kind !== "tablet" && device.kind !== "phone") {
      return [
        `Open Buvano's page on ${device.name}; it lists what is wanted there.`,
        "Save the files; a browser may ask whether to keep them, as your own network is not encrypted. Keep them.",
        "Install them the way that computer does: most open a font file and offer to install it.",
        "Have the page check what is there: it compares drawings, so nothing is taken on trust.",
      ];
    }
    const steps: string[] = [];
    if (device.sort === "paired") steps.push(`Open Buvano's page on ${device.name}; it lists what is wanted there.`);
    for (const profile of this.profiles(device, plans)) {
      if (profile.fonts.length === 0) {
        steps.push(`Open ${device.name}'s settings and its list of profiles. Choose “${profile.subject}” and remove it.`);
        continue;
      }
      steps.push(`${device.name} says that the profile “${profile.name}” was loaded. Allow it.`);
      steps.push(
        `Open its settings; “${profile.name}” waits among the profiles. Install it and type the passcode, once for all its styles.`,
      );
    }
    if (device.sort === "paired") steps.push("Have the page check what is there.");
    return steps;
  }
}

const nameIn = (library: Parts["library"], sha256: string): string => library.facesBrief(sha256)[0]?.brief.fullName ?? "";
