// Files sent by the interface, streamed to disk as they arrive.
import { randomUUID } from "node:crypto";
import { createWriteStream } from "node:fs";
import { rm } from "node:fs/promises";
import { join } from "node:path";
import { pipeline } from "node:stream/promises";
import busboy from "busboy";
import type { Request } from "express";
import { diskFault } from "../../core/disk/faults.ts";
import { syncFile } from "../../core/disk/whole.ts";
import { plainName } from "../../core/words/plain.ts";
import { sizeWords } from "../../core/words/words.ts";
import { Fault } from "../fault.ts";

export interface Upload {
  name: string;
  stored_as: string;
  bytes: number;
}

/** A path as it was sent, with names of one line each. */
const plainPath = (path: string | undefined): string =>
  (path ?? "")
    .split("/")
    .map((part) => plainName(part))
    .filter(Boolean)
    .join("/") || "unnamed";

const MOST_EVIDENCE_BYTES = 200 * 1024 * 1024;
/** What may be given as evidence at once, or opened in a practice program. */
export const EVIDENCE_UPLOAD = { bytes: MOST_EVIDENCE_BYTES, files: 1 };

const BROKEN: [status: number, problem: { code: string; message: string; next: string }] = [
  400,
  { code: "upload-broken", message: "The upload broke off.", next: "Drop it again." },
];

/** Resolves once a form has taken a request in. After a fault the rest of the request is passed over, so that it can be answered. */
function taken(request: Request, form: busboy.Busboy): Promise<void> {
  return new Promise((resolve, reject) => {
    const fail = (error: Error) => {
      request.unpipe(form);
      request.resume();
      reject(error);
    };
    form.on("close", resolve);
    form.on("error", (error) => fail(error as Error));
    request.on("error", fail);
    request.on("close", () => {
      if (!request.complete) fail(new Error("The request broke off."));
    });
    request.pipe(form);
  });
}

/**
 * Streams every file of a multipart request into `dir`. Rejects with a `Fault` and leaves nothing behind when the
 * request breaks off or passes a limit.
 */
export async function receiveFiles(request: Request, dir: string, limits: { bytes: number; files: number }): Promise<Upload[]> {
  const uploads: Upload[] = [];
  const writing: Promise<void>[] = [];
  let fault: Fault | undefined;
  try {
    const form = busboy({
      headers: request.headers,
      preservePath: true,
      defParamCharset: "utf8",
      limits: { files: limits.files, fileSize: limits.bytes, fields: 20 },
    });
    form.on("file", (_field, stream, info) => {
      const upload: Upload = { name: plainPath(info.filename), stored_as: randomUUID(), bytes: 0 };
      uploads.push(upload);
      stream.on("data", (chunk: Buffer) => (upload.bytes += chunk.length));
      stream.on("limit", () => {
        fault ??= new Fault(413, {
          code: "upload-too-large",
          message: `“${upload.name}” is larger than ${sizeWords(limits.bytes)}, the most that is taken.`,
          next: "Drop only the fonts you need from it.",
        });
      });
      const path = join(dir, upload.stored_as);
      const written = pipeline(stream, createWriteStream(path)).then(() => syncFile(path));
      // What the disk refuses ends the whole upload; nobody else waits for this promise yet.
      written.catch((error: Error) => form.destroy(error));
      writing.push(written);
    });
    form.on("filesLimit", () => {
      fault ??= new Fault(413, {
        code: "upload-too-many",
        message: `More than ${limits.files} files were dropped at once.`,
        next: "Drop fewer at a time.",
      });
    });
    await taken(request, form);
    await Promise.all(writing);
    if (fault) throw fault;
    if (uploads.length === 0)
      throw new Fault(400, { code: "upload-empty", message: "No file was sent.", next: "Choose a file and try again." });
    return uploads;
  } catch (error) {
    await Promise.allSettled(writing);
    for (const upload of uploads) await rm(join(dir, upload.stored_as), { force: true });
    if (error instanceof Fault || diskFault(error)) throw error;
    throw new Fault(...BROKEN);
  }
}

/** A file that was sent to be read: its name without folders, and where it lies until then. */
export interface SentFile {
  fileName: string;
  path: string;
}
/** Receives files, has something read them, and deletes them, whatever came of it. */
export async function withFiles<T>(
  request: Request,
  dir: string,
  limits: { bytes: number; files: number },
  work: (files: [SentFile, ...SentFile[]]) => T | Promise<T>,
): Promise<T> {
  const uploads = await receiveFiles(request, dir, limits);
  const files = uploads.map(({ name, stored_as }): SentFile => ({ fileName: name.split("/").at(-1)!, path: join(dir, stored_as) }));
  try {
    return await work(files as [SentFile, ...SentFile[]]);
  } finally {
    for (const { path } of files) await rm(path, { force: true });
  }
}
