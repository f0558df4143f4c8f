// Where programs will list styles, what evidence says they drew, and the board of both.
import { createHash } from "node:crypto";
import type { Board, Diagnosis, LookRequest, PictureResult, Prediction, Sighting } from "../../contract/sighting.ts";
import type { Candidate } from "../../core/evidence/picture.ts";
import { judgeFonts } from "../../core/evidence/judge.ts";
import { representative } from "../../core/family/group.ts";
import { scriptsOf } from "../../core/coverage/scripts.ts";
import { diagnose } from "../../core/menu/diagnose.ts";
import { findingSteps, linesOf, Menu, refusal, type MenuFont } from "../../core/menu/menu.ts";
import { cellState, type CellState } from "../../core/menu/state.ts";
import { folderWords } from "../../core/placing/files.ts";
import type { Context } from "../context.ts";
import { Fault, notFound } from "../fault.ts";
import type { ObservedRow, ProgramRow } from "../store/devices.ts";
import type { FaceRow, StyleRow } from "../store/library.ts";
import type { SightingRow } from "../store/sightings.ts";
import type { ClearanceService } from "./clearance.ts";
import type { Shelf, ShelfFamily } from "./shelf.ts";

export const menuFont = ({ sha256, face, record }: Pick<FaceRow, "sha256" | "face" | "record">): MenuFont => {
  const { family, style, legacyFamily, legacyStyle, fullName, postScriptName, container, otherNames, axes, instances } = record;
  const names = { family, style, legacyFamily, legacyStyle, fullName, postScriptName, container, otherNames };
  return { ...names, id: `${sha256}#${face}`, variable: axes.length > 0, instances: instances.map((one) => one.name).filter(Boolean) };
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

/** Fonts a picture is compared with at most. */
const MOST_CANDIDATES = 80;

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
      lapsed: (id) => clearances.get(id)?.lapsed ?? false,
    };
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
      updatedAt: program.updatedAt === null ? undefined : Date.parse(program.updatedAt),
    });
  }

  /** The font list of a program, from what its device was seen to hold; worked out once for each question. */
  private menuOf(program: ProgramRow, facts: Facts): { menu: Menu; fonts: MenuFont[]; ids: Set<string> } {
    let known = facts.menus.get(program.id);
    if (!known) {
      const fonts = facts.observed
        .filter((row) => row.deviceId === program.deviceId && row.on && row.visible && (row.folder === "built-in" || reads(program, row)))
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
    // A format the program refuses has no place; where it would be is shown by its names all the same.
    const shown = { ...wanted, container: "sfnt", variable: false };
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
      reason: refused && state !== "seen" ? `${reason} ${refused}` : reason,
      listed,
      ...place,
      steps: findingSteps(program.name, place, program.traits, state === "reopen"),
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

  board(): Board {
    const programs = this.context.devices.programs();
    const facts = this.facts();
    const rows = this.shelf.families().map((family) => ({
      familyId: family.id,
      familyName: family.name,
      cells: programs.map((program) => this.familyCell(family, program, facts)),
    }));
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

  /** Takes an exported file as evidence for one style in one program. Throws a `Fault` when it tells nothing. */
  async give(styleId: number, programId: number, fileName: string, bytes: Uint8Array): Promise<Sighting> {
    const style = this.context.library.style(styleId);
    const program = this.context.devices.program(programId);
    if (!style || !program) throw notFound(style ? "program" : "style");
    // Loaded when first wanted: reading documents is a lot of code.
    const { readEvidence } = await import("../../core/evidence/read.ts");
    const read = await readEvidence(fileName, bytes);
    if (!read.ok) throw new Fault(422, read.problem);
    const judged = judgeFonts(read.value.fonts, style.record);
    if (!judged.ok) throw new Fault(422, judged.problem);
    const fileSha256 = createHash("sha256").update(bytes).digest("hex");
    const at = this.context.now();
    const { result, instead, sentence } = judged.value;
    const row = { styleId, programId, result, instead, sentence, fileName, fonts: read.value.fonts, at, means: "file" as const, who: "" };
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

  /** Reads a picture of known words: the wanted style, its siblings and what the device has are compared with it. */
  async picture(styleId: number, programId: number, fileName: string, bytes: Uint8Array, words: string): Promise<PictureResult> {
    const style = this.context.library.style(styleId);
    const program = this.context.devices.program(programId);
    if (!style || !program) throw notFound(style ? "program" : "style");
    // Loaded when first wanted, as above.
    const { readPicture } = await import("../../core/evidence/image.ts");
    const { judgePicture } = await import("../../core/evidence/picture.ts");
    const read = readPicture(bytes);
    if (!read.ok) throw new Fault(422, read.problem);
    const { width, height, light } = read.value;
    const wanted = `${style.sha256}#${style.face}`;
    const judged = judgePicture(light, width, height, words, await this.candidates(style, program));
    if (!judged.ok) throw new Fault(422, judged.problem);
    const { shown, scores, line, overlay } = judged.value;
    const percent = (score: number) => `${Math.round(score * 100)} %`;
    const view = { scores: scores.slice(0, 5).map(({ name, score }) => ({ name, score })), width, height, line, overlay };
    if (!shown) {
      const likest = scores[0]
        ? ` The likest is ${scores[0].name}, ${percent(scores[0].score)} alike, which is not enough to be sure.`
        : "";
      return { ...view, sighting: null, sentence: `The picture cannot tell.${likest} Set the words larger, and take it again.` };
    }
    const result = shown.id === wanted ? ("seen" as const) : ("swapped" as const);
    const sentence =
      result === "seen"
        ? `The picture shows ${style.record.fullName}: ${percent(shown.score)} alike.`
        : `The picture shows ${shown.name} in its place: ${percent(shown.score)} alike.`;
    const fonts: Sighting["fonts"] = [];
    const instead = result === "seen" ? [] : [shown.name];
    const row = { styleId, programId, result, instead, sentence, fileName, fonts, at: this.context.now(), means: "file" as const, who: "" };
    const id = this.context.db.transaction(() => {
      const where = `${style.record.fullName} in ${program.name} on ${program.deviceName}`;
      this.context.history.add(row.at, result, `${where}: ${sentence}`, [style.familyId]);
      return this.context.sightings.add({ ...row, fileSha256: createHash("sha256").update(bytes).digest("hex") });
    })();
    this.context.events.changed("sightings", "families");
    return { ...view, sighting: this.toView({ id, ...row }), sentence };
  }

  /** Fonts a picture may show: the style, its family, and what the program would find; those whose bytes can be had. */
  private async candidates(style: StyleRow, program: ProgramRow): Promise<Candidate[]> {
    const facts = this.facts();
    const own = this.context.library.stylesOf(style.familyId).map((one) => `${one.sha256}#${one.face}`);
    const ids = [...new Set([`${style.sha256}#${style.face}`, ...own, ...this.menuOf(program, facts).fonts.map((font) => font.id)])];
    const found: Candidate[] = [];
    for (const id of ids.slice(0, MOST_CANDIDATES)) {
      const [sha256 = "", face = "0"] = id.split("#");
      const bytes = this.bytes.get(sha256) ?? (await this.readFont(program.deviceId, sha256));
      const record = facts.facesOf(sha256)[Number(face)]?.record;
      if (!bytes || !record) continue;
      if (this.bytes.size >= 2 * MOST_CANDIDATES) this.bytes.delete(this.bytes.keys().next().value!);
      this.bytes.set(sha256, bytes);
      found.push({ id, name: record.fullName, bytes, face: Number(face) });
    }
    return found;
  }
  /** Bytes of fonts compared lately: fonts opened before stay open while they are held. */
  private readonly bytes = new Map<string, Uint8Array>();
  /** Reads a font of the library or of a device; set by whoever knows of devices. */
  readFont: (deviceId: number, sha256: string) => Promise<Uint8Array | undefined> = () => Promise.resolve(undefined);

  /** Takes somebody's word for what they saw. */
  look(styleId: number, programId: number, { saw, who }: LookRequest): Sighting {
    const style = this.context.library.style(styleId);
    const program = this.context.devices.program(programId);
    if (!style || !program) throw notFound(style ? "program" : "style");
    const result = ({ there: "seen", wrong: "swapped", "not-there": "not-there" } as const)[saw];
    const by = who === "" ? "Somebody" : who;
    const sentence = {
      there: `${by} saw it listed and drawn as it should be.`,
      wrong: `${by} saw it listed, and other letters drawn.`,
      "not-there": `${by} looked, and it was not listed.`,
    }[saw];
    const at = this.context.now();
    const row = { styleId, programId, result, instead: [], sentence, fileName: "", fonts: [], at, means: "eye" as const, who };
    const id = this.context.db.transaction(() => {
      this.context.history.add(at, result, `${style.record.fullName} in ${program.name} on ${program.deviceName}: ${sentence}`, [
        style.familyId,
      ]);
      return this.context.sightings.add({ ...row, fileSha256: "" });
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
