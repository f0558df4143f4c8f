// Queries on rows of styles and families in programs: the board.
import type { SightingState } from "../../../core/menu/state.ts";
import type { Db } from "../database.ts";

export class CellViewStore {
  private readonly db: Db;
  constructor(db: Db) {
    this.db = db;
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
}

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
