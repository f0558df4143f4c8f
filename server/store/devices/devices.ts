// Queries on devices, their programs and what they were observed to hold.
import type { DeviceKind, DeviceSort, Folder, Surprise } from "../../../contract/devices.ts";
import { ProgramTraits, type ProgramKind, type ProgramRequest } from "../../../contract/programs.ts";
import type { z } from "zod";
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
/** A font as a look finds it. */
export type SeenFont = Omit<ObservedRow, "deviceId">;
export type SurpriseRow = Pick<Surprise, "id" | "how" | "folder" | "fileName" | "at"> & { sha256: string };

const PROGRAM_COLUMNS = `p.id, p.device_id AS deviceId, d.name AS deviceName, p.slug, p.name, p.kind, p.traits, p.opened_at AS openedAt, p.updated_at AS updatedAt, p.own
  FROM programs p JOIN devices d ON d.id = p.device_id`;
type RawProgram = Omit<ProgramRow, "traits" | "own"> & { traits: string; own: number };
function program(row: RawProgram): ProgramRow {
  const traits = JSON.parse(row.traits) as z.input<typeof ProgramTraits>;
  // Browsers described before it was asked: files loaded into one are held to more than fonts installed beside it.
  const strict = row.kind === "browser" && traits.readsWhen === "by-hand";
  return { ...row, own: row.own === 1, traits: ProgramTraits.parse({ strict, ...traits }) };
}

const OBSERVED_COLUMNS = `SELECT device_id AS deviceId, folder, file_name AS fileName, sha256, is_on AS "on", is_visible AS visible, since, bytes
  FROM observed_fonts`;
type RawObserved = Omit<ObservedRow, "on" | "visible"> & { on: number; visible: number };
const observed = (row: RawObserved): ObservedRow => ({ ...row, on: row.on === 1, visible: row.visible === 1 });

export class DeviceStore {
  private readonly db: Db;
  /** Counts up, by device, whenever what it holds changes. */
  private readonly stamps = new Map<number, number>();
  /** Programs' traits are checked once for each change of a program. */
  private listed: ProgramRow[] | undefined;
  constructor(db: Db) {
    this.db = db;
  }

  ensureDevice(slug: string, name: string, kind: DeviceKind, sort: DeviceSort): number {
    this.listed = undefined;
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
    this.listed = undefined;
    this.db.prepare("UPDATE devices SET removed_at = ? WHERE id = ?").run(at, id);
    if (at !== null) this.db.prepare("DELETE FROM observed_fonts WHERE device_id = ?").run(id);
  }
  ensureProgram(deviceId: number, slug: string, name: string, kind: string, traits: z.input<typeof ProgramTraits>): void {
    this.listed = undefined;
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
  programs(): readonly ProgramRow[] {
    this.listed ??= (
      this.db
        .prepare(`SELECT ${PROGRAM_COLUMNS} WHERE d.removed_at IS NULL AND p.removed_at IS NULL ORDER BY p.device_id, p.id`)
        .all() as RawProgram[]
    ).map(program);
    return this.listed;
  }
  program(id: number): ProgramRow | undefined {
    const row = this.db.prepare(`SELECT ${PROGRAM_COLUMNS} WHERE p.id = ? AND p.removed_at IS NULL`).get(id) as RawProgram | undefined;
    return row && program(row);
  }
  /** The name a face was found under in a program by hand; undefined where nobody said. */
  learntName(programId: number, sha256: string, face: number): string | undefined {
    return this.db
      .prepare("SELECT name FROM learnt_names WHERE program_id = ? AND sha256 = ? AND face = ?")
      .pluck()
      .get(programId, sha256, face) as string | undefined;
  }
  /** Remembers a name, or forgets it (null). */
  learnName(programId: number, sha256: string, face: number, name: string | null): void {
    this.learnt++;
    if (name === null)
      this.db.prepare("DELETE FROM learnt_names WHERE program_id = ? AND sha256 = ? AND face = ?").run(programId, sha256, face);
    else
      this.db
        .prepare(
          `INSERT INTO learnt_names (program_id, sha256, face, name) VALUES (?, ?, ?, ?)
           ON CONFLICT (program_id, sha256, face) DO UPDATE SET name = excluded.name`,
        )
        .run(programId, sha256, face, name);
  }
  /** Counts up whenever a name is learnt or forgotten. */
  learnt = 0;
  isProgramRemoved(id: number): boolean {
    return this.db.prepare("SELECT 1 FROM programs WHERE id = ? AND removed_at IS NOT NULL").get(id) !== undefined;
  }
  /** Enters a program a person named, or changes it. Returns its number. */
  putProgram({ deviceId, name, kind, traits }: ProgramRequest, slug: string, id?: number): number {
    this.listed = undefined;
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
    this.listed = undefined;
    this.db.prepare("UPDATE programs SET removed_at = ? WHERE id = ? AND own = 1").run(at, id);
  }
  /** After an update it was closed and opened too. */
  setUpdated(programId: number, at: string): void {
    this.listed = undefined;
    this.db.prepare("UPDATE programs SET updated_at = ?, opened_at = ? WHERE id = ?").run(at, at, programId);
  }
  setOpened(programId: number, at: string): void {
    this.listed = undefined;
    this.db.prepare("UPDATE programs SET opened_at = ? WHERE id = ?").run(at, programId);
  }

  /** Every copy of a file that devices were seen to hold. */
  copiesOf(sha256: string): ObservedRow[] {
    return (this.db.prepare(`${OBSERVED_COLUMNS} WHERE sha256 = ?`).all(sha256) as RawObserved[]).map(observed);
  }
  /** Files on a device whose faces claim a family's and style's name. */
  claimantsOn(deviceId: number, familyKey: string, styleKey: string): ObservedRow[] {
    const rows = this.db.prepare(
      `${OBSERVED_COLUMNS} WHERE device_id = ? AND sha256 IN (SELECT sha256 FROM faces WHERE family_key = ? AND style_key = ?)`,
    );
    return (rows.all(deviceId, familyKey, styleKey) as RawObserved[]).map(observed);
  }
  /** Files on any device with a face that claims a family's name. */
  claimants(familyKey: string): ObservedRow[] {
    const rows = this.db.prepare(`${OBSERVED_COLUMNS} WHERE sha256 IN (SELECT sha256 FROM faces WHERE family_key = ?)`);
    return (rows.all(familyKey) as RawObserved[]).map(observed);
  }
  /** The families and styles that fonts placed and on claim, each once, with how the family is written. */
  claimsOn(deviceId: number): Map<string, string> {
    const rows = this.db
      .prepare(
        `SELECT f.family_key || char(10) || f.style_key AS key, f.family FROM observed_fonts o JOIN faces f ON f.sha256 = o.sha256
         WHERE o.device_id = ? AND o.is_on = 1 AND o.folder IN ('me', 'everyone', 'profile')`,
      )
      .all(deviceId) as { key: string; family: string }[];
    return new Map(rows.map(({ key, family }) => [key, family]));
  }
  /** Files on any device that nobody can read. */
  unreadable(): ObservedRow[] {
    const rows = this.db.prepare(`${OBSERVED_COLUMNS} WHERE NOT EXISTS (SELECT 1 FROM faces f WHERE f.sha256 = observed_fonts.sha256)`);
    return (rows.all() as RawObserved[]).map(observed);
  }
  /** Files on a device that are one of some, by their sums. */
  observedAmong(deviceId: number, sums: Iterable<string>): ObservedRow[] {
    const rows = this.db.prepare(`${OBSERVED_COLUMNS} WHERE device_id = ? AND sha256 = ?`);
    return [...new Set(sums)].flatMap((sum) => (rows.all(deviceId, sum) as RawObserved[]).map(observed));
  }
  /** How many fonts were placed on a device. */
  placedCount(deviceId: number): number {
    return this.db
      .prepare("SELECT count(*) FROM observed_fonts WHERE device_id = ? AND folder IN ('me', 'everyone', 'profile')")
      .pluck()
      .get(deviceId) as number;
  }
  /** The devices on which files of a family were placed. */
  devicesOf(familyId: number, onlyOn = false): number[] {
    return this.db
      .prepare(
        `SELECT DISTINCT o.device_id FROM styles s JOIN observed_fonts o ON o.sha256 = s.sha256
         WHERE s.family_id = ? AND o.folder <> 'built-in' AND (o.is_on = 1 OR ? = 0) ORDER BY 1`,
      )
      .pluck()
      .all(familyId, Number(onlyOn)) as number[];
  }
  /** How many fonts are placed on all devices together. */
  placedEverywhere(): number {
    return this.db.prepare("SELECT count(*) FROM observed_fonts WHERE folder IN ('me', 'everyone', 'profile')").pluck().get() as number;
  }
  /** How many files of several families each device holds, on and off. */
  filesOf(familyIds: readonly number[]): { deviceId: number; on: number; off: number }[] {
    return this.db
      .prepare(
        `SELECT device_id AS deviceId, sum(is_on) AS "on", sum(1 - is_on) AS off FROM (
           SELECT DISTINCT o.device_id, o.folder, o.file_name, o.is_on FROM styles s JOIN observed_fonts o ON o.sha256 = s.sha256
           WHERE s.family_id IN (SELECT value FROM json_each(?)) AND o.folder IN ('me', 'everyone', 'profile')) GROUP BY device_id`,
      )
      .all(JSON.stringify(familyIds)) as { deviceId: number; on: number; off: number }[];
  }
  /** The next rows of a device in order of where they lie, after one. */
  observedAfter(deviceId: number, after: Pick<ObservedRow, "folder" | "fileName"> | undefined, most: number): ObservedRow[] {
    const rows = this.db.prepare(
      `${OBSERVED_COLUMNS} WHERE device_id = ? AND (folder, file_name) > (?, ?) ORDER BY folder, file_name LIMIT ?`,
    );
    return (rows.all(deviceId, after?.folder ?? "", after?.fileName ?? "", most) as RawObserved[]).map(observed);
  }
  observedOn(deviceId: number): ObservedRow[] {
    return (this.db.prepare(`${OBSERVED_COLUMNS} WHERE device_id = ?`).all(deviceId) as RawObserved[]).map(observed);
  }
  stampOf(deviceId: number): number {
    return this.stamps.get(deviceId) ?? 0;
  }
  /** Enters a part of such differences. */
  enter(deviceId: number, gone: readonly SeenFont[], put: readonly SeenFont[]): void {
    this.stamps.set(deviceId, this.stampOf(deviceId) + 1);
    const remove = this.db.prepare("DELETE FROM observed_fonts WHERE device_id = ? AND folder = ? AND file_name = ?");
    const insert = this.db.prepare(
      `INSERT INTO observed_fonts (device_id, folder, file_name, sha256, is_on, is_visible, since, bytes) VALUES (?, ?, ?, ?, ?, ?, ?, ?)
       ON CONFLICT (device_id, folder, file_name) DO UPDATE SET sha256 = excluded.sha256, is_on = excluded.is_on,
         is_visible = excluded.is_visible, since = excluded.since, bytes = excluded.bytes`,
    );
    this.db.transaction(() => {
      for (const row of gone) remove.run(deviceId, row.folder, row.fileName);
      for (const { folder, fileName, sha256, on, visible, since, bytes } of put)
        insert.run(deviceId, folder, fileName, sha256, Number(on), Number(visible), since, bytes);
    })();
  }
  setLookedAt(deviceId: number, at: string): void {
    this.db.prepare("UPDATE devices SET observed_at = ? WHERE id = ?").run(at, deviceId);
  }

  addSurprises(deviceId: number, found: readonly (Omit<SurpriseRow, "id" | "at"> & { was: string })[], at: string): void {
    const insert = this.db.prepare(
      "INSERT INTO surprises (device_id, how, folder, file_name, sha256, was, at) VALUES (?, ?, ?, ?, ?, ?, ?)",
    );
    this.db.transaction(() => {
      for (const one of found) insert.run(deviceId, one.how, one.folder, one.fileName, one.sha256, one.was, at);
    })();
  }
  /** What happened behind Buvano's back and was not looked at yet, latest first. */
  surprises(deviceId: number, most: number): SurpriseRow[] {
    return this.db
      .prepare(
        `SELECT id, how, folder, file_name AS fileName, sha256, at FROM surprises WHERE device_id = ? AND seen_at IS NULL ORDER BY id DESC LIMIT ?`,
      )
      .all(deviceId, most) as SurpriseRow[];
  }
  /** The latest change nobody made by Buvano to a file on a device; undefined when there is none since `since`. */
  surpriseOf(deviceId: number, sha256: string, since: string): SurpriseRow | undefined {
    return this.db
      .prepare(
        `SELECT id, how, folder, file_name AS fileName, sha256, at FROM surprises
         WHERE device_id = ? AND at >= ? AND ((sha256 = ? AND how <> 'changed') OR was = ?) ORDER BY id DESC LIMIT 1`,
      )
      .get(deviceId, since, sha256, sha256) as SurpriseRow | undefined;
  }
  surpriseCount(deviceId: number): number {
    return this.db.prepare("SELECT count(*) FROM surprises WHERE device_id = ? AND seen_at IS NULL").pluck().get(deviceId) as number;
  }
  seeSurprises(deviceId: number, at: string): void {
    this.db.prepare("UPDATE surprises SET seen_at = ? WHERE device_id = ? AND seen_at IS NULL").run(at, deviceId);
  }
}
