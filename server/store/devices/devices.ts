// Queries on devices.
import type { ObservedStore } from "./observed.ts";
import type { ProgramStore } from "./programs.ts";
import type { DeviceKind, DeviceSort } from "../../../contract/devices.ts";
import type { Db } from "../database.ts";

export interface DeviceRow {
  id: number;
  slug: string;
  name: string;
  kind: DeviceKind;
  sort: DeviceSort;
  observedAt: string | null;
  removedAt: string | null;
}
export class DeviceStore {
  private readonly db: Db;
  private readonly programs: ProgramStore;
  private readonly observed: ObservedStore;
  constructor(db: Db, programs: ProgramStore, observed: ObservedStore) {
    this.db = db;
    this.programs = programs;
    this.observed = observed;
  }

  ensureDevice(slug: string, name: string, kind: DeviceKind, sort: DeviceSort): number {
    this.programs.forgetListed();
    this.db
      .prepare(
        `INSERT INTO devices (slug, name, kind, sort) VALUES (?, ?, ?, ?)
         ON CONFLICT (slug) DO UPDATE SET removed_at = NULL, name = excluded.name`,
      )
      .run(slug, name, kind, sort);
    return this.db.prepare("SELECT id FROM devices WHERE slug = ?").pluck().get(slug) as number;
  }
  /** Takes a device out of the lists, or back into them; what was seen on it stays known. */
  setRemoved(id: number, at: string | null): void {
    this.programs.forgetListed();
    this.db.prepare("UPDATE devices SET removed_at = ? WHERE id = ?").run(at, id);
    if (at !== null) this.observed.forget(id);
  }

  /** Devices in the lists. */
  devices(): DeviceRow[] {
    return this.db
      .prepare(
        `SELECT id, slug, name, kind, sort, observed_at AS observedAt, removed_at AS removedAt FROM devices
         WHERE removed_at IS NULL ORDER BY CASE sort WHEN 'computer' THEN 0 WHEN 'paired' THEN 1 ELSE 2 END, id`,
      )
      .all() as DeviceRow[];
  }
  device(id: number): DeviceRow | undefined {
    return this.devices().find((device) => device.id === id);
  }
  setLookedAt(deviceId: number, at: string): void {
    this.db.prepare("UPDATE devices SET observed_at = ? WHERE id = ?").run(at, deviceId);
  }
}
