// Taking things back, long after: what can be undone stands in the history, with what undoes it.
import type { HistoryEvent } from "../../../contract/history.ts";
import { leftOutKey } from "../../../core/clearance/gather.ts";
import { Fault, notFound } from "../../fault.ts";
import type { Parts } from "../../parts.ts";
import type { HistoryRow } from "../../store/history/history.ts";
import type { Undo } from "../../store/history/history.ts";

type Uses = Pick<
  Parts,
  | "bench"
  | "matches"
  | "pairings"
  | "history"
  | "plans"
  | "clearance"
  | "devices"
  | "jobs"
  | "parcels"
  | "library"
  | "sightings"
  | "db"
  | "programs"
  | "now"
>;

/** How each kind of thing is taken back, by whoever did it. */
export type Undoing = { [K in Undo["kind"]]: (undo: Undo & { kind: K }) => unknown };

/** So many things that can be taken back are listed. */
const LISTED = 12;

export class HistoryService {
  private readonly uses: Uses;
  private readonly undoing: Undoing;
  constructor(uses: Uses, undoing: Undoing) {
    this.uses = uses;
    this.undoing = undoing;
  }

  /** Whether it can still be taken back: what it was done to is as it was left. */
  private possible(undo: Undo): boolean {
    const { plans, clearance, devices, jobs, parcels, library, sightings } = this.uses;
    switch (undo.kind) {
      case "plan": {
        const plan = plans.get(undo.id);
        return (
          plan !== undefined && (plan.state === "done" || plan.state === "failed") && devices.device(plan.request.deviceId) !== undefined
        );
      }
      case "licence":
        return clearance.isOnRecord(undo.id);
      case "licence-removed":
        return clearance.licence(undo.id) !== undefined && !clearance.isOnRecord(undo.id);
      case "program-removed":
        return this.uses.programs.isRemoved(undo.id);
      case "sheet-removed":
        return this.uses.bench.isRemoved(undo.id);
      case "match-removed":
        return this.uses.matches.isRemoved(undo.id);
      case "job-removed":
        return jobs.isRemoved(undo.id);
      case "parcel-removed":
        return parcels.get(undo.id)?.removed_at != null;
      case "archive-cleared":
        return parcels.get(undo.id)?.cleared_at != null && parcels.files(undo.id).length > 0;
      case "sighting":
        return sightings.get(undo.id) !== undefined && !sightings.takenBack(undo.id);
      case "sighting-back":
        return sightings.takenBack(undo.id);
      case "left-out":
        return clearance.leftOut([undo.text]).has(leftOutKey(undo.text, undo.sentence));
      case "shelved":
        return library.removedAmong(undo.styleIds) < undo.styleIds.length;
      case "name-learnt":
        return (this.uses.programs.learntName(undo.programId, undo.sha256, undo.face) ?? null) !== undo.before;
      case "unpaired":
        return this.uses.pairings.isRevoked(undo.id);
      case "looks":
        return undo.sightingIds.some((id) => sightings.get(id) !== undefined && !sightings.takenBack(id));
      case "styles-removed":
        return library.removedAt(undo.at).length > 0;
      case "spelling":
        return library.spellings(undo.id).some((one) => one.key === undo.key);
    }
  }
  private view({ undo, undoneAt, ...row }: HistoryRow): HistoryEvent {
    const undone = undoneAt !== "" || (undo?.kind === "plan" && this.uses.plans.get(undo.id)?.state === "undone");
    return { ...row, undone, undo: undo !== null && this.possible(undo) ? (undo.kind === "plan" ? { planId: undo.id } : {}) : null };
  }

  /** What happened to a family, the latest first. */
  ofFamily(familyId: number): HistoryEvent[] {
    return this.uses.history.ofFamily(familyId).map((row) => this.view(row));
  }
  /** What was done on a device lately. */
  ofDevice(deviceId: number): HistoryEvent[] {
    return this.uses.history.ofDevice(deviceId, LISTED).map((row) => this.view(row));
  }
  /** The latest of what can be taken back. */
  undoable(): HistoryEvent[] {
    return this.uses.history
      .undoable(LISTED * 4)
      .map((row) => this.view(row))
      .filter((event) => event.undo !== null)
      .slice(0, LISTED);
  }

  /** Takes something back. Throws a `Fault` when that is not possible any more. */
  async undo(id: number): Promise<void> {
    const row = this.uses.history.get(id);
    if (!row) throw notFound("entry of the history");
    const { undo } = row;
    if (!undo || !this.possible(undo)) {
      throw new Fault(409, {
        code: "undo-over",
        message: "This cannot be taken back any more: it was taken back already, or something changed since.",
        next: "Look at it as it is now.",
      });
    }
    await (this.undoing[undo.kind] as (undo: Undo) => unknown)(undo);
    this.uses.history.undone(id, this.uses.now());
  }
}
