// Styles as plans want them, from the shelf, from a job, or from another device.
import type { PlanWanted } from "../../../contract/placing.ts";
import { fontEnding, isSlot, type PlacedFile, type Slot, type WantedStyle } from "../../../core/placing/files.ts";
import { Fault, notFound } from "../../fault.ts";
import type { Parts } from "../../parts.ts";
import type { StyleBrief } from "../../store/families/families.ts";

/** Why a family should not be placed without a thought. */
export type HoldFamily = (familyId: number) => WantedStyle["held"];

/** Styles of one file, for plans: its faces' claims are looked up together. */
function wantedStyle(library: Parts["library"], style: StyleBrief, held: WantedStyle["held"]): WantedStyle {
  const { brief, sha256, bytes } = style;
  return {
    styleId: style.id,
    name: brief.fullName,
    postScriptName: brief.postScriptName,
    sha256,
    original: style.fileName,
    family: library.family(style.familyId)?.name ?? "",
    bytes,
    held,
    ending: fontEnding(brief),
    refused: brief.verdict === "refused",
    claim: library.claimsOf(sha256)[style.face]!,
  };
}

/** A collection's faces share one file: it is placed once. */
const byFile = (styles: readonly WantedStyle[]): WantedStyle[] => [...new Map(styles.map((style) => [style.sha256, style])).values()];

export class Wanting {
  private readonly uses: Pick<Parts, "library" | "jobs">;
  private readonly hold: HoldFamily;
  constructor(uses: Pick<Parts, "library" | "jobs">, hold: HoldFamily) {
    this.uses = uses;
    this.hold = hold;
  }

  familiesOf(request: PlanWanted): number[] {
    if (request.jobId === undefined) return request.familyIds.length > 0 ? request.familyIds : this.familiesWith(request.styleIds ?? []);
    const job = this.uses.jobs.get(request.jobId);
    if (!job) throw notFound("job");
    return job.familyIds;
  }

  /** Styles alone stand for their families. */
  private familiesWith(styleIds: readonly number[]): number[] {
    return [...new Set(styleIds.flatMap((id) => this.uses.library.styleBrief(id)?.familyId ?? []))];
  }

  /** The styles of families, or only those named, each file once. */
  styles(familyIds: readonly number[], styleIds?: readonly number[]): WantedStyle[] {
    const named = styleIds && new Set(styleIds);
    if (familyIds.length === 0) {
      throw new Fault(422, { code: "plan-nothing", message: "No family is named for this plan.", next: "Choose at least one family." });
    }
    return byFile(
      familyIds.flatMap((id) => {
        if (!this.uses.library.family(id)) throw notFound("family");
        const held = this.hold(id);
        return this.uses.library
          .briefsOf(id)
          .filter((style) => named?.has(style.id) ?? true)
          .map((style) => wantedStyle(this.uses.library, style, held));
      }),
    );
  }

  /** The placed fonts of a device, to be placed on another. */
  fromDevice(files: readonly PlacedFile[]): { style: WantedStyle; slot: Slot; on: boolean }[] {
    const { library } = this.uses;
    return files.flatMap((file) => {
      if (!isSlot(file.folder)) return [];
      const shelved = library.styleOfFile(file.sha256);
      const style = shelved && library.styleBrief(shelved.id);
      const wanted = style ? wantedStyle(library, style, this.hold(style.familyId)) : this.foreign(file);
      return wanted ? [{ style: wanted, slot: file.folder, on: file.on }] : [];
    });
  }
  private foreign(file: PlacedFile): WantedStyle | undefined {
    const [face] = this.uses.library.facesBrief(file.sha256);
    if (!face) return undefined;
    const { brief, sha256, bytes } = face;
    return {
      styleId: null,
      name: brief.fullName,
      postScriptName: brief.postScriptName,
      sha256,
      original: file.fileName,
      family: "",
      bytes,
      ending: fontEnding(brief),
      refused: brief.verdict === "refused",
      claim: file.claims[0]!,
    };
  }
}
