// Queries on devices, their programs and what they were observed to hold.
import type { DeviceKind, DeviceSort, Folder, Surprise } from "../../contract/device.ts";
import { ProgramTraits, type ProgramKind, type ProgramRequest } from "../../contract/program.ts";
import type { z } from "zod";
import type { Db } from "./database.ts";

export interface DeviceRow {
  id: number;
  slug: string;
  name: string;
  kind: DeviceKind;
  sort: DeviceSort;
  observedAt: string | null;
  removedAt: string | null;
}
export interface ProgramRow {
  id: number;
  deviceId: number;
  deviceName: string;
  slug: string;
  name: string;
  kind: ProgramKind;
  traits: ProgramTraits;
  openedAt: string | null;
  /** When somebody last said that it was updated. */
  updatedAt: string | null;
  /** Named by a person. */
  own: boolean;
}
export interface ObservedRow {
  deviceId: number;
  folder: Folder;
  fileName: string;
  sha256: string;
  on: boolean;
  visible: boolean;
  since: string;
  bytes: number;
}
export type SurpriseRow = Pick<Surprise, "id" | "how" | "folder" | "fileName" | "at"> & { sha256: string };

const PROGRAM_COLUMNS = `p.id, p.device_id AS deviceId, d.name AS deviceName, p.slug, p.name, p.kind, p.traits, p.opened_at AS openedAt, p.updated_at AS updatedAt, p.own
  FROM programs p JOIN devices d ON d.id = p.device_id`;
type RawProgram = Omit<ProgramRow, "traits" | "own"> & { traits: string; own: number };
const program = (row: RawProgram): ProgramRow => ({ ...row, own: row.own === 1, traits: ProgramTraits.parse(JSON.parse(row.traits)) });

const OBSERVED_COLUMNS = `SELECT device_id AS deviceId, folder, file_name AS fileName, sha256, is_on AS "on", is_visible AS visible, since, bytes
  FROM observed_fonts`;
type RawObserved = Omit<ObservedRow, "on" | "visible"> & { on: number; visible: number };
const observed = (row: RawObserved): ObservedRow => ({ ...row, on: row.on === 1, visible: row.visible === 1 });

export class DeviceStore {
  private readonly db: Db;
  /** Counts up with every change. */
  version = 0;
  private kept: { version: number; rows: ObservedRow[] } | undefined;
  constructor(db: Db) {
    this.db = db;
  }

  ensureDevice(slug: string, name: string, kind: DeviceKind, sort: DeviceSort): number {
    this.version++;
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
    this.version++;
    this.db.prepare("UPDATE devices SET removed_at = ? WHERE id = ?").run(at, id);
    if (at !== null) this.db.prepare("DELETE FROM observed_fonts WHERE device_id = ?").run(id);
  }
  ensureProgram(deviceId: number, slug: string, name: string, kind: string, traits: z.input<typeof ProgramTraits>): void {
    this.db
      .prepare(
        `INSERT INTO programs (device_id, slug, name, kind, traits) VALUES (?, ?, ?, ?, ?)
         ON CONFLICT (device_id, slug) DO UPDATE SET traits = excluded.traits`,
      )
      .run(deviceId, slug, name, kind, JSON.stringify(traits));
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
  programs(): ProgramRow[] {
    return (
      this.db
        .prepare(`SELECT ${PROGRAM_COLUMNS} WHERE d.removed_at IS NULL AND p.removed_at IS NULL ORDER BY p.device_id, p.id`)
        .all() as RawProgram[]
    ).map(program);
  }
  program(id: number): ProgramRow | undefined {
    const row = this.db.prepare(`SELECT ${PROGRAM_COLUMNS} WHERE p.id = ? AND p.removed_at IS NULL`).get(id) as RawProgram | undefined;
    return row && program(row);
  }
  /** Enters a program a person named, or changes it. Returns its number. */
  putProgram({ deviceId, name, kind, traits }: ProgramRequest, slug: string, id?: number): number {
    this.version++;
    if (id !== undefined) {
      this.db
        .prepare("UPDATE programs SET name = ?, kind = ?, traits = ? WHERE id = ? AND own = 1")
        .run(name, kind, JSON.stringify(traits), id);
      return id;
    }
    const { lastInsertRowid } = this.db
      .prepare("INSERT INTO programs (device_id, slug, name, kind, traits, own) VALUES (?, ?, ?, ?, ?, 1)")
      .run(deviceId, slug, name, kind, JSON.stringify(traits));
    return Number(lastInsertRowid);
  }
  removeProgram(id: number, at: string | null): void {
    this.version++;
    this.db.prepare("UPDATE programs SET removed_at = ? WHERE id = ? AND own = 1").run(at, id);
  }
  /** After an update it was closed and opened too. */
  setUpdated(programId: number, at: string): void {
    this.version++;
    this.db.prepare("UPDATE programs SET updated_at = ?, opened_at = ? WHERE id = ?").run(at, at, programId);
  }
  setOpened(programId: number, at: string): void {
    this.version++;
    this.db.prepare("UPDATE programs SET opened_at = ? WHERE id = ?").run(at, programId);
  }

  /** What all devices were seen to hold; kept until one of them changes. */
  observed(): readonly ObservedRow[] {
    if (this.kept?.version !== this.version) {
      this.kept = { version: this.version, rows: (this.db.prepare(OBSERVED_COLUMNS).all() as RawObserved[]).map(observed) };
    }
    return this.kept.rows;
  }
  observedOn(deviceId: number): ObservedRow[] {
    return (this.db.prepare(`${OBSERVED_COLUMNS} WHERE device_id = ?`).all(deviceId) as RawObserved[]).map(observed);
  }
  /** Replaces what is known of a device by what was just seen. Returns whether anything is different. */
  setObserved(deviceId: number, fonts: readonly Omit<ObservedRow, "deviceId">[], at: string): boolean {
    const asText = (row: Omit<ObservedRow, "deviceId">) =>
      [row.folder, row.fileName, row.sha256, row.on, row.visible, row.since, row.bytes].join();
    const before = new Set(this.observedOn(deviceId).map(asText));
    const same = before.size === fonts.length && fonts.every((row) => before.has(asText(row)));
    this.db.transaction(() => {
      this.db.prepare("UPDATE devices SET observed_at = ? WHERE id = ?").run(at, deviceId);
      if (same) return;
      this.version++;
      this.db.prepare("DELETE FROM observed_fonts WHERE device_id = ?").run(deviceId);
      const insert = this.db.prepare(
        `INSERT INTO observed_fonts (device_id, folder, file_name, sha256, is_on, is_visible, since, bytes) VALUES (?, ?, ?, ?, ?, ?, ?, ?)`,
      );
      for (const { folder, fileName, sha256, on, visible, since, bytes } of fonts)
        insert.run(deviceId, folder, fileName, sha256, Number(on), Number(visible), since, bytes);
    })();
    return !same;
  }

  addSurprises(deviceId: number, found: readonly Omit<SurpriseRow, "id" | "at">[], at: string): void {
    const insert = this.db.prepare("INSERT INTO surprises (device_id, how, folder, file_name, sha256, at) VALUES (?, ?, ?, ?, ?, ?)");
    this.db.transaction(() => {
      for (const one of found) insert.run(deviceId, one.how, one.folder, one.fileName, one.sha256, at);
    })();
  }
  /** What happened behind Buvano's back and was not looked at yet, latest first. */
  surprises(deviceId: number): SurpriseRow[] {
    return this.db
      .prepare(
        `SELECT id, how, folder, file_name AS fileName, sha256, at FROM surprises WHERE device_id = ? AND seen_at IS NULL ORDER BY id DESC LIMIT 500`,
      )
      .all(deviceId) as SurpriseRow[];
  }
  seeSurprises(deviceId: number, at: string): void {
    this.db.prepare("UPDATE surprises SET seen_at = ? WHERE device_id = ? AND seen_at IS NULL").run(at, deviceId);
  }
}
