// Kits: everything a machine without a connection needs for some families, as one zip.
import { createHash } from "node:crypto";
import { extname } from "node:path";
import { zipSync, type ZipOptions } from "fflate";
import { compareStyles } from "../../core/family/group.ts";
import { preferredTwin, twinGroups } from "../../core/family/kinship.ts";
import { freeName, INSTALLABLE, placedFileName } from "../../core/placing/files.ts";
import { makeKit, type KitFont, type KitInput } from "../../core/placing/kit.ts";
import { PROFILE_ENDING } from "../../core/placing/profile.ts";
import type { Context } from "../context.ts";
import { Fault, notFound } from "../fault.ts";
import type { StyleRow } from "../store/library.ts";
import type { ClearanceService } from "./clearance.ts";
import { menuFont } from "../../core/menu/font.ts";
import { fileStem, type TabletService } from "./tablets.ts";

const digest = (bytes: Uint8Array): string => createHash("sha256").update(bytes).digest("hex");

export class KitService {
  private readonly context: Context;
  private readonly clearance: ClearanceService;
  private readonly tablets: TabletService;

  constructor(context: Context, clearance: ClearanceService, tablets: TabletService) {
    this.context = context;
    this.clearance = clearance;
    this.tablets = tablets;
  }

  /** The zip for some families. Throws a `Fault` when none of their styles can be carried. */
  async make(familyIds: readonly number[]): Promise<{ fileName: string; bytes: Uint8Array }> {
    const families = familyIds.map((id) => {
      const family = this.context.library.family(id);
      if (!family) throw notFound("family");
      return family;
    });
    const left: KitInput["left"][number][] = [];
    const fonts: KitFont[] = [];
    const taken = new Set<string>();
    for (const style of families.flatMap((family) => this.choose(family.id, left))) {
      const { record, sha256 } = style;
      const { fullName, postScriptName } = record;
      const fileName = freeName(placedFileName({ name: fullName, postScriptName, ending: extname(style.fileName) || ".ttf" }), taken);
      taken.add(fileName.toLowerCase());
      fonts.push({ fileName, sha256, bytes: await this.context.files.read(sha256), menu: menuFont(style) });
    }
    if (fonts.length === 0) {
      throw new Fault(422, {
        code: "kit-nothing",
        message: "None of these styles can be carried to another machine.",
        next: left[0] ? `${left[0].name}: ${left[0].reason}` : "Shelve a family first.",
      });
    }
    const name = families.length === 1 ? families[0]!.name : `${families.length} families`;
    const input: KitInput = {
      ...{ title: `Fonts to carry: ${name}`, day: this.clearance.today(), fonts, left },
      papers: await this.papers(familyIds),
      profiles: await this.profiles(families),
    };
    const files = makeKit(input, digest);
    const stem = fileStem(name);
    // Scripts may be run as they are.
    const entries = [...files].map(([path, bytes]): [string, [Uint8Array, ZipOptions]] => [
      `${stem}-kit/${path}`,
      [bytes, path.endsWith(".sh") ? { os: 3, attrs: 0o755 << 16 } : {}],
    ]);
    return { fileName: `${stem}-kit.zip`, bytes: zipSync(Object.fromEntries(entries), { level: 6, mtime: this.context.config.now() }) };
  }

  /** The right file of each style: whole, installable, in the preferred format. */
  private choose(familyId: number, left: KitInput["left"][number][]): StyleRow[] {
    const styles = this.context.library.stylesOf(familyId).sort((a, b) => compareStyles(a.record, b.record));
    const { lapsed } = this.clearance.of(familyId);
    const fits = styles.filter(({ record }) => {
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
    const { twinFormat } = this.context.settings.get();
    const byFile = [...new Map(fits.map((style) => [style.sha256, style])).values()];
    return twinGroups(byFile.map((style) => ({ ...style.record, sha256: style.sha256, row: style }))).map((twins) => {
      const best = preferredTwin(twins, twinFormat)!;
      for (const other of twins)
        if (other !== best) left.push({ name: other.row.fileName, reason: `The same style as ${best.row.fileName}.` });
      return best.row;
    });
  }

  private async papers(familyIds: readonly number[]): Promise<KitInput["papers"]> {
    const found: KitInput["papers"][number][] = [];
    const taken = new Set<string>();
    for (const id of familyIds) {
      for (const { path, sha256 } of this.context.parcels.papersOf(id)) {
        if (!(await this.context.files.has(sha256))) continue;
        const plain = (path.split("/").at(-1) ?? "paper").replace(/[^\p{L}\p{N}._ -]+/gu, "-");
        const name = freeName(plain.includes(".") ? plain : `${plain}.txt`, taken);
        taken.add(name.toLowerCase());
        found.push({ path: name, bytes: await this.context.files.read(sha256) });
      }
    }
    return found;
  }

  private async profiles(families: readonly { id: number; name: string }[]): Promise<KitInput["profiles"]> {
    const found: KitInput["profiles"][number][] = [];
    for (const { id, name } of families) {
      const profile = await this.tablets.profile(id).catch(() => undefined);
      if (profile) found.push({ subject: name, fileName: fileStem(name) + PROFILE_ENDING, text: profile.text });
    }
    return found;
  }
}
