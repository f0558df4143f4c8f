// A folder of this command's own in the temporary folder: gone when it ends, however it ends, and what a killed one left is swept by the next.
import { mkdtempSync, readdirSync, rmSync } from "node:fs";
import { rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";

/** Signals that end a command, and the code it ends with then (common practice: 128 and the signal's number). */
const ENDS = { SIGINT: 130, SIGTERM: 143, SIGHUP: 129 } as const;
const NAME = /^buvano-cli-(\d+)-/;

const isRunning = (pid: number): boolean => {
  try {
    process.kill(pid, 0);
    return true;
  } catch (error) {
    // It runs, and is somebody else's.
    return (error as NodeJS.ErrnoException).code === "EPERM";
  }
};

let swept = false;
function sweep(): void {
  if (swept) return;
  swept = true;
  for (const name of readdirSync(tmpdir())) {
    const pid = Number(NAME.exec(name)?.[1] ?? NaN);
    if (Number.isNaN(pid) || isRunning(pid)) continue;
    try {
      rmSync(join(tmpdir(), name), { recursive: true, force: true });
    } catch {
      // It is somebody else's.
    }
  }
}

/** Lets `work` have a folder of its own. */
export async function withOwnFolder<T>(work: (dir: string) => Promise<T>): Promise<T> {
  sweep();
  const dir = mkdtempSync(join(tmpdir(), `buvano-cli-${process.pid}-`));
  const ends = Object.entries(ENDS).map(([signal, code]) => {
    const end = () => {
      rmSync(dir, { recursive: true, force: true });
      process.exit(code);
    };
    process.on(signal, end);
    return () => process.off(signal, end);
  });
  try {
    return await work(dir);
  } finally {
    for (const off of ends) off();
    await rm(dir, { recursive: true, force: true });
  }
}
