// Queries on views: what screens list, one row each; and on the marks that say which rows are to be renewed.
import type { FamilySummary } from "../../../contract/families.ts";
import type { ParcelSummary } from "../../../contract/parcels.ts";
import type { Clearance } from "../../../core/clearance/clearance.ts";
import type { Use } from "../../../core/clearance/uses.ts";
import type { Station, StationKey } from "../../../core/family/stations.ts";
import type { SightingState } from "../../../core/menu/state.ts";
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

export interface CellRow {
  programId: number;
  state: SightingState;
  styleId: number;
}
/** A family in one program, and how many of its styles were seen there of those that are there. */
export interface FamilyCellRow extends CellRow {
  seen: number;
  listed: number;
}
export interface DeviceViewRow {
  folder: string;
  fileName: string;
  face: number;
  family: string;
  style: string;
  familyId: number | null;
  styleId: number | null;
  trouble: number;
  newer: string;
  on: number;
  visible: number;
}
/** What can be the matter with a font on a device, as bits of its row. */
export const TROUBLE = { duplicate: 1, off: 2, unseen: 4, outdated: 8, lapsed: 16 } as const;

export interface StaleFamily {
  familyId: number;
  parts: number;
  seq: number;
}
/** Parts of a family's row. */
export const PARTS = { shelf: 1, clearance: 2, cells: 4, all: 7 } as const;

export class ViewStore {
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
        ...[row.familyId, row.nameKey, row.name, Number(row.pinned), row.stuckAt, row.scripts, row.kinds, row.cleared, row.styles],
        ...[row.mainStyle, JSON.stringify(row.specimen), JSON.stringify(row.trail), JSON.stringify(row.clearance), row.ending],
        ...[row.beingRead, row.bare, row.plain, row.head, row.tail],
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

  // Cells

  /** Replaces where a family's styles stand; only what differs is written. */
  putCells(familyId: number, styles: readonly CellRow[], families: readonly FamilyCellRow[]): void {
    const text = (cell: CellRow) => `${cell.styleId}/${cell.programId}/${cell.state}`;
    const before = this.db
      .prepare("SELECT style_id AS styleId, program_id AS programId, state FROM style_cells WHERE family_id = ?")
      .all(familyId) as CellRow[];
    const now = new Set(styles.map(text));
    const was = new Set(before.map(text));
    const remove = this.db.prepare("DELETE FROM style_cells WHERE family_id = ? AND style_id = ? AND program_id = ?");
    for (const cell of before) if (!now.has(text(cell))) remove.run(familyId, cell.styleId, cell.programId);
    const put = this.db.prepare(
      `INSERT INTO style_cells (family_id, style_id, program_id, state) VALUES (?, ?, ?, ?)
       ON CONFLICT (family_id, style_id, program_id) DO UPDATE SET state = excluded.state`,
    );
    for (const cell of styles) if (!was.has(text(cell))) put.run(familyId, cell.styleId, cell.programId, cell.state);
    const counted = (cell: FamilyCellRow) => `${text(cell)}/${cell.seen}/${cell.listed}`;
    if (this.familyCells(familyId).map(counted).join() === families.map(counted).join()) return;
    this.db.prepare("DELETE FROM family_cells WHERE family_id = ?").run(familyId);
    const add = this.db.prepare(
      "INSERT INTO family_cells (family_id, program_id, state, style_id, seen, listed) VALUES (?, ?, ?, ?, ?, ?)",
    );
    for (const cell of families) add.run(familyId, cell.programId, cell.state, cell.styleId, cell.seen, cell.listed);
  }
  /** Where a family stands, in order of programs; what is missing is "not here". */
  familyCells(familyId: number): FamilyCellRow[] {
    return this.db
      .prepare(
        "SELECT program_id AS programId, state, style_id AS styleId, seen, listed FROM family_cells WHERE family_id = ? ORDER BY program_id",
      )
      .all(familyId) as FamilyCellRow[];
  }
  styleCells(familyId: number): CellRow[] {
    return this.db
      .prepare(
        "SELECT program_id AS programId, state, style_id AS styleId FROM style_cells WHERE family_id = ? ORDER BY style_id, program_id",
      )
      .all(familyId) as CellRow[];
  }
  /** What is to be done in programs, and with how many families there. */
  tasks(): { programId: number; state: SightingState; families: number }[] {
    return this.db
      .prepare(
        `SELECT program_id AS programId, state, count(*) AS families FROM family_cells
         WHERE state IN ('swapped', 'reopen', 'due') GROUP BY program_id, state`,
      )
      .all() as { programId: number; state: SightingState; families: number }[];
  }
  /**
   * Styles a program should list that nobody has seen there yet, in order of family; the first `most`, and how many there are.
   * `only`: families, or single styles, it is narrowed to.
   */
  dueIn(
    programId: number,
    most: number,
    only: { families?: readonly number[] | undefined; styles?: readonly number[] | undefined } = {},
  ): { total: number; styles: { styleId: number; state: SightingState }[] } {
    const among = (column: string, ids: readonly number[] | undefined) =>
      ids ? `AND c.${column} IN (SELECT value FROM json_each(?))` : "";
    const narrowed = [only.families, only.styles].flatMap((ids) => (ids ? [JSON.stringify(ids)] : []));
    const from = `FROM style_cells c JOIN family_views v ON v.family_id = c.family_id WHERE c.program_id = ? AND c.state IN ('due', 'reopen')
      ${among("family_id", only.families)} ${among("style_id", only.styles)}`;
    const total = this.db
      .prepare(`SELECT count(*) ${from}`)
      .pluck()
      .get(programId, ...narrowed) as number;
    const styles = this.db
      .prepare(`SELECT c.style_id AS styleId, c.state ${from} ORDER BY v.name_key, v.family_id, c.style_id LIMIT ?`)
      .all(programId, ...narrowed, most) as { styleId: number; state: SightingState }[];
    return { total, styles };
  }
  /** Families in order of name, each with how many rows of a board it has. */
  boardRows(
    by: "families" | "styles",
    filter: { programs: readonly number[]; jobId?: number; familyId?: number; state?: SightingState },
  ): { familyId: number; rows: number }[] {
    const { programs, jobId, familyId, state } = filter;
    const marks = programs.map(() => "?").join();
    const inJob =
      "(? IS NULL OR v.family_id IN (SELECT family_id FROM job_families WHERE job_id = ?)) AND v.family_id = ifnull(?, v.family_id)";
    const job = [jobId ?? null, jobId ?? null, familyId ?? null];
    const count = by === "families" ? "1" : "v.styles";
    const order = "ORDER BY v.name_key, v.family_id";
    if (state === undefined)
      return this.db
        .prepare(`SELECT v.family_id AS familyId, ${count} AS rows FROM family_views v WHERE ${inJob} ${order}`)
        .all(...job) as { familyId: number; rows: number }[];
    // A row fits when any of its programs is in the state; what has no row is "not here".
    if (by === "families") {
      const fits =
        state === "not-here"
          ? `v.family_id NOT IN (SELECT family_id FROM family_cells WHERE program_id IN (${marks}) GROUP BY family_id HAVING count(*) = ?)`
          : `EXISTS (SELECT 1 FROM family_cells c WHERE c.family_id = v.family_id AND c.program_id IN (${marks}) AND c.state = ?)`;
      return this.db
        .prepare(`SELECT v.family_id AS familyId, 1 AS rows FROM family_views v WHERE ${inJob} AND ${fits} ${order}`)
        .all(...job, ...programs, state === "not-here" ? programs.length : state) as { familyId: number; rows: number }[];
    }
    if (state === "not-here") {
      const full = `SELECT family_id, style_id FROM style_cells WHERE program_id IN (${marks}) GROUP BY family_id, style_id HAVING count(*) = ?`;
      return this.db
        .prepare(
          `SELECT v.family_id AS familyId, v.styles - count(x.style_id) AS rows FROM family_views v LEFT JOIN (${full}) x ON x.family_id = v.family_id
           WHERE ${inJob} GROUP BY v.family_id HAVING rows > 0 ${order}`,
        )
        .all(...programs, programs.length, ...job) as { familyId: number; rows: number }[];
    }
    return this.db
      .prepare(
        `SELECT v.family_id AS familyId, count(DISTINCT c.style_id) AS rows FROM style_cells c JOIN family_views v ON v.family_id = c.family_id
         WHERE c.program_id IN (${marks}) AND c.state = ? AND ${inJob} GROUP BY v.family_id ${order}`,
      )
      .all(...programs, state, ...job) as { familyId: number; rows: number }[];
  }

  /** Cells of the board in a state, or all: of a family's row the style that stands for it. In the board's order. */
  boardCells(
    by: "families" | "styles",
    filter: { programs: readonly number[]; jobId?: number; state?: SightingState },
    most: number,
  ): { styleId: number; programId: number }[] {
    const { programs, jobId, state } = filter;
    const inJob = "(? IS NULL OR v.family_id IN (SELECT family_id FROM job_families WHERE job_id = ?))";
    const rows =
      by === "families"
        ? "family_views v LEFT JOIN family_cells c ON c.family_id = v.family_id AND c.program_id = p.value"
        : "family_views v JOIN styles s ON s.family_id = v.family_id LEFT JOIN style_cells c ON c.family_id = v.family_id AND c.style_id = s.id AND c.program_id = p.value";
    const style = by === "families" ? "coalesce(c.style_id, v.main_style)" : "s.id";
    return this.db
      .prepare(
        `SELECT ${style} AS styleId, p.value AS programId FROM json_each(?) p JOIN ${rows}
         WHERE ${inJob} AND (? IS NULL OR coalesce(c.state, 'not-here') = ?) ORDER BY v.name_key, v.family_id, 1, p.key LIMIT ?`,
      )
      .all(JSON.stringify(programs), jobId ?? null, jobId ?? null, state ?? null, state ?? null, most) as {
      styleId: number;
      programId: number;
    }[];
  }

  // Parcels

  parcel(id: number): ParcelSummary | undefined {
    const text = this.db.prepare("SELECT summary FROM parcel_views WHERE parcel_id = ?").pluck().get(id) as string | undefined;
    return text === undefined ? undefined : (JSON.parse(text) as ParcelSummary);
  }
  /** Parcels on the list, the latest first: those that wait for somebody, the others, or all. */
  parcels(waits: boolean | undefined, from: number, limit: number): { total: number; rows: ParcelSummary[] } {
    const asked = waits === undefined ? null : Number(waits);
    const listed = "FROM parcel_views v JOIN parcels p ON p.id = v.parcel_id WHERE p.removed_at IS NULL AND v.waits = ifnull(?, v.waits)";
    const total = this.db.prepare(`SELECT count(*) ${listed}`).pluck().get(asked) as number;
    const rows = this.db
      .prepare(`SELECT v.summary ${listed} ORDER BY v.parcel_id DESC LIMIT ? OFFSET ?`)
      .pluck()
      .all(asked, limit, from) as string[];
    return { total, rows: rows.map((text) => JSON.parse(text) as ParcelSummary) };
  }
  /** Parcels that hold something to shelve, the latest first. */
  shelvableParcels(): number[] {
    return this.db
      .prepare(
        `SELECT v.parcel_id FROM parcel_views v JOIN parcels p ON p.id = v.parcel_id
         WHERE p.removed_at IS NULL AND v.waits = 1 AND json_extract(v.summary, '$.shelvableStyles') > 0 ORDER BY v.parcel_id DESC`,
      )
      .pluck()
      .all() as number[];
  }
  putParcel(summary: ParcelSummary, waits: boolean): void {
    this.db
      .prepare(
        `INSERT INTO parcel_views (parcel_id, waits, summary) VALUES (?, ?, ?)
         ON CONFLICT (parcel_id) DO UPDATE SET waits = excluded.waits, summary = excluded.summary`,
      )
      .run(summary.id, Number(waits), JSON.stringify(summary));
  }

  // Devices

  /** Replaces the rows of fonts that claim one family's name, on all devices. */
  putDeviceFonts(nameKey: string, rows: readonly (Omit<DeviceViewRow, "on" | "visible"> & { deviceId: number; placed: boolean })[]): void {
    this.db.prepare("DELETE FROM device_views WHERE name_key = ?").run(nameKey);
    const put = this.db.prepare(
      `INSERT INTO device_views (device_id, folder, file_name, face, name_key, family, style, family_id, style_id, placed, trouble, newer, rank)
       VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)
       ON CONFLICT (device_id, folder, file_name, face) DO UPDATE SET name_key = excluded.name_key, family = excluded.family,
         style = excluded.style, family_id = excluded.family_id, style_id = excluded.style_id, placed = excluded.placed,
         trouble = excluded.trouble, newer = excluded.newer, rank = excluded.rank`,
    );
    for (const row of rows)
      put.run(
        ...[row.deviceId, row.folder, row.fileName, row.face, nameKey, row.family, row.style, row.familyId, row.styleId],
        ...[Number(row.placed), row.trouble, row.newer, Number(row.trouble === 0)],
      );
  }
  putDuplicates(nameKey: string, rows: readonly { deviceId: number; claim: string; inTheWay: boolean }[]): void {
    this.db.prepare("DELETE FROM device_duplicates WHERE name_key = ?").run(nameKey);
    const put = this.db.prepare(
      `INSERT INTO device_duplicates (device_id, claim, name_key, in_the_way) VALUES (?, ?, ?, ?)
       ON CONFLICT (device_id, claim) DO UPDATE SET name_key = excluded.name_key, in_the_way = excluded.in_the_way`,
    );
    for (const row of rows) put.run(row.deviceId, row.claim, nameKey, Number(row.inTheWay));
  }
  /** How many fonts a device holds and what is the matter with how many of them; files count once. */
  deviceCounts(deviceId: number): {
    placed: number;
    builtIn: number;
    duplicates: number;
    off: number;
    unseen: number;
    outdated: number;
    lapsed: number;
  } {
    const counts = this.db
      .prepare(
        `SELECT count(*) FILTER (WHERE folder IN ('me', 'everyone', 'profile')) AS placed, count(*) FILTER (WHERE folder = 'built-in') AS builtIn,
           count(*) FILTER (WHERE folder IN ('me', 'everyone', 'profile') AND is_on = 0) AS off,
           count(*) FILTER (WHERE folder IN ('me', 'everyone', 'profile') AND is_on = 1 AND is_visible = 0) AS unseen
         FROM observed_fonts WHERE device_id = ?`,
      )
      .get(deviceId) as { placed: number; builtIn: number; off: number; unseen: number };
    const files = this.db.prepare(
      "SELECT count(DISTINCT folder || '/' || file_name) FROM device_views WHERE device_id = ? AND placed = 1 AND trouble & ? <> 0",
    );
    const troubled = (bit: number) => files.pluck().get(deviceId, bit) as number;
    const duplicates = this.db
      .prepare("SELECT count(*) FROM device_duplicates WHERE device_id = ? AND in_the_way = 1")
      .pluck()
      .get(deviceId) as number;
    return { ...counts, duplicates, outdated: troubled(TROUBLE.outdated), lapsed: troubled(TROUBLE.lapsed) };
  }
  /** Fonts placed on a device, those with a remark first. */
  deviceFonts(deviceId: number, from: number, limit: number): { total: number; rows: DeviceViewRow[] } {
    const total = this.db.prepare("SELECT count(*) FROM device_views WHERE device_id = ? AND placed = 1").pluck().get(deviceId) as number;
    const rows = this.db
      .prepare(
        `SELECT v.folder, v.file_name AS fileName, v.face, v.family, v.style, v.family_id AS familyId, v.style_id AS styleId, v.trouble, v.newer,
           o.is_on AS "on", o.is_visible AS visible
         FROM (SELECT * FROM device_views WHERE device_id = ? AND placed = 1 ORDER BY rank, name_key, style, folder, file_name LIMIT ? OFFSET ?) v
         JOIN observed_fonts o ON o.device_id = v.device_id AND o.folder = v.folder AND o.file_name = v.file_name
         ORDER BY v.rank, v.name_key, v.style, v.folder, v.file_name`,
      )
      .all(deviceId, limit, from) as DeviceViewRow[];
    return { total, rows };
  }
  /** Families of the fonts that came with a device, in order. */
  builtInFamilies(deviceId: number): string[] {
    return this.db
      .prepare("SELECT DISTINCT family FROM device_views WHERE device_id = ? AND placed = 0 ORDER BY name_key")
      .pluck()
      .all(deviceId) as string[];
  }
  /** Names on a device that more than one file claims. */
  duplicateClaims(deviceId: number): string[] {
    return this.db.prepare("SELECT claim FROM device_duplicates WHERE device_id = ? ORDER BY claim").pluck().all(deviceId) as string[];
  }

  // Marks

  staleFamily(id?: number): StaleFamily | undefined {
    const columns = "SELECT family_id AS familyId, parts, seq FROM stale_families";
    return (
      id === undefined
        ? this.db.prepare(`${columns} ORDER BY family_id DESC LIMIT 1`).get()
        : this.db.prepare(`${columns} WHERE family_id = ?`).get(id)
    ) as StaleFamily | undefined;
  }
  staleParcel(id?: number): { parcelId: number; seq: number } | undefined {
    const columns = "SELECT parcel_id AS parcelId, seq FROM stale_parcels";
    return (
      id === undefined
        ? this.db.prepare(`${columns} ORDER BY parcel_id DESC LIMIT 1`).get()
        : this.db.prepare(`${columns} WHERE parcel_id = ?`).get(id)
    ) as { parcelId: number; seq: number } | undefined;
  }
  staleName(nameKey?: string): { nameKey: string; seq: number } | undefined {
    const columns = "SELECT name_key AS nameKey, seq FROM stale_names";
    return (
      nameKey === undefined ? this.db.prepare(`${columns} LIMIT 1`).get() : this.db.prepare(`${columns} WHERE name_key = ?`).get(nameKey)
    ) as { nameKey: string; seq: number } | undefined;
  }
  markFamily(familyId: number, parts: number): void {
    this.db
      .prepare(
        `INSERT INTO stale_families (family_id, parts) VALUES (?, ?)
         ON CONFLICT (family_id) DO UPDATE SET parts = parts | excluded.parts, seq = seq + 1`,
      )
      .run(familyId, parts);
  }
  /** Marks the names a family's styles go by, whose rows on devices speak of its licence. */
  markNamesOf(familyId: number): void {
    this.db
      .prepare(
        `INSERT INTO stale_names (name_key) SELECT DISTINCT f.family_key FROM styles s JOIN faces f ON f.sha256 = s.sha256 AND f.face = s.face
         WHERE s.family_id = ? ON CONFLICT (name_key) DO UPDATE SET seq = seq + 1`,
      )
      .run(familyId);
  }
  /** Marks the cells of families filed under a name that have sightings: another file of that name may have come or gone. */
  markRivals(nameKey: string): void {
    this.db
      .prepare(
        `INSERT INTO stale_families (family_id, parts)
         SELECT id, 4 FROM families WHERE (key = ? OR id IN (SELECT family_id FROM family_spellings WHERE key = ?))
           AND EXISTS (SELECT 1 FROM styles s JOIN sightings g ON g.style_id = s.id WHERE s.family_id = families.id)
         ON CONFLICT (family_id) DO UPDATE SET parts = parts | 4, seq = seq + 1`,
      )
      .run(nameKey, nameKey);
  }
  markEverything(): void {
    this.db.exec(`INSERT INTO stale_families (family_id, parts) SELECT id, 7 FROM families WHERE true
        ON CONFLICT (family_id) DO UPDATE SET parts = 7, seq = seq + 1;
      INSERT INTO stale_parcels (parcel_id) SELECT id FROM parcels WHERE true ON CONFLICT (parcel_id) DO UPDATE SET seq = seq + 1;
      INSERT INTO stale_names (name_key) SELECT DISTINCT f.family_key FROM observed_fonts o JOIN faces f ON f.sha256 = o.sha256 WHERE true
        ON CONFLICT (name_key) DO UPDATE SET seq = seq + 1;
      INSERT INTO stale_names (name_key) VALUES ('') ON CONFLICT (name_key) DO UPDATE SET seq = seq + 1;`);
  }
  /** Takes a mark away, unless it was set again meanwhile. */
  settle(what: "family" | "parcel" | "name", key: number | string, seq: number): void {
    const [table, column] = {
      family: ["stale_families", "family_id"],
      parcel: ["stale_parcels", "parcel_id"],
      name: ["stale_names", "name_key"],
    }[what] as [string, string];
    this.db.prepare(`DELETE FROM ${table} WHERE ${column} = ? AND seq = ?`).run(key, seq);
  }
  staleCount(): number {
    return this.db
      .prepare("SELECT (SELECT count(*) FROM stale_families) + (SELECT count(*) FROM stale_parcels) + (SELECT count(*) FROM stale_names)")
      .pluck()
      .get() as number;
  }
  isFresh(): boolean {
    return (
      this.db
        .prepare("SELECT EXISTS (SELECT 1 FROM stale_families) + EXISTS (SELECT 1 FROM stale_parcels) + EXISTS (SELECT 1 FROM stale_names)")
        .pluck()
        .get() === 0
    );
  }
}
