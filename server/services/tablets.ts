// Families on their way to a tablet: the configuration profile, what it holds, and the steps the tablet asks for.
import { extname } from "node:path";
import type { TabletView } from "../../contract/tablet.ts";
import { compareStyles } from "../../core/family/group.ts";
import { preferredTwin, twinGroups } from "../../core/family/kinship.ts";
import { placedFileName } from "../../core/placing/files.ts";
import { PROFILE_ENDING } from "../../core/placing/profile.ts";
import type { Context } from "../context.ts";
import { Fault, notFound } from "../fault.ts";
import type { StyleRow } from "../store/library.ts";
import { profileName, profileText } from "./handing.ts";
import type { JobService } from "./jobs.ts";

export class TabletService {
  private readonly context: Context;
  private readonly jobs: JobService;
  constructor(context: Context, jobs: JobService) {
    this.context = context;
    this.jobs = jobs;
  }

  private choose(familyId: number): { name: string; taken: StyleRow[]; left: TabletView["left"] } {
    const family = this.context.library.family(familyId);
    if (!family) throw notFound("family");
    const styles = this.context.library.stylesOf(familyId).sort((a, b) => compareStyles(a.record, b.record));
    const left: TabletView["left"] = [];
    const fits = styles.filter((style) => {
      const reason =
        style.record.verdict === "refused"
          ? "It is damaged; the tablet would refuse it."
          : style.record.container !== "sfnt"
            ? "A tablet takes single .otf and .ttf files only."
            : undefined;
      if (reason) left.push({ name: style.record.fullName, reason });
      return reason === undefined;
    });
    // Common practice, no source: on a tablet .otf is preferred when both are there.
    const taken = twinGroups(fits.map((style) => ({ ...style.record, sha256: style.sha256, row: style }))).flatMap((twins) => {
      const best = preferredTwin(twins, "otf")!;
      for (const other of twins)
        if (other !== best)
          left.push({ name: other.row.fileName, reason: `The same style as ${best.row.fileName}, which a tablet prefers.` });
      return [best.row];
    });
    return { name: family.name, taken, left };
  }

  view(familyId: number): TabletView {
    const { name, taken, left } = this.choose(familyId);
    const profile = profileName(name, taken.length);
    return {
      familyId,
      familyName: name,
      fileName: profileFileName(name),
      bytes: taken.reduce((sum, style) => sum + style.bytes, 0),
      fonts: taken.map((style) => ({ name: style.record.fullName, fileName: fileNameOf(style) })),
      left,
      warnings: this.jobs.beforeUse([familyId]),
      steps: [
        "Open the profile on the tablet: send it there by mail or message, or download it from this page there.",
        "The tablet says that a profile was loaded. Allow it.",
        `Open the tablet's settings. “${profile}” waits at the top, or in the list of profiles.`,
        "Choose to install it and type the tablet's passcode, once for all styles.",
        "It is not signed, so the tablet asks once more. Agree.",
        "Close the programs that should list the font completely, and open them again.",
      ],
      removal: [
        `Open the tablet's settings and its list of profiles.`,
        `Choose “${profile}” and remove it. Its styles are gone from every program.`,
      ],
    };
  }

  /** The profile's text. Throws a `Fault` when no style fits a tablet. */
  async profile(familyId: number): Promise<{ fileName: string; text: string }> {
    const { name, taken } = this.choose(familyId);
    if (taken.length === 0) {
      throw new Fault(422, {
        code: "tablet-nothing",
        message: "No style of this family can be put on a tablet.",
        next: "Look for a version of it that ends in .otf or .ttf.",
      });
    }
    const files = taken.map(({ record, fileName, sha256 }) => ({
      ...{ fullName: record.fullName, postScriptName: record.postScriptName, ending: extname(fileName) || ".ttf", sha256 },
    }));
    return { fileName: profileFileName(name), text: await profileText(this.context, name, files) };
  }
}

const fileNameOf = (style: StyleRow): string =>
  placedFileName({ name: style.record.fullName, postScriptName: style.record.postScriptName, ending: extname(style.fileName) || ".ttf" });
/** A file name every system takes, from a family's name. */
export const fileStem = (name: string): string => name.replace(/[^\p{L}\p{N}]+/gu, "-").replace(/^-|-$/g, "") || "Fonts";
const profileFileName = (family: string): string => fileStem(family) + PROFILE_ENDING;
