// Files of the library that are gone: deleted, on a disk that is unplugged, or left behind when only the database was copied. Found out in the background
// and wherever one is wanted, told, and looked for where the same bytes may lie.
import { join } from "node:path";
import { othersFirst } from "../../../core/turns.ts";
import { count, listWords } from "../../../core/words/words.ts";
import type { Parts } from "../../parts.ts";
import type { WorkPool } from "../../work/pool.ts";
import type { Observer } from "../devices/observer.ts";
import type { ParcelService } from "../parcels/parcels.ts";

type Uses = Pick<Parts, "config" | "library" | "files" | "observed" | "documents" | "events">;
/** Files looked for between two pauses, and taken in at once. */
const TOGETHER = 64;
/** So many families are named. */
const MOST_NAMED = 4;

export class MissingFiles {
  private readonly uses: Uses;
  private readonly pool: Pick<WorkPool, "font">;
  private readonly observer: Pick<Observer, "sourcesOf">;
  private readonly parcels: Pick<ParcelService, "unpackAgain">;
  private missing: ReadonlySet<string> = new Set();
  /** What is missing, as a sentence; empty when nothing is. */
  private told = "";
  private looking: Promise<void> = Promise.resolve();
  private finding: Promise<{ sentence: string }> | undefined;
  constructor(uses: Uses, pool: MissingFiles["pool"], observer: MissingFiles["observer"], parcels: MissingFiles["parcels"]) {
    this.uses = uses;
    this.pool = pool;
    this.observer = observer;
    this.parcels = parcels;
  }

  /** Looks for every file the shelf needs, a few at a time. */
  check(): Promise<void> {
    return this.look(() => this.uses.library.shelvedFiles());
  }
  /** What was brought in may be what was missing. */
  async again(): Promise<void> {
    if (this.missing.size > 0) await this.look(() => [...this.missing]);
  }
  /** One look after the other. */
  private look(files: () => readonly string[]): Promise<void> {
    const work = async () => {
      const found = new Set<string>();
      for (const [i, sha256] of files().entries()) {
        if (i % TOGETHER === TOGETHER - 1) await othersFirst();
        if (!(await this.uses.files.has(sha256))) found.add(sha256);
      }
      const changed = found.size !== this.missing.size || [...found].some((one) => !this.missing.has(one));
      this.missing = found;
      if (!changed) return;
      this.told = await this.tell();
      this.uses.events.changed("families");
    };
    return (this.looking = this.looking.catch(() => {}).then(work));
  }
  private async tell(): Promise<string> {
    const styles = new Map<number, number>();
    for (const [i, sha256] of [...this.missing].entries()) {
      if (i % TOGETHER === TOGETHER - 1) await othersFirst();
      const familyId = this.uses.library.styleOfFile(sha256)?.familyId;
      if (familyId !== undefined) styles.set(familyId, (styles.get(familyId) ?? 0) + 1);
    }
    if (styles.size === 0) return "";
    const names = [...styles.keys()].slice(0, MOST_NAMED).map((id) => this.uses.library.family(id)?.name ?? "");
    const named = styles.size > MOST_NAMED ? [...names, `${styles.size - MOST_NAMED} more`] : names;
    const all = [...styles.values()].reduce((sum, one) => sum + one, 0);
    return `The files of ${count(all, "style")} are gone from the library: ${listWords(named)}.`;
  }

  /** What is missing, as a sentence; empty when nothing is. */
  sentence(): string {
    return this.told;
  }
  /** Of one family, as a sentence; empty when nothing is missing. */
  ofFamily(familyId: number): string {
    if (this.missing.size === 0) return "";
    const gone = this.uses.library.briefsOf(familyId).filter(({ sha256 }) => this.missing.has(sha256));
    if (gone.length === 0) return "";
    const names = listWords([...new Set(gone.map(({ brief }) => brief.fullName))].slice(0, MOST_NAMED));
    return `The files of ${count(gone.length, "style")} are gone from the library (${names}). Have them looked for on Today, or bring the download again.`;
  }

  /** Looks where the same bytes may lie: on devices, then in the downloads they came in. Whoever asks meanwhile gets the same answer. */
  find(): Promise<{ sentence: string }> {
    return (this.finding ??= this.search().finally(() => (this.finding = undefined)));
  }
  private async search(): Promise<{ sentence: string }> {
    await this.check();
    const wanted = this.missing.size;
    await this.fromDevices([...this.missing]);
    await this.again();
    const parcels = new Set<number>();
    for (const sha256 of this.missing) for (const { id } of this.uses.documents.parcelsWith(sha256)) parcels.add(id);
    for (const id of parcels) await this.parcels.unpackAgain(id);
    await this.again();
    const left = this.missing.size;
    const rest =
      left === 0 ? "" : ` ${count(left, "file")} could not be found: bring ${left === 1 ? "its download" : "their downloads"} again.`;
    return { sentence: `${count(wanted - left, "file")} found again.${rest}` };
  }
  private async fromDevices(wanted: readonly string[]): Promise<void> {
    const devices = new Set(wanted.flatMap((sha256) => this.uses.observed.copiesOf(sha256).map(({ deviceId }) => deviceId)));
    const filesDir = join(this.uses.config.dataDir, "files");
    for (const deviceId of devices) {
      // One that cannot be looked at holds nothing just now.
      const sources = await this.observer.sourcesOf(deviceId, wanted).catch(() => new Map<string, never>());
      const files = [...sources].map(([sha256, source]) => ({ sha256, source }));
      for (let i = 0; i < files.length; i += TOGETHER)
        await this.pool.font({ kind: "keep", files: files.slice(i, i + TOGETHER), filesDir });
    }
  }
}
