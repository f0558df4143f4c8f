// `buvano backup` and `buvano restore`: a library as one zip in another place, and back from there, on this machine or another.
import { resolve } from "node:path";
import { fileURLToPath } from "node:url";
import { ProblemError } from "../core/problem.ts";
import { count, sizeWords } from "../core/words/words.ts";
import { diskFault } from "../core/disk/faults.ts";
import { backUp } from "../server/backup/backup.ts";
import { restore } from "../server/backup/restore.ts";

const pathOf = (place: string): string => resolve(place.startsWith("file:") ? fileURLToPath(place) : place);

/** Prints how far it is where somebody watches. */
const progress = (done: number, of: number): void => {
  if (process.stderr.isTTY) process.stderr.write(`\r${done} of ${count(of, "file")}${done === of ? "\n" : ""}`);
};

async function told(work: () => Promise<{ words: string; json: object }>, json: boolean): Promise<number> {
  try {
    const found = await work();
    process.stdout.write(`${json ? JSON.stringify(found.json) : found.words}\n`);
    return 0;
  } catch (error) {
    const problem = error instanceof ProblemError ? error.problem : diskFault(error)?.problem;
    if (!problem) throw error;
    if (json) process.stdout.write(`${JSON.stringify({ error: { code: problem.code, message: `${problem.message} ${problem.next}` } })}\n`);
    else process.stderr.write(`${problem.message} ${problem.next}\n`);
    return 1;
  }
}

/** Makes a backup, also while Buvano runs. Returns the exit code. */
export const backup = (place: string, dataDir: string, json: boolean): Promise<number> =>
  told(async () => {
    const made = await backUp(resolve(dataDir), pathOf(place), new Date(), progress);
    const { name, bytes, files, added } = made;
    return {
      words: `${name}: ${count(files, "file")}, ${added} of them new, ${sizeWords(bytes)}. What is new was read back and is whole.`,
      json: made,
    };
  }, json);

/** Brings a library back into an empty folder. Returns the exit code. */
export const restoreTo = (from: string, dataDir: string, json: boolean): Promise<number> =>
  told(async () => {
    const restored = await restore(pathOf(from), resolve(dataDir), progress);
    const { files, rows } = restored;
    return {
      words: `${resolve(dataDir)} holds the library of ${restored.from} again: ${count(files, "file")}, ${count(rows, "row")}, every one as it was.`,
      json: restored,
    };
  }, json);
