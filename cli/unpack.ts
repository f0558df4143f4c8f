// `buvano unpack`: takes an archive apart into a folder, one line an entry.
import { createHash } from "node:crypto";
import { open } from "node:fs/promises";
import { basename, join } from "node:path";
import { DEFAULT_LIMITS } from "../core/archive/limits.ts";
import { unpackArchive, type Sink } from "../core/archive/unpack.ts";
import { fillWhole } from "../core/disk/whole.ts";
import { ProblemError } from "../core/problem.ts";

/** Writes what comes into a new file; gives its sha-256. */
export async function written(path: string, content: AsyncIterable<Uint8Array>): Promise<string> {
  const hash = createHash("sha256");
  const file = await open(path, "wx");
  try {
    for await (const chunk of content) {
      hash.update(chunk);
      await file.write(chunk);
    }
  } finally {
    await file.close();
  }
  return hash.digest("hex");
}

/** Writes each entry below `dir` under a temporary name, and gives it its own name once it is whole. */
function folderSink(dir: string): Sink {
  const taken = new Set<string>();
  return async ({ path }, content) => {
    if (taken.has(path.toLowerCase())) {
      throw new ProblemError("entry-twice", "Another entry of the archive has the same name.", "It was left out; the first one is here.");
    }
    const sha256 = await fillWhole(join(dir, path), (unfinished) => written(unfinished, content));
    taken.add(path.toLowerCase());
    return { sha256 };
  };
}

/** Unpacks and prints. Returns the exit code: 1 when the archive as a whole could not be unpacked. */
export async function unpack(archive: string, dir: string, json: boolean): Promise<number> {
  const print = (line: string) => process.stdout.write(`${line}\n`);
  try {
    for (const entry of await unpackArchive(archive, basename(archive), {
      limits: DEFAULT_LIMITS,
      sink: folderSink(dir),
      staging: join(dir, `.staging-${process.pid}`),
    })) {
      const { path, kind, bytes, sha256, problem } = entry;
      if (json) print(JSON.stringify({ path, kind, bytes, sha256, ...(problem && { problem }) }));
      else print(`${path}: ${kind}, ${bytes} bytes${problem ? ` — ${problem.message} ${problem.next}` : ""}`);
    }
    return 0;
  } catch (error) {
    const problem =
      error instanceof ProblemError
        ? error.problem
        : { code: "file-unreadable", message: "The archive cannot be opened.", next: "Check its name and that you may read it." };
    if (json) print(JSON.stringify({ path: archive, kind: "archive", bytes: 0, sha256: "", problem }));
    else process.stderr.write(`${archive}: ${problem.message} ${problem.next}\n`);
    return 1;
  }
}
