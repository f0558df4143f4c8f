// Queries on views: what screens list, one row each; and on the marks that say which rows are to be renewed.
import type { FamilySummary } from "../../../contract/families.ts";
import type { Clearance } from "../../../core/clearance/clearance.ts";
import type { Use } from "../../../core/clearance/uses.ts";
import type { Station, StationKey } from "../../../core/family/stations.ts";
import type { Db } from "../database.ts";

/** Members of a list as bits, in the list's order. */
export const bitsOf = <T>(all: readonly T[], some: Iterable<T>): number => {
  let bits = 0;
  for (const one of some) bits |= 1 << all.indexOf(one);
  return bits;
};

/** Characters as thirty-two a block. */
export function blocksOf(codePoints: Iterable<number>): Map<number, number> {
  const blocks = new Map<number, number>();
  for (const code of codePoints) blocks.set(code >>> 5, ((blocks.get(code >>> 5) ?? 0) | (1 << (code & 31))) >>> 0);
  return blocks;
}

/** What was worked out of a family's clearance, as far as lists and warnings need it: without its evidence. */
export type ClearanceBrief = Pick<Clearance, "lapsed" | "term" | "beingRead"> & {
  uses: { use: Use; answer: Clearance["uses"][number]["answer"]; reason: string }[];
  summary: string;
  creditLine: string;
};

export interface FamilyView {
  familyId: number;
  nameKey: string;
  name: string;
  pinned: boolean;
  stuckAt: StationKey | null;
  scripts: number;
  kinds: number;
  cleared: number;
  styles: number;
  mainStyle: number;
  specimen: FamilySummary["specimen"];
  trail: Station[];
  clearance: ClearanceBrief;
  /** 1: its licence has ended; 2: it ends soon. */
  ending: 0 | 1 | 2;
  beingRead: number;
  bare: string;
  plain: string;
  head: string;
  tail: string;
}
type RawFamily = Omit<FamilyView, "pinned" | "specimen" | "trail" | "clearance"> & {
  pinned: number;
  specimen: string;
  trail: string;
  clearance: string;
};
const FAMILY = `SELECT family_id AS familyId, name_key AS nameKey, name, pinned, stuck_at AS stuckAt, scripts, kinds, cleared, styles,
  main_style AS mainStyle, specimen, trail, clearance, ending, being_read AS beingRead, bare, plain, head, tail FROM family_views`;
const family = (row: RawFamily): FamilyView => ({
  ...row,
  pinned: row.pinned === 1,
  specimen: JSON.parse(row.specimen) as FamilyView["specimen"],
  trail: JSON.parse(row.trail) as Station[],
  clearance: JSON.parse(row.clearance) as ClearanceBrief,
});

export class FamilyViewStore {
  private readonly db: Db;
  constructor(db: Db) {
    this.db = db;
  }

  // Families

  familyCount(): number {
    return this.db.prepare("SELECT count(*) FROM family_views").pluck().get() as number;
  }
  /** How many of several families are on the shelf, their styles, and how many are pinned. */
  tally(ids: readonly number[]): { families: number; styles: number; pinned: number } {
    return this.db
      .prepare(
        `SELECT count(*) AS families, coalesce(sum(styles), 0) AS styles, coalesce(sum(pinned), 0) AS pinned
         FROM family_views WHERE family_id IN (SELECT value FROM json_each(?))`,
      )
      .get(JSON.stringify(ids)) as { families: number; styles: number; pinned: number };
  }
  family(id: number): FamilyView | undefined {
    const row = this.db.prepare(`${FAMILY} WHERE family_id = ?`).get(id) as RawFamily | undefined;
    return row && family(row);
  }
  /** What a family is called, and the style that stands for it. */
  heading(id: number): Pick<FamilyView, "name" | "mainStyle"> {
    return this.db.prepare("SELECT name, main_style AS mainStyle FROM family_views WHERE family_id = ?").get(id) as FamilyView;
  }
  /** Families stuck at a station, the first few with their number. */
  stuck(station: StationKey, most: number): { total: number; rows: Pick<FamilyView, "familyId" | "name" | "trail">[] } {
    const total = this.db.prepare("SELECT count(*) FROM family_views WHERE stuck_at = ?").pluck().get(station) as number;
    const rows = this.db
      .prepare("SELECT family_id AS familyId, name, trail FROM family_views WHERE stuck_at = ? ORDER BY name_key, family_id LIMIT ?")
      .all(station, most) as { familyId: number; name: string; trail: string }[];
    return { total, rows: rows.map((row) => ({ ...row, trail: JSON.parse(row.trail) as Station[] })) };
  }
  /** Families whose licence ends soon or has ended. */
  ending(): FamilyView[] {
    return (
      this.db.prepare(`${FAMILY} INDEXED BY family_views_ending WHERE ending > 0 ORDER BY name_key, family_id`).all() as RawFamily[]
    ).map(family);
  }
  /** Families whose names may mean the same as one of these keys: a few to be looked at closely. */
  namedLike(keys: Pick<FamilyView, "bare" | "plain" | "head" | "tail">, most: number): { id: number; name: string }[] {
    return this.db
      .prepare(
        `SELECT family_id AS id, name FROM family_views WHERE family_id IN (
           SELECT family_id FROM family_views WHERE bare = ? UNION SELECT family_id FROM family_views WHERE plain = ?
           UNION SELECT family_id FROM family_views WHERE head = ? AND head <> '' AND abs(length(bare) - ?) <= 1
           UNION SELECT family_id FROM family_views WHERE tail = ? AND tail <> '' AND abs(length(bare) - ?) <= 1)
         ORDER BY name_key LIMIT ?`,
      )
      .all(keys.bare, keys.plain, keys.head, keys.bare.length, keys.tail, keys.bare.length, most) as { id: number; name: string }[];
  }
  /** The characters among `codePoints` that a family's main style lacks. */
  missing(familyId: number, codePoints: readonly number[]): number[] {
    const bits = this.db.prepare("SELECT bits FROM family_coverage WHERE block = ? AND family_id = ?").pluck();
    const known = new Map<number, number>();
    return codePoints.filter((code) => {
      const block = code >>> 5;
      let has = known.get(block);
      if (has === undefined) known.set(block, (has = (bits.get(block, familyId) as number | undefined) ?? 0));
      return (has & (1 << (code & 31))) === 0;
    });
  }
  putFamily(row: FamilyView): void {
    this.db
      .prepare(
        `INSERT INTO family_views (family_id, name_key, name, pinned, stuck_at, scripts, kinds, cleared, styles, main_style, specimen, trail,
           clearance, ending, being_read, bare, plain, head, tail) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)
         ON CONFLICT (family_id) DO UPDATE SET name_key = excluded.name_key, name = excluded.name, pinned = excluded.pinned,
           stuck_at = excluded.stuck_at, scripts = excluded.scripts, kinds = excluded.kinds, cleared = excluded.cleared,
           styles = excluded.styles, main_style = excluded.main_style, specimen = excluded.specimen, trail = excluded.trail,
           clearance = excluded.clearance, ending = excluded.ending, being_read = excluded.being_read, bare = excluded.bare,
           plain = excluded.plain, head = excluded.head, tail = excluded.tail`,
      )
      .run(
        row.familyId,
        row.nameKey,
        row.name,
        Number(row.pinned),
        row.stuckAt,
        row.scripts,
        row.kinds,
        row.cleared,
        row.styles,
        row.mainStyle,
        JSON.stringify(row.specimen),
        JSON.stringify(row.trail),
        JSON.stringify(row.clearance),
        row.ending,
        row.beingRead,
        row.bare,
        row.plain,
        row.head,
        row.tail,
      );
  }
  removeFamily(familyId: number): void {
    for (const table of ["family_views", "family_coverage", "style_cells", "family_cells"])
      this.db.prepare(`DELETE FROM ${table} WHERE family_id = ?`).run(familyId);
  }
  putCoverage(familyId: number, blocks: ReadonlyMap<number, number>): void {
    this.db.prepare("DELETE FROM family_coverage WHERE family_id = ?").run(familyId);
    const put = this.db.prepare("INSERT INTO family_coverage (block, family_id, bits) VALUES (?, ?, ?)");
    for (const [block, bits] of blocks) put.run(block, familyId, bits);
  }
}
