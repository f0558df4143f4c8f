// Programs people name themselves, described by how they treat fonts; and probe documents for any program.
import { randomUUID } from "node:crypto";
import type { ProgramRequest, ProgramSummary, ProgramTraits } from "../../../contract/programs.ts";
import { makeProbe, PROBE_TYPES, type ProbeKind, type ProbeStyle } from "../../../core/evidence/probe.ts";
import { TELLING_WORDS } from "../../../core/evidence/telling.ts";
import { menuFont } from "../../../core/family/brief.ts";
import { buttonsOf, Menu } from "../../../core/menu/menu.ts";
import type { Parts } from "../../parts.ts";
import { Fault, notFound } from "../../fault.ts";
import type { ProgramRow } from "../../store/devices/programs.ts";
import type { StyleBrief } from "../../store/families/families.ts";
import { programSummary } from "../devices/devices.ts";
import { fileStem } from "../../../core/words/file-names.ts";

type Uses = Pick<Parts, "devices" | "library" | "history" | "events" | "now" | "programs">;

export class ProgramService {
  private readonly uses: Uses;
  constructor(uses: Uses) {
    this.uses = uses;
  }

  private row(id: number): ProgramRow {
    const row = this.uses.programs.get(id);
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
    const put = this.uses.programs.put(request, `own-${randomUUID()}`, id);
    this.told();
    return this.get(put);
  }
  remove(id: number, removed: boolean): void {
    const name = removed ? this.own(id).name : "";
    const at = this.uses.now();
    this.uses.programs.remove(id, removed ? at : null);
    if (removed) this.uses.history.add(at, "program", `${name} was taken off the list of programs.`, [], { kind: "program-removed", id });
    this.told();
  }
  /** Somebody closed it completely and opened it again. */
  opened(id: number): ProgramSummary {
    this.own(id);
    this.uses.programs.setOpened(id, this.uses.now());
    this.told();
    return this.get(id);
  }
  /** It was updated: what was seen in it before has to be looked for anew. */
  updated(id: number): ProgramSummary {
    this.own(id);
    this.uses.programs.setUpdated(id, this.uses.now());
    this.told();
    return this.get(id);
  }
  /** Looking taught something about it, which is remembered. */
  learn(id: number, learnt: Partial<Pick<ProgramTraits, "readsWhen" | "lists">>): ProgramSummary {
    const { deviceId, name, kind, traits } = this.own(id);
    return this.put({ deviceId, name, kind, traits: { ...traits, ...learnt } }, id);
  }
  private told(): void {
    this.uses.events.changed("devices", "sightings", "families", "practice");
  }

  /** A page that sets a family's styles by the names this program lists them under. */
  probe(programId: number, familyId: number, kind: ProbeKind): Page {
    const program = this.row(programId);
    const family = this.uses.library.family(familyId);
    if (!family) throw notFound("family");
    const styles = this.uses.library.briefsOf(familyId).flatMap((style) => probeLine(style, program) ?? []);
    if (styles.length === 0) {
      throw new Fault(422, {
        code: "probe-nothing",
        message: `${program.name} lists none of this family's styles.`,
        next: "See what it takes in its description.",
      });
    }
    return probePage(`${family.name} in ${program.name} on ${program.deviceName}`, kind, styles);
  }
}

export interface Page {
  fileName: string;
  type: string;
  bytes: Uint8Array;
}
export const probePage = (title: string, kind: ProbeKind, styles: readonly ProbeStyle[]): Page => ({
  fileName: `${fileStem(title)}.${kind}`,
  type: PROBE_TYPES[kind],
  bytes: makeProbe(kind, title, styles),
});

/** A line of a probe page: words in a style by the name a program lists it under; undefined when it does not. */
export function probeLine(style: StyleBrief, { traits }: ProgramRow): (ProbeStyle & { style: string }) | undefined {
  const { verdict, fullName, weight, italic, sample, rightToLeft } = style.brief;
  const font = menuFont(style.brief, style.sha256, style.face);
  const place = verdict === "refused" ? undefined : new Menu([font], traits).place(font);
  if (!place) return undefined;
  // Documents know a family and two buttons; where a program lists full families, weight and slant stand for them.
  const buttons = traits.lists === "four-style" ? buttonsOf(style.brief.menu.legacyStyle) : { bold: weight >= 600, italic };
  const flat = traits.lists === "full-names" || traits.lists === "postscript-names";
  return {
    menuName: place.menuName,
    style: style.brief.style,
    ...(flat ? { bold: false, italic: false } : buttons),
    fullName,
    words: sample || TELLING_WORDS,
    rightToLeft,
  };
}
