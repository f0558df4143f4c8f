// Families on their way to a tablet: the configuration profile, what it holds, and the steps the tablet asks for.
import type { TabletView } from "../../../contract/tablets.ts";
import { compareStyles } from "../../../core/family/group.ts";
import { takenTwins } from "../../../core/family/kinship.ts";
import { fileStem } from "../../../core/words/file-names.ts";
import { fontEnding, placedFileName } from "../../../core/placing/files.ts";
import { PROFILE_ENDING } from "../../../core/placing/profile.ts";
import type { Parts } from "../../parts.ts";
import { Fault, notFound } from "../../fault.ts";
import type { StyleBrief } from "../../store/families/families.ts";
import type { ProfileToWrite } from "../../work/profiles.ts";
import { profileName, profilePlan, type Handing, type ProfileFile } from "./handing.ts";
import type { JobService } from "../jobs/jobs.ts";

type Uses = Pick<Parts, "library" | "files" | "settings">;

export class TabletService {
  private readonly uses: Uses;
  private readonly jobs: Pick<JobService, "beforeUse">;
  private readonly handing: Pick<Handing, "profileFile">;
  constructor(uses: Uses, jobs: Pick<JobService, "beforeUse">, handing: Pick<Handing, "profileFile">) {
    this.uses = uses;
    this.jobs = jobs;
    this.handing = handing;
  }

  private choose(familyId: number): { name: string; taken: StyleBrief[]; left: TabletView["left"] } {
    const family = this.uses.library.family(familyId);
    if (!family) throw notFound("family");
    const styles = this.uses.library.briefsOf(familyId).sort((a, b) => compareStyles(a.brief, b.brief));
    const left: TabletView["left"] = [];
    const fits = styles.filter((style) => {
      const reason =
        style.brief.verdict === "refused"
          ? "It is damaged; the tablet would refuse it."
          : style.brief.container !== "sfnt"
            ? "A tablet takes single .otf and .ttf files only."
            : undefined;
      if (reason) left.push({ name: style.brief.fullName, reason });
      return reason === undefined;
    });
    // Common practice, no source: on a tablet .otf is preferred when both are there.
    const kin = fits.map((style) => ({ ...this.uses.library.claimsOf(style.sha256)[style.face]!, row: style }));
    const chosen = takenTwins(kin, "otf");
    for (const { taken, left: others } of chosen)
      for (const { row } of others)
        left.push({ name: row.fileName, reason: `The same style as ${taken.row.fileName}, which a tablet prefers.` });
    return { name: family.name, taken: chosen.map(({ taken }) => taken.row), left };
  }

  view(familyId: number): TabletView {
    const { name, taken, left } = this.choose(familyId);
    const profile = profileName(name, taken.length);
    return {
      familyId,
      familyName: name,
      fileName: profileFileName(name),
      bytes: taken.reduce((sum, style) => sum + style.bytes, 0),
      fonts: taken.map((style) => ({ name: style.brief.fullName, fileName: fileNameOf(style) })),
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

  /** What a family's profile holds; undefined when no style fits a tablet. */
  plan(familyId: number): Omit<ProfileToWrite, "fileName"> | undefined {
    const { name, taken } = this.choose(familyId);
    return taken.length === 0 ? undefined : profilePlan(this.uses.settings, name, taken.map(fileOf));
  }
  /** The profile as a file. Throws a `Fault` when no style fits a tablet. */
  async profile(familyId: number): Promise<{ fileName: string; bytes: Uint8Array }> {
    const { name, taken } = this.choose(familyId);
    if (taken.length === 0) {
      throw new Fault(422, {
        code: "tablet-nothing",
        message: "No style of this family can be put on a tablet.",
        next: "Look for a version of it that ends in .otf or .ttf.",
      });
    }
    return { fileName: profileFileName(name), bytes: await this.handing.profileFile(name, taken.map(fileOf)) };
  }
}

const fileOf = ({ brief, sha256 }: StyleBrief): ProfileFile => ({
  fullName: brief.fullName,
  postScriptName: brief.postScriptName,
  ending: fontEnding(brief),
  sha256,
});
const fileNameOf = (style: StyleBrief): string => {
  const { fullName: name, postScriptName, ending } = fileOf(style);
  return placedFileName({ name, postScriptName, ending });
};
const profileFileName = (family: string): string => fileStem(family) + PROFILE_ENDING;
