// Sightings as they are entered, taken back and listed, each with its line in the history.
import type { Sighting } from "../../../contract/sightings.ts";
import { notFound } from "../../fault.ts";
import type { Parts } from "../../parts.ts";
import { inPieces } from "../../pieces.ts";
import type { ProgramRow } from "../../store/devices/programs.ts";
import type { StyleRow } from "../../store/families/families.ts";
import type { SightingRow } from "../../store/sightings/sightings.ts";
import { sightingView } from "./sightings.ts";

/** What was found of a style in a program. */
export type Found = Pick<SightingRow, "result" | "sentence" | "means"> &
  Partial<Pick<SightingRow, "instead" | "fileName" | "fileSha256" | "fonts" | "who" | "madeBy" | "letters" | "pages" | "doubted">>;

/** What a sighting holds where nothing is known. */
export const NOTHING_MORE = {
  instead: [],
  fileName: "",
  fileSha256: "",
  fonts: [],
  who: "",
  madeBy: "",
  letters: 0,
  pages: [],
  doubted: false,
};

export class SightingRecorder {
  private readonly uses: Pick<Parts, "db" | "library" | "programs" | "sightings" | "history" | "events" | "now">;
  constructor(uses: SightingRecorder["uses"]) {
    this.uses = uses;
  }

  /** A style and a program by their numbers. Throws a `Fault` where one is not there. */
  cell(styleId: number, programId: number): { style: StyleRow; program: ProgramRow } {
    const style = this.uses.library.style(styleId);
    const program = this.uses.programs.get(programId);
    if (!style || !program) throw notFound(style ? "program" : "style");
    return { style, program };
  }

  record(style: StyleRow, program: ProgramRow, found: Found): Sighting {
    const row = {
      ...NOTHING_MORE,
      ...found,
      styleId: style.id,
      programId: program.id,
      at: this.uses.now(),
    };
    const where = `${style.record.fullName} in ${program.name} on ${program.deviceName}`;
    const id = this.uses.db.transaction(() => {
      const added = this.uses.sightings.add(row);
      this.uses.history.add(row.at, row.result, `${where}: ${row.sentence}`, [style.familyId], { kind: "sighting", id: added });
      return added;
    })();
    this.uses.events.changed("sightings", "families");
    return sightingView(this.uses, this.uses.sightings.get(id)!);
  }

  /** Takes a sighting back, or puts it back: what was seen before counts again. */
  takeBack(id: number, back: boolean): Sighting {
    const row = this.uses.sightings.get(id);
    if (!row) throw notFound("sighting");
    if (this.uses.sightings.takenBack(id) !== back) {
      const view = sightingView(this.uses, row);
      const where = `${view.styleName} in ${view.programName} on ${view.deviceName}`;
      const familyId = this.uses.library.styleBrief(row.styleId)?.familyId;
      this.uses.db.transaction(() => {
        const at = this.uses.now();
        this.uses.sightings.takeBack(id, back ? at : null);
        const sentence = back ? `${where}: a sighting was taken back.` : `${where}: a sighting counts again.`;
        const undo = { kind: back ? "sighting-back" : "sighting", id } as const;
        this.uses.history.add(at, "taken-back", sentence, familyId === undefined ? [] : [familyId], undo);
      })();
      this.uses.events.changed("sightings", "families");
    }
    return sightingView(this.uses, row);
  }

  async takeBackMany(ids: readonly number[]): Promise<void> {
    const at = this.uses.now();
    await inPieces(this.uses, ids, (piece) => {
      for (const id of piece) if (!this.uses.sightings.takenBack(id)) this.uses.sightings.takeBack(id, at);
    });
    this.uses.events.changed("sightings", "families");
  }

  /** What was seen of a style in a program, latest first. */
  ofCell(styleId: number, programId: number): Sighting[] {
    return this.uses.sightings.ofCell(styleId, programId).map((row) => sightingView(this.uses, row));
  }
}
