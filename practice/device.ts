// A simulated device: folders of real font files. Writing is done as careful systems do it: temporary name, sync, rename.
import { copyFile, mkdir, open, readdir, readFile, rename, rm, stat } from "node:fs/promises";
import { join } from "node:path";

export type DeviceFolder = "built-in" | "me" | "everyone";
export const DEVICE_FOLDERS: readonly DeviceFolder[] = ["built-in", "me", "everyone"];

export interface DeviceFile {
  folder: DeviceFolder;
  fileName: string;
  path: string;
  /** Milliseconds since 1970. */
  changedAt: number;
  bytes: number;
  /** Switched off: the file is there, and programs do not get to see it. */
  on: boolean;
}

export class PracticeDevice {
  readonly root: string;
  constructor(root: string) {
    this.root = root;
  }

  /** Makes the folders and fills the built-in one with the fonts every practice device comes with. */
  async prepare(builtInFonts: string): Promise<void> {
    for (const folder of DEVICE_FOLDERS) await mkdir(this.folder(folder), { recursive: true });
    const there = new Set(await readdir(this.folder("built-in")));
    for (const name of await readdir(builtInFonts)) {
      if (!there.has(name)) await copyFile(join(builtInFonts, name), join(this.folder("built-in"), name));
    }
  }

  folder(folder: DeviceFolder): string {
    return join(this.root, folder);
  }

  /** Font files in the given folders; unfinished copies are not fonts yet. */
  async list(folders: readonly DeviceFolder[] = DEVICE_FOLDERS): Promise<DeviceFile[]> {
    const found: DeviceFile[] = [];
    const switches = await this.switches();
    for (const folder of folders) {
      for (const fileName of (await readdir(this.folder(folder))).sort()) {
        if (!/\.(ttf|otf|ttc|otc)$/i.test(fileName)) continue;
        const path = join(this.folder(folder), fileName);
        const about = await stat(path);
        if (!about.isFile()) continue;
        const { mtimeMs, size } = about;
        const turned = switches[`${folder}/${fileName}`];
        found.push({ folder, fileName, path, changedAt: Math.max(mtimeMs, turned?.atMs ?? 0), bytes: size, on: turned?.on ?? true });
      }
    }
    return found;
  }

  read(file: DeviceFile): Promise<Uint8Array> {
    return readFile(file.path);
  }

  async write(folder: "me" | "everyone", fileName: string, bytes: Uint8Array): Promise<void> {
    await this.replace(join(this.folder(folder), fileName), bytes);
    await this.forgetSwitch(folder, fileName);
  }

  async remove(folder: "me" | "everyone", fileName: string): Promise<void> {
    await rm(join(this.folder(folder), fileName));
    await this.forgetSwitch(folder, fileName);
  }

  /** Fonts that were ever switched, by "folder/file name": how they stand, and since when. */
  private async switches(): Promise<Record<string, { on: boolean; atMs: number }>> {
    try {
      return JSON.parse(await readFile(this.switchFile, "utf8")) as Record<string, { on: boolean; atMs: number }>;
    } catch {
      // Nothing was ever switched here.
      return {};
    }
  }
  private get switchFile(): string {
    return join(this.root, "switches.json");
  }
  /** Switches a font on or off; the file stays where it is. For programs it changed at that moment. */
  async setOn(folder: "me" | "everyone", fileName: string, on: boolean): Promise<void> {
    const before = await this.switches();
    const after = { ...before, [`${folder}/${fileName}`]: { on, atMs: Date.now() } };
    await this.replace(this.switchFile, new TextEncoder().encode(JSON.stringify(after)));
  }
  private async forgetSwitch(folder: string, fileName: string): Promise<void> {
    const { [`${folder}/${fileName}`]: switched, ...others } = await this.switches();
    if (switched) await this.replace(this.switchFile, new TextEncoder().encode(JSON.stringify(others)));
  }

  private async replace(target: string, bytes: Uint8Array): Promise<void> {
    const unfinished = `${target}.part`;
    const file = await open(unfinished, "w");
    try {
      await file.writeFile(bytes);
      await file.sync();
    } finally {
      await file.close();
    }
    await rename(unfinished, target);
  }
}
