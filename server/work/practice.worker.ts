// Runs in a process of its own: the practice room's programs, which set and draw with whatever fonts they were given. They stay open between tasks.
import { PracticeDevice } from "../../practice/device.ts";
import { OpenProgram, type Drawing, type TypedText } from "../../practice/program.ts";
import type { ProgramTraits } from "../../contract/programs.ts";
import { serve } from "./serve.ts";

/** `key` names an open program. */
export type PracticeTask =
  | { kind: "start"; key: string; root: string; name: string; slug: string; traits: ProgramTraits }
  | { kind: "close"; key: string }
  | { kind: "menu"; key: string }
  | { kind: "load"; key: string; fileName: string; bytes: Uint8Array; keep: boolean }
  | { kind: "draw"; key: string; typed: TypedText }
  | { kind: "page"; key: string; lines: readonly TypedText[] }
  | { kind: "svg"; key: string; typed: TypedText };
export interface PracticeOutcomes {
  start: undefined;
  close: undefined;
  menu: { label: string; styles: string[] }[];
  load: boolean;
  draw: Drawing;
  page: Uint8Array;
  svg: string;
}
/** Null when this process knows no such program: it was begun after another ended. */
export type PracticeAnswer<K extends PracticeTask["kind"] = PracticeTask["kind"]> = {
  outcome: PracticeOutcomes[K];
  /** Files the program has read, as "folder/file name". */
  filesRead: string[];
} | null;

const open = new Map<string, OpenProgram>();

function done(program: OpenProgram, task: Exclude<PracticeTask, { kind: "start" | "close" }>): Promise<unknown> {
  switch (task.kind) {
    case "menu":
      return program.menu();
    case "load":
      return program.load(task.fileName, task.bytes, task.keep);
    case "draw":
      return program.draw(task.typed);
    case "page":
      return program.exportPage(task.lines);
    case "svg":
      return program.exportSvg(task.typed);
  }
}

serve<PracticeTask, PracticeAnswer>(async (task) => {
  if (task.kind === "start") {
    const { key, root, name, slug, traits } = task;
    const program = await OpenProgram.start(name, slug, traits, new PracticeDevice(root));
    open.set(key, program);
    return { outcome: undefined, filesRead: program.filesRead() };
  }
  const program = open.get(task.key);
  if (task.kind === "close") {
    open.delete(task.key);
    return { outcome: undefined, filesRead: [] };
  }
  if (!program) return null;
  const outcome = (await done(program, task)) as PracticeOutcomes[typeof task.kind];
  return { outcome, filesRead: program.filesRead() };
});
