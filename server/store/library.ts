// Queries on faces (facts from bytes), and on the families and styles of the library.
import type { Inspection } from "../../core/inspect.ts";
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
}

type Raw<T> = Omit<T, "record"> & { record: string };
const parsed = <T extends { record: Inspection }>(row: Raw<T>): T =>
  ({
    ...row,
    // Records written before a fact was known lack it; the neutral value serves until the font is read again.
    record: Object.assign({ advances: [] }, JSON.parse(row.record)) as Inspection,
  }) as unknown as T;

const STYLE_COLUMNS = `s.id, s.family_id AS familyId, s.file_name AS fileName, s.shelved_at AS shelvedAt,
  f.sha256, f.face, f.bytes, f.record FROM styles s JOIN faces f ON f.sha256 = s.sha256 AND f.face = s.face`;

export class LibraryStore {
  private readonly db: Db;
  constructor(db: Db) {
    this.db = db;
  }

  addFaces(sha256: string, bytes: number, faces: readonly Inspection[]): void {
    const insert = this.db.prepare(
      `INSERT INTO faces (sha256, face, family, style, legacy_family, legacy_style, full_name, postscript_name, weight, width, italic,
        codepoints, container, bytes, verdict, record) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)
       ON CONFLICT (sha256, face) DO NOTHING`,
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
      );
    }
  }

  facesOf(sha256: string): FaceRow[] {
    return (
      this.db.prepare("SELECT sha256, face, bytes, record FROM faces WHERE sha256 = ? ORDER BY face").all(sha256) as Raw<FaceRow>[]
    ).map((row) => parsed<FaceRow>(row));
  }
  knowsFile(sha256: string): boolean {
    return this.db.prepare("SELECT 1 FROM faces WHERE sha256 = ? LIMIT 1").get(sha256) !== undefined;
  }
  isShelved(sha256: string, face: number): boolean {
    return this.db.prepare("SELECT 1 FROM styles WHERE sha256 = ? AND face = ?").get(sha256, face) !== undefined;
  }

  /** Puts one face on the shelf; returns its family, and whether it was new there. */
  shelve(face: FaceRow, parcelId: number, fileName: string, at: string): { familyId: number; added: boolean } {
    const key = familyKey(face.record.family);
    this.db.prepare("INSERT INTO families (key, name) VALUES (?, ?) ON CONFLICT (key) DO NOTHING").run(key, face.record.family);
    const familyId = this.db.prepare("SELECT id FROM families WHERE key = ?").pluck().get(key) as number;
    const { changes } = this.db
      .prepare(
        `INSERT INTO styles (family_id, sha256, face, parcel_id, file_name, shelved_at) VALUES (?, ?, ?, ?, ?, ?)
         ON CONFLICT (sha256, face) DO NOTHING`,
      )
      .run(familyId, face.sha256, face.face, parcelId, fileName, at);
    return { familyId, added: changes > 0 };
  }

  families(): FamilyRow[] {
    return this.db.prepare("SELECT id, name FROM families ORDER BY key").all() as FamilyRow[];
  }
  family(id: number): FamilyRow | undefined {
    return this.db.prepare("SELECT id, name FROM families WHERE id = ?").get(id) as FamilyRow | undefined;
  }
  allStyles(): StyleRow[] {
    return (this.db.prepare(`SELECT ${STYLE_COLUMNS} ORDER BY s.id`).all() as Raw<StyleRow>[]).map((row) => parsed<StyleRow>(row));
  }
  stylesOf(familyId: number): StyleRow[] {
    return (this.db.prepare(`SELECT ${STYLE_COLUMNS} WHERE s.family_id = ? ORDER BY s.id`).all(familyId) as Raw<StyleRow>[]).map((row) =>
      parsed<StyleRow>(row),
    );
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
}
