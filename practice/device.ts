// A simulated device: folders of real font files, a font cache programs go by, switches, a passcode, and a state that can be made
// difficult. Writing is done as careful systems do it: temporary name, sync, rename.
import { createHash, randomUUID } from "node:crypto";
import { copyFile, mkdir, open, readdir, readFile, rm, stat } from "node:fs/promises";
import { join } from "node:path";
import { isUnfinished, writeWhole } from "../core/disk/whole.ts";
import { inTurns } from "../core/turns.ts";
import { ProfileShelf } from "./profiles.ts";

export type WritableFolder = "me" | "everyone";
export type DeviceFolder = WritableFolder | "built-in" | "profile" | "own";
const PLAIN_FOLDERS = ["built-in", "me", "everyone"] as const;

export interface DeviceFile {
  folder: DeviceFolder;
  /** In a program's own store with the program's name before it. */
  fileName: string;
  /** Milliseconds since 1970. */
  changedAt: number;
  bytes: number;
  /** Turned off: the file is there, and programs do not get to see it. */
  on: boolean;
  /** The device's font cache knows it, so that programs can find it. */
  cached: boolean;
  /** Where it lies on this machine; fonts in profiles lie nowhere by themselves. */
  path?: string;
  read(): Promise<Uint8Array>;
}

/** What can be the matter with a device; all of it is kept on its disk. */
export interface DeviceState {
  /** Turned off or not in reach. */
  away: boolean;
  /** Its font folders cannot be written to. */
  readOnly: boolean;
  /** What its font folders can hold. */
  capacityBytes: number;
  /** Open programs keep the fonts they read from being removed. */
  locksOpenFonts: boolean;
  wrongPasscodes: number;
  /** Milliseconds since 1970; no passcode is taken before then. */
  lockedUntil: number;
}
const ORDINARY: DeviceState = {
  away: false,
  readOnly: false,
  capacityBytes: 512 * 1024 * 1024,
  locksOpenFonts: false,
  wrongPasscodes: 0,
  lockedUntil: 0,
};
export const TRIES = 3;
const LOCK_MS = 60_000;

export type Unlocking = { ok: true; key: string } | { ok: false; triesLeft: number; lockedUntil: number };

/** A fault as a system reports it: a code its callers know. */
class SystemFault extends Error {
  readonly code: string;
  constructor(code: string) {
    super(code);
    this.code = code;
  }
}

export class PracticeDevice {
  readonly root: string;
  readonly profiles: ProfileShelf;
  private readonly passcode: string;
  private readonly now: () => number;
  private readonly keys = new Set<string>();
  /** Files that open programs have read, as "folder/file name". */
  inUse: () => ReadonlySet<string> = () => new Set();

  constructor(root: string, passcode = "", now: () => number = Date.now) {
    this.root = root;
    this.passcode = passcode;
    this.now = now;
    this.profiles = new ProfileShelf(join(root, "profiles"), now);
  }

  /** Makes the folders and fills the built-in one with the fonts every practice device comes with. */
  async prepare(builtInFonts: string): Promise<void> {
    for (const folder of [...PLAIN_FOLDERS, "own"]) await mkdir(join(this.root, folder), { recursive: true });
    await this.profiles.prepare();
    const there = new Set(await readdir(this.folder("built-in")));
    for (const name of await readdir(builtInFonts)) {
      if (!there.has(name)) await copyFile(join(builtInFonts, name), join(this.folder("built-in"), name));
    }
    // What a killed process left, among its own notes too; older ones called it otherwise.
    for (const path of await readdir(this.root, { recursive: true }))
      if (isUnfinished(path) || /^(me|everyone)[\\/].+\.part$/.test(path)) await rm(join(this.root, path), { force: true });
    if ((await this.cache()) === undefined) await this.refreshCache();
  }

  folder(folder: WritableFolder | "built-in"): string {
    return join(this.root, folder);
  }

  async state(): Promise<DeviceState> {
    return { ...ORDINARY, ...(await readJson<Partial<DeviceState>>(join(this.root, "state.json"))) };
  }
  async setState(change: Partial<DeviceState>): Promise<void> {
    await this.writeJson("state.json", { ...(await this.state()), ...change });
  }
  private async reachable(): Promise<DeviceState> {
    const state = await this.state();
    if (state.away) throw new SystemFault("EHOSTDOWN");
    return state;
  }

  /** All fonts on the device; unfinished copies are not fonts yet. Throws EHOSTDOWN while it is away. */
  async list(): Promise<DeviceFile[]> {
    await this.reachable();
    const found: DeviceFile[] = [];
    const switches = await this.switches();
    const cached = await this.cacheTells();
    for (const folder of PLAIN_FOLDERS) {
      const fonts = await fontsIn(this.folder(folder));
      const noticed = new Map<string, boolean>();
      for (const one of fonts) noticed.set(one.fileName, await cached(folder, one));
      await inTurns(fonts, (one) => {
        const turned = switches[`${folder}/${one.fileName}`];
        const changedAt = Math.max(one.changedAt, turned?.atMs ?? 0);
        found.push({
          ...one,
          folder,
          changedAt,
          on: turned?.on ?? true,
          cached: noticed.get(one.fileName)!,
          read: () => readFile(one.path),
        });
      });
    }
    for (const font of await this.profiles.fonts()) found.push({ ...font, folder: "profile", on: true, cached: true });
    for (const program of await readdir(join(this.root, "own")).catch(() => [])) {
      for (const one of await fontsIn(join(this.root, "own", program))) {
        const fileName = `${program}/${one.fileName}`;
        found.push({ ...one, fileName, folder: "own", on: true, cached: true, read: () => readFile(one.path) });
      }
    }
    return found;
  }
  /** The fonts a program gets to see: on, known to the font cache, in a folder it reads. */
  async visible(folders: readonly DeviceFolder[], program = ""): Promise<DeviceFile[]> {
    return (await this.list()).filter(
      (file) =>
        file.on && file.cached && folders.includes(file.folder) && (file.folder !== "own" || file.fileName.startsWith(`${program}/`)),
    );
  }

  /** The font cache's entries, by "folder/file name"; undefined when there never was one. */
  private async cache(): Promise<Record<string, CacheEntry> | undefined> {
    const read = await readJson<Record<string, CacheEntry> | string[]>(join(this.root, "font-cache.json"));
    // Older caches are lists of names with times.
    return Array.isArray(read) ? undefined : read;
  }
  /** Whether the font cache knows a file: by its time, or where that is another, as in every copy, by what it begins with. */
  private async cacheTells(): Promise<(folder: string, file: FoundFile) => Promise<boolean>> {
    const cache = await this.cache();
    return async (folder, file) => {
      const entry = cache?.[`${folder}/${file.fileName}`];
      if (!entry || entry.bytes !== file.bytes) return false;
      return entry.changedAt === file.changedAt || entry.begins === (await beginningOf(file.path));
    };
  }
  /** Looks through the font folders anew. Until then programs do not find what was put there. */
  async refreshCache(): Promise<void> {
    const entries: Record<string, CacheEntry> = {};
    for (const folder of PLAIN_FOLDERS)
      for (const { fileName, changedAt, bytes, path } of await fontsIn(this.folder(folder)))
        entries[`${folder}/${fileName}`] = { changedAt, bytes, begins: await beginningOf(path) };
    await this.writeJson("font-cache.json", entries);
  }

  /** Takes the device's passcode. After three wrong ones it takes none for a minute. */
  async unlock(passcode: string): Promise<Unlocking> {
    const state = await this.reachable();
    if (state.lockedUntil > this.now()) return { ok: false, triesLeft: 0, lockedUntil: state.lockedUntil };
    if (passcode === this.passcode) {
      await this.setState({ wrongPasscodes: 0, lockedUntil: 0 });
      const key = randomUUID();
      this.keys.add(key);
      return { ok: true, key };
    }
    const wrong = state.wrongPasscodes + 1;
    const lockedUntil = wrong >= TRIES ? this.now() + LOCK_MS : 0;
    await this.setState({ wrongPasscodes: wrong >= TRIES ? 0 : wrong, lockedUntil });
    return { ok: false, triesLeft: Math.max(0, TRIES - wrong), lockedUntil };
  }
  lock(key: string): void {
    this.keys.delete(key);
  }

  /** What may be written: EACCES without the key to the folder for everyone, EROFS when nothing may. */
  private async allow(folder: WritableFolder, key: string | undefined): Promise<DeviceState> {
    const state = await this.reachable();
    if (state.readOnly) throw new SystemFault("EROFS");
    if (folder === "everyone" && (key === undefined || !this.keys.has(key))) throw new SystemFault("EACCES");
    return state;
  }
  async freeBytes(): Promise<number> {
    const { capacityBytes } = await this.state();
    const used = (await this.list()).filter((file) => file.folder !== "built-in").reduce((sum, file) => sum + file.bytes, 0);
    return Math.max(0, capacityBytes - used);
  }

  async write(folder: WritableFolder, fileName: string, bytes: Uint8Array, key?: string): Promise<void> {
    await this.allow(folder, key);
    if (bytes.length > (await this.freeBytes())) throw new SystemFault("ENOSPC");
    await writeWhole(join(this.folder(folder), fileName), bytes);
    await this.forgetSwitch(folder, fileName);
  }
  async remove(folder: WritableFolder, fileName: string, key?: string): Promise<void> {
    const { locksOpenFonts } = await this.allow(folder, key);
    if (locksOpenFonts && this.inUse().has(`${folder}/${fileName}`)) throw new SystemFault("EBUSY");
    await rm(join(this.folder(folder), fileName));
    await this.forgetSwitch(folder, fileName);
  }
  /** Switches a font on or off; the file stays where it is. For programs it changed at that moment. */
  async setOn(folder: WritableFolder, fileName: string, on: boolean, key?: string): Promise<void> {
    await this.allow(folder, key);
    await stat(join(this.folder(folder), fileName));
    await this.writeJson("switches.json", { ...(await this.switches()), [`${folder}/${fileName}`]: { on, atMs: this.now() } });
  }
  /** Keeps a font in a program's own store. */
  async keep(program: string, fileName: string, bytes: Uint8Array): Promise<void> {
    await this.reachable();
    const folder = join(this.root, "own", program);
    await mkdir(folder, { recursive: true });
    await writeWhole(join(folder, fileName), bytes);
  }
  async dropKept(program: string, fileName: string): Promise<void> {
    await rm(join(this.root, "own", program, fileName), { force: true });
  }

  /** Fonts that were ever switched, by "folder/file name": how they stand, and since when. */
  private async switches(): Promise<Record<string, { on: boolean; atMs: number }>> {
    return (await readJson(join(this.root, "switches.json"))) ?? {};
  }
  private async forgetSwitch(folder: string, fileName: string): Promise<void> {
    const { [`${folder}/${fileName}`]: switched, ...others } = await this.switches();
    if (switched) await this.writeJson("switches.json", others);
  }
  private writeJson(name: string, value: unknown): Promise<void> {
    return writeWhole(join(this.root, name), new TextEncoder().encode(JSON.stringify(value)));
  }
}

/** What a font cache keeps of a file. */
interface CacheEntry {
  changedAt: number;
  bytes: number;
  /** A digest of its first bytes: a font's table directory, which holds a checksum of each table. */
  begins: string;
}
const BEGINNING = 512;
async function beginningOf(path: string): Promise<string> {
  const file = await open(path);
  try {
    const { buffer, bytesRead } = await file.read(Buffer.alloc(BEGINNING), 0, BEGINNING, 0);
    return createHash("sha256").update(buffer.subarray(0, bytesRead)).digest("base64");
  } finally {
    await file.close();
  }
}

async function readJson<T>(path: string): Promise<T | undefined> {
  try {
    return JSON.parse(await readFile(path, "utf8")) as T;
  } catch {
    // It was never written.
    return undefined;
  }
}

interface FoundFile {
  fileName: string;
  path: string;
  /** Milliseconds since 1970. */
  changedAt: number;
  bytes: number;
}
async function fontsIn(folder: string): Promise<FoundFile[]> {
  const found = [];
  for (const fileName of (await readdir(folder)).sort()) {
    if (!/\.(ttf|otf|ttc|otc)$/i.test(fileName)) continue;
    const path = join(folder, fileName);
    const about = await stat(path);
    if (about.isFile()) found.push({ fileName, path, changedAt: about.mtimeMs, bytes: about.size });
  }
  return found;
}
