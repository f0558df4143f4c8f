// Evidence of what programs drew: exported files, pictures of known words, what somebody saw, what a device found out for itself.
import type { LookRequest, PictureResult, Sighting } from "../../contract/sighting.ts";
import { judgeFonts } from "../../core/evidence/judge.ts";
import type { Parts } from "../parts.ts";
import { Fault, notFound } from "../fault.ts";
import type { ProgramRow } from "../store/devices.ts";
import type { StyleRow } from "../store/library.ts";
import type { SightingRow } from "../store/sightings.ts";
import type { PictureCandidate } from "../work/evidence.worker.ts";
import type { WorkPool } from "../work/pool.ts";
import type { Observer } from "./observer.ts";
import { sightingView, type SightingService } from "./sightings.ts";

/** Fonts a picture is compared with at most. */
const MOST_CANDIDATES = 80;

type Found = Pick<SightingRow, "result" | "sentence" | "means"> & Partial<Pick<SightingRow, "instead" | "fileName" | "fonts" | "who">>;

type Uses = Pick<Parts, "library" | "devices" | "sightings" | "history" | "files" | "db" | "events" | "now">;

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
    const program = this.uses.devices.program(programId);
    if (!style || !program) throw notFound(style ? "program" : "style");
    return { style, program };
  }

  private record(style: StyleRow, program: ProgramRow, found: Found, fileSha256 = ""): Sighting {
    const row = {
      instead: [],
      fileName: "",
      fonts: [],
      who: "",
      ...found,
      styleId: style.id,
      programId: program.id,
      at: this.uses.now(),
    };
    const where = `${style.record.fullName} in ${program.name} on ${program.deviceName}`;
    const id = this.uses.db.transaction(() => {
      this.uses.history.add(row.at, row.result, `${where}: ${row.sentence}`, [style.familyId]);
      return this.uses.sightings.add({ ...row, fileSha256 });
    })();
    this.uses.events.changed("sightings", "families");
    return sightingView(this.uses, { id, ...row });
  }

  /** What was seen of a style in a program, latest first. */
  ofCell(styleId: number, programId: number): Sighting[] {
    return this.uses.sightings.ofCell(styleId, programId).map((row) => sightingView(this.uses, row));
  }

  /** Takes an exported file as evidence for one style in one program. Throws a `Fault` when it tells nothing. */
  async give(styleId: number, programId: number, fileName: string, path: string): Promise<Sighting> {
    const { style, program } = this.cell(styleId, programId);
    const read = await this.pool.read({ kind: "document", fileName, path });
    if (!read.ok) throw new Fault(422, read.problem);
    const judged = judgeFonts(read.value.fonts, style.record);
    if (!judged.ok) throw new Fault(422, judged.problem);
    return this.record(style, program, { ...judged.value, means: "file", fileName, fonts: read.value.fonts }, read.value.sha256);
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
        ? ` The likest is ${scores[0].name}, ${percent(scores[0].score)} alike, which is not enough to be sure.`
        : "";
      return { ...view, sighting: null, sentence: `The picture cannot tell.${likest} Set the words larger, and take it again.` };
    }
    const seen = shown.id === `${style.sha256}#${style.face}`;
    const sentence = seen
      ? `The picture shows ${style.record.fullName}: ${percent(shown.score)} alike.`
      : `The picture shows ${shown.name} in its place: ${percent(shown.score)} alike.`;
    const found: Found = { result: seen ? "seen" : "swapped", means: "file", sentence, instead: seen ? [] : [shown.name], fileName };
    return { ...view, sighting: this.record(style, program, found, judged.value.sha256), sentence };
  }

  /** Fonts a picture may show: the style, its family, and what the program would find; those whose bytes can be had. */
  private async candidates(style: StyleRow, program: ProgramRow): Promise<PictureCandidate[]> {
    const { library, files } = this.uses;
    const own = library.briefsOf(style.familyId).map((one) => `${one.sha256}#${one.face}`);
    const ids = [...new Set([`${style.sha256}#${style.face}`, ...own, ...this.sightings.listedIn(program, MOST_CANDIDATES)])];
    const wanted = ids.slice(0, MOST_CANDIDATES).map((id) => {
      const [sha256 = "", face = "0"] = id.split("#");
      return { id, sha256, face: Number(face) };
    });
    const elsewhere: string[] = [];
    for (const { sha256 } of wanted) if (!(await files.has(sha256))) elsewhere.push(sha256);
    const held = await this.observer.sourcesOf(program.deviceId, elsewhere);
    return wanted.flatMap(({ id, sha256, face }): PictureCandidate[] => {
      const name = library.facesBrief(sha256)[face]?.brief.fullName;
      if (name === undefined) return [];
      if (!elsewhere.includes(sha256)) return [{ id, name, face, path: files.path(sha256) }];
      const source = held.get(sha256);
      return source ? [{ id, name, face, ...source }] : [];
    });
  }

  /** Takes somebody's word for what they saw. */
  look(styleId: number, programId: number, { saw, who }: LookRequest): Sighting {
    const { style, program } = this.cell(styleId, programId);
    const result = ({ there: "seen", wrong: "swapped", "not-there": "not-there" } as const)[saw];
    const by = who === "" ? "Somebody" : who;
    const sentence = {
      there: `${by} saw it listed and drawn as it should be.`,
      wrong: `${by} saw it listed, and other letters drawn.`,
      "not-there": `${by} looked, and it was not listed.`,
    }[saw];
    return this.record(style, program, { result, means: "eye", sentence, who });
  }

  /** Takes what a paired device found by drawing with its own fonts; it speaks for the browser it was opened in. */
  fromDevice(deviceId: number, answers: readonly { sha256: string; answer: "there" | "not-there" }[]): void {
    const program = this.uses.devices.programs().find((one) => one.deviceId === deviceId && one.slug === DEVICE_BROWSER);
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

/** The program a paired device speaks for: what Buvano was opened in there. */
export const DEVICE_BROWSER = "own-browser";
