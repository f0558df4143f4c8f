// Kits: everything a machine without a connection needs for some families, as one zip.
import { randomUUID } from "node:crypto";
import { join } from "node:path";
import { menuFont } from "../../../core/family/brief.ts";
import { compareStyles } from "../../../core/family/group.ts";
import { takenTwins } from "../../../core/family/kinship.ts";
import { fontEnding, freeName, INSTALLABLE, placedFileName } from "../../../core/placing/files.ts";
import type { KitFont, KitInput } from "../../../core/placing/kit.ts";
import { fileStem, plainFileName } from "../../../core/words/file-names.ts";
import { PROFILE_ENDING } from "../../../core/placing/profile.ts";
import { othersFirst } from "../../../core/turns.ts";
import { Fault, notFound } from "../../fault.ts";
import type { Parts } from "../../parts.ts";
import type { StyleBrief } from "../../store/families/families.ts";
import type { Clearing } from "../../views/clearance.ts";
import type { ProfileToWrite } from "../../work/profiles.ts";
import type { WorkPool } from "../../work/pool.ts";
import type { TabletService } from "../placing/tablets.ts";

type Uses = Pick<Parts, "config" | "library" | "files" | "parcels" | "settings" | "now">;

const PAPER_ENDING = /\.(txt|md|markdown|rtf|html?|pdf|docx?|odt)$/i;

export class KitService {
  private readonly uses: Uses;
  private readonly clearing: Clearing;
  private readonly tablets: TabletService;
  private readonly pool: WorkPool;

  constructor(uses: Uses, clearing: Clearing, tablets: TabletService, pool: WorkPool) {
    this.uses = uses;
    this.clearing = clearing;
    this.tablets = tablets;
    this.pool = pool;
  }

  /** Packs the zip for some families; whoever asked deletes it once it is sent. Throws a `Fault` when none of their styles can be carried. */
  async make(familyIds: readonly number[]): Promise<{ fileName: string; path: string }> {
    const families = familyIds.map((id) => {
      const family = this.uses.library.family(id);
      if (!family) throw notFound("family");
      return family;
    });
    const left: KitInput["left"][number][] = [];
    const fonts: KitFont[] = [];
    const taken = new Set<string>();
    for (const family of families) {
      await othersFirst();
      for (const style of this.choose(family.id, left)) {
        const { brief, sha256 } = style;
        const ending = fontEnding(brief);
        const fileName = freeName(placedFileName({ name: brief.fullName, postScriptName: brief.postScriptName, ending }), taken);
        taken.add(fileName.toLowerCase());
        const faces = this.uses.library.facesBrief(sha256);
        fonts.push({ fileName, sha256, menus: faces.map((one) => menuFont(one.brief, sha256, one.face)) });
      }
    }
    if (fonts.length === 0) {
      throw new Fault(422, {
        code: "kit-nothing",
        message: "None of these styles can be carried to another machine.",
        next: left[0] ? `${left[0].name}: ${left[0].reason}` : "Shelve a family first.",
      });
    }
    const name = families.length === 1 ? families[0]!.name : `${families.length} families`;
    const stem = fileStem(name);
    const { unfinished } = this.uses.files;
    const path = join(unfinished, `kit-${randomUUID()}.zip`);
    await this.pool.makeKit({
      input: { title: `Fonts to carry: ${name}`, day: this.clearing.today(), fonts, left, papers: await this.papers(familyIds) },
      profiles: await this.profiles(families),
      filesDir: join(this.uses.config.dataDir, "files"),
      staging: `${path}-profiles`,
      top: `${stem}-kit`,
      madeAt: this.uses.now(),
      to: path,
    });
    return { fileName: `${stem}-kit.zip`, path };
  }

  /** The right file of each style: whole, installable, in the preferred format. */
  private choose(familyId: number, left: KitInput["left"][number][]): StyleBrief[] {
    const styles = this.uses.library.briefsOf(familyId).sort((a, b) => compareStyles(a.brief, b.brief));
    const lapsed = this.clearing.lapsed(familyId);
    const fits = styles.filter(({ brief: record }) => {
      const reason =
        record.verdict === "refused"
          ? "It is damaged."
          : !INSTALLABLE.includes(record.container)
            ? "A file for web pages; unwrap it in its parcel first."
            : lapsed
              ? "Its licence has ended."
              : undefined;
      if (reason) left.push({ name: record.fullName, reason });
      return reason === undefined;
    });
    const { twinFormat } = this.uses.settings.get();
    const byFile = [...new Map(fits.map((style) => [style.sha256, style])).values()];
    const kin = byFile.map((style) => ({ ...this.uses.library.claimsOf(style.sha256)[style.face]!, row: style }));
    return takenTwins(kin, twinFormat).map(({ taken, left: others }) => {
      for (const { row } of others) left.push({ name: row.fileName, reason: `The same style as ${taken.row.fileName}.` });
      return taken.row;
    });
  }

  private async papers(familyIds: readonly number[]): Promise<KitInput["papers"]> {
    const found: KitInput["papers"][number][] = [];
    const taken = new Set<string>();
    for (const id of familyIds) {
      for (const { path, sha256 } of this.uses.parcels.papersOf(id)) {
        if (!(await this.uses.files.has(sha256))) continue;
        const plain = plainFileName(path, "paper");
        // Whatever a paper was called, it is opened as a text and never run.
        const name = freeName(PAPER_ENDING.test(plain) ? plain : `${plain}.txt`, taken);
        taken.add(name.toLowerCase());
        found.push({ path: name, sha256 });
      }
    }
    return found;
  }

  private async profiles(families: readonly { id: number; name: string }[]): Promise<ProfileToWrite[]> {
    const made: ProfileToWrite[] = [];
    const taken = new Set<string>();
    for (const { id, name } of families) {
      await othersFirst();
      const plan = this.tablets.plan(id);
      if (!plan) continue;
      const fileName = freeName(fileStem(name) + PROFILE_ENDING, taken);
      taken.add(fileName.toLowerCase());
      made.push({ ...plan, fileName });
    }
    return made;
  }
}
