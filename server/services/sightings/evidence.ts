// Evidence of what programs drew: exported files, pictures of known words, what somebody saw, what a device found out for itself.
import { copyFile, rm, stat } from "node:fs/promises";
import { join } from "node:path";
import { randomUUID } from "node:crypto";
import type { CellKey, EvidenceAnswer, LookRequest, PictureResult, Sighting, SightingResult } from "../../../contract/sightings.ts";
import type { Verdict } from "../../../core/evidence/verdict.ts";
import { foreign, olderThan } from "../../../core/evidence/belonging.ts";
import { inTurns, othersFirst } from "../../../core/turns.ts";
import { count } from "../../../core/words/words.ts";
import type { Parts } from "../../parts.ts";
import { inPieces } from "../../pieces.ts";
import { Fault, notFound } from "../../fault.ts";
import type { ProgramRow } from "../../store/devices/programs.ts";
import type { StyleBrief, StyleRow } from "../../store/families/families.ts";
import type { SightingRow } from "../../store/sightings/sightings.ts";
import { reads } from "../../views/sightings.ts";
import type { DocumentRead, PictureCandidate } from "../../work/evidence.worker.ts";
import type { WorkPool } from "../../work/pool.ts";
import type { Observer } from "../devices/observer.ts";
import { sightingView, type SightingService } from "./sightings.ts";

/** Fonts of a device looked up between two pauses. */
const LOOKED_UP_TOGETHER = 200;
/** A single file larger than this is not kept. */
const MOST_KEPT_BYTES = 64 * 1024 * 1024;
const MIB = 1024 * 1024;

type Found = Pick<SightingRow, "result" | "sentence" | "means"> &
  Partial<Pick<SightingRow, "instead" | "fileName" | "fileSha256" | "fonts" | "who" | "madeBy" | "letters" | "pages">>;

type Uses = Pick<
  Parts,
  | "library"
  | "devices"
  | "sightings"
  | "history"
  | "files"
  | "evidenceFiles"
  | "settings"
  | "disk"
  | "db"
  | "events"
  | "now"
  | "observed"
  | "programs"
  | "externalChanges"
  | "cellViews"
>;

export interface Given {
  fileName: string;
  path: string;
  /** Words that are known to be set in it; empty when none are. */
  words: string;
  /** Record it though it may not belong here. */
  sure: boolean;
}

const OPEN: Pick<Verdict, "state" | "reason" | "next"> = {
  state: "cannot-tell",
  reason: "Others of its family are drawn, which were asked for as well; whether one of them stands in for it is open.",
  next: "Export a page with this style alone.",
};
const RECORDED: Partial<Record<Verdict["state"], SightingResult>> = {
  seen: "seen",
  swapped: "swapped",
  faked: "faked",
  "asked-for": "asked-for",
};

export class EvidenceService {
  private readonly uses: Uses;
  private readonly sightings: SightingService;
  private readonly observer: Observer;
  private readonly pool: WorkPool;
  constructor(uses: Uses, sightings: SightingService, observer: Observer, pool: WorkPool) {
    this.pool = pool;
    this.uses = uses;
    this.sightings = sightings;
    this.observer = observer;
  }

  private cell(styleId: number, programId: number): { style: StyleRow; program: ProgramRow } {
    const style = this.uses.library.style(styleId);
    const program = this.uses.programs.get(programId);
    if (!style || !program) throw notFound(style ? "program" : "style");
    return { style, program };
  }

  private record(style: StyleRow, program: ProgramRow, found: Found): Sighting {
    const row = {
      ...{ instead: [], fileName: "", fileSha256: "", fonts: [], who: "", madeBy: "", letters: 0, pages: [] },
      ...found,
      ...{ styleId: style.id, programId: program.id, at: this.uses.now() },
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

  /** What was seen of a style in a program, latest first. */
  ofCell(styleId: number, programId: number): Sighting[] {
    return this.uses.sightings.ofCell(styleId, programId).map((row) => sightingView(this.uses, row));
  }

  /** Takes an exported file as evidence for one style in one program. Throws a `Fault` when it cannot be read. */
  async give(styleId: number, programId: number, given: Given): Promise<EvidenceAnswer> {
    const { style, program } = this.cell(styleId, programId);
    const [answer] = await this.judge(program, [style], given);
    return answer!;
  }
  /** Takes an exported file as evidence for many styles of one program; those that are not in it are left as they are. */
  giveMany(styleIds: readonly number[], programId: number, given: Omit<Given, "words">): Promise<EvidenceAnswer[]> {
    const cells = styleIds.map((styleId) => this.cell(styleId, programId));
    const [first] = cells;
    if (!first) return Promise.resolve([]);
    const styles = cells.map(({ style }) => style);
    return this.judge(first.program, styles, { ...given, words: "" }, true);
  }

  private async judge(program: ProgramRow, styles: readonly StyleRow[], given: Given, many = false): Promise<EvidenceAnswer[]> {
    const { fileName, path, words } = given;
    const read = await this.pool.read({
      ...{ kind: "document", fileName, path, words },
      styles: styles.map(({ record, sha256, face }) => ({ style: record, path: this.uses.files.path(sha256), face })),
    });
    if (!read.ok) throw new Fault(422, read.problem);
    const { verdicts } = read.value;
    const drawn = new Set(styles.filter((_, i) => verdicts[i]!.state === "seen").map(({ familyId }) => familyId));
    const answers = styles.map((style, i) => {
      const verdict = verdicts[i]!;
      // Another style of the family was asked for too: that it is drawn does not show what became of this one.
      const open = many && verdict.state === "swapped" && drawn.has(style.familyId);
      return this.answer(style, program, read.value, open ? { ...verdict, ...OPEN } : verdict, given, many);
    });
    if (answers.some(({ sighting }) => sighting !== null)) {
      await this.keep(path, read.value);
      return answers.map((one) =>
        one.sighting ? { ...one, sighting: sightingView(this.uses, this.uses.sightings.get(one.sighting.id)!) } : one,
      );
    }
    return answers;
  }

  private answer(
    style: StyleRow,
    program: ProgramRow,
    read: DocumentRead,
    verdict: Verdict,
    { fileName, sure }: Given,
    many: boolean,
  ): EvidenceAnswer {
    const { state, reason, next, instead, by, letters, pages } = verdict;
    const { fonts, sha256 } = read;
    const view = { styleId: style.id, styleName: style.record.fullName, state, reason, next, instead, fonts, question: "", sighting: null };
    const result = state === "not-in-it" && sure && !many ? "swapped" : RECORDED[state];
    const question =
      state === "not-in-it" && !many
        ? `${reason} Record it as Swapped, or is it another file?`
        : result === undefined
          ? ""
          : this.doubt(style, program, read, fileName, by);
    if (question !== "" && !sure) return { ...view, question };
    if (result === undefined) return view;
    const found = {
      result,
      means: "file",
      sentence: reason,
      instead,
      fileName,
      fileSha256: sha256,
      fonts,
      madeBy: by,
      letters,
      pages,
    } as const;
    return { ...view, sighting: this.record(style, program, found) };
  }

  /** What speaks against a file being from this program, after the style was placed; empty when nothing does. */
  private doubt(style: StyleRow, program: ProgramRow, read: DocumentRead, fileName: string, by: string): string {
    const { sightings, observed } = this.uses;
    const copies = observed.copiesOf(style.sha256).filter((row) => row.deviceId === program.deviceId && row.on && reads(program, row));
    const since = copies.map((row) => row.since).sort()[0];
    if (since !== undefined && olderThan(read.origin.at, since)) {
      return `This file says it was made before ${style.record.fullName} was placed on ${program.deviceName}. Record it anyway, or is it another file?`;
    }
    const ending = /\.\w+$/.exec(fileName.toLowerCase())?.[0] ?? "";
    const before = program.own ? sightings.lastMaker(program.id, ending) : read.kind === "PDF" ? program.name : undefined;
    if (before !== undefined && foreign(by, before))
      return `This file was made by ${by || "a program it does not name"}, others of ${program.name} by ${before}. Record it anyway, or is it another file?`;
    return "";
  }

  /** Keeps a file that was recorded; the oldest go when there is too much. What cannot be kept is told by the sighting itself. */
  private async keep(path: string, { sha256, bytes }: Pick<DocumentRead, "sha256" | "bytes">): Promise<void> {
    const { settings, sightings, evidenceFiles, disk } = this.uses;
    const { keepEvidence, evidenceMib } = settings.get();
    if (!keepEvidence || bytes > MOST_KEPT_BYTES || bytes > evidenceMib * MIB) return;
    try {
      const target = evidenceFiles.path(sha256);
      if (!(await evidenceFiles.has(sha256))) {
        const fresh = join(evidenceFiles.unfinished, randomUUID());
        await copyFile(path, fresh);
        await evidenceFiles.intoPlace(fresh, target);
      }
      sightings.keepFile(sha256, bytes, this.uses.now());
      await this.thin(evidenceMib * MIB);
    } catch (error) {
      if (!disk.report(error)) throw error;
    }
  }
  private async thin(most: number): Promise<void> {
    let sum = 0;
    for (const { sha256, bytes } of this.uses.sightings.keptFiles()) {
      sum += bytes;
      if (sum <= most) continue;
      this.uses.sightings.forgetFile(sha256);
      await rm(this.uses.evidenceFiles.path(sha256), { force: true });
    }
  }
  /** After a start: files nobody knows of go, and those beyond what settings leave. */
  async tidy(): Promise<void> {
    const { keepEvidence, evidenceMib } = this.uses.settings.get();
    await this.thin(keepEvidence ? evidenceMib * MIB : 0);
    await this.uses.evidenceFiles.sweep(new Set(this.uses.sightings.keptFiles().map(({ sha256 }) => sha256)));
  }
  /** A kept file, to be opened again. */
  async file(id: number): Promise<{ path: string; name: string }> {
    const row = this.uses.sightings.get(id);
    if (!row) throw notFound("sighting");
    const path = row.kept ? this.uses.evidenceFiles.path(row.fileSha256) : "";
    if (path === "" || !(await stat(path).catch(() => undefined)))
      throw new Fault(404, {
        code: "evidence-not-kept",
        message: "This file is not kept any more.",
        next: "Export it again from the program.",
      });
    return { path, name: row.fileName };
  }

  /** Reads a picture of known words: the wanted style, its siblings and what the device has are compared with it. */
  async picture(styleId: number, programId: number, fileName: string, path: string, words: string): Promise<PictureResult> {
    const { style, program } = this.cell(styleId, programId);
    const judged = await this.pool.read({ kind: "picture", path, words, candidates: await this.candidates(style, program) });
    if (!judged.ok) throw new Fault(422, judged.problem);
    const { shown, scores, frame, overlay, width, height } = judged.value;
    const percent = (score: number) => `${Math.round(score * 100)} %`;
    const view = { scores: scores.slice(0, 5).map(({ name, score }) => ({ name, score })), width, height, frame, overlay };
    if (!shown) {
      const likest = scores[0]
        ? ` Closest match: ${scores[0].name}, ${percent(scores[0].score)} alike, which is not enough to be sure.`
        : "";
      const { better } = judged.value;
      const next = better === "" ? "Set the words at 96 px or larger" : `Set “${better}” at 96 px or larger, where these fonts differ most`;
      return { ...view, sighting: null, sentence: `The picture cannot tell.${likest} ${next}, and take it again.` };
    }
    const seen = shown.id === `${style.sha256}#${style.face}`;
    const sentence = seen
      ? `The picture shows ${style.record.fullName}: ${percent(shown.score)} alike.`
      : `The picture shows ${shown.name} in its place: ${percent(shown.score)} alike.`;
    const { sha256 } = judged.value;
    const instead = seen ? [] : [shown.name];
    const found: Found = { result: seen ? "seen" : "swapped", means: "file", sentence, instead, fileName, fileSha256: sha256 };
    const sighting = this.record(style, program, found);
    await this.keep(path, { sha256, bytes: (await stat(path)).size });
    return { ...view, sighting: sightingView(this.uses, this.uses.sightings.get(sighting.id)!), sentence };
  }

  /**
   * Fonts a picture may show, the style first: its family, all that the program finds on its device, and what is as wide as it, letter for
   * letter, on the shelf or anywhere; those whose bytes can be had.
   */
  private async candidates(style: StyleRow, program: ProgramRow): Promise<PictureCandidate[]> {
    const { library, files } = this.uses;
    const ids = new Set([`${style.sha256}#${style.face}`]);
    for (const { sha256, face } of library.briefsOf(style.familyId)) ids.add(`${sha256}#${face}`);
    for (const { sha256, face } of library.asWideAs(style.sha256, style.face)) ids.add(`${sha256}#${face}`);
    for (const id of await this.sightings.listedIn(program)) ids.add(id);
    const wanted = [...ids].map((id) => {
      const [sha256 = "", face = "0"] = id.split("#");
      return { id, sha256, face: Number(face) };
    });
    const elsewhere = new Set<string>();
    for (const sha256 of new Set(wanted.map((one) => one.sha256))) if (!(await files.has(sha256))) elsewhere.add(sha256);
    const held = await this.observer.sourcesOf(program.deviceId, [...elsewhere]);
    const found: PictureCandidate[] = [];
    for (const [i, { id, sha256, face }] of wanted.entries()) {
      if (i % LOOKED_UP_TOGETHER === LOOKED_UP_TOGETHER - 1) await othersFirst();
      const name = library.facesBrief(sha256)[face]?.brief.fullName;
      const source = elsewhere.has(sha256) ? held.get(sha256) : { path: files.path(sha256) };
      if (name !== undefined && source) found.push({ id, name, face, ...source });
    }
    return found;
  }

  /** Takes somebody's word for what they saw. */
  look(styleId: number, programId: number, { saw, who }: LookRequest): Sighting {
    const { style, program } = this.cell(styleId, programId);
    return this.record(style, program, { result: RESULT_OF[saw], means: "eye", sentence: sawSentence(saw, who), who });
  }

  /** Takes somebody's word for many cells at once; one entry of the history takes all of it back, also what was noted when it is interrupted. */
  async lookMany({ cells, saw, who }: LookRequest & { cells: readonly CellKey[] }): Promise<{ sentence: string; historyId: number }> {
    const { history, sightings, now } = this.uses;
    const found: { style: StyleBrief; program: ProgramRow }[] = [];
    await inTurns(
      cells,
      ({ styleId, programId }) => {
        const [style, program] = [this.uses.library.styleBrief(styleId), this.uses.programs.get(programId)];
        if (style && program) found.push({ style, program });
      },
      LOOKED_UP_TOGETHER,
    );
    if (found.length === 0) throw notFound("style");
    const programs = [...new Set(found.map(({ program }) => program.name))];
    const where = programs.length === 1 ? programs[0]! : count(programs.length, "program");
    const by = who === "" ? "" : ` ${who} looked.`;
    const at = now();
    const sightingIds: number[] = [];
    const sentenceOf = (n: number) => `${count(n, "style")} ${SAW_WORDS[saw]} ${where}.${by}`;
    const historyId = history.add(at, RESULT_OF[saw], sentenceOf(0), [], { kind: "looks", sightingIds });
    await inPieces(this.uses, found, (piece) => {
      for (const { style, program } of piece)
        sightingIds.push(
          sightings.add({
            ...{ instead: [], fileName: "", fileSha256: "", fonts: [], who, madeBy: "", letters: 0, pages: [], at },
            ...{ styleId: style.id, programId: program.id, result: RESULT_OF[saw], means: "eye", sentence: sawSentence(saw, who) },
          }),
        );
      const familyIds = [...new Set(piece.map(({ style }) => style.familyId))];
      history.extend(historyId, sentenceOf(sightingIds.length), familyIds, { kind: "looks", sightingIds });
    });
    this.uses.events.changed("sightings", "families");
    return { sentence: sentenceOf(sightingIds.length), historyId };
  }
  async takeBackMany(ids: readonly number[]): Promise<void> {
    const at = this.uses.now();
    await inPieces(this.uses, ids, (piece) => {
      for (const id of piece) if (!this.uses.sightings.takenBack(id)) this.uses.sightings.takeBack(id, at);
    });
    this.uses.events.changed("sightings", "families");
  }

  /** Takes what a paired device found by drawing with its own fonts; it speaks for the browser it was opened in. */
  fromDevice(deviceId: number, answers: readonly { sha256: string; answer: "there" | "not-there" }[]): void {
    const program = this.uses.programs.all().find((one) => one.deviceId === deviceId && one.slug === DEVICE_BROWSER);
    if (!program) return;
    for (const { sha256, answer } of answers) {
      const shelved = this.uses.library.styleOfFile(sha256);
      const style = shelved && this.uses.library.style(shelved.id);
      if (!style) continue;
      const sentence =
        answer === "there"
          ? `${program.deviceName} drew it with its own copy: the same letters as the shelved file's.`
          : `${program.deviceName} drew other letters, or none, under its name.`;
      this.record(style, program, { result: answer === "there" ? "seen" : "not-there", means: "device", sentence });
    }
  }
}

const RESULT_OF = { there: "seen", wrong: "swapped", "not-there": "not-there" } as const;
const SAW_WORDS: Record<LookRequest["saw"], string> = { there: "seen in", wrong: "drawn wrongly in", "not-there": "not listed in" };
function sawSentence(saw: LookRequest["saw"], who: string): string {
  const by = who === "" ? "Somebody" : who;
  return {
    there: `${by} saw it listed and drawn as it should be.`,
    wrong: `${by} saw it listed, and other letters drawn.`,
    "not-there": `${by} looked, and it was not listed.`,
  }[saw];
}

/** The program a paired device speaks for: what Buvano was opened in there. */
export const DEVICE_BROWSER = "own-browser";
