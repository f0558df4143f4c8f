// What somebody saw in a program, or a paired device found out for itself.
import type { CellKey, LookRequest, Sighting } from "../../../contract/sightings.ts";
import { inTurns } from "../../../core/turns.ts";
import { count } from "../../../core/words/words.ts";
import { notFound } from "../../fault.ts";
import type { Parts } from "../../parts.ts";
import { inPieces } from "../../pieces.ts";
import type { ProgramRow } from "../../store/devices/programs.ts";
import type { StyleBrief } from "../../store/families/families.ts";
import { NOTHING_MORE, type SightingRecorder } from "./recording.ts";

/** Cells looked up between two pauses. */
const LOOKED_UP_TOGETHER = 200;

export class LookService {
  private readonly uses: Pick<Parts, "db" | "library" | "programs" | "sightings" | "history" | "events" | "now">;
  private readonly recorder: SightingRecorder;
  constructor(uses: LookService["uses"], recorder: SightingRecorder) {
    this.uses = uses;
    this.recorder = recorder;
  }

  /** Takes somebody's word for what they saw. */
  look(styleId: number, programId: number, { saw, who }: LookRequest): Sighting {
    const { style, program } = this.recorder.cell(styleId, programId);
    return this.recorder.record(style, program, { result: RESULT_OF[saw], means: "eye", sentence: sawSentence(saw, who), who });
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
            ...NOTHING_MORE,
            styleId: style.id,
            programId: program.id,
            result: RESULT_OF[saw],
            means: "eye",
            sentence: sawSentence(saw, who),
            who,
            at,
          }),
        );
      const familyIds = [...new Set(piece.map(({ style }) => style.familyId))];
      history.extend(historyId, sentenceOf(sightingIds.length), familyIds, { kind: "looks", sightingIds });
    });
    this.uses.events.changed("sightings", "families");
    return { sentence: sentenceOf(sightingIds.length), historyId };
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
