// Opens a download by its first bytes, whatever its name says.
import { closeSync, createReadStream, createWriteStream, openSync, readSync } from "node:fs";
import { mkdir, open, readdir, rm } from "node:fs/promises";
import { join } from "node:path";
import { pipeline } from "node:stream/promises";
import { ProblemError } from "../problem.ts";
import { cutOff } from "./gzip.ts";
import type { ArchiveReader } from "./reader.ts";
import { openRebuiltZip } from "./rebuilt-zip.ts";
import { openSevenZip, type SevenZipOptions } from "./sevenzip.ts";
import { isTarFile, oneFile, openTar } from "./tar.ts";
import { holdsZip, openZip, withoutDirectory, zipNeeds } from "./zip.ts";

async function head(path: string): Promise<Buffer> {
  const file = await open(path, "r");
  try {
    const bytes = Buffer.alloc(512);
    const { bytesRead } = await file.read(bytes, 0, 512, 0);
    return bytes.subarray(0, bytesRead);
  } finally {
    await file.close();
  }
}

/** A single file compressed by xz or bzip2, or a tar compressed so: unpacked on disk first, then read as what it is. */
async function openPacked(path: string, format: "xz" | "bzip2", innerName: string, options: SevenZipOptions): Promise<ArchiveReader> {
  const whole = join(options.staging, "whole");
  await openSevenZip(path, format, { ...options, staging: whole, namesOnly: false });
  const [file] = await readdir(whole);
  if (file === undefined) throw cutOff();
  const unpacked = join(whole, file);
  if (!(await isTarFile(unpacked))) return { ...oneFile(innerName, () => createReadStream(unpacked)), format };
  return openTar(unpacked, "none", innerName, options);
}

/** So far into a program that unpacks itself its archive is looked for. */
const MOST_STUB = 4 * 1024 * 1024;
const SIGNATURES = [
  ["7z", Buffer.from("7z\xbc\xaf\x27\x1c", "latin1")],
  ["rar", Buffer.from("Rar!\x1a\x07", "latin1")],
] as const;

/** An archive inside a program that unpacks itself: cut out, and read as what it is. */
async function openInside(path: string, options: SevenZipOptions): Promise<ArchiveReader | undefined> {
  const bytes = Buffer.alloc(MOST_STUB);
  const file = openSync(path, "r");
  const count = readSync(file, bytes, 0, bytes.length, 0);
  closeSync(file);
  const found = SIGNATURES.map(([format, signature]) => ({ format, at: bytes.subarray(0, count).indexOf(signature) }))
    .filter(({ at }) => at > 0)
    .sort((a, b) => a.at - b.at)[0];
  if (!found) return undefined;
  await mkdir(options.staging, { recursive: true });
  const cut = join(options.staging, "inside");
  await pipeline(createReadStream(path, { start: found.at }), createWriteStream(cut));
  return openSevenZip(cut, found.format, { ...options, staging: join(options.staging, "unpacked") });
}

const notAnArchive = (): ProblemError =>
  new ProblemError(
    "not-an-archive",
    "This is not an archive that can be opened.",
    "Drop a .zip, .7z, .rar or .tar, or the font files themselves.",
  );

async function openZipFile(path: string, options: SevenZipOptions): Promise<ArchiveReader> {
  const needs = await zipNeeds(path);
  if (needs === "plain") return openZip(path);
  if (needs === "more") return openSevenZip(path, "zip", options);
  return openRebuiltZip(path, options.limits, withoutDirectory());
}

/** Signatures: PKWARE APPNOTE 4.3.7; RFC 1952; the 7z, rar, bzip2 and xz formats' own descriptions. */
async function openByBytes(path: string, name: string, options: SevenZipOptions): Promise<ArchiveReader> {
  const bytes = await head(path);
  const start = bytes.toString("latin1", 0, 8);
  const innerName =
    name
      .split("/")
      .at(-1)!
      .replace(/\.(gz|bz2|xz)$/i, "") || "unnamed";
  if (/^PK(\x03\x04|\x05\x06|00PK\x03\x04)/.test(start)) return openZipFile(path, options);
  if (start.startsWith("7z\xbc\xaf\x27\x1c")) return openSevenZip(path, "7z", options);
  if (start.startsWith("Rar!\x1a\x07")) return openSevenZip(path, "rar", options);
  if (start.startsWith("\x1f\x8b")) return openTar(path, "gz", innerName, options);
  if (/^BZh[1-9]/.test(start)) return openPacked(path, "bzip2", innerName, options);
  if (start.startsWith("\xfd7zXZ\0")) return openPacked(path, "xz", innerName, options);
  if (await isTarFile(path)) return openTar(path, "none", innerName, options);
  if (holdsZip(path)) return openZipFile(path, options);
  const inside = /^(MZ|\x7fELF|#!)/.test(start) ? await openInside(path, options) : undefined;
  if (inside) return inside;
  throw notAnArchive();
}

/** Opens an archive. What is unpacked on the way lies in `options.staging` and is gone once the archive is closed, or could not be opened. */
export async function openArchive(path: string, name: string, options: SevenZipOptions): Promise<ArchiveReader> {
  const clear = () => rm(options.staging, { recursive: true, force: true });
  try {
    const reader = await openByBytes(path, name, options);
    return {
      ...reader,
      close: async () => {
        await reader.close();
        await clear();
      },
    };
  } catch (error) {
    await clear();
    const unreadable =
      error instanceof ProblemError && ["archive-damaged", "archive-truncated", "not-an-archive"].includes(error.problem.code);
    throw unreadable && PART.test(name) ? onePart() : error;
  }
}
/** How parts of split archives are called (common practice, no source). */
const PART = /\.(part\d+\.rar|r\d\d|(7z|zip|rar)\.\d{3}|z\d\d)$/i;
const onePart = (): ProblemError =>
  new ProblemError(
    "archive-part",
    "This is one part of an archive that was split into several.",
    "Unpack it yourself from its first part, all parts in one folder, and drop the fonts.",
  );
