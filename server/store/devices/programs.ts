// Queries on devices' programs, and on the names faces were found under in them.
import { ProgramKind, ProgramRequest, ProgramTraits } from "../../../contract/programs.ts";
import type { z } from "zod";
import type { Db } from "../database.ts";

export class ProgramStore {
  private readonly db: Db;
  constructor(db: Db) {
    this.db = db;
  }

  /** Programs' traits are checked once for each change of a program. */
  private listed: ProgramRow[] | undefined;
  /** What devices are listed changes what programs are. */
  forgetListed(): void {
    this.listed = undefined;
  }
  ensure(deviceId: number, slug: string, name: string, kind: string, traits: z.input<typeof ProgramTraits>): void {
    this.listed = undefined;
    this.db
      .prepare(
        `INSERT INTO programs (device_id, slug, name, kind, traits) VALUES (?, ?, ?, ?, ?)
         ON CONFLICT (device_id, slug) DO UPDATE SET traits = excluded.traits`,
      )
      .run(deviceId, slug, name, kind, JSON.stringify(traits));
  }
  all(): readonly ProgramRow[] {
    this.listed ??= (
      this.db
        .prepare(`SELECT ${PROGRAM_COLUMNS} WHERE d.removed_at IS NULL AND p.removed_at IS NULL ORDER BY p.device_id, p.id`)
        .all() as RawProgram[]
    ).map(program);
    return this.listed;
  }
  get(id: number): ProgramRow | undefined {
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
  isRemoved(id: number): boolean {
    return this.db.prepare("SELECT 1 FROM programs WHERE id = ? AND removed_at IS NOT NULL").get(id) !== undefined;
  }
  /** Enters a program a person named, or changes it. Returns its number. */
  put({ deviceId, name, kind, traits }: ProgramRequest, slug: string, id?: number): number {
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
  remove(id: number, at: string | null): void {
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
const PROGRAM_COLUMNS = `p.id, p.device_id AS deviceId, d.name AS deviceName, p.slug, p.name, p.kind, p.traits, p.opened_at AS openedAt, p.updated_at AS updatedAt, p.own
  FROM programs p JOIN devices d ON d.id = p.device_id`;
type RawProgram = Omit<ProgramRow, "traits" | "own"> & { traits: string; own: number };
function program(row: RawProgram): ProgramRow {
  const traits = JSON.parse(row.traits) as z.input<typeof ProgramTraits>;
  // Browsers described before it was asked: files loaded into one are held to more than fonts installed beside it.
  const strict = row.kind === "browser" && traits.readsWhen === "by-hand";
  return { ...row, own: row.own === 1, traits: ProgramTraits.parse({ strict, ...traits }) };
}
