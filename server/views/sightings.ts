// Where styles stand in programs, from what was observed and seen. Each question asks the database for what it needs, and no more.
import { claimKeys, menuFont, type Brief } from "../../core/family/brief.ts";
import { refusal } from "../../core/menu/menu.ts";
import { againstSeeing, cellState, type CellFacts, type CellState, type SightingState } from "../../core/menu/state.ts";
import type { Parts } from "../parts.ts";
import type { ProgramRow } from "../store/devices/programs.ts";
import type { ObservedRow } from "../store/devices/observed.ts";
import type { StyleBrief } from "../store/families/families.ts";
import type { SightingRow } from "../store/sightings/sightings.ts";
import type { FamilyCellRow } from "../store/views/cells.ts";
import type { CellRow } from "../store/views/cells.ts";

/** What stands for a whole family: a swapped style before all others, then what is furthest. How many were seen is counted beside it. */
const FURTHEST: readonly SightingState[] = ["swapped", "seen", "reopen", "load-by-hand", "due", "off", "lapsed", "not-here"];

/** Whether a program reads where a copy lies; of programs' own stores it reads only its own. */
export const reads = (program: ProgramRow, row: ObservedRow): boolean =>
  row.folder === "own"
    ? program.traits.reads.includes("own") && row.fileName.startsWith(`${program.slug}/`)
    : row.folder !== "built-in" && program.traits.reads.includes(row.folder);

/** A style with its copies on devices and what was last seen of it. */
export interface StyleFacts {
  style: StyleBrief;
  copies: readonly ObservedRow[];
  latest: ReadonlyMap<number, SightingRow>;
  /** The latest document of each program that asks for it. */
  asked: ReadonlyMap<number, SightingRow>;
}

export class Cells {
  private readonly uses: Pick<Parts, "devices" | "sightings" | "observed" | "programs">;
  private readonly lapsed: (familyId: number) => boolean;
  constructor(uses: Pick<Parts, "devices" | "sightings" | "observed" | "programs">, lapsed: (familyId: number) => boolean) {
    this.uses = uses;
    this.lapsed = lapsed;
  }

  facts(style: StyleBrief): StyleFacts {
    const copies = this.uses.observed.copiesOf(style.sha256).filter((row) => row.folder !== "built-in");
    return { style, copies, latest: this.uses.sightings.latestOf(style.id), asked: this.uses.sightings.latestOf(style.id, true) };
  }

  /** What is known of a style in a program, but for what was seen of it. */
  private known({ style, copies, asked }: StyleFacts, program: ProgramRow): Omit<CellFacts, "sighting"> {
    const here = copies.filter((row) => row.deviceId === program.deviceId);
    const readable = here.filter((row) => reads(program, row));
    return {
      program: program.name,
      device: program.deviceName,
      lapsed: here.length > 0 && this.lapsed(style.familyId),
      readsWhen: program.traits.readsWhen,
      readable: readable.map((row) => ({ on: row.on, visible: row.visible, since: Date.parse(row.since) })),
      elsewhere: here.length - readable.length,
      ...(asked.has(program.id) ? { askedAt: Date.parse(asked.get(program.id)!.at) } : {}),
      openedAt: program.openedAt === null ? undefined : Date.parse(program.openedAt),
      updatedAt: program.updatedAt === null ? undefined : Date.parse(program.updatedAt),
      storeUnknown: program.own,
      keeps: program.traits.keeps,
    };
  }

  /** What speaks against a style being seen in a program now; empty when nothing does. */
  against(style: StyleBrief, program: ProgramRow): string {
    return againstSeeing(this.known(this.facts(style), program));
  }

  state(facts: StyleFacts, program: ProgramRow): CellState {
    const { style, latest } = facts;
    const sighting = latest.get(program.id);
    const cell = cellState({
      ...this.known(facts, program),
      sighting: sighting && {
        result: sighting.result as Exclude<SightingRow["result"], "asked-for">,
        at: Date.parse(sighting.at),
        instead: sighting.instead,
        means: sighting.means,
        who: sighting.who,
        doubted: sighting.doubted,
      },
      rivalSince: sighting && this.rivalSince(style, program),
    });
    if (cell.state !== "due" && cell.state !== "reopen") return cell;
    // Whatever else is done, a program does not list what it does not take.
    const refused = refusal(menuFont(style.brief, style.sha256, style.face), program.traits);
    return refused
      ? { state: "not-here", reason: `It is on ${program.deviceName}, but ${program.name} will not list it. ${refused}` }
      : cell;
  }

  /** When another file that claims the same family and style came to where a program reads; undefined when there is none. */
  private rivalSince({ sha256, brief }: { sha256: string; brief: Brief }, program: ProgramRow): number | undefined {
    const keys = claimKeys(brief);
    const rivals = this.uses.observed
      .claimantsOn(program.deviceId, keys.family, keys.style)
      .filter((row) => row.sha256 !== sha256 && row.on && row.visible && (row.folder === "built-in" || reads(program, row)));
    return rivals.length === 0 ? undefined : Math.max(...rivals.map((row) => Date.parse(row.since)));
  }

  /** All cells of a family's styles, "not here" left out, and those of the family itself. `main` stands for it. */
  ofFamily(styles: readonly StyleBrief[], main: number): { styles: CellRow[]; family: FamilyCellRow[] } {
    const programs = this.uses.programs.all();
    const rows: CellRow[] = [];
    for (const style of styles) {
      const facts = this.facts(style);
      const on = new Set(facts.copies.map((row) => row.deviceId));
      for (const program of programs) {
        // Where it does not lie and was never seen, it is not here, unless it may be loaded by hand.
        if (!on.has(program.deviceId) && !facts.latest.has(program.id) && program.traits.readsWhen !== "by-hand") continue;
        const { state } = this.state(facts, program);
        if (state !== "not-here") rows.push({ programId: program.id, state, styleId: style.id });
      }
    }
    const family = programs.flatMap((program): FamilyCellRow[] => {
      const own = rows.filter((row) => row.programId === program.id);
      const state = FURTHEST.find((one) => own.some((row) => row.state === one));
      if (!state) return [];
      const there = own.filter((row) => row.state === state);
      const seen = own.filter((row) => row.state === "seen").length;
      const styleId = (there.find((row) => row.styleId === main) ?? there[0]!).styleId;
      return [{ programId: program.id, state, styleId, seen, listed: own.length }];
    });
    family.sort((a, b) => a.programId - b.programId);
    return { styles: rows, family };
  }
}
