// Programs people name themselves, described by how they treat fonts; and probe documents for any program.
import { randomUUID } from "node:crypto";
import type { ProgramRequest, ProgramSummary } from "../../contract/program.ts";
import { makeProbe, PROBE_TYPES, type ProbeKind, type ProbeStyle } from "../../core/evidence/probe.ts";
import { TELLING_WORDS } from "../../core/evidence/telling.ts";
import { menuFont } from "../../core/family/brief.ts";
import { buttonsOf, Menu } from "../../core/menu/menu.ts";
import type { Parts } from "../parts.ts";
import { Fault, notFound } from "../fault.ts";
import type { ProgramRow } from "../store/devices.ts";
import { programSummary } from "./devices.ts";
import { fileStem } from "../../core/words/file-names.ts";

type Uses = Pick<Parts, "devices" | "library" | "history" | "events" | "now">;

export class ProgramService {
  private readonly uses: Uses;
  constructor(uses: Uses) {
    this.uses = uses;
  }

  private row(id: number): ProgramRow {
    const row = this.uses.devices.program(id);
    if (!row) throw notFound("program");
    return row;
  }
  private own(id: number): ProgramRow {
    const row = this.row(id);
    if (row.own) return row;
    throw new Fault(409, {
      code: "program-fixed",
      message: `${row.name} belongs to the practice room and stays as it is.`,
      next: "Name a program of your own.",
    });
  }
  get(id: number): ProgramSummary {
    return programSummary(this.row(id));
  }

  put(request: ProgramRequest, id?: number): ProgramSummary {
    if (!this.uses.devices.device(request.deviceId)) throw notFound("device");
    if (id !== undefined) this.own(id);
    const put = this.uses.devices.putProgram(request, `own-${randomUUID()}`, id);
    this.told();
    return this.get(put);
  }
  remove(id: number, removed: boolean): void {
    const name = removed ? this.own(id).name : "";
    const at = this.uses.now();
    this.uses.devices.removeProgram(id, removed ? at : null);
    if (removed) this.uses.history.add(at, "program", `${name} was taken off the list of programs.`, [], { kind: "program-removed", id });
    this.told();
  }
  /** Somebody closed it completely and opened it again. */
  opened(id: number): ProgramSummary {
    this.own(id);
    this.uses.devices.setOpened(id, this.uses.now());
    this.told();
    return this.get(id);
  }
  /** It was updated: what was seen in it before has to be looked for anew. */
  updated(id: number): ProgramSummary {
    this.own(id);
    this.uses.devices.setUpdated(id, this.uses.now());
    this.told();
    return this.get(id);
  }
  /** Looking taught something about it, which is remembered. */
  learn(id: number, readsWhen: "always" | "start"): ProgramSummary {
    const { deviceId, name, kind, traits } = this.own(id);
    return this.put({ deviceId, name, kind, traits: { ...traits, readsWhen } }, id);
  }
  private told(): void {
    this.uses.events.changed("devices", "sightings", "families", "practice");
  }

  /** A page that sets a family's styles by the names this program lists them under. */
  probe(programId: number, familyId: number, kind: ProbeKind): { fileName: string; type: string; bytes: Uint8Array } {
    const program = this.row(programId);
    const family = this.uses.library.family(familyId);
    if (!family) throw notFound("family");
    const fonts = this.uses.library.briefsOf(familyId).filter((style) => style.brief.verdict !== "refused");
    const styles = fonts.flatMap((style): ProbeStyle[] => {
      const font = menuFont(style.brief, style.sha256, style.face);
      const place = new Menu([font], program.traits).place(font);
      if (!place) return [];
      const { fullName, weight, italic, sample, rightToLeft } = style.brief;
      const { legacyStyle } = style.brief.menu;
      // Documents know a family and two buttons; where a program lists full families, weight and slant stand for them.
      const buttons = program.traits.lists === "four-style" ? buttonsOf(legacyStyle) : { bold: weight >= 600, italic };
      const flat = program.traits.lists === "full-names" || program.traits.lists === "postscript-names";
      const words = sample || TELLING_WORDS;
      return [
        {
          menuName: place.menuName,
          ...(flat ? { bold: false, italic: false } : buttons),
          fullName,
          words,
          rightToLeft,
        },
      ];
    });
    if (styles.length === 0) {
      throw new Fault(422, {
        code: "probe-nothing",
        message: `${program.name} lists none of this family's styles.`,
        next: "See what it takes in its description.",
      });
    }
    const title = `${family.name} in ${program.name} on ${program.deviceName}`;
    return { fileName: `${fileStem(title)}.${kind}`, type: PROBE_TYPES[kind], bytes: makeProbe(kind, title, styles) };
  }
}
