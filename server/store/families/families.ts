// Queries on faces (facts from bytes), and on the families and styles of the library.
import type { Brief } from "../../../core/family/brief.ts";
import { familyKey } from "../../../core/family/group.ts";
import { compareNamesakes } from "../../../core/family/kinship.ts";
import { joinFamilies, partFamilies } from "./joins.ts";
import { RECORD_VERSION, type Inspection } from "../../../core/inspect.ts";
import type { Claim } from "../../../core/placing/files.ts";
import type { Db } from "../database.ts";
import { faceFacts, parseRecord, putFaces, type FaceFacts } from "./faces.ts";

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
/** A face with what lists need of its record. */
export interface BriefRow {
  sha256: string;
  face: number;
  bytes: number;
  brief: Brief;
}
export interface StyleBrief extends BriefRow {
  id: number;
  familyId: number;
  fileName: string;
}
export interface FamilyRow {
  id: number;
  name: string;
  pinned: boolean;
}

const MOST_RECENT = 500;

type Raw<T> = Omit<T, "record"> & { record: string };
const parsed = <T extends { record: Inspection }>(row: Raw<T>): T => ({ ...row, record: parseRecord(row.record) }) as unknown as T;

type RawBrief<T extends BriefRow> = Omit<T, "brief"> & { brief: string };
const briefed = <T extends BriefRow>(row: RawBrief<T>): BriefRow => ({ ...row, brief: JSON.parse(row.brief) as Brief });
const BRIEF_COLUMNS = `s.id, s.family_id AS familyId, s.file_name AS fileName, f.sha256, f.face, f.bytes, f.brief
  FROM styles s JOIN faces f ON f.sha256 = s.sha256 AND f.face = s.face`;

const STYLE_COLUMNS = `s.id, s.family_id AS familyId, s.file_name AS fileName, s.shelved_at AS shelvedAt,
  f.sha256, f.face, f.bytes, f.record FROM styles s JOIN faces f ON f.sha256 = s.sha256 AND f.face = s.face`;

export class LibraryStore {
  private readonly db: Db;
  /** Faces looked at lately, by file: a parcel's are asked for several times in a row. */
  private readonly recent = new Map<string, FaceRow[]>();
  constructor(db: Db) {
    this.db = db;
  }

  /** Remembers what is known of a file's faces; a record made by an older reader is replaced. */
  addFaces(sha256: string, bytes: number, faces: readonly Inspection[]): void {
    this.putFaces(faces.map((record) => faceFacts(sha256, bytes, record)));
  }
  /** Counts up whenever something new is known of a face. */
  facesStamp = 0;
  putFaces(facts: readonly FaceFacts[]): void {
    this.facesStamp++;
    for (const { columns } of facts) this.recent.delete(columns.sha256);
    putFaces(this.db, facts);
  }
  /** Files whose records were made by an older reader, those of the newest styles first. */
  outdatedFiles(most: number): { sha256: string; bytes: number; name: string }[] {
    if (this.db.prepare("SELECT 1 FROM faces WHERE record_version < ? LIMIT 1").get(RECORD_VERSION) === undefined) return [];
    return this.db
      .prepare(
        `SELECT f.sha256, f.bytes, min(f.family) AS name FROM faces f LEFT JOIN styles s ON s.sha256 = f.sha256
         WHERE f.record_version < ? AND (s.id IS NOT NULL OR EXISTS (SELECT 1 FROM parcel_entries e WHERE e.sha256 = f.sha256))
         GROUP BY f.sha256 ORDER BY max(s.id) DESC NULLS LAST LIMIT ?`,
      )
      .all(RECORD_VERSION, most) as { sha256: string; bytes: number; name: string }[];
  }
  outdatedCount(): number {
    // Hardly ever is there one; the whole question is only asked then.
    if (this.db.prepare("SELECT 1 FROM faces WHERE record_version < ? LIMIT 1").get(RECORD_VERSION) === undefined) return 0;
    return this.db
      .prepare(
        `SELECT count(DISTINCT sha256) FROM faces f WHERE record_version < ?
         AND (EXISTS (SELECT 1 FROM styles s WHERE s.sha256 = f.sha256) OR EXISTS (SELECT 1 FROM parcel_entries e WHERE e.sha256 = f.sha256))`,
      )
      .pluck()
      .get(RECORD_VERSION) as number;
  }
  /** Files only devices hold whose records were made by an older reader: they are read anew when their device is looked at. */
  outdatedElsewhere(): string[] {
    if (this.db.prepare("SELECT 1 FROM faces WHERE record_version < ? LIMIT 1").get(RECORD_VERSION) === undefined) return [];
    return this.db
      .prepare(
        `SELECT DISTINCT sha256 FROM faces f WHERE record_version < ? AND NOT EXISTS (SELECT 1 FROM styles s WHERE s.sha256 = f.sha256)
         AND NOT EXISTS (SELECT 1 FROM parcel_entries e WHERE e.sha256 = f.sha256)`,
      )
      .pluck()
      .all(RECORD_VERSION) as string[];
  }
  /** Gives up reading a file anew: what is known of it stays. */
  keepAsIs(sha256: string): void {
    this.db.prepare("UPDATE faces SET record_version = ? WHERE sha256 = ?").run(RECORD_VERSION, sha256);
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
  styleIdOf(sha256: string, face: number): number | undefined {
    return this.db.prepare("SELECT id FROM styles WHERE sha256 = ? AND face = ?").pluck().get(sha256, face) as number | undefined;
  }
  isShelved(sha256: string, face: number): boolean {
    return this.db.prepare("SELECT 1 FROM styles WHERE sha256 = ? AND face = ?").get(sha256, face) !== undefined;
  }
  /** The family a person said a name means; undefined where nobody did. */
  meantBy(name: string): number | undefined {
    return this.db.prepare("SELECT family_id FROM family_spellings WHERE key = ?").pluck().get(familyKey(name)) as number | undefined;
  }
  /** The family a name is filed under: its own, or the one a person said it means. */
  private familyNamed(name: string): number {
    const key = familyKey(name);
    const joined = this.meantBy(name);
    if (joined !== undefined) return joined;
    this.db.prepare("INSERT INTO families (key, name) VALUES (?, ?) ON CONFLICT (key) DO NOTHING").run(key, name);
    return this.db.prepare("SELECT id FROM families WHERE key = ?").pluck().get(key) as number;
  }

  /** Puts one face on the shelf, or brings it back there; returns its family, and whether it was new there. */
  shelve(
    face: { sha256: string; face: number; family: string },
    parcelId: number,
    fileName: string,
    at: string,
  ): { familyId: number; styleId: number; added: boolean } {
    const familyId = this.familyNamed(face.family);
    const { changes } = this.db
      .prepare(
        `INSERT INTO shelved_styles (family_id, sha256, face, parcel_id, file_name, shelved_at) VALUES (?, ?, ?, ?, ?, ?)
         ON CONFLICT (sha256, face) DO UPDATE SET family_id = excluded.family_id, parcel_id = excluded.parcel_id,
           file_name = excluded.file_name, shelved_at = excluded.shelved_at, removed_at = NULL WHERE removed_at IS NOT NULL`,
      )
      .run(familyId, face.sha256, face.face, parcelId, fileName, at);
    return { familyId, styleId: this.styleIdOf(face.sha256, face.face)!, added: changes > 0 };
  }

  /** Files one family's styles under another from now on. Returns the key its spelling goes by there. */
  join(familyId: number, intoId: number): string {
    return joinFamilies(this.db, familyId, intoId);
  }
  /** Takes a spelling apart from the family it was joined to, with all it brought along; returns the family it is filed under again. */
  part(key: string): number | undefined {
    const row = this.db.prepare("SELECT name, family_id AS familyId FROM family_spellings WHERE key = ?").get(key) as
      { name: string; familyId: number } | undefined;
    if (!row) return undefined;
    this.db.prepare("DELETE FROM family_spellings WHERE key = ?").run(key);
    const own = this.familyNamed(row.name);
    partFamilies(this.db, key, row.familyId, own);
    // What was shelved under its name since is its own as well.
    for (const style of this.briefsOf(row.familyId))
      if (familyKey(style.brief.family) === key) this.db.prepare("UPDATE shelved_styles SET family_id = ? WHERE id = ?").run(own, style.id);
    return own;
  }
  /** The parcels a family's styles came in. */
  parcelNames(familyId: number): string[] {
    return this.db
      .prepare("SELECT DISTINCT p.name FROM styles s JOIN parcels p ON p.id = s.parcel_id WHERE s.family_id = ? ORDER BY p.id")
      .pluck()
      .all(familyId) as string[];
  }
  /** Other spellings filed under a family. */
  spellings(familyId: number): { key: string; name: string }[] {
    return this.db.prepare("SELECT key, name FROM family_spellings WHERE family_id = ? ORDER BY key").all(familyId) as {
      key: string;
      name: string;
    }[];
  }
  setPinned(familyId: number, pinned: boolean): void {
    this.db.prepare("UPDATE families SET pinned = ? WHERE id = ?").run(Number(pinned), familyId);
  }

  /** When the first of what is on the shelf came there. */
  firstShelvedAt(): string | undefined {
    return (this.db.prepare("SELECT min(shelved_at) FROM styles").pluck().get() as string | null) ?? undefined;
  }
  /** How many families have at least one style. */
  familyCount(): number {
    return this.db.prepare("SELECT count(DISTINCT family_id) FROM styles").pluck().get() as number;
  }
  family(id: number): FamilyRow | undefined {
    const row = this.db.prepare("SELECT id, name, pinned FROM families WHERE id = ?").get(id) as
      (Omit<FamilyRow, "pinned"> & { pinned: number }) | undefined;
    return row && { ...row, pinned: row.pinned === 1 };
  }
  stylesOf(familyId: number): StyleRow[] {
    return (this.db.prepare(`SELECT ${STYLE_COLUMNS} WHERE s.family_id = ? ORDER BY s.id`).all(familyId) as Raw<StyleRow>[]).map((row) =>
      parsed<StyleRow>(row),
    );
  }
  /** A family's styles with what lists need of each, in the order they came. */
  briefsOf(familyId: number): StyleBrief[] {
    return (this.db.prepare(`SELECT ${BRIEF_COLUMNS} WHERE s.family_id = ? ORDER BY s.id`).all(familyId) as RawBrief<StyleBrief>[]).map(
      briefed,
    ) as StyleBrief[];
  }
  styleBrief(id: number): StyleBrief | undefined {
    const row = this.db.prepare(`SELECT ${BRIEF_COLUMNS} WHERE s.id = ?`).get(id) as RawBrief<StyleBrief> | undefined;
    return row && (briefed(row) as StyleBrief);
  }
  /** What lists need of a file's faces. */
  facesBrief(sha256: string): BriefRow[] {
    return (
      this.db.prepare("SELECT sha256, face, bytes, brief FROM faces WHERE sha256 = ? ORDER BY face").all(sha256) as RawBrief<BriefRow>[]
    ).map(briefed);
  }
  /** Faces of other styles whose letters are as wide as a face's: metric-compatible with it, or of the same design. */
  asWideAs(sha256: string, face: number): { sha256: string; face: number }[] {
    return this.db
      .prepare(
        `SELECT o.sha256, o.face FROM faces f JOIN faces o ON o.metrics = f.metrics
         WHERE f.sha256 = ? AND f.face = ? AND f.metrics <> '' AND o.metrics <> ''
           AND NOT (o.family_key = f.family_key AND o.style_key = f.style_key) ORDER BY o.sha256, o.face LIMIT 500`,
      )
      .all(sha256, face) as { sha256: string; face: number }[];
  }
  /** What plans compare of a file's faces. */
  claimsOf(sha256: string): Claim[] {
    const rows = this.db.prepare("SELECT claim FROM faces WHERE sha256 = ? ORDER BY face").pluck().all(sha256) as string[];
    return rows.map((claim) => JSON.parse(claim) as Claim);
  }
  /** The characters of a face as flat pairs of first and last code point. */
  rangesOf(sha256: string, face: number): number[] {
    const text = this.db
      .prepare("SELECT json_extract(record, '$.ranges') FROM faces WHERE sha256 = ? AND face = ?")
      .pluck()
      .get(sha256, face) as string | undefined;
    return text === undefined ? [] : (JSON.parse(text) as number[]);
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
  /** What plans compare of styles on the shelf that claim the same family and style; `key` is a claim's. */
  shelvedNamesakes(key: string): Claim[] {
    const [family, style] = key.split("\n") as [string, string];
    const rows = this.db
      .prepare(
        `SELECT f.claim FROM faces f JOIN styles s ON s.sha256 = f.sha256 AND s.face = f.face
         WHERE f.family_key = ? AND f.style_key = ? ORDER BY s.id`,
      )
      .pluck()
      .all(family, style) as string[];
    return rows.map((claim) => JSON.parse(claim) as Claim);
  }
  /** Everything known of a face. */
  record(sha256: string, face: number): Inspection | undefined {
    const text = this.db.prepare("SELECT record FROM faces WHERE sha256 = ? AND face = ?").pluck().get(sha256, face) as string | undefined;
    return text === undefined ? undefined : parseRecord(text);
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
  styleOfFace(sha256: string, face: number): { id: number; familyId: number } | undefined {
    return this.db.prepare("SELECT id, family_id AS familyId FROM styles WHERE sha256 = ? AND face = ?").get(sha256, face) as
      { id: number; familyId: number } | undefined;
  }
  /** What a newer version on the shelf of the same style calls itself; undefined when there is none. */
  newerThan(claim: Claim): string | undefined {
    const [family, style] = claim.key.split("\n") as [string, string];
    const above = this.db
      .prepare(
        `SELECT f.claim FROM faces f WHERE f.family_key = ? AND f.style_key = ? AND f.revision > ?
           AND EXISTS (SELECT 1 FROM styles s WHERE s.sha256 = f.sha256 AND s.face = f.face)
         ORDER BY f.revision DESC`,
      )
      .pluck()
      .all(family, style, claim.revision) as string[];
    // What only goes by its name is no newer version of it.
    const newer = above.map((text) => JSON.parse(text) as Claim).find((one) => compareNamesakes(one, claim) === "newer");
    return newer && (newer.version || "a newer version");
  }
  /** Names what a face states of its licence. */
  statedKey(sha256: string, face: number): string | undefined {
    return this.db.prepare("SELECT stated_key FROM faces WHERE sha256 = ? AND face = ?").pluck().get(sha256, face) as string | undefined;
  }
  /** Digests of all files the shelf needs. */
  /** Files of styles on the shelf, and of those that can be brought back there. */
  shelvedFiles(): string[] {
    return this.db.prepare("SELECT DISTINCT sha256 FROM shelved_styles").pluck().all() as string[];
  }

  // Removing

  /** Takes styles off the shelf at a time, or brings them back (null). Their rows, and what was seen of them, are kept. */
  setRemoved(styleIds: readonly number[], at: string | null): void {
    const set = this.db.prepare("UPDATE shelved_styles SET removed_at = ? WHERE id = ?");
    for (const id of styleIds) set.run(at, id);
  }
  /** Styles that were removed at a time and can be brought back. */
  removedAt(at: string): number[] {
    return this.db.prepare("SELECT id FROM shelved_styles WHERE removed_at = ? ORDER BY id").pluck().all(at) as number[];
  }
  /** How many of these styles are off the shelf and can be brought back. */
  removedAmong(styleIds: readonly number[]): number {
    return this.db
      .prepare("SELECT count(*) FROM shelved_styles WHERE removed_at IS NOT NULL AND id IN (SELECT value FROM json_each(?))")
      .pluck()
      .get(JSON.stringify(styleIds)) as number;
  }
  /** Whether a family has styles that were removed and can be brought back, and none on the shelf. */
  isRemoved(familyId: number): boolean {
    return this.db.prepare("SELECT min(removed_at IS NOT NULL) FROM shelved_styles WHERE family_id = ?").pluck().get(familyId) === 1;
  }
  /** Styles on the shelf of several families. */
  styleIdsOf(familyIds: readonly number[]): number[] {
    return this.db
      .prepare("SELECT id FROM styles WHERE family_id IN (SELECT value FROM json_each(?)) ORDER BY id")
      .pluck()
      .all(JSON.stringify(familyIds)) as number[];
  }
  /** Those of several families that have styles on the shelf. */
  onShelf(familyIds: readonly number[]): number[] {
    return this.db
      .prepare("SELECT DISTINCT family_id FROM styles WHERE family_id IN (SELECT value FROM json_each(?))")
      .pluck()
      .all(JSON.stringify(familyIds)) as number[];
  }
  /** Forgets styles removed before a time: they cannot be brought back any more. */
  forgetRemoved(before: string): void {
    this.db.prepare("DELETE FROM shelved_styles WHERE removed_at < ?").run(before);
  }
}
