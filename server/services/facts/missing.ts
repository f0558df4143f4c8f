// Files of the library that are gone: deleted, on a disk that is unplugged, or left behind when only the database was copied. Found out in the background
// and wherever one is wanted, told, and looked for where the same bytes may lie.
import { createHash } from "node:crypto";
import type { MissingFilesView } from "../../../contract/library.ts";
import { othersFirst } from "../../../core/turns.ts";
import { count, listWords } from "../../../core/words/words.ts";
import type { Parts } from "../../parts.ts";
import type { Observer } from "../devices/observer.ts";
import type { ParcelService } from "../parcels/parcels.ts";

type Uses = Pick<Parts, "library" | "files" | "observed" | "documents" | "events">;
/** Files looked for between two pauses. */
const LOOKED_UP_TOGETHER = 64;
/** So many families are named. */
const MOST_NAMED = 4;

export class MissingFiles {
  private readonly uses: Uses;
  private readonly observer: Pick<Observer, "bytesOf">;
  private readonly parcels: Pick<ParcelService, "unpackAgain">;
  private missing: ReadonlySet<string> = new Set();
  constructor(uses: Uses, observer: Pick<Observer, "bytesOf">, parcels: Pick<ParcelService, "unpackAgain">) {
    this.uses = uses;
    this.observer = observer;
    this.parcels = parcels;
  }

  /** Looks for every file the shelf needs, a few at a time. */
  async check(): Promise<void> {
    const found = new Set<string>();
    for (const [i, sha256] of this.uses.library.shelvedFiles().entries()) {
      if (i % LOOKED_UP_TOGETHER === LOOKED_UP_TOGETHER - 1) await othersFirst();
      if (!(await this.uses.files.has(sha256))) found.add(sha256);
    }
    const changed = found.size !== this.missing.size || [...found].some((one) => !this.missing.has(one));
    this.missing = found;
    if (changed) this.uses.events.changed("families");
  }
  /** What was brought in may be what was missing. */
  async again(): Promise<void> {
    if (this.missing.size > 0) await this.check();
  }

  /** What is missing, by family; null when nothing is. */
  view(): MissingFilesView | null {
    const families = new Map<number, { id: number; name: string; styles: number }>();
    for (const sha256 of this.missing) {
      const style = this.uses.library.styleOfFile(sha256);
      const family = style && this.uses.library.family(style.familyId);
      if (!family) continue;
      const known = families.get(family.id) ?? { id: family.id, name: family.name, styles: 0 };
      families.set(family.id, { ...known, styles: known.styles + 1 });
    }
    if (families.size === 0) return null;
    const all = [...families.values()];
    const names = all.slice(0, MOST_NAMED).map(({ name }) => name);
    const named = all.length > MOST_NAMED ? [...names, `${all.length - MOST_NAMED} more`] : names;
    const styles = all.reduce((sum, one) => sum + one.styles, 0);
    return { sentence: `The files of ${count(styles, "style")} are gone from the library: ${listWords(named)}.`, families: all };
  }
  /** Of one family, as a sentence; empty when nothing is missing. */
  ofFamily(familyId: number): string {
    if (this.missing.size === 0) return "";
    const gone = this.uses.library.briefsOf(familyId).filter(({ sha256 }) => this.missing.has(sha256));
    if (gone.length === 0) return "";
    const names = listWords([...new Set(gone.map(({ brief }) => brief.fullName))].slice(0, MOST_NAMED));
    return `The files of ${count(gone.length, "style")} are gone from the library (${names}). Have them looked for on Today, or bring the download again.`;
  }

  /** Looks where the same bytes may lie: on devices, then in the downloads they came in. */
  async find(): Promise<{ sentence: string }> {
    await this.check();
    const wanted = [...this.missing];
    for (const sha256 of wanted) await this.fromDevices(sha256);
    const left: string[] = [];
    for (const sha256 of wanted) if (!(await this.uses.files.has(sha256))) left.push(sha256);
    const parcels = new Set(left.flatMap((sha256) => this.uses.documents.parcelsWith(sha256).map(({ id }) => id)));
    for (const id of parcels) await this.parcels.unpackAgain(id);
    await this.check();
    const found = wanted.length - this.missing.size;
    const rest = this.missing.size === 0 ? "" : ` ${count(this.missing.size, "file")} could not be found: bring their downloads again.`;
    return { sentence: `${count(found, "file")} found again.${rest}` };
  }
  private async fromDevices(sha256: string): Promise<void> {
    for (const { deviceId } of this.uses.observed.copiesOf(sha256)) {
      const bytes = await this.observer.bytesOf(deviceId, sha256).catch(() => undefined);
      // A device may hold something else there by now.
      if (!bytes || createHash("sha256").update(bytes).digest("hex") !== sha256) continue;
      const batch = this.uses.files.batch();
      try {
        await batch.put([bytes]);
        await batch.commit();
        return;
      } finally {
        await batch.drop();
      }
    }
  }
}
