// Styles as plans want them, from the shelf, from a job, or from another device.
import { extname } from "node:path";
import type { PlanWanted } from "../../contract/plan.ts";
import { claimOf, isSlot, type PlacedFile, type Slot, type WantedStyle } from "../../core/placing/files.ts";
import type { Context } from "../context.ts";
import { Fault, notFound } from "../fault.ts";
import type { StyleRow } from "../store/library.ts";

/** Why a family should not be placed without a thought. */
export type HoldFamily = (familyId: number) => WantedStyle["held"];

function wantedStyle(style: StyleRow, held: WantedStyle["held"]): WantedStyle {
  const { record, sha256, bytes } = style;
  return {
    ...{ styleId: style.id, name: record.fullName, postScriptName: record.postScriptName, sha256, bytes, held },
    ending: extname(style.fileName) || ".ttf",
    refused: record.verdict === "refused",
    claim: claimOf({ ...record, sha256 }),
  };
}

/** A collection's faces share one file: it is placed once. */
const byFile = (styles: readonly WantedStyle[]): WantedStyle[] => [...new Map(styles.map((style) => [style.sha256, style])).values()];

export class Wanting {
  private readonly context: Context;
  private readonly hold: HoldFamily;
  constructor(context: Context, hold: HoldFamily) {
    this.context = context;
    this.hold = hold;
  }

  familiesOf(request: PlanWanted): number[] {
    if (request.jobId === undefined) return request.familyIds;
    const job = this.context.jobs.get(request.jobId);
    if (!job) throw notFound("job");
    return job.familyIds;
  }

  /** The styles of families, each file once. */
  styles(familyIds: readonly number[]): WantedStyle[] {
    if (familyIds.length === 0) {
      throw new Fault(422, { code: "plan-nothing", message: "No family is named for this plan.", next: "Choose at least one family." });
    }
    return byFile(
      familyIds.flatMap((id) => {
        if (!this.context.library.family(id)) throw notFound("family");
        const held = this.hold(id);
        return this.context.library.stylesOf(id).map((style) => wantedStyle(style, held));
      }),
    );
  }

  /** The placed fonts of a device, to be placed on another. */
  fromDevice(files: readonly PlacedFile[]): { style: WantedStyle; slot: Slot; on: boolean }[] {
    const shelved = new Map(this.context.library.allStyles().map((style) => [style.sha256, style]));
    return files.flatMap((file) => {
      if (!isSlot(file.folder)) return [];
      const style = shelved.get(file.sha256);
      const wanted = style ? wantedStyle(style, this.hold(style.familyId)) : this.foreign(file);
      return wanted ? [{ style: wanted, slot: file.folder, on: file.on }] : [];
    });
  }
  private foreign(file: PlacedFile): WantedStyle | undefined {
    const [face] = this.context.library.facesOf(file.sha256);
    if (!face) return undefined;
    const { record, sha256, bytes } = face;
    return {
      ...{ styleId: null, name: record.fullName, postScriptName: record.postScriptName, sha256, bytes },
      ending: extname(file.fileName) || ".ttf",
      refused: record.verdict === "refused",
      claim: claimOf({ ...record, sha256 }),
    };
  }
}
