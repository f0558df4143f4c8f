// A practice program as the server sees it: it runs in a process of its own, and is gone when that ends.
import type { ProgramHandle } from "../../../practice/room.ts";
import type { PracticeDevice } from "../../../practice/device.ts";
import type { PracticeProgramPlan } from "../../../practice/world.ts";
import type { Drawing, TypedText } from "../../../practice/program.ts";
import { Fault } from "../../fault.ts";
import type { WorkPool } from "../../work/pool.ts";
import type { PracticeOutcomes, PracticeTask } from "../../work/practice.worker.ts";
import { TaskLost } from "../../work/threads.ts";

/** Why a program is gone, as the end of a sentence. */
const WHY = {
  overran: "this took longer than it may.",
  memory: "this took more memory than it may.",
  died: "nothing is known of why.",
};

let started = 0;

/** Begins a program. `onEnded`: it is gone, whoever asks next has to open it again. */
export async function startProgram(
  pool: WorkPool,
  { name, slug, traits }: PracticeProgramPlan,
  device: PracticeDevice,
  onEnded: () => void,
): Promise<ProgramHandle> {
  const key = `${++started}/${slug}`;
  let filesRead: readonly string[] = [];
  const ended = (why: string) => {
    onEnded();
    return new Fault(503, { code: "program-ended", message: `${name} ended: ${why}`, next: "Open it again, and try something smaller." });
  };
  const ask = async <K extends PracticeTask["kind"]>(task: Extract<PracticeTask, { kind: K }>): Promise<PracticeOutcomes[K]> => {
    try {
      const answer = await pool.practise<K>(task);
      if (answer === null) throw ended("another practice program ended, and all were closed with it.");
      filesRead = answer.filesRead;
      return answer.outcome;
    } catch (error) {
      if (error instanceof TaskLost && error.why in WHY) throw ended(WHY[error.why as keyof typeof WHY]);
      throw error;
    }
  };
  await ask({ kind: "start", key, root: device.root, name, slug, traits });
  return {
    filesRead: () => [...filesRead],
    menu: () => ask({ kind: "menu", key }),
    load: (fileName: string, bytes: Uint8Array, keep: boolean) => ask({ kind: "load", key, fileName, bytes, keep }),
    draw: (typed: TypedText): Promise<Drawing> => ask({ kind: "draw", key, typed }),
    exportPage: (lines: readonly TypedText[]) => ask({ kind: "page", key, lines }),
    exportSvg: (typed: TypedText) => ask({ kind: "svg", key, typed }),
    close: () => void ask({ kind: "close", key }).catch(() => {}),
  };
}
