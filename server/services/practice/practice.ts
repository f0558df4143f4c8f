// Opening, using and closing the practice room's programs.
import type { z } from "zod";
import type { PracticeProgram, PracticeText } from "../../../contract/practice.ts";
import { UNIT_MM } from "../../../core/bench/line.ts";
import { fileStem, plainFileName } from "../../../core/words/file-names.ts";
import type { Drawing } from "../../../practice/program.ts";
import type { PracticeRoom, ProgramHandle } from "../../../practice/room.ts";
import type { Parts } from "../../parts.ts";
import { Fault, notFound } from "../../fault.ts";
import type { ProgramRow } from "../../store/devices/programs.ts";
import { programSummary } from "../devices/devices.ts";
import type { Observer } from "../devices/observer.ts";

type Uses = Pick<Parts, "devices" | "library" | "files" | "events" | "now" | "programs">;

export class PracticeService {
  private readonly uses: Uses;
  private readonly room: PracticeRoom;
  private readonly observer: Observer;
  constructor(uses: Uses, room: PracticeRoom, observer: Observer) {
    this.uses = uses;
    this.room = room;
    this.observer = observer;
  }

  private find(id: number): { row: ProgramRow; device: string } {
    const row = this.uses.programs.get(id);
    const device = row && this.uses.devices.device(row.deviceId)?.slug;
    if (!row || !device) throw notFound("program");
    return { row, device };
  }
  private opened(id: number): { row: ProgramRow; program: ProgramHandle } {
    const { row, device } = this.find(id);
    const session = this.room.session(device, row.slug);
    if (!session) throw new Fault(409, { code: "program-closed", message: `${row.name} is closed.`, next: "Open it first." });
    return { row, program: session.program };
  }

  async look(id: number): Promise<PracticeProgram> {
    const { row, device } = this.find(id);
    const session = this.room.session(device, row.slug);
    return {
      program: programSummary(row),
      deviceName: row.deviceName,
      open: session !== undefined,
      openedAt: session?.openedAt ?? null,
      menu: session ? await session.program.menu() : [],
    };
  }

  async open(id: number): Promise<PracticeProgram> {
    const { row, device } = this.find(id);
    const already = this.room.session(device, row.slug);
    const at = this.uses.now();
    await this.room.open(device, row.slug, at);
    if (!already) this.uses.programs.setOpened(id, at);
    this.uses.events.changed("practice", "sightings", "families");
    return this.look(id);
  }

  async close(id: number): Promise<PracticeProgram> {
    const { row, device } = this.find(id);
    this.room.close(device, row.slug);
    this.uses.events.changed("practice");
    return this.look(id);
  }

  /** Loads a font file into a program by hand, from the library or from the person's own files; `keep` has it there next time too. */
  async load(id: number, fileName: string, bytes: Uint8Array, keep: boolean): Promise<PracticeProgram> {
    const { row, program } = this.opened(id);
    if (row.traits.readsWhen !== "by-hand") {
      throw new Fault(409, {
        code: "program-reads-itself",
        message: `${row.name} takes no files by hand.`,
        next: "Place the font on its device.",
      });
    }
    const safe = plainFileName(fileName, "font.ttf");
    const usable = /\.(ttf|otf)$/i.test(safe) && (await program.load(safe, bytes, keep));
    if (!usable) {
      throw new Fault(422, {
        code: "program-refused",
        message: `${row.name} cannot use this file.`,
        next: "Give it a sound .ttf or .otf file.",
      });
    }
    if (keep) await this.observer.observe(row.deviceId, true);
    this.uses.events.changed("practice", "devices", "sightings", "families");
    return this.look(id);
  }
  async loadStyle(id: number, styleId: number, keep: boolean): Promise<PracticeProgram> {
    const style = this.uses.library.style(styleId);
    if (!style) throw notFound("style");
    return this.load(id, style.fileName, await this.uses.files.read(style.sha256), keep);
  }

  draw(id: number, typed: z.output<typeof PracticeText>): Promise<Drawing> {
    return this.opened(id).program.draw(typed);
  }

  /** Opens a program anew, so that it knows what was placed since, and has it set lines as one PDF. */
  async drawAll(id: number, lines: readonly z.output<typeof PracticeText>[], anew: boolean): Promise<Uint8Array> {
    if (anew) await this.close(id);
    await this.open(id);
    return this.opened(id).program.exportPage(lines);
  }

  /** A program that drives a cutting machine; throws a `Fault` for any other. */
  machine(id: number): ProgramHandle {
    const { row, program } = this.opened(id);
    if (row.kind !== "cutting")
      throw new Fault(409, { code: "no-machine", message: `${row.name} drives no cutting machine.`, next: "Open a cutting program." });
    return program;
  }
  /** What its machine would be sent for a text: outlines as they are, in points. */
  async machinePaths(id: number, typed: z.output<typeof PracticeText>): Promise<{ paths: string[]; unitMm: number }> {
    const { runs } = await this.machine(id).draw(typed);
    return { paths: runs.map(({ path }) => path), unitMm: UNIT_MM.pt };
  }

  async exportAs(kind: "pdf" | "svg", id: number, typed: z.output<typeof PracticeText>): Promise<{ fileName: string; bytes: Uint8Array }> {
    const { row, program } = this.opened(id);
    if (typed.text.trim() === "") {
      throw new Fault(422, { code: "nothing-to-export", message: "There is no text on the page.", next: "Type something, then export." });
    }
    const safe = fileStem(`${row.name} ${typed.font}`);
    const bytes = kind === "pdf" ? await program.exportPage([typed]) : new TextEncoder().encode(await program.exportSvg(typed));
    return { fileName: `${safe}.${kind}`, bytes };
  }
}
