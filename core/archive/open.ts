// Opens a download by its first bytes, whatever its name says.
import { createReadStream } from "node:fs";
import { open, readdir } from "node:fs/promises";
import { join } from "node:path";
import { ProblemError } from "../problem.ts";
import type { ArchiveReader } from "./reader.ts";
import { openSevenZip, type SevenZipOptions } from "./sevenzip.ts";
import { cutOff, isTarFile, oneFile, openTar } from "./tar.ts";
import { openZip, zipNeedsMore } from "./zip.ts";

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
  const outer = await openSevenZip(path, format, options);
  try {
    const [file] = await readdir(options.staging);
    if (file === undefined) throw cutOff();
    const unpacked = join(options.staging, file);
    const close = () => outer.close();
    if (!(await isTarFile(unpacked))) return { ...oneFile(innerName, () => createReadStream(unpacked)), format, close };
    return { ...(await openTar(unpacked, "none", innerName)), close };
  } catch (error) {
    await outer.close();
    throw error instanceof ProblemError && error.problem.code.startsWith("archive") ? error : cutOff();
  }
}

/** Signatures: PKWARE APPNOTE 4.3.7; RFC 1952; the 7z, rar, bzip2 and xz formats' own descriptions. */
export async function openArchive(path: string, name: string, options: SevenZipOptions): Promise<ArchiveReader> {
  const bytes = await head(path);
  const start = bytes.toString("latin1", 0, 8);
  const innerName =
    name
      .split("/")
      .at(-1)!
      .replace(/\.(gz|bz2|xz)$/i, "") || "unnamed";
  if (/^PK(\x03\x04|\x05\x06)/.test(start)) return (await zipNeedsMore(path)) ? openSevenZip(path, "zip", options) : openZip(path);
  if (start.startsWith("7z\xbc\xaf\x27\x1c")) return openSevenZip(path, "7z", options);
  if (start.startsWith("Rar!\x1a\x07")) return openSevenZip(path, "rar", options);
  if (start.startsWith("\x1f\x8b")) return openTar(path, "gz", innerName);
  if (/^BZh[1-9]/.test(start)) return openPacked(path, "bzip2", innerName, options);
  if (start.startsWith("\xfd7zXZ\0")) return openPacked(path, "xz", innerName, options);
  if (await isTarFile(path)) return openTar(path, "none", innerName);
  throw new ProblemError(
    "not-an-archive",
    "This is not an archive that can be opened.",
    "Drop a .zip, .7z, .rar or .tar, or the font files themselves.",
  );
}
