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
    const off = new Set(await this.switchedOff());
    for (const folder of folders) {
      for (const fileName of (await readdir(this.folder(folder))).sort()) {
        if (!/\.(ttf|otf|ttc|otc)$/i.test(fileName)) continue;
        const path = join(this.folder(folder), fileName);
        const about = await stat(path);
        if (!about.isFile()) continue;
        const { mtimeMs, size } = about;
        found.push({ folder, fileName, path, changedAt: mtimeMs, bytes: size, on: !off.has(`${folder}/${fileName}`) });
      }
    }
    return found;
  }

  read(file: DeviceFile): Promise<Uint8Array> {
    return readFile(file.path);
  }

  async write(folder: "me" | "everyone", fileName: string, bytes: Uint8Array): Promise<void> {
    await this.replace(join(this.folder(folder), fileName), bytes);
    await this.setOn(folder, fileName, true);
  }

  async remove(folder: "me" | "everyone", fileName: string): Promise<void> {
    await rm(join(this.folder(folder), fileName));
    await this.setOn(folder, fileName, true);
  }

  /** The device's own list of what is switched off, as "folder/file name". */
  private async switchedOff(): Promise<string[]> {
    try {
      return JSON.parse(await readFile(join(this.root, "switched-off.json"), "utf8")) as string[];
    } catch {
      // Nothing was ever switched off here.
      return [];
    }
  }
  /** Switches a font on or off; the file stays where it is. */
  async setOn(folder: "me" | "everyone", fileName: string, on: boolean): Promise<void> {
    const name = `${folder}/${fileName}`;
    const before = await this.switchedOff();
    if (on === !before.includes(name)) return;
    const after = on ? before.filter((one) => one !== name) : [...before, name];
    await this.replace(join(this.root, "switched-off.json"), new TextEncoder().encode(JSON.stringify(after)));
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
