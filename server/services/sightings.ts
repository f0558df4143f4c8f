// Where programs will list styles, what evidence says they drew, and the board of both.
import type { Board, BoardBy, Diagnosis, Prediction, Sighting } from "../../contract/sighting.ts";
import { compareStyles, familyKey, representative } from "../../core/family/group.ts";
import { scriptsOf } from "../../core/coverage/scripts.ts";
import { diagnose } from "../../core/menu/diagnose.ts";
import { menuFont } from "../../core/menu/font.ts";
import { findingSteps, linesOf, Menu, refusal, type MenuFont } from "../../core/menu/menu.ts";
import { cellState, type CellState } from "../../core/menu/state.ts";
import { folderWords } from "../../core/placing/files.ts";
import type { Context } from "../context.ts";
import { notFound } from "../fault.ts";
import type { ObservedRow, ProgramRow } from "../store/devices.ts";
import type { FaceRow, StyleRow } from "../store/library.ts";
import type { SightingRow } from "../store/sightings.ts";
import type { ClearanceService } from "./clearance.ts";
import type { Shelf, ShelfFamily } from "./shelf.ts";

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

export function sightingView(context: Context, row: SightingRow): Sighting {
  const style = context.library.style(row.styleId);
  const program = context.devices.program(row.programId);
  return { ...row, styleName: style?.record.fullName ?? "", programName: program?.name ?? "", deviceName: program?.deviceName ?? "" };
}

/** Everything needed to say where styles stand in programs, read once. */
interface Facts {
  /** Every copy of a file, by its digest. */
  copies: Map<string, ObservedRow[]>;
  observed: readonly ObservedRow[];
  latest: Map<string, SightingRow>;
  lapsed: (familyId: number) => boolean;
  facesOf: (sha256: string) => FaceRow[];
  /** Each program's font list as it should be now. */
  menus: Map<number, { menu: Menu; fonts: MenuFont[]; ids: Set<string> }>;
  /** For each program, the files it finds by the family and style they claim. */
  claimants: Map<number, Map<string, ObservedRow[]>>;
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
    return {
      observed,
      copies: copiesByFile(observed),
      latest,
      facesOf,
      menus: new Map(),
      claimants: new Map(),
      lapsed: (id) => clearances.get(id)?.lapsed ?? false,
    };
  }

  private state(style: { id: number; familyId: number; sha256: string; face: number }, program: ProgramRow, facts: Facts): CellState {
    const copies = (facts.copies.get(style.sha256) ?? []).filter((row) => row.deviceId === program.deviceId && row.folder !== "built-in");
    const readable = copies.filter((row) => reads(program, row));
    const sighting = facts.latest.get(`${style.id}/${program.id}`);
    const cell = cellState({
      program: program.name,
      device: program.deviceName,
      lapsed: facts.lapsed(style.familyId),
      readsWhen: program.traits.readsWhen,
      readable: readable.map((row) => ({ on: row.on, visible: row.visible, since: Date.parse(row.since) })),
      elsewhere: copies.length - readable.length,
      sighting: sighting && { result: sighting.result, at: Date.parse(sighting.at), instead: sighting.instead },
      openedAt: program.openedAt === null ? undefined : Date.parse(program.openedAt),
      updatedAt: program.updatedAt === null ? undefined : Date.parse(program.updatedAt),
      rivalSince: sighting && this.rivalSince(style.sha256, program, facts),
      storeUnknown: program.own,
      keeps: program.traits.keeps,
    });
    if (cell.state !== "due" && cell.state !== "reopen") return cell;
    // Whatever else is done, a program does not list what it does not take.
    const face = facts.facesOf(style.sha256)[style.face];
    const refused = face ? refusal(menuFont(face), program.traits) : "";
    return refused
      ? { state: "not-here", reason: `It is on ${program.deviceName}, but ${program.name} will not list it. ${refused}` }
      : cell;
  }

  /** When another file that claims the same family and style came to where a program reads; undefined when there is none. */
  private rivalSince(sha256: string, program: ProgramRow, facts: Facts): number | undefined {
    const claims = (sum: string) => facts.facesOf(sum).map(({ record }) => `${familyKey(record.family)}\n${familyKey(record.style)}`);
    let claimants = facts.claimants.get(program.id);
    if (!claimants) {
      facts.claimants.set(program.id, (claimants = new Map<string, ObservedRow[]>()));
      for (const row of this.readBy(program, facts))
        for (const claim of claims(row.sha256)) claimants.set(claim, [...(claimants.get(claim) ?? []), row]);
    }
    const rivals = claims(sha256).flatMap((claim) => claimants.get(claim)?.filter((row) => row.sha256 !== sha256) ?? []);
    return rivals.length === 0 ? undefined : Math.max(...rivals.map((row) => Date.parse(row.since)));
  }
  /** The files a program finds on its device by now. */
  private readBy(program: ProgramRow, facts: Facts): readonly ObservedRow[] {
    return facts.observed.filter(
      (row) => row.deviceId === program.deviceId && row.on && row.visible && (row.folder === "built-in" || reads(program, row)),
    );
  }

  /** The font list of a program, from what its device was seen to hold; worked out once for each question. */
  private menuOf(program: ProgramRow, facts: Facts): { menu: Menu; fonts: MenuFont[]; ids: Set<string> } {
    let known = facts.menus.get(program.id);
    if (!known) {
      const fonts = this.readBy(program, facts)
        .flatMap((row) => facts.facesOf(row.sha256))
        .filter((face) => face.record.verdict !== "refused")
        .map(menuFont);
      known = { fonts, menu: new Menu(fonts, program.traits), ids: new Set(fonts.map((font) => font.id)) };
      facts.menus.set(program.id, known);
    }
    return known;
  }

  /** Where a style stands in a program's list, or would stand if it were there. */
  private placeOf(style: StyleRow, program: ProgramRow, facts: Facts) {
    const { menu, fonts, ids } = this.menuOf(program, facts);
    const wanted = menuFont(style);
    const listed = ids.has(wanted.id) && linesOf(wanted, program.traits).length > 0;
    // A font the program refuses has no place; where it would be is shown by its names all the same.
    const plain = { container: "sfnt", variable: false, colour: false, symbols: false };
    const shown: MenuFont = { ...wanted, ...plain, outlines: program.traits.formats[0] ?? wanted.outlines };
    const place = (listed ? menu : new Menu([...fonts, shown], program.traits)).place(listed ? wanted : shown)!;
    return { listed, place, refusal: refusal(wanted, program.traits) };
  }

  private predict(style: StyleRow, program: ProgramRow, facts: Facts): Prediction {
    const { listed, place, refusal: refused } = this.placeOf(style, program, facts);
    const { state, reason } = this.state(style, program, facts);
    return {
      styleId: style.id,
      styleName: style.record.fullName,
      programId: program.id,
      programName: program.name,
      deviceId: program.deviceId,
      deviceName: program.deviceName,
      state,
      reason: refused && state !== "seen" && !reason.endsWith(refused) ? `${reason} ${refused}` : reason,
      listed,
      ...place,
      steps: refused
        ? [`${program.name} will not list it. ${refused}`]
        : findingSteps(program.name, place, program.traits, state === "reopen"),
    };
  }

  /** Why a style is not where it should be. */
  diagnosis(styleId: number, programId: number): Diagnosis {
    const style = this.context.library.style(styleId);
    const program = this.context.devices.program(programId);
    if (!style || !program) throw notFound(style ? "program" : "style");
    const facts = this.facts();
    const { place, refusal: refused } = this.placeOf(style, program, facts);
    const copies = (facts.copies.get(style.sha256) ?? []).filter((row) => row.deviceId === program.deviceId && row.folder !== "built-in");
    const scripts = scriptsOf(style.record.ranges);
    const latest = facts.latest.get(`${styleId}/${programId}`);
    const { traits } = program;
    const reasons = diagnose({
      program: program.name,
      device: program.deviceName,
      family: style.record.family,
      fullName: style.record.fullName,
      reads: traits.reads.map((folder) => folderWords(folder)),
      readsWhen: traits.readsWhen,
      keeps: traits.keeps,
      copies: copies.map((row) => ({
        readable: reads(program, row),
        folder: folderWords(row.folder),
        on: row.on,
        visible: row.visible,
        since: Date.parse(row.since),
      })),
      openedAt: program.openedAt === null ? undefined : Date.parse(program.openedAt),
      refusal: refused,
      damaged: style.record.verdict === "refused",
      lapsed: facts.lapsed(style.familyId),
      place,
      onlyScripts: scripts.includes("latin") ? [] : scripts,
      filedAfter: traits.otherScripts === "after" && !menuFont(style).latin,
      missedAt: latest?.result === "not-there" ? Date.parse(latest.at) : undefined,
    });
    const account = traits.reads.includes("me") || !traits.reads.includes("everyone") ? "me" : "everyone";
    return {
      ...{ styleId, programId, deviceId: program.deviceId, familyId: style.familyId, account },
      reasons: reasons.map(({ weight: _, ...reason }) => reason),
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

  /** What a program would find on its device by now, as "sha-256#face". */
  listedIn(program: ProgramRow): string[] {
    return this.menuOf(program, this.facts()).fonts.map((font) => font.id);
  }

  /** One row a family, or one a style. */
  board(by: BoardBy = "families"): Board {
    const programs = this.context.devices.programs();
    const facts = this.facts();
    const rows = this.shelf.families().flatMap((family): Board["rows"] => {
      if (by === "families")
        return [
          {
            familyId: family.id,
            name: family.name,
            styleId: null,
            cells: programs.map((program) => this.familyCell(family, program, facts)),
          },
        ];
      return [...family.styles]
        .sort((a, b) => compareStyles(a.record, b.record))
        .map((style) => ({
          familyId: family.id,
          name: style.record.fullName,
          styleId: style.id,
          cells: programs.map((program) => ({
            programId: program.id,
            state: this.state(style, program, facts).state,
            styleId: style.id,
          })),
        }));
    });
    return {
      programs: programs.map(({ id, name, deviceId, deviceName, own }) => ({ id, name, deviceId, deviceName, practice: !own })),
      rows,
    };
  }

  /** A family is as far as its furthest style: one style seen means the program reads the family. */
  private familyCell({ styles, main }: ShelfFamily, program: ProgramRow, facts: Facts) {
    const states = styles.map((style) => ({ style, state: this.state(style, program, facts).state }));
    const order: CellState["state"][] = ["seen", "swapped", "reopen", "load-by-hand", "due", "off", "lapsed", "not-here"];
    const best = order.find((state) => states.some((one) => one.state === state)) ?? "not-here";
    const chosen = states.find((one) => one.state === best && one.style.id === main.id) ?? states.find((one) => one.state === best)!;
    return { programId: program.id, state: best, styleId: chosen.style.id };
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
