// Runs in a worker thread: packs a kit, file by file, into a zip on disk.
import { createHash } from "node:crypto";
import { createWriteStream } from "node:fs";
import { mkdir, rm, writeFile } from "node:fs/promises";
import { join } from "node:path";
import { pipeline } from "node:stream/promises";
import { ZipFile } from "yazl";
import { makeKit, type KitInput } from "../../core/placing/kit.ts";
import { FileStore } from "../files/files.ts";
import { profileText, type ProfileToWrite } from "./profiles.ts";
import { serve } from "./serve.ts";

export interface KitTask {
  input: Omit<KitInput, "profiles">;
  profiles: ProfileToWrite[];
  filesDir: string;
  /** A folder of this task's own, for profiles until they are packed. */
  staging: string;
  /** The folder inside the zip everything lies in. */
  top: string;
  /** ISO 8601. */
  madeAt: string;
  /** Where the zip is written. */
  to: string;
}

/** Files alone, under their names. */
export interface BundleTask {
  bundle: { fileName: string; sha256: string }[];
  filesDir: string;
  madeAt: string;
  to: string;
}

async function bundled({ bundle, filesDir, madeAt, to }: BundleTask): Promise<void> {
  const files = new FileStore(filesDir);
  const zip = new ZipFile();
  try {
    const writing = pipeline(zip.outputStream, createWriteStream(to));
    for (const { fileName, sha256 } of bundle) zip.addFile(files.path(sha256), fileName, { mtime: new Date(madeAt) });
    zip.end();
    await writing;
  } catch (error) {
    await rm(to, { force: true });
    throw error;
  }
}

serve<KitTask | BundleTask, void>(async (task) => {
  if ("bundle" in task) return bundled(task);
  const { input, profiles, filesDir, staging, top, madeAt, to } = task;
  const files = new FileStore(filesDir);
  await mkdir(staging, { recursive: true });
  const mtime = new Date(madeAt);
  const zip = new ZipFile();
  try {
    const written: KitInput["profiles"][number][] = [];
    for (const [i, { fileName, ...profile }] of profiles.entries()) {
      const text = await profileText(profile, files);
      const at = join(staging, String(i));
      await writeFile(at, text);
      written.push({ fileName, subject: profile.subject, sha256: createHash("sha256").update(text).digest("hex"), at });
    }
    const writing = pipeline(zip.outputStream, createWriteStream(to));
    for (const [path, piece] of makeKit({ ...input, profiles: written })) {
      const name = `${top}/${path}`;
      if ("text" in piece) zip.addBuffer(Buffer.from(piece.text), name, { mtime, mode: path.endsWith(".sh") ? 0o100755 : 0o100644 });
      else zip.addFile("at" in piece ? piece.at : files.path(piece.sha256), name, { mtime });
    }
    zip.end();
    await writing;
  } catch (error) {
    await rm(to, { force: true });
    throw error;
  } finally {
    await rm(staging, { recursive: true, force: true });
  }
});
