// Runs in a worker thread: packs a kit, file by file, into a zip on disk.
import { createHash } from "node:crypto";
import { createWriteStream } from "node:fs";
import { mkdir, rm, writeFile } from "node:fs/promises";
import { join } from "node:path";
import { pipeline } from "node:stream/promises";
import { ZipFile } from "yazl";
import { makeKit, type KitInput } from "../../core/placing/kit.ts";
import { writeProfile } from "../../core/placing/profile.ts";
import { FileStore } from "../files/files.ts";
import { serve } from "./serve.ts";

/** A configuration profile to write: its fonts by the sums of their files. */
export interface KitProfile {
  fileName: string;
  subject: string;
  organisation: string;
  library: string;
  fonts: { fullName: string; postScriptName: string; fileName: string; sha256: string }[];
}
export interface KitTask {
  input: Omit<KitInput, "profiles">;
  profiles: KitProfile[];
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

serve<KitTask, void>(async ({ input, profiles, filesDir, staging, top, madeAt, to }) => {
  const files = new FileStore(filesDir);
  await mkdir(staging, { recursive: true });
  const mtime = new Date(madeAt);
  const zip = new ZipFile();
  try {
    const written: KitInput["profiles"][number][] = [];
    for (const [i, { fileName, subject, organisation, library, fonts }] of profiles.entries()) {
      const held = [];
      for (const { sha256, ...font } of fonts) held.push({ ...font, bytes: await files.read(sha256) });
      const text = writeProfile({ family: subject, organisation, library, fonts: held });
      const at = join(staging, String(i));
      await writeFile(at, text);
      written.push({ fileName, subject, sha256: createHash("sha256").update(text).digest("hex"), at });
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
