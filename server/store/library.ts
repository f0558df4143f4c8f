// Queries on faces (facts from bytes), and on the families and styles of the library.
import { RECORD_VERSION, type Inspection } from "../../core/inspect.ts";
import { familyKey } from "../../core/family/group.ts";
import type { Db } from "./database.ts";

export interface FaceRow {
  sha256: string;
  face: number;
  bytes: number;
  record: Inspection;
}
export interface StyleRow extends FaceRow {
  id: number;
  familyId: number;
  fileName: string;
  shelvedAt: string;
}
export interface FamilyRow {
  id: number;
  name: string;
  pinned: boolean;
}

const MOST_RECENT = 500;

/** What older readers did not look for, until the font can be read again. */
const NEUTRAL: Partial<Inspection> = {
  advances: [],
  instances: [],
  axisValues: [],
  colour: [],
  styleWords: { rest: [] },
  opticalPt: null,
  capitals: "none",
  otherNames: [],
  stated: { copyright: "", trademark: "", licence: "", licenceUrl: "", fsType: 0, os2Version: 0 },
};

type Raw<T> = Omit<T, "record"> & { record: string };
const parsed = <T extends { record: Inspection }>(row: Raw<T>): T =>
  ({ ...row, record: { ...NEUTRAL, ...(JSON.parse(row.record) as Inspection) } }) as unknown as T;

const STYLE_COLUMNS = `s.id, s.family_id AS familyId, s.file_name AS fileName, s.shelved_at AS shelvedAt,
  f.sha256, f.face, f.bytes, f.record FROM styles s JOIN faces f ON f.sha256 = s.sha256 AND f.face = s.face`;

export class LibraryStore {
  private readonly db: Db;
  /** Counts up with every change, so that what is computed from the shelf can be kept until then. */
  version = 0;
  private changed: Set<number> | "all" = "all";
  /** Faces looked at lately, by file: a parcel's are asked for several times in a row. */
  private readonly recent = new Map<string, FaceRow[]>();
  constructor(db: Db) {
    this.db = db;
  }

  private touch(...familyIds: number[]): void {
    this.version++;
    if (this.changed !== "all") for (const id of familyIds) this.changed.add(id);
  }
  /** Families that changed since this was last asked; the shelf in memory is the one who asks. */
  takeChanged(): ReadonlySet<number> | "all" {
    const changed = this.changed;
    this.changed = new Set();
    return changed;
  }
  /** After records were made anew. */
  everythingChanged(): void {
    this.version++;
    this.changed = "all";
  }

  /** Remembers what is known of a file's faces; a record made by an older reader is replaced. */
  addFaces(sha256: string, bytes: number, faces: readonly Inspection[]): void {
    this.recent.delete(sha256);
    const insert = this.db.prepare(
      `INSERT INTO faces (sha256, face, family, style, legacy_family, legacy_style, full_name, postscript_name, weight, width, italic,
        codepoints, container, bytes, verdict, record, record_version) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)
       ON CONFLICT (sha256, face) DO UPDATE SET record = excluded.record, record_version = excluded.record_version,
        verdict = excluded.verdict WHERE excluded.record_version > record_version`,
    );
    for (const one of faces) {
      insert.run(
        sha256,
        one.face,
        one.family,
        one.style,
        one.legacyFamily,
        one.legacyStyle,
        one.fullName,
        one.postScriptName,
        one.weight,
        one.width,
        Number(one.italic),
        one.codepoints,
        one.container,
        bytes,
        one.verdict,
        JSON.stringify(one),
        one.recordVersion,
      );
    }
  }
  /** Files whose records were made by an older reader. */
  outdatedFiles(): { sha256: string; bytes: number }[] {
    return this.db.prepare("SELECT DISTINCT sha256, bytes FROM faces WHERE record_version < ?").all(RECORD_VERSION) as {
      sha256: string;
      bytes: number;
    }[];
  }

  facesOf(sha256: string): FaceRow[] {
    const known = this.recent.get(sha256);
    if (known) return known;
    const rows = (
      this.db.prepare("SELECT sha256, face, bytes, record FROM faces WHERE sha256 = ? ORDER BY face").all(sha256) as Raw<FaceRow>[]
    ).map((row) => parsed<FaceRow>(row));
    if (this.recent.size >= MOST_RECENT) this.recent.delete(this.recent.keys().next().value!);
    this.recent.set(sha256, rows);
    return rows;
  }
  /** Whether a file's faces are known to today's reader. */
  knowsFile(sha256: string): boolean {
    return (
      this.db.prepare("SELECT 1 FROM faces WHERE sha256 = ? AND record_version >= ? LIMIT 1").get(sha256, RECORD_VERSION) !== undefined
    );
  }
  isShelved(sha256: string, face: number): boolean {
    return this.db.prepare("SELECT 1 FROM styles WHERE sha256 = ? AND face = ?").get(sha256, face) !== undefined;
  }
  /** The family a name is filed under: its own, or the one a person said it means. */
  private familyNamed(name: string): number {
    const key = familyKey(name);
    const joined = this.db.prepare("SELECT family_id FROM family_spellings WHERE key = ?").pluck().get(key) as number | undefined;
    if (joined !== undefined) return joined;
    this.db.prepare("INSERT INTO families (key, name) VALUES (?, ?) ON CONFLICT (key) DO NOTHING").run(key, name);
    return this.db.prepare("SELECT id FROM families WHERE key = ?").pluck().get(key) as number;
  }

  /** Puts one face on the shelf; returns its family, and whether it was new there. */
  shelve(face: FaceRow, parcelId: number, fileName: string, at: string): { familyId: number; added: boolean } {
    const familyId = this.familyNamed(face.record.family);
    this.touch(familyId);
    const { changes } = this.db
      .prepare(
        `INSERT INTO styles (family_id, sha256, face, parcel_id, file_name, shelved_at) VALUES (?, ?, ?, ?, ?, ?)
         ON CONFLICT (sha256, face) DO NOTHING`,
      )
      .run(familyId, face.sha256, face.face, parcelId, fileName, at);
    return { familyId, added: changes > 0 };
  }

  /** Files one family's styles under another from now on. */
  join(familyId: number, intoId: number): void {
    this.touch(familyId, intoId);
    this.db
      .prepare("INSERT OR REPLACE INTO family_spellings (key, name, family_id) SELECT key, name, ? FROM families WHERE id = ?")
      .run(intoId, familyId);
    this.db.prepare("UPDATE family_spellings SET family_id = ? WHERE family_id = ?").run(intoId, familyId);
    this.db.prepare("UPDATE styles SET family_id = ? WHERE family_id = ?").run(intoId, familyId);
    this.db
      .prepare(
        "INSERT OR IGNORE INTO history_families (history_id, family_id) SELECT history_id, ? FROM history_families WHERE family_id = ?",
      )
      .run(intoId, familyId);
    for (const table of ["corrections", "licences"])
      this.db.prepare(`UPDATE ${table} SET family_id = ? WHERE family_id = ?`).run(intoId, familyId);
    this.db.prepare("UPDATE OR IGNORE job_families SET family_id = ? WHERE family_id = ?").run(intoId, familyId);
    this.db.prepare("DELETE FROM families WHERE id = ?").run(familyId);
  }
  /** Takes a spelling apart from the family it was joined to; returns the family it is filed under again. */
  part(key: string): number | undefined {
    const row = this.db.prepare("SELECT name, family_id AS familyId FROM family_spellings WHERE key = ?").get(key) as
      { name: string; familyId: number } | undefined;
    if (!row) return undefined;
    this.db.prepare("DELETE FROM family_spellings WHERE key = ?").run(key);
    const own = this.familyNamed(row.name);
    this.touch(own, row.familyId);
    for (const style of this.stylesOf(row.familyId))
      if (familyKey(style.record.family) === key) this.db.prepare("UPDATE styles SET family_id = ? WHERE id = ?").run(own, style.id);
    return own;
  }
  /** Other spellings filed under a family. */
  spellings(familyId: number): { key: string; name: string }[] {
    return this.db.prepare("SELECT key, name FROM family_spellings WHERE family_id = ? ORDER BY key").all(familyId) as {
      key: string;
      name: string;
    }[];
  }
  setPinned(familyId: number, pinned: boolean): void {
    this.touch(familyId);
    this.db.prepare("UPDATE families SET pinned = ? WHERE id = ?").run(Number(pinned), familyId);
  }

  /** Families with at least one style. */
  families(): FamilyRow[] {
    return (
      this.db
        .prepare("SELECT id, name, pinned FROM families f WHERE EXISTS (SELECT 1 FROM styles s WHERE s.family_id = f.id) ORDER BY key")
        .all() as (Omit<FamilyRow, "pinned"> & { pinned: number })[]
    ).map((row) => ({ ...row, pinned: row.pinned === 1 }));
  }
  family(id: number): FamilyRow | undefined {
    const row = this.db.prepare("SELECT id, name, pinned FROM families WHERE id = ?").get(id) as
      (Omit<FamilyRow, "pinned"> & { pinned: number }) | undefined;
    return row && { ...row, pinned: row.pinned === 1 };
  }
  allStyles(): StyleRow[] {
    return (this.db.prepare(`SELECT ${STYLE_COLUMNS} ORDER BY s.id`).all() as Raw<StyleRow>[]).map((row) => parsed<StyleRow>(row));
  }
  stylesOf(familyId: number): StyleRow[] {
    return (this.db.prepare(`SELECT ${STYLE_COLUMNS} WHERE s.family_id = ? ORDER BY s.id`).all(familyId) as Raw<StyleRow>[]).map((row) =>
      parsed<StyleRow>(row),
    );
  }
  /** Styles that came in the same parcels as a family's, its own included; the first few hundred. */
  stylesBeside(familyId: number): StyleRow[] {
    const rows = this.db
      .prepare(
        `SELECT ${STYLE_COLUMNS} WHERE s.family_id = ? OR s.parcel_id IN (SELECT parcel_id FROM styles WHERE family_id = ?) ORDER BY s.id LIMIT 300`,
      )
      .all(familyId, familyId) as Raw<StyleRow>[];
    return rows.map((row) => parsed<StyleRow>(row));
  }
  /** Styles on the shelf that claim a family and style name. */
  stylesNamed(family: string, style: string): StyleRow[] {
    const named = this.db.prepare(
      `SELECT ${STYLE_COLUMNS} JOIN families a ON a.id = s.family_id WHERE a.key = ? AND lower(f.style) = lower(?) ORDER BY s.id`,
    );
    return (named.all(familyKey(family), style) as Raw<StyleRow>[]).map((row) => parsed<StyleRow>(row));
  }
  style(id: number): StyleRow | undefined {
    const row = this.db.prepare(`SELECT ${STYLE_COLUMNS} WHERE s.id = ?`).get(id) as Raw<StyleRow> | undefined;
    return row && parsed<StyleRow>(row);
  }
  /** The first style on the shelf that lies in a file. */
  styleOfFile(sha256: string): { id: number; familyId: number } | undefined {
    return this.db.prepare("SELECT id, family_id AS familyId FROM styles WHERE sha256 = ? ORDER BY face LIMIT 1").get(sha256) as
      { id: number; familyId: number } | undefined;
  }
  /** Digests of all files the shelf needs. */
  shelvedFiles(): string[] {
    return this.db.prepare("SELECT DISTINCT sha256 FROM styles").pluck().all() as string[];
  }
}
