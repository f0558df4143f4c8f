// Queries on devices, their programs and what they were observed to hold.
import type { ProgramKind, ProgramTraits } from "../../contract/program.ts";
import type { Db } from "./database.ts";

export interface DeviceRow {
  id: number;
  slug: string;
  name: string;
  kind: "laptop" | "desktop" | "tablet";
  observedAt: string | null;
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
}
export interface ObservedRow {
  deviceId: number;
  folder: "built-in" | "me" | "everyone";
  fileName: string;
  sha256: string;
  on: boolean;
  since: string;
}

const PROGRAM_COLUMNS = `p.id, p.device_id AS deviceId, d.name AS deviceName, p.slug, p.name, p.kind, p.traits, p.opened_at AS openedAt
  FROM programs p JOIN devices d ON d.id = p.device_id`;
type RawProgram = Omit<ProgramRow, "traits"> & { traits: string };
const program = (row: RawProgram): ProgramRow => ({ ...row, traits: JSON.parse(row.traits) as ProgramTraits });

export class DeviceStore {
  private readonly db: Db;
  /** Counts up with every change. */
  version = 0;
  constructor(db: Db) {
    this.db = db;
  }

  ensureDevice(slug: string, name: string, kind: string): number {
    this.db.prepare("INSERT INTO devices (slug, name, kind) VALUES (?, ?, ?) ON CONFLICT (slug) DO NOTHING").run(slug, name, kind);
    return this.db.prepare("SELECT id FROM devices WHERE slug = ?").pluck().get(slug) as number;
  }
  ensureProgram(deviceId: number, slug: string, name: string, kind: string, traits: ProgramTraits): void {
    this.db
      .prepare(
        `INSERT INTO programs (device_id, slug, name, kind, traits) VALUES (?, ?, ?, ?, ?)
         ON CONFLICT (device_id, slug) DO UPDATE SET traits = excluded.traits`,
      )
      .run(deviceId, slug, name, kind, JSON.stringify(traits));
  }

  devices(): DeviceRow[] {
    return this.db.prepare("SELECT id, slug, name, kind, observed_at AS observedAt FROM devices ORDER BY id").all() as DeviceRow[];
  }
  device(id: number): DeviceRow | undefined {
    return this.devices().find((device) => device.id === id);
  }
  programs(): ProgramRow[] {
    return (this.db.prepare(`SELECT ${PROGRAM_COLUMNS} ORDER BY p.device_id, p.id`).all() as RawProgram[]).map(program);
  }
  program(id: number): ProgramRow | undefined {
    const row = this.db.prepare(`SELECT ${PROGRAM_COLUMNS} WHERE p.id = ?`).get(id) as RawProgram | undefined;
    return row && program(row);
  }
  setOpened(programId: number, at: string): void {
    this.version++;
    this.db.prepare("UPDATE programs SET opened_at = ? WHERE id = ?").run(at, programId);
  }

  observed(): ObservedRow[] {
    const rows = this.db
      .prepare(`SELECT device_id AS deviceId, folder, file_name AS fileName, sha256, is_on AS "on", since FROM observed_fonts`)
      .all() as (Omit<ObservedRow, "on"> & { on: number })[];
    return rows.map((row) => ({ ...row, on: row.on === 1 }));
  }
  observedOn(deviceId: number): ObservedRow[] {
    return this.observed().filter((row) => row.deviceId === deviceId);
  }
  /** Replaces what is known of a device by what was just seen. */
  setObserved(deviceId: number, fonts: readonly Omit<ObservedRow, "deviceId">[], at: string): void {
    const before = this.observedOn(deviceId)
      .map((row) => [row.folder, row.fileName, row.sha256, row.on, row.since].join())
      .sort();
    const after = fonts.map((row) => [row.folder, row.fileName, row.sha256, row.on, row.since].join()).sort();
    if (before.join("\n") !== after.join("\n")) this.version++;
    this.db.transaction(() => {
      this.db.prepare("DELETE FROM observed_fonts WHERE device_id = ?").run(deviceId);
      const insert = this.db.prepare(
        "INSERT INTO observed_fonts (device_id, folder, file_name, sha256, is_on, since) VALUES (?, ?, ?, ?, ?, ?)",
      );
      for (const font of fonts) insert.run(deviceId, font.folder, font.fileName, font.sha256, Number(font.on), font.since);
      this.db.prepare("UPDATE devices SET observed_at = ? WHERE id = ?").run(at, deviceId);
    })();
  }
}
