// Where programs will list styles, what evidence says they drew, and the board of both.
import {
  MOST_CELLS,
  type Board,
  type BoardQuery,
  type BriefPrediction,
  type CellKey,
  type Diagnosis,
  type Prediction,
  type Sighting,
} from "../../../contract/sightings.ts";
import { menuFont } from "../../../core/family/brief.ts";
import { compareStyles } from "../../../core/family/group.ts";
import { scriptsOf } from "../../../core/coverage/scripts.ts";
import { diagnose } from "../../../core/menu/diagnose.ts";
import { asTaken, findingSteps, Menu, refusal, waysToList, type MenuFont } from "../../../core/menu/menu.ts";
import type { MenuTraits } from "../../../core/menu/traits.ts";
import { folderWords } from "../../../core/placing/files.ts";
import { Fault, notFound } from "../../fault.ts";
import { othersFirst } from "../../../core/turns.ts";
import type { Parts } from "../../parts.ts";
import type { ProgramRow } from "../../store/devices/programs.ts";
import type { ObservedRow } from "../../store/devices/observed.ts";
import type { StyleBrief } from "../../store/families/families.ts";
import type { SightingRow } from "../../store/sightings/sightings.ts";
import { reads, type Cells } from "../../views/sightings.ts";
import type { Clearing } from "../../views/clearance.ts";
import type { WorkPool } from "../../work/pool.ts";

type Uses = Pick<
  Parts,
  | "config"
  | "db"
  | "library"
  | "devices"
  | "sightings"
  | "familyViews"
  | "history"
  | "events"
  | "programs"
  | "externalChanges"
  | "observed"
  | "cellViews"
>;

export function sightingView(uses: Pick<Parts, "library" | "programs">, row: SightingRow): Sighting {
  const style = uses.library.styleBrief(row.styleId);
  const program = uses.programs.get(row.programId);
  return { ...row, styleName: style?.brief.fullName ?? "", programName: program?.name ?? "", deviceName: program?.deviceName ?? "" };
}

/** Fonts of a device looked up between two pauses. */
const LISTED_TOGETHER = 200;

export class SightingService {
  private readonly uses: Uses;
  private readonly cells: Cells;
  private readonly clearing: Clearing;
  private readonly pool: WorkPool;
  constructor(uses: Uses, cells: Cells, clearing: Clearing, pool: WorkPool) {
    this.uses = uses;
    this.cells = cells;
    this.clearing = clearing;
    this.pool = pool;
  }

  private cell(styleId: number, programId: number): { style: StyleBrief; program: ProgramRow } {
    const style = this.uses.library.styleBrief(styleId);
    const program = this.uses.programs.get(programId);
    if (!style || !program) throw notFound(style ? "program" : "style");
    return { style, program };
  }

  /** Where a style stands in a program's list, or would stand if it were there. Worked out in a thread: the list may hold thousands. */
  private async placeOf(style: StyleBrief, program: ProgramRow) {
    const { id, deviceId, slug, traits } = program;
    const wanted = this.fontIn(style, program);
    const stamp = `${this.uses.programs.learnt} ${this.uses.observed.stampOf(deviceId)} ${this.uses.library.facesStamp} ${JSON.stringify(traits)}`;
    const [found] = await this.pool.placesIn({
      library: this.uses.db.name,
      stamp,
      program: { id, deviceId, slug, traits },
      fonts: [wanted],
    });
    return { ...found!, refusal: refusal(wanted, traits) };
  }

  /** A style as a program lists it: by the name a person found it under there, where somebody said. */
  private fontIn(style: StyleBrief, program: ProgramRow): MenuFont {
    const font = menuFont(style.brief, style.sha256, style.face);
    const listedAs = this.uses.programs.learntName(program.id, style.sha256, style.face);
    return listedAs === undefined ? font : { ...font, listedAs };
  }

  /** Takes a person's word for the name a style is listed under; empty takes it back. Tells another way of listing that would explain it. */
  learnName(styleId: number, programId: number, name: string): { suggests: MenuTraits["lists"] | null } {
    const { style, program } = this.cell(styleId, programId);
    if (!program.own) {
      throw new Fault(409, {
        code: "program-fixed",
        message: `${program.name} belongs to the practice room and lists fonts as it does.`,
        next: "Correct names in programs of your own.",
      });
    }
    const { history, db, config, programs } = this.uses;
    const before = programs.learntName(programId, style.sha256, style.face) ?? null;
    const after = name === "" ? null : name;
    if (before === after) return { suggests: null };
    const undo = { kind: "name-learnt" as const, programId, sha256: style.sha256, face: style.face, before };
    const sentence =
      after === null
        ? `${style.brief.fullName} is predicted in ${program.name} by its own names again.`
        : `${style.brief.fullName} is listed in ${program.name} as “${after}”.`;
    db.transaction(() => {
      programs.learnName(programId, style.sha256, style.face, after);
      history.add(config.now().toISOString(), "name", sentence, [style.familyId], undo);
    })();
    this.uses.events.changed("sightings", "families");
    if (after === null) return { suggests: null };
    return { suggests: waysToList(menuFont(style.brief, style.sha256, style.face), after, program.traits)[0] ?? null };
  }
  /** Puts back what a name was before. */
  unlearnName({ programId, sha256, face, before }: { programId: number; sha256: string; face: number; before: string | null }): void {
    this.uses.programs.learnName(programId, sha256, face, before);
    this.uses.events.changed("sightings", "families");
  }

  /** A style in a program, as a family's page shows it: without its neighbours in the list. */
  private brief(style: StyleBrief, program: ProgramRow): BriefPrediction {
    const font = this.fontIn(style, program);
    const refused = refusal(font, program.traits);
    // What a program does not take has no place in its list; by its names it would be found here.
    const shown = asTaken(font, program.traits);
    const place = new Menu([shown], program.traits).place(shown);
    const { state, reason } = this.cells.state(this.cells.facts(style), program);
    return {
      styleId: style.id,
      styleName: style.brief.fullName,
      programId: program.id,
      programName: program.name,
      deviceId: program.deviceId,
      deviceName: program.deviceName,
      state,
      reason: refused && state !== "seen" && !reason.endsWith(refused) ? `${reason} ${refused}` : reason,
      refusal: refused,
      menuName: place?.menuName ?? style.brief.fullName,
      within: place?.within ?? "",
    };
  }
  /** A family's representative style in every program. */
  forFamily(familyId: number, mainStyle: number): BriefPrediction[] {
    const style = this.uses.library.briefsOf(familyId).find((one) => one.id === mainStyle);
    return style ? this.uses.programs.all().map((program) => this.brief(style, program)) : [];
  }

  async forStyle(styleId: number, programId: number): Promise<Prediction> {
    const { style, program } = this.cell(styleId, programId);
    const { listed, place, refusal: refused } = await this.placeOf(style, program);
    const brief = this.brief(style, program);
    return {
      ...brief,
      listed,
      ...place,
      steps: refused
        ? [`${program.name} will not list it. ${refused}`]
        : findingSteps(program.name, place, program.traits, brief.state === "reopen"),
    };
  }

  /** Why a style is not where it should be. */
  async diagnosis(styleId: number, programId: number): Promise<Diagnosis> {
    const { style, program } = this.cell(styleId, programId);
    const { place, refusal: refused } = await this.placeOf(style, program);
    const facts = this.cells.facts(style);
    const copies = facts.copies.filter((row) => row.deviceId === program.deviceId);
    const scripts = scriptsOf(this.uses.library.rangesOf(style.sha256, style.face));
    const latest = facts.latest.get(programId);
    const { traits } = program;
    const reasons = diagnose({
      program: program.name,
      device: program.deviceName,
      family: style.brief.family,
      fullName: style.brief.fullName,
      reads: traits.reads.map((folder) => folderWords(folder)),
      readsWhen: traits.readsWhen,
      keeps: traits.keeps,
      copies: copies.map((row: ObservedRow) => ({
        readable: reads(program, row),
        folder: folderWords(row.folder),
        on: row.on,
        visible: row.visible,
        since: Date.parse(row.since),
      })),
      openedAt: program.openedAt === null ? undefined : Date.parse(program.openedAt),
      refusal: refused,
      damaged: style.brief.verdict === "refused",
      lapsed: this.clearing.lapsed(style.familyId),
      place,
      onlyScripts: scripts.includes("latin") ? [] : scripts,
      filedAfter: traits.otherScripts === "after" && !style.brief.menu.latin,
      missedAt: latest?.result === "not-there" ? Date.parse(latest.at) : undefined,
      behind: this.behindOurBack(program, style, latest),
    });
    const account = traits.reads.includes("me") || !traits.reads.includes("everyone") ? "me" : "everyone";
    return {
      styleId,
      programId,
      deviceId: program.deviceId,
      familyId: style.familyId,
      account,
      reasons: reasons.map(({ weight: _, ...reason }) => reason),
    };
  }

  /** What was done to its file on the device by somebody else, since it was last seen or placed. */
  private behindOurBack(
    program: ProgramRow,
    style: StyleBrief,
    latest: SightingRow | undefined,
  ): { how: "deleted" | "overwritten" | "turned off"; fileName: string; at: number } | undefined {
    const since = latest?.result === "seen" ? latest.at : "";
    const found = this.uses.externalChanges.latestOf(program.deviceId, style.sha256, since);
    const how = found && ({ vanished: "deleted", changed: "overwritten", "switched-off": "turned off" } as const)[found.how as "vanished"];
    return found && how ? { how, fileName: found.fileName, at: Date.parse(found.at) } : undefined;
  }

  /** Fonts a program would find on its device by now, as "sha-256#face". */
  async listedIn(program: ProgramRow): Promise<string[]> {
    const found: string[] = [];
    let after: ObservedRow | undefined;
    for (;;) {
      const rows = this.uses.observed.after(program.deviceId, after, LISTED_TOGETHER);
      for (const row of rows) {
        if (!row.on || !row.visible || !(row.folder === "built-in" || reads(program, row))) continue;
        for (const { sha256, face, brief } of this.uses.library.facesBrief(row.sha256))
          if (brief.verdict !== "refused") found.push(`${sha256}#${face}`);
      }
      after = rows.at(-1);
      if (rows.length < LISTED_TOGETHER) return found;
      await othersFirst();
    }
  }

  /** A part of the board: one row a family, or one a style. */
  board({ by, device, job, family, state, program: only, from, limit }: BoardQuery): Board {
    const { familyViews, cellViews } = this.uses;
    const all = this.uses.programs.all();
    const programs = all.filter((one) => (device === undefined || one.deviceId === device) && (only === undefined || one.id === only));
    const filter = { programs: programs.map((program) => program.id), jobId: job, familyId: family, state };
    const counted = cellViews.boardRows(by, filter);
    const rows: Board["rows"] = [];
    let before = 0;
    for (const { familyId, rows: count } of counted) {
      const [first, last] = [Math.max(from, before), Math.min(from + limit, before + count)];
      if (first < last) rows.push(...this.rowsOf(familyId, by, programs, state).slice(first - before, last - before));
      before += count;
      if (before >= from + limit) break;
    }
    return {
      devices: [...new Map(all.map(({ deviceId: id, deviceName: name }) => [id, { id, name }])).values()],
      programs: programs.map(({ id, name, deviceId, deviceName, own }) => ({ id, name, deviceId, deviceName, practice: !own })),
      total: counted.reduce((sum, one) => sum + one.rows, 0),
      families: familyViews.familyCount(),
      from,
      rows,
    };
  }

  /** The cells of the board that fit, by style and program. */
  boardCells({ by, device, job, state, program: only }: BoardQuery): CellKey[] {
    const programs = this.uses.programs
      .all()
      .filter((one) => (device === undefined || one.deviceId === device) && (only === undefined || one.id === only));
    return this.uses.cellViews.boardCells(by, { programs: programs.map(({ id }) => id), jobId: job, state }, MOST_CELLS);
  }

  /** A family's rows of the board, in order; those that fit a state. */
  private rowsOf(familyId: number, by: BoardQuery["by"], programs: readonly ProgramRow[], state: BoardQuery["state"]): Board["rows"] {
    const { familyViews, library } = this.uses;
    const fits = (row: Board["rows"][number]) => state === undefined || row.cells.some((cell) => cell.state === state);
    if (by === "families") {
      const family = familyViews.heading(familyId);
      const cells = new Map(this.uses.cellViews.familyCells(familyId).map((cell) => [cell.programId, cell]));
      const none = { state: "not-here" as const, styleId: family.mainStyle, seen: 0, listed: 0 };
      return [
        {
          familyId,
          name: family.name,
          styleId: null,
          cells: programs.map(({ id }) => ({ ...none, programId: id, ...cells.get(id) })),
        },
      ];
    }
    const cells = new Map(this.uses.cellViews.styleCells(familyId).map((cell) => [`${cell.styleId}/${cell.programId}`, cell]));
    return library
      .briefsOf(familyId)
      .sort((a, b) => compareStyles(a.brief, b.brief))
      .map((style) => ({
        familyId,
        name: style.brief.fullName,
        styleId: style.id,
        cells: programs.map(({ id }) => {
          const state = cells.get(`${style.id}/${id}`)?.state ?? ("not-here" as const);
          return { programId: id, state, styleId: style.id, seen: Number(state === "seen"), listed: Number(state !== "not-here") };
        }),
      }))
      .filter(fits);
  }
}
