// What somebody saw in a program, or a paired device found out for itself.
import type { CellKey, LookAnswer, LookedMany, LookRequest } from "../../../contract/sightings.ts";
import { inTurns } from "../../../core/turns.ts";
import { count } from "../../../core/words/words.ts";
import { notFound } from "../../fault.ts";
import type { Parts } from "../../parts.ts";
import { inPieces } from "../../pieces.ts";
import type { ProgramRow } from "../../store/devices/programs.ts";
import type { StyleBrief } from "../../store/families/families.ts";
import type { Cells } from "../../views/sightings.ts";
import type { ProgramService } from "./programs.ts";
import { NOTHING_MORE, type SightingRecorder } from "./recording.ts";

/** Cells looked up between two pauses. */
const LOOKED_UP_TOGETHER = 200;

export class LookService {
  private readonly uses: Pick<Parts, "db" | "library" | "programs" | "sightings" | "history" | "events" | "now">;
  private readonly recorder: SightingRecorder;
  private readonly cells: Cells;
  private readonly programs: Pick<ProgramService, "opened">;
  constructor(
    uses: LookService["uses"],
    { recorder, cells, programs }: { recorder: SightingRecorder; cells: Cells; programs: LookService["programs"] },
  ) {
    this.uses = uses;
    this.recorder = recorder;
    this.cells = cells;
    this.programs = programs;
  }

  /** What speaks against somebody's word; empty when nothing does. That a program was reopened is believed where nobody can know better. */
  private against(style: StyleBrief, program: ProgramRow, { saw, despite }: LookRequest): string {
    if (saw !== "there") return "";
    if (despite === "reopened" && program.own) return "";
    return this.cells.against(style, program);
  }

  /** Takes somebody's word for what they saw; asks first where what is known of the device speaks against it. */
  look(styleId: number, programId: number, request: LookRequest): LookAnswer {
    const { saw, who, despite } = request;
    const { style, program } = this.recorder.cell(styleId, programId);
    const brief = this.uses.library.styleBrief(styleId)!;
    const against = this.against(brief, program, request);
    if (against !== "" && despite === "") return { question: against, sighting: null };
    if (despite === "reopened" && program.own) this.programs.opened(programId);
    const sentence = sawSentence(saw, who, against);
    // Of a practice device all is known; of another only what was told or looked at.
    const doubted = against !== "" && !program.own;
    return {
      question: "",
      sighting: this.recorder.record(style, program, { result: RESULT_OF[saw], means: "eye", sentence, who, doubted }),
    };
  }

  /** Takes somebody's word for many cells at once; one entry of the history takes all of it back, also what was noted when it is interrupted. */
  async lookMany(request: LookRequest & { cells: readonly CellKey[] }): Promise<LookedMany> {
    const { cells, saw, who, despite } = request;
    const { history, sightings, now } = this.uses;
    const found: { style: StyleBrief; program: ProgramRow; against: string }[] = [];
    const doubted: { cell: CellKey; against: string }[] = [];
    await inTurns(
      cells,
      (cell) => {
        const [style, program] = [this.uses.library.styleBrief(cell.styleId), this.uses.programs.get(cell.programId)];
        if (!style || !program) return;
        const against = this.against(style, program, request);
        if (against !== "" && despite === "") doubted.push({ cell, against });
        else found.push({ style, program, against });
      },
      LOOKED_UP_TOGETHER,
    );
    if (found.length + doubted.length === 0) throw notFound("style");
    const left = { doubted: doubted.map(({ cell }) => cell), question: doubted[0]?.against ?? "" };
    if (found.length === 0) return { sentence: "Nothing was noted yet.", historyId: null, ...left };
    if (despite === "reopened")
      for (const program of new Map(found.map((one) => [one.program.id, one.program])).values())
        if (program.own) this.programs.opened(program.id);
    const programs = [...new Set(found.map(({ program }) => program.name))];
    const where = programs.length === 1 ? programs[0]! : count(programs.length, "program");
    const by = who === "" ? "" : ` ${who} looked.`;
    const at = now();
    const sightingIds: number[] = [];
    const sentenceOf = (n: number) => `${count(n, "style")} ${SAW_WORDS[saw]} ${where}.${by}`;
    const historyId = history.add(at, RESULT_OF[saw], sentenceOf(0), [], { kind: "looks", sightingIds });
    await inPieces(this.uses, found, (piece) => {
      for (const { style, program, against } of piece)
        sightingIds.push(
          sightings.add({
            ...NOTHING_MORE,
            styleId: style.id,
            programId: program.id,
            result: RESULT_OF[saw],
            means: "eye",
            sentence: sawSentence(saw, who, against),
            who,
            doubted: against !== "" && !program.own,
            at,
          }),
        );
      const familyIds = [...new Set(piece.map(({ style }) => style.familyId))];
      history.extend(historyId, sentenceOf(sightingIds.length), familyIds, { kind: "looks", sightingIds });
    });
    this.uses.events.changed("sightings", "families");
    return { sentence: sentenceOf(sightingIds.length), historyId, ...left };
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
      this.recorder.record(style, program, { result: answer === "there" ? "seen" : "not-there", means: "device", sentence });
    }
  }
}

const RESULT_OF = { there: "seen", wrong: "swapped", "not-there": "not-there" } as const;
const SAW_WORDS: Record<LookRequest["saw"], string> = { there: "seen in", wrong: "drawn wrongly in", "not-there": "not listed in" };
/** `against`: what speaks against it, as a sentence. */
function sawSentence(saw: LookRequest["saw"], who: string, against: string): string {
  const by = who === "" ? "Somebody" : who;
  const said = {
    there: `${by} saw it listed and drawn as it should be.`,
    wrong: `${by} saw it listed, and other letters drawn.`,
    "not-there": `${by} looked, and it was not listed.`,
  }[saw];
  return against === "" ? said : `${said} What is known speaks against it: ${against}`;
}

/** The program a paired device speaks for: what Buvano was opened in there. */
export const DEVICE_BROWSER = "own-browser";
