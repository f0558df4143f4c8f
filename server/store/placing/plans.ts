// Queries on plans.
import type { PlanItem, PlanState, PlanStep, PlanWanted, ProfilesBy } from "../../../contract/placing.ts";
import type { Choices } from "../../../core/placing/plan.ts";
import type { Db } from "../database.ts";

/** A step with what carrying it out needs: its file, the number of its item, and for files that are removed whether they were on. */
export type StoredStep = PlanStep & { sha256: string; item: number; wasOn?: boolean };
export type StoredItem = Omit<PlanItem, "steps"> & { steps: StoredStep[] };
export interface PlanRow {
  id: number;
  request: PlanWanted;
  choices: Choices;
  state: PlanState;
  items: StoredItem[];
  fontsBefore: number;
  fontsAfter: number;
  /** What the device held when it was drawn, as one digest. */
  drawnFrom: string;
}

interface Raw extends Omit<PlanRow, "request" | "choices" | "items"> {
  request: string;
  choices: string;
  steps: string;
}
const COLUMNS = `SELECT id, request, choices, state, steps, fonts_before AS fontsBefore, fonts_after AS fontsAfter, drawn_from AS drawnFrom
  FROM plans`;
const parsed = ({ steps, ...row }: Raw): PlanRow => ({
  ...row,
  request: JSON.parse(row.request) as PlanWanted,
  choices: JSON.parse(row.choices) as Choices,
  items: JSON.parse(steps) as StoredItem[],
});

export class PlanStore {
  private readonly db: Db;
  constructor(db: Db) {
    this.db = db;
  }
  add({ request, choices, state, items, fontsBefore, fontsAfter, drawnFrom }: Omit<PlanRow, "id">, at: string): number {
    const { lastInsertRowid } = this.db
      .prepare(
        `INSERT INTO plans (device_id, action, account, family_ids, request, choices, state, steps, fonts_before, fonts_after, drawn_from, drawn_at)
         VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`,
      )
      .run(
        request.deviceId,
        request.action,
        request.account,
        JSON.stringify(request.familyIds),
        JSON.stringify(request),
        JSON.stringify(choices),
        state,
        JSON.stringify(items),
        fontsBefore,
        fontsAfter,
        drawnFrom,
        at,
      );
    return Number(lastInsertRowid);
  }
  get(id: number): PlanRow | undefined {
    const row = this.db.prepare(`${COLUMNS} WHERE id = ?`).get(id) as Raw | undefined;
    return row && parsed(row);
  }
  /** Plans in a state, oldest first; those of one device when it is named. */
  inState(state: PlanState, deviceId?: number): PlanRow[] {
    const rows = this.db.prepare(`${COLUMNS} WHERE state = ? AND (? IS NULL OR device_id = ?) ORDER BY id`).all(state, deviceId, deviceId);
    return (rows as Raw[]).map(parsed);
  }
  update({ id, request, choices, state, items, fontsBefore, fontsAfter, drawnFrom }: PlanRow): void {
    this.db
      .prepare(
        "UPDATE plans SET state = ?, steps = ?, request = ?, choices = ?, fonts_before = ?, fonts_after = ?, drawn_from = ? WHERE id = ?",
      )
      .run(state, JSON.stringify(items), JSON.stringify(request), JSON.stringify(choices), fontsBefore, fontsAfter, drawnFrom, id);
  }
  /** How files were last placed on a device, by their hashes: in which kind of profile, and under which style's name. */
  placedHow(deviceId: number): Map<string, { by: ProfilesBy; styleName: string }> {
    const rows = this.db
      .prepare(
        `SELECT step.value ->> 'sha256' AS sha256, step.value ->> 'styleName' AS styleName, ifnull(p.request ->> 'profiles', 'family') AS "by"
         FROM plans p, json_each(p.steps) item, json_each(item.value, '$.steps') step
         WHERE p.device_id = ? AND p.state IN ('done', 'handed') AND step.value ->> 'op' = 'copy' ORDER BY p.id`,
      )
      .all(deviceId) as { sha256: string; styleName: string; by: ProfilesBy }[];
    return new Map(rows.map(({ sha256, ...how }) => [sha256, how]));
  }
  /** Sums of files that plans took off or brought from elsewhere, which undoing and repeating them needs. */
  heldFiles(): string[] {
    return (
      this.db.prepare("SELECT steps FROM plans WHERE state IN ('doing', 'done', 'failed', 'handed')").pluck().all() as string[]
    ).flatMap((steps) =>
      (JSON.parse(steps) as StoredItem[]).flatMap((item) =>
        item.steps.filter((step) => step.op === "remove" || step.styleId === null).map((step) => step.sha256),
      ),
    );
  }
}
