// Runs in a worker thread: reads single font files. Says what they hold, takes web fonts out of their packing, writes them into profiles,
// and compares drawings.
import { createHash } from "node:crypto";
import { readFile } from "node:fs/promises";
import { drawnDifference, drawnWords } from "../../core/family/drawn.ts";
import { inspectFont } from "../../core/inspect.ts";
import { ProblemError, type Problem } from "../../core/problem.ts";
import { openContainer } from "../../core/sfnt/container.ts";
import { Face } from "../../core/sfnt/face.ts";
import { unwrapWebFont } from "../../core/sfnt/unwrap.ts";
import { isWoff2, loadWoff2 } from "../../core/sfnt/woff2.ts";
import { FileStore } from "../files/files.ts";
import { faceFacts, type FaceFacts } from "../store/families/faces.ts";
import { profileText, type ProfileToWrite } from "./profiles.ts";
import { serve } from "./serve.ts";

/** A font file by where it lies, or its bytes. */
export type FontSource = { path: string } | { bytes: Uint8Array };
export type FontTask =
  | { kind: "inspect"; fonts: { source: FontSource; name: string }[] }
  | { kind: "unwrap"; path: string; name: string; filesDir: string }
  | { kind: "keep"; files: { sha256: string; source: FontSource }[]; filesDir: string }
  | { kind: "profile"; profile: Omit<ProfileToWrite, "fileName">; filesDir: string }
  | { kind: "drawn"; kept: { path: string; face: number }; others: { path: string; face: number }[] };

/** What was found in a file; null when it could not be had, no faces when it is no font. */
export type Inspected = { sha256: string; bytes: number; faces: FaceFacts[] } | null;
export type Unwrapped = { ok: true; sha256: string; bytes: number; ending: string; faces: FaceFacts[] } | { ok: false; problem: Problem };
export type FontOutcome<T extends FontTask> = T extends { kind: "inspect" }
  ? Inspected[]
  : T extends { kind: "unwrap" }
    ? Unwrapped
    : T extends { kind: "profile" }
      ? Uint8Array
      : T extends { kind: "keep" }
        ? null
        : string[];

const bytesOf = async (source: FontSource): Promise<Uint8Array | undefined> =>
  "bytes" in source ? source.bytes : await readFile(source.path).catch(() => undefined);

async function inspect({ source, name }: { source: FontSource; name: string }): Promise<Inspected> {
  const bytes = await bytesOf(source);
  if (!bytes) return null;
  const sha256 = createHash("sha256").update(bytes).digest("hex");
  const result = inspectFont(bytes, name, isWoff2(bytes) ? await loadWoff2() : undefined);
  return { sha256, bytes: bytes.length, faces: result.ok ? result.value.map((record) => faceFacts(sha256, bytes.length, record)) : [] };
}

/** Takes files into the library that have the bytes they are known by; others are left. */
async function keep({ files, filesDir }: Extract<FontTask, { kind: "keep" }>): Promise<null> {
  const batch = new FileStore(filesDir).batch();
  try {
    for (const { sha256, source } of files) {
      const bytes = await bytesOf(source);
      if (bytes && createHash("sha256").update(bytes).digest("hex") === sha256) await batch.put([bytes]);
    }
    await batch.commit();
    return null;
  } finally {
    await batch.drop();
  }
}

async function unwrap({ path, name, filesDir }: { path: string; name: string; filesDir: string }): Promise<Unwrapped> {
  const batch = new FileStore(filesDir).batch();
  try {
    const packed = await readFile(path);
    const { bytes, ending } = unwrapWebFont(packed, isWoff2(packed) ? await loadWoff2() : undefined);
    const { sha256 } = await batch.put([bytes]);
    const result = inspectFont(bytes, name);
    if (!result.ok) return { ok: false, problem: result.problem };
    await batch.commit();
    return { ok: true, sha256, bytes: bytes.length, ending, faces: result.value.map((record) => faceFacts(sha256, bytes.length, record)) };
  } catch (error) {
    if (error instanceof ProblemError) return { ok: false, problem: error.problem };
    throw error;
  } finally {
    await batch.drop();
  }
}

async function faceAt({ path, face }: { path: string; face: number }): Promise<Face | undefined> {
  try {
    return new Face(openContainer(await readFile(path)), face);
  } catch {
    return undefined;
  }
}

serve<FontTask, unknown>(async (task) => {
  switch (task.kind) {
    case "inspect": {
      const found: Inspected[] = [];
      for (const font of task.fonts) found.push(await inspect(font));
      return found;
    }
    case "unwrap":
      return unwrap(task);
    case "keep":
      return keep(task);
    case "profile":
      return new TextEncoder().encode(await profileText(task.profile, new FileStore(task.filesDir)));
    case "drawn": {
      const kept = await faceAt(task.kept);
      const words: string[] = [];
      for (const one of task.others) {
        const other = await faceAt(one);
        words.push(drawnWords(kept && other ? drawnDifference(kept, other) : undefined));
      }
      return words;
    }
  }
});
