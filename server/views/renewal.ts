// Renews stale rows of views, a few milliseconds at a time, so that the server answers in between. Whoever changed something may wait
// until what it changed is fresh.
import { diskFault } from "../../core/disk/faults.ts";
import type { Parts } from "../parts.ts";
import { derived } from "../store/database.ts";
import type { FamilyView } from "../store/views/families.ts";
import type { DeviceViews } from "./devices.ts";
import type { FamilyViews } from "./families.ts";
import type { ParcelViews } from "./parcels.ts";

/** So long one slice of work may hold the thread. */
const SLICE_MS = 6;
/** After a fault of the disk it is tried again so much later. */
const AGAIN_MS = 500;

/** One row being renewed, and how its mark is taken away when that fails. */
interface Work {
  steps: Generator<void>;
  giveUp: () => void;
}

export class Renewal {
  private readonly uses: Pick<Parts, "db" | "familyViews" | "disk" | "stale">;
  private readonly families: FamilyViews;
  private readonly parcels: ParcelViews;
  private readonly devices: DeviceViews;
  private current: Work | undefined;
  private scheduled = false;
  private closed = false;
  private waiting: (() => void)[] = [];
  private readonly faults = new Set<string>();

  constructor(
    uses: Pick<Parts, "db" | "familyViews" | "disk" | "stale">,
    families: FamilyViews,
    parcels: ParcelViews,
    devices: DeviceViews,
  ) {
    this.uses = uses;
    this.families = families;
    this.parcels = parcels;
    this.devices = devices;
  }

  /** The next piece of work; undefined when every row is fresh. */
  private next(): Work | undefined {
    const { stale } = this.uses;
    // Names first: what they find out may concern families.
    const name = stale.staleName();
    if (name) return { steps: this.devices.renew(name), giveUp: () => stale.settle("name", name.nameKey, name.seq) };
    const family = stale.staleFamily();
    if (family) return { steps: this.families.renew(family), giveUp: () => stale.settle("family", family.familyId, family.seq) };
    const parcel = stale.staleParcel();
    return parcel && { steps: this.parcels.renew(parcel), giveUp: () => stale.settle("parcel", parcel.parcelId, parcel.seq) };
  }

  /** Looks whether something is stale, and sees to it that it is renewed. */
  poke(): void {
    if (this.scheduled || this.closed) return;
    if (this.current === undefined && this.uses.stale.isFresh()) return this.done();
    this.scheduled = true;
    setImmediate(() => this.slice());
  }

  private slice(): void {
    this.scheduled = false;
    if (this.closed) return;
    const until = performance.now() + SLICE_MS;
    try {
      derived(this.uses.db, () => {
        do {
          this.current ??= this.next();
          if (!this.current) return;
          if (this.step(this.current)) this.current = undefined;
        } while (performance.now() < until);
      });
    } catch (error) {
      if (!this.uses.disk.report(error)) throw error;
      // What this slice wrote is undone; its row is begun anew. Whoever waits sees what is there.
      this.current = undefined;
      this.done();
      setTimeout(() => this.poke(), AGAIN_MS).unref();
      return;
    }
    this.poke();
  }
  /** Goes on with a piece of work; whether it is at its end. A row that cannot be renewed must not stop the others. */
  private step({ steps, giveUp }: Work): boolean {
    try {
      return steps.next().done === true;
    } catch (error) {
      if (diskFault(error)) throw error;
      // One fault may concern thousands of rows; it is told once.
      const words = error instanceof Error ? (error.stack ?? error.message) : String(error);
      if (!this.faults.has(words)) process.stderr.write(`A row could not be renewed: ${words}\n`);
      this.faults.add(words);
      giveUp();
      return true;
    }
  }
  private done(): void {
    for (const tell of this.waiting.splice(0)) tell();
  }

  /** Resolves once every row is fresh, or after `mostMs`; to whether it is. */
  settle(mostMs = Infinity): Promise<boolean> {
    if (this.closed || (this.current === undefined && this.uses.stale.isFresh())) return Promise.resolve(true);
    return new Promise((resolve) => {
      const timer = mostMs === Infinity ? undefined : setTimeout(() => resolve(false), mostMs);
      this.waiting.push(() => {
        clearTimeout(timer);
        resolve(true);
      });
      this.poke();
    });
  }

  /** Renews one row now, if it is stale: for whoever is about to read that one. */
  freshen(what: "family" | "parcel", id: number): void {
    const { stale } = this.uses;
    const family = what === "family" ? stale.staleFamily(id) : undefined;
    const parcel = what === "parcel" ? stale.staleParcel(id) : undefined;
    const work = family ? this.families.renew(family) : parcel ? this.parcels.renew(parcel) : undefined;
    if (!work) return;
    try {
      derived(this.uses.db, () => void [...work]);
    } catch (error) {
      // Where nothing can be written the row is read as it stands.
      if (!this.uses.disk.report(error)) throw error;
    }
  }

  /** One family's row, fresh; undefined when it has none. */
  family(id: number): FamilyView | undefined {
    this.freshen("family", id);
    return this.uses.familyViews.family(id);
  }

  close(): void {
    this.closed = true;
    this.done();
  }
}
