// Where programs will list styles, what evidence says they drew, and the board of both.
import { createHash } from "node:crypto";
import type { Board, Prediction, Sighting } from "../../contract/sighting.ts";
import { judgeFonts } from "../../core/evidence/judge.ts";
import { representative } from "../../core/family/group.ts";
import { findingSteps, predictPlace, type MenuFont } from "../../core/menu/predict.ts";
import { cellState, type CellState } from "../../core/menu/state.ts";
import type { Context } from "../context.ts";
import { Fault, notFound } from "../fault.ts";
import type { ObservedRow, ProgramRow } from "../store/devices.ts";
import type { FaceRow, StyleRow } from "../store/library.ts";
import type { SightingRow } from "../store/sightings.ts";
import type { ClearanceService } from "./clearance.ts";
import type { Shelf, ShelfFamily } from "./shelf.ts";

const menuFont = (face: FaceRow): MenuFont => {
  const { family, style, legacyFamily, legacyStyle, fullName } = face.record;
  return { id: `${face.sha256}#${face.face}`, family, style, legacyFamily, legacyStyle, fullName };
};

export function copiesByFile(observed: readonly ObservedRow[]): Map<string, ObservedRow[]> {
  const copies = new Map<string, ObservedRow[]>();
  for (const row of observed) {
    const there = copies.get(row.sha256);
    if (there) there.push(row);
    else copies.set(row.sha256, [row]);
  }
  return copies;
}

/** Whether a program reads where a copy lies; of programs' own stores it reads only its own. */
const reads = (program: ProgramRow, row: ObservedRow): boolean =>
  row.folder === "own"
    ? program.traits.reads.includes("own") && row.fileName.startsWith(`${program.slug}/`)
    : row.folder !== "built-in" && program.traits.reads.includes(row.folder);

/** Everything needed to say where styles stand in programs, read once. */
interface Facts {
  /** Every copy of a file, by its digest. */
  copies: Map<string, ObservedRow[]>;
  observed: readonly ObservedRow[];
  latest: Map<string, SightingRow>;
  lapsed: (familyId: number) => boolean;
  facesOf: (sha256: string) => FaceRow[];
}

export class SightingService {
  private readonly context: Context;
  private readonly shelf: Shelf;
  private readonly clearance: ClearanceService;
  private kept: { stamp: string; states: Map<number, Set<CellState["state"]>> } | undefined;
  constructor(context: Context, shelf: Shelf, clearance: ClearanceService) {
    this.context = context;
    this.shelf = shelf;
    this.clearance = clearance;
  }

  private facts(): Facts {
    const kept = new Map<string, FaceRow[]>();
    const facesOf = (sha256: string): FaceRow[] => {
      let faces = kept.get(sha256);
      if (!faces) kept.set(sha256, (faces = this.context.library.facesOf(sha256)));
      return faces;
    };
    const latest = new Map(this.context.sightings.latest().map((row) => [`${row.styleId}/${row.programId}`, row]));
    const observed = this.context.devices.observed();
    const clearances = this.clearance.all();
    return { observed, copies: copiesByFile(observed), latest, facesOf, lapsed: (id) => clearances.get(id)?.lapsed ?? false };
  }

  private state(style: { id: number; familyId: number; sha256: string }, program: ProgramRow, facts: Facts): CellState {
    const copies = (facts.copies.get(style.sha256) ?? []).filter((row) => row.deviceId === program.deviceId && row.folder !== "built-in");
    const readable = copies.filter((row) => reads(program, row));
    const sighting = facts.latest.get(`${style.id}/${program.id}`);
    return cellState({
      program: program.name,
      device: program.deviceName,
      lapsed: facts.lapsed(style.familyId),
      readsWhen: program.traits.readsWhen,
      readable: readable.map((row) => ({ on: row.on, visible: row.visible, since: Date.parse(row.since) })),
      elsewhere: copies.length - readable.length,
      sighting: sighting && { result: sighting.result, at: Date.parse(sighting.at), instead: sighting.instead },
      openedAt: program.openedAt === null ? undefined : Date.parse(program.openedAt),
    });
  }

  private predict(style: StyleRow, program: ProgramRow, facts: Facts): Prediction {
    const { lists, readsWhen } = program.traits;
    const visible = facts.observed
      .filter((row) => row.deviceId === program.deviceId && row.on && row.visible && (row.folder === "built-in" || reads(program, row)))
      .flatMap((row) => facts.facesOf(row.sha256))
      .filter((face) => face.record.verdict !== "refused")
      .map(menuFont);
    const wanted = menuFont(style);
    const listed = visible.some((font) => font.id === wanted.id);
    const place = predictPlace(wanted, listed ? visible : [...visible, wanted], lists);
    const { state, reason } = this.state(style, program, facts);
    return {
      styleId: style.id,
      styleName: style.record.fullName,
      programId: program.id,
      programName: program.name,
      deviceId: program.deviceId,
      deviceName: program.deviceName,
      state,
      reason,
      listed,
      ...place,
      steps: findingSteps(program.name, place, { lists, readsWhen }, state === "reopen"),
    };
  }

  /** Predictions for a family's representative style, or for every style, in every program. */
  forFamily(familyId: number, everyStyle = false): Prediction[] {
    const styles = this.context.library.stylesOf(familyId);
    const facts = this.facts();
    const shown = everyStyle ? styles : styles.filter((style) => style === standsFor(styles));
    return shown.flatMap((style) => this.context.devices.programs().map((program) => this.predict(style, program, facts)));
  }

  forStyle(styleId: number, programId: number): Prediction {
    const style = this.context.library.style(styleId);
    const program = this.context.devices.program(programId);
    if (!style || !program) throw notFound(style ? "program" : "style");
    return this.predict(style, program, this.facts());
  }

  board(): Board {
    const programs = this.context.devices.programs();
    const facts = this.facts();
    const rows = this.shelf.families().map((family) => ({
      familyId: family.id,
      familyName: family.name,
      cells: programs.map((program) => this.familyCell(family, program, facts)),
    }));
    return { programs: programs.map(({ id, name, deviceName }) => ({ id, name, deviceName, practice: true })), rows };
  }

  /** A family is as far as its furthest style: one style seen means the program reads the family. */
  private familyCell({ styles, main }: ShelfFamily, program: ProgramRow, facts: Facts) {
    const states = styles.map((style) => ({ style, state: this.state(style, program, facts).state }));
    const order: CellState["state"][] = ["seen", "swapped", "reopen", "load-by-hand", "due", "off", "lapsed", "not-here"];
    const best = order.find((state) => states.some((one) => one.state === state)) ?? "not-here";
    const chosen = states.find((one) => one.state === best && one.style.id === main.id) ?? states.find((one) => one.state === best)!;
    return { programId: program.id, state: best, styleId: chosen.style.id };
  }

  /** Takes an exported file as evidence for one style in one program. Throws a `Fault` when it tells nothing. */
  async give(styleId: number, programId: number, fileName: string, bytes: Uint8Array): Promise<Sighting> {
    const style = this.context.library.style(styleId);
    const program = this.context.devices.program(programId);
    if (!style || !program) throw notFound(style ? "program" : "style");
    // Loaded when first wanted: reading PDF is a lot of code.
    const { readPdf } = await import("../../core/evidence/pdf.ts");
    const read = await readPdf(bytes);
    if (!read.ok) throw new Fault(422, read.problem);
    const judged = judgeFonts(read.value.fonts, style.record);
    if (!judged.ok) throw new Fault(422, judged.problem);
    const fileSha256 = createHash("sha256").update(bytes).digest("hex");
    const at = this.context.now();
    const { result, instead, sentence } = judged.value;
    const row = { styleId, programId, result, instead, sentence, fileName, fonts: read.value.fonts, at };
    const id = this.context.db.transaction(() => {
      const word = result === "seen" ? "seen in" : "swapped in";
      this.context.history.add(at, result, `${style.record.fullName} ${word} ${program.name} on ${program.deviceName}: ${sentence}`, [
        style.familyId,
      ]);
      return this.context.sightings.add({ ...row, fileSha256 });
    })();
    this.context.events.changed("sightings", "families");
    return this.toView({ id, ...row });
  }

  toView(row: SightingRow): Sighting {
    const style = this.context.library.style(row.styleId);
    const program = this.context.devices.program(row.programId);
    return { ...row, styleName: style?.record.fullName ?? "", programName: program?.name ?? "", deviceName: program?.deviceName ?? "" };
  }

  /** Per family: whether any style was seen or swapped, by sightings that still count. */
  seenStates(): Map<number, Set<CellState["state"]>> {
    const { devices, sightings } = this.context;
    const stamp = [this.clearance.stamp(), devices.version, sightings.version].join();
    if (this.kept?.stamp !== stamp) {
      const rows = this.board().rows.map((row): [number, Set<CellState["state"]>] => [
        row.familyId,
        new Set(row.cells.map((cell) => cell.state)),
      ]);
      this.kept = { stamp, states: new Map(rows) };
    }
    return this.kept.states;
  }
}

export const standsFor = (styles: readonly StyleRow[]): StyleRow | undefined => {
  const best = representative(styles.map((style) => ({ ...style.record, row: style })));
  return best?.row;
};
