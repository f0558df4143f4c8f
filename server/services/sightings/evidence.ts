// Evidence of what programs drew: exported files, and pictures of known words.
import { stat } from "node:fs/promises";
import type { EvidenceAnswer, PictureResult, SightingResult } from "../../../contract/sightings.ts";
import type { Verdict } from "../../../core/evidence/verdict.ts";
import { foreign, olderThan } from "../../../core/evidence/belonging.ts";
import { othersFirst } from "../../../core/turns.ts";
import type { Parts } from "../../parts.ts";
import { Fault } from "../../fault.ts";
import type { ProgramRow } from "../../store/devices/programs.ts";
import type { StyleRow } from "../../store/families/families.ts";
import { reads } from "../../views/sightings.ts";
import type { DocumentRead, PictureCandidate } from "../../work/evidence.worker.ts";
import type { WorkPool } from "../../work/pool.ts";
import type { Observer } from "../devices/observer.ts";
import type { KeptEvidence } from "./kept-evidence.ts";
import type { Found, SightingRecorder } from "./recording.ts";
import { sightingView, type SightingService } from "./sightings.ts";

/** Fonts of a device looked up between two pauses. */
const LOOKED_UP_TOGETHER = 200;

type Uses = Pick<Parts, "library" | "sightings" | "files" | "observed" | "programs">;

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
  private readonly recorder: SightingRecorder;
  private readonly kept: KeptEvidence;
  constructor(
    uses: Uses,
    sightings: SightingService,
    observer: Observer,
    pool: WorkPool,
    { recorder, kept }: { recorder: SightingRecorder; kept: KeptEvidence },
  ) {
    this.pool = pool;
    this.uses = uses;
    this.recorder = recorder;
    this.kept = kept;
    this.sightings = sightings;
    this.observer = observer;
  }

  /** Takes an exported file as evidence for one style in one program. Throws a `Fault` when it cannot be read. */
  async give(styleId: number, programId: number, given: Given): Promise<EvidenceAnswer> {
    const { style, program } = this.recorder.cell(styleId, programId);
    const [answer] = await this.judge(program, [style], given);
    return answer!;
  }
  /** Takes an exported file as evidence for many styles of one program; those that are not in it are left as they are. */
  giveMany(styleIds: readonly number[], programId: number, given: Omit<Given, "words">): Promise<EvidenceAnswer[]> {
    const cells = styleIds.map((styleId) => this.recorder.cell(styleId, programId));
    const [first] = cells;
    if (!first) return Promise.resolve([]);
    const styles = cells.map(({ style }) => style);
    return this.judge(first.program, styles, { ...given, words: "" }, true);
  }

  private async judge(program: ProgramRow, styles: readonly StyleRow[], given: Given, many = false): Promise<EvidenceAnswer[]> {
    const { fileName, path, words } = given;
    const read = await this.pool.read({
      kind: "document",
      fileName,
      path,
      words,
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
      await this.kept.keep(path, read.value);
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
    return { ...view, sighting: this.recorder.record(style, program, found) };
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

  /** Reads a picture of known words: the wanted style, its siblings and what the device has are compared with it. */
  async picture(styleId: number, programId: number, fileName: string, path: string, words: string): Promise<PictureResult> {
    const { style, program } = this.recorder.cell(styleId, programId);
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
    const sighting = this.recorder.record(style, program, found);
    await this.kept.keep(path, { sha256, bytes: (await stat(path)).size });
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
}
