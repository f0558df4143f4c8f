// Archives that need more than a zip reader (7z, rar, locked or unusual zips), through 7-Zip's own code compiled to
// WebAssembly. It sees two folders of the disk and nothing else: the archive's, and an empty one to unpack into.
import { createReadStream } from "node:fs";
import { lstat, mkdir, rm } from "node:fs/promises";
import { basename, dirname, join } from "node:path";
import { ProblemError } from "../problem.ts";
import { entryTooLarge, tooManyBytes, tooManyEntries, type Limits } from "./limits.ts";
import { safeName } from "./names.ts";
import type { ArchiveEntry, ArchiveReader } from "./reader.ts";

/** Where to unpack, under which limits, with which password. */
export interface SevenZipOptions {
  /** A folder of this archive's own; it is made, and removed by `close`. */
  staging: string;
  limits: Limits;
  password?: string | undefined;
  /** How many bytes are unpacked so far in other archives of the same download. */
  bytesBefore?: number;
}

interface Run {
  code: number;
  lines: string[];
  /** What it said of single entries, by their path. */
  complaints: Map<string, string>;
  /** It was stopped because it wrote more than it may. */
  overflowed: boolean;
}

/** WASI's number for "no space left on device". */
const NO_SPACE = 51;

async function sevenZip(command: string[], archive: string, staging: string, mostBytes: number): Promise<Run> {
  const lines: string[] = [];
  const complaints = new Map<string, string>();
  // Loaded when first wanted: most downloads are plain zips.
  const { default: SevenZip } = await import("7z-wasm");
  const module = await SevenZip({
    print: (line) => lines.push(line),
    printErr: (line) => {
      lines.push(line);
      const complaint = /^ERROR: (.*?) : (.*)$/.exec(line);
      if (complaint) complaints.set(complaint[2]!, complaint[1]!);
    },
  });
  for (const [name, root] of [
    ["/in", dirname(archive)],
    ["/out", staging],
  ] as const) {
    module.FS.mkdir(name);
    module.FS.mount(module.NODEFS as never, { root } as never, name);
  }
  // Whatever the archive claims, no more than this is written: single-file formats do not even say their size.
  const files = module.FS as unknown as {
    write(...args: [unknown, unknown, unknown, length: number, ...unknown[]]): number;
    ErrnoError: new (code: number) => Error;
  };
  const write = files.write.bind(files);
  let written = 0;
  files.write = (...args) => {
    written += args[3];
    if (written > mostBytes) throw new files.ErrnoError(NO_SPACE);
    return write(...args);
  };
  let code: number;
  try {
    code = module.callMain([...command, "--", `/in/${basename(archive)}`]) as unknown as number;
  } catch {
    // Faults inside the WebAssembly come out as bare numbers; what was unpacked until then is not trusted.
    code = 255;
  }
  return { code, lines, complaints, overflowed: written > mostBytes };
}

const locked = (given: boolean): ProblemError =>
  given
    ? new ProblemError("archive-password-wrong", "This password does not open the archive.", "Check it letter by letter, and try again.")
    : new ProblemError(
        "archive-password",
        "The archive is locked with a password.",
        "Type the password; it stands where you downloaded it.",
      );
const damaged = (): ProblemError =>
  new ProblemError("archive-damaged", "The archive's list of contents is damaged or cut off.", "Download it again.");

interface Listed {
  path: string;
  bytes: number;
  folder: boolean;
  encrypted: boolean;
}

/** Reads the technical listing: one block of "Key = value" lines an entry, after a line of dashes. */
function parseListing(lines: readonly string[]): Listed[] {
  const found: Listed[] = [];
  let block: Record<string, string> = {};
  const finish = () => {
    const path = block["Path"];
    if (path !== undefined) {
      const folder = block["Folder"] === "+" || /^D/.test(block["Attributes"] ?? "");
      found.push({ path, bytes: Number(block["Size"] || 0), folder, encrypted: block["Encrypted"] === "+" });
    }
    block = {};
  };
  for (const line of lines.slice(lines.indexOf("----------") + 1)) {
    const pair = /^(\w[\w ]*?) = ?(.*)$/.exec(line);
    if (pair) block[pair[1]!] = pair[2]!;
    else if (line === "") finish();
  }
  finish();
  return found;
}

function problemOf(complaint: string, given: boolean): ProblemError {
  if (/wrong password/i.test(complaint)) return locked(given);
  if (/unsupported/i.test(complaint)) {
    return new ProblemError(
      "entry-method",
      "It is packed in a way that cannot be unpacked here.",
      "Unpack the archive yourself and drop the files.",
    );
  }
  if (/crc/i.test(complaint)) {
    return new ProblemError(
      "entry-checksum",
      "Its contents do not match the sum stored with them: it was damaged on the way.",
      "Download the archive again.",
    );
  }
  return new ProblemError("entry-damaged", "Its packed data is damaged.", "It was left out; the rest is here. Download the archive again.");
}

/**
 * Opens an archive and unpacks it whole into `staging`. Throws a `ProblemError`: "archive-password",
 * "archive-password-wrong", "archive-damaged", and the limits' problems before anything is written.
 */
export async function openSevenZip(archive: string, format: string, options: SevenZipOptions): Promise<ArchiveReader> {
  const { staging, limits, password } = options;
  const given = password !== undefined && password !== "";
  await mkdir(staging, { recursive: true });
  const close = () => rm(staging, { recursive: true, force: true });
  try {
    const secret = `-p${password ?? ""}`;
    const listing = await sevenZip(["l", "-slt", "-sccUTF-8", secret], archive, staging, limits.totalBytes);
    if (listing.lines.some((line) => /encrypted archive|wrong password/i.test(line))) throw locked(given);
    const listed = parseListing(listing.lines);
    if (listing.code !== 0 && listed.length === 0) throw damaged();
    if (listed.length > limits.entries) throw tooManyEntries(limits.entries);
    if (listed.some((entry) => entry.encrypted) && !given) throw locked(false);
    const large = listed.find((entry) => entry.bytes > limits.entryBytes);
    if (large) throw entryTooLarge(limits.entryBytes);
    const total = listed.reduce((sum, entry) => sum + entry.bytes, options.bytesBefore ?? 0);
    if (total > limits.totalBytes) throw tooManyBytes(limits.totalBytes);
    const room = limits.totalBytes - (options.bytesBefore ?? 0);
    const { code, complaints, overflowed } = await sevenZip(["x", "-y", "-snl-", secret, "-o/out"], archive, staging, room);
    if (overflowed) throw tooManyBytes(limits.totalBytes);
    if (given && complaints.size > 0 && [...complaints.values()].every((words) => /wrong password/i.test(words))) throw locked(true);
    if (code !== 0 && (complaints.size === 0 || listed.length <= 1) && !given) throw damaged();
    return { format, count: listed.length, close, entries: () => staged(listed, complaints, staging, given) };
  } catch (error) {
    await close();
    throw error;
  }
}

async function* staged(
  listed: readonly Listed[],
  complaints: ReadonlyMap<string, string>,
  staging: string,
  given: boolean,
): AsyncGenerator<ArchiveEntry> {
  for (const entry of listed) {
    const name = safeName(entry.path);
    yield {
      name: entry.path,
      folder: entry.folder,
      encrypted: false,
      claimedBytes: entry.bytes,
      packedBytes: undefined,
      crc32: undefined,
      open: async () => {
        const complaint = complaints.get(entry.path);
        if (complaint) throw problemOf(complaint, given);
        const path = join(staging, name.ok ? name.value : "");
        const about = await lstat(path).catch(() => undefined);
        // Links are not followed: what they point at was never in the archive.
        if (!about?.isFile())
          throw new ProblemError("entry-kind", "This is not a file but a link or a device.", "It was left out; the rest is here.");
        return createReadStream(path);
      },
    };
  }
}
