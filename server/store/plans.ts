// Queries on plans.
import type { PlanStep, PlanView } from "../../contract/plan.ts";
import type { Db } from "./database.ts";

export type StoredStep = PlanStep & { sha256: string };
export interface PlanRow {
  id: number;
  deviceId: number;
  action: PlanView["action"];
  account: PlanView["account"];
  familyIds: number[];
  state: PlanView["state"];
  steps: StoredStep[];
  fontsBefore: number;
  fontsAfter: number;
}

export class PlanStore {
  private readonly db: Db;
  constructor(db: Db) {
    this.db = db;
  }
  add(plan: Omit<PlanRow, "id">, at: string): number {
    const { lastInsertRowid } = this.db
      .prepare(
        `INSERT INTO plans (device_id, action, account, family_ids, state, steps, fonts_before, fonts_after, drawn_at)
         VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?)`,
      )
      .run(
        plan.deviceId,
        plan.action,
        plan.account,
        JSON.stringify(plan.familyIds),
        plan.state,
        JSON.stringify(plan.steps),
        plan.fontsBefore,
        plan.fontsAfter,
        at,
      );
    return Number(lastInsertRowid);
  }
  get(id: number): PlanRow | undefined {
    const row = this.db
      .prepare(
        `SELECT id, device_id AS deviceId, action, account, family_ids AS familyIds, state, steps,
          fonts_before AS fontsBefore, fonts_after AS fontsAfter FROM plans WHERE id = ?`,
      )
      .get(id) as (Omit<PlanRow, "familyIds" | "steps"> & { familyIds: string; steps: string }) | undefined;
    return row && { ...row, familyIds: JSON.parse(row.familyIds) as number[], steps: JSON.parse(row.steps) as StoredStep[] };
  }
  update(plan: PlanRow): void {
    this.db
      .prepare("UPDATE plans SET state = ?, steps = ?, fonts_after = ? WHERE id = ?")
      .run(plan.state, JSON.stringify(plan.steps), plan.fontsAfter, plan.id);
  }
}
