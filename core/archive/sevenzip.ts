// Archives that need more than a zip reader (7z, rar, locked or unusual zips), through 7-Zip's own code compiled to
// WebAssembly. It sees two folders of the disk and nothing else: one that holds the archive alone, and an empty one to unpack into.
import { constants, createReadStream } from "node:fs";
import { copyFile, link, lstat, mkdir, mkdtemp, readFile, rm } from "node:fs/promises";
import { createRequire } from "node:module";
import { join } from "node:path";
import { diskFault } from "../disk/faults.ts";
import { ProblemError } from "../problem.ts";
import { entryTooLarge, tooManyEntries, type Limits, type Room } from "./limits.ts";
import { safeName } from "./names.ts";
import { notAFile, type ArchiveEntry, type ArchiveReader } from "./reader.ts";

/** Where to unpack, under which limits, with which password. */
export interface SevenZipOptions {
  /** A folder of this archive's own; it is made. Whoever opened the archive removes it. */
  staging: string;
  limits: Limits;
  /** What may still be unpacked. */
  room: Room;
  password?: string | undefined;
  /** Only the list of what is in it is wanted: nothing is unpacked where the format has a list, and entries cannot be opened. */
  namesOnly?: boolean | undefined;
}

interface Run {
  code: number;
  lines: string[];
  /** What it said of single entries, by their path. */
  complaints: Map<string, string>;
  /** It was stopped because it wrote more than it may. */
  overflowed: boolean;
  /** Something followed what was packed. */
  trailing: boolean;
  /** What the disk refused, in words; nothing it then says of the archive is true. */
  fault: ProblemError | undefined;
}

/** WASI's number for "no space left on device". */
const NO_SPACE = 51;
/** What the archive is called where 7-Zip sees it. */
const ARCHIVE = "archive";

let compiled: WebAssembly.Module | undefined;
/** 7-Zip's code, compiled once a process; each run gets a memory of its own. */
async function program(): Promise<WebAssembly.Module> {
  compiled ??= new WebAssembly.Module(await readFile(createRequire(import.meta.url).resolve("7z-wasm/7zz.wasm")));
  return compiled;
}

type Instantiate = (imports: WebAssembly.Imports, take: (instance: WebAssembly.Instance) => void) => void;

/** `own` is a folder that holds nothing but the archive. */
async function sevenZip(command: string[], own: string, staging: string, mostBytes: number): Promise<Run> {
  const lines: string[] = [];
  const complaints = new Map<string, string>();
  let trailing = false;
  // Loaded when first wanted: most downloads are plain zips.
  const { default: SevenZip } = await import("7z-wasm");
  const code7z = await program();
  // The package's types know fewer options than its code takes (emscripten.org, "Module.instantiateWasm").
  const options: Partial<Parameters<typeof SevenZip>[0]> & { instantiateWasm: Instantiate } = {
    instantiateWasm: (imports, take) => take(new WebAssembly.Instance(code7z, imports)),
    print: (line) => lines.push(line),
    printErr: (line) => {
      lines.push(line);
      const [words, path] = line.startsWith("ERROR: ") ? line.slice(7).split(/ : (.*)/s) : [];
      // What follows a compressed file is none of it; every reader passes over it.
      if (words === undefined || path === undefined) return;
      if (/data after the end of the payload/i.test(words)) trailing = true;
      else complaints.set(path, words);
    },
  };
  const module = await SevenZip(options);
  for (const [name, root] of [
    ["/in", own],
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
  let fault: ProblemError | undefined;
  const numbers = (module as unknown as { ERRNO_CODES?: Record<string, number> }).ERRNO_CODES ?? {};
  files.write = (...args) => {
    written += args[3];
    if (written > mostBytes) throw new files.ErrnoError(NO_SPACE);
    try {
      return write(...args);
    } catch (error) {
      const number = (error as { errno?: number }).errno;
      const code = Object.keys(numbers).find((name) => numbers[name] === number) ?? (number === NO_SPACE ? "ENOSPC" : "EIO");
      fault ??= diskFault({ code }) ?? diskFault({ code: "EIO" });
      throw error;
    }
  };
  let code: number;
  try {
    code = module.callMain([...command, "--", `/in/${ARCHIVE}`]) as unknown as number;
  } catch {
    // Faults inside the WebAssembly come out as bare numbers; what was unpacked until then is not trusted.
    code = 255;
  }
  return { code, lines, complaints, overflowed: written > mostBytes, trailing, fault };
}

const locked = (given: boolean): ProblemError =>
  given
    ? new ProblemError("archive-password-wrong", "This password does not open the archive.", "Check it letter by letter, and try again.")
    : new ProblemError(
        "archive-password",
        "The archive is locked with a password.",
        "Type the password; it stands where you downloaded it.",
      );
const lockedEntry = (): ProblemError =>
  new ProblemError(
    "entry-locked",
    "This entry is locked with a password; others of the archive are not.",
    "Unpack it yourself with its password, and drop the files.",
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

/** So many entries that are too large are left out of what is unpacked; an archive with more holds no fonts. */
const MOST_LEFT_OUT = 100;

/**
 * Opens an archive and unpacks it whole into `staging`. Throws a `ProblemError`: "archive-password",
 * "archive-password-wrong", "archive-damaged", and the limits' problems before anything is written.
 */
export async function openSevenZip(archive: string, format: string, options: SevenZipOptions): Promise<ArchiveReader> {
  const { staging, limits, password, room } = options;
  const given = password !== undefined && password !== "";
  await mkdir(staging, { recursive: true });
  // Beside the folder it unpacks into, not in it.
  const own = await mkdtemp(`${staging}-in-`);
  try {
    // Another name for the same bytes where the disk allows it.
    await link(archive, join(own, ARCHIVE)).catch(() => copyFile(archive, join(own, ARCHIVE), constants.COPYFILE_FICLONE));
    const secret = `-p${password ?? ""}`;
    const listing = await sevenZip(["l", "-slt", "-sccUTF-8", secret], own, staging, room.left);
    if (listing.lines.some((line) => /encrypted archive|wrong password/i.test(line))) throw locked(given);
    const listed = parseListing(listing.lines);
    if (listing.code !== 0 && listed.length === 0) throw damaged();
    if (listed.length > limits.entries) throw tooManyEntries(limits.entries);
    const files = listed.filter((entry) => !entry.folder);
    // Where some entries are open, those are taken, and the others say that they are locked.
    if (files.length > 0 && files.every((entry) => entry.encrypted) && !given) throw locked(false);
    const large = new Set(files.filter((entry) => entry.bytes > limits.entryBytes).map(({ path }) => path));
    if (large.size > 0 && (large.size === files.length || large.size > MOST_LEFT_OUT)) throw entryTooLarge(limits.entryBytes);
    // Of compressed single files nobody says how large they are: 7-Zip then claims any size.
    const total = listed.reduce((sum, entry) => sum + (large.has(entry.path) ? 0 : entry.bytes), 0);
    if (total > room.left) throw room.exceeded();
    const reader = { format, count: listed.length, close: () => {} };
    if (options.namesOnly) return { ...reader, entries: () => staged(listed, { complaints: new Map(), large, limits }, staging, given) };
    const { code, complaints, overflowed, trailing, fault } = await sevenZip(
      // Names are names, whatever signs are in them; what is too large stays packed.
      ["x", "-y", "-snl-", "-spd", ...[...large].map((path) => `-x!${path}`), secret, "-o/out"],
      own,
      staging,
      room.left,
    );
    if (fault) throw fault;
    if (overflowed) throw room.exceeded();
    if (given && complaints.size > 0 && [...complaints.values()].every((words) => /wrong password/i.test(words))) throw locked(true);
    const nothingElse = trailing && complaints.size === 0;
    if (code !== 0 && (complaints.size === 0 || listed.length <= 1) && !given && !nothingElse) throw damaged();
    return { ...reader, entries: () => staged(listed, { complaints, large, limits }, staging, given) };
  } finally {
    await rm(own, { recursive: true, force: true });
  }
}

async function* staged(
  listed: readonly Listed[],
  { complaints, large, limits }: { complaints: ReadonlyMap<string, string>; large: ReadonlySet<string>; limits: SevenZipOptions["limits"] },
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
        if (large.has(entry.path)) throw entryTooLarge(limits.entryBytes);
        if (entry.encrypted && !given) throw lockedEntry();
        const complaint = complaints.get(entry.path);
        if (complaint) throw problemOf(complaint, given);
        const path = join(staging, name.ok ? name.value : "");
        const about = await lstat(path).catch(() => undefined);
        if (!about?.isFile()) throw notAFile();
        return createReadStream(path);
      },
    };
  }
}
