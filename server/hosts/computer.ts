// This very computer as a host, for three common families of desktop systems: those with fontconfig, those that watch a user folder, and
// those where a font in the user folder is registered too. Commands go through a runner that is handed in.
import { copyFile, mkdir, readdir, readFile, rm, stat, statfs } from "node:fs/promises";
import { basename, dirname, join, relative, sep } from "node:path";
import type { Slot } from "../../contract/devices.ts";
import { fillWhole, isUnfinished, writeWhole } from "../../core/disk/whole.ts";
import { INSTALLABLE } from "../../core/placing/files.ts";
import { escaped } from "../../core/words/markup.ts";
import type { Host, HostFont } from "./host.ts";

/** Runs a program to its end. Rejects when it cannot be started or ends badly. */
export type Runner = (command: string, args: readonly string[]) => Promise<string>;
type Flavour = "fontconfig" | "user-folder" | "registered";

export interface ComputerPlace {
  flavour: Flavour;
  /** The user's font folder. */
  fonts: string;
  /** Where fontconfig reads a user's own rules (fontconfig's fonts.conf, "conf.d" under the XDG configuration home). */
  rules: string;
  /** Where fonts lie that were turned off by moving them. */
  holding: string;
  run: Runner;
}

const isFont = (name: string): boolean => /\.(ttf|otf|ttc|otc)$/i.test(name) && !name.startsWith(".");
const STALE_MS = 60_000;

/** Where this system keeps a user's fonts: XDG base directory specification for fontconfig; the other two from memory. */
export function computerPlace(
  platform: NodeJS.Platform,
  env: Readonly<Record<string, string | undefined>>,
  home: string,
  dataDir: string,
  run: Runner,
): ComputerPlace {
  const holding = join(dataDir, "switched-off");
  const rules = join(env["XDG_CONFIG_HOME"] || join(home, ".config"), "fontconfig", "conf.d");
  if (platform === "darwin") return { flavour: "user-folder", fonts: join(home, "Library", "Fonts"), rules, holding, run };
  if (platform === "win32") {
    const local = env["LOCALAPPDATA"] || join(home, "AppData", "Local");
    return { flavour: "registered", fonts: join(local, "Microsoft", "Windows", "Fonts"), rules, holding, run };
  }
  return { flavour: "fontconfig", fonts: join(env["XDG_DATA_HOME"] || join(home, ".local", "share"), "fonts"), rules, holding, run };
}

const COPIES_AT_ONCE = 16;
/** Does `work` for all of `list`, a few at a time; what fails is told by its code. */
async function forAll<T>(list: readonly T[], work: (one: T) => Promise<void>): Promise<(string | undefined)[]> {
  const codes: (string | undefined)[] = list.map(() => undefined);
  let next = 0;
  const worker = async (): Promise<void> => {
    for (let i = next++; i < list.length; i = next++) {
      try {
        await work(list[i]!);
      } catch (error) {
        codes[i] = (error as NodeJS.ErrnoException).code ?? "unknown";
      }
    }
  };
  await Promise.all(Array.from({ length: COPIES_AT_ONCE }, worker));
  return codes;
}

/** Files under a folder, as paths from it; what a killed process left half-written is removed on the way. */
async function fontsUnder(folder: string, within = ""): Promise<string[]> {
  const found: string[] = [];
  for (const entry of await readdir(join(folder, within), { withFileTypes: true }).catch(() => [])) {
    const path = join(within, entry.name);
    if (entry.isDirectory() && !entry.name.startsWith(".")) found.push(...(await fontsUnder(folder, path)));
    else if (isUnfinished(entry.name)) {
      const { mtimeMs } = await stat(join(folder, path)).catch(() => ({ mtimeMs: Infinity }));
      if (mtimeMs < Date.now() - STALE_MS) await rm(join(folder, path), { force: true });
    } else if (isFont(entry.name)) found.push(path);
  }
  return found.sort();
}

type Found = Omit<HostFont, "since" | "bytes" | "read"> & { path: string };

/** Files asked about together. */
const ASKED_TOGETHER = 100;

async function withFacts(found: readonly Found[]): Promise<HostFont[]> {
  const fonts: HostFont[] = [];
  for (let i = 0; i < found.length; i += ASKED_TOGETHER) {
    const asked = found.slice(i, i + ASKED_TOGETHER);
    const abouts = await Promise.all(asked.map(({ path }) => stat(path).catch(() => undefined)));
    for (const [at, { path, ...font }] of asked.entries()) {
      const about = abouts[at];
      // A file may go between being listed and being looked at.
      if (about) fonts.push({ ...font, since: about.mtime.toISOString(), bytes: about.size, path, read: () => readFile(path) });
    }
  }
  return fonts;
}

/** What all three families share: one folder of the user's own. */
function folderHost({ fonts, flavour }: ComputerPlace) {
  const placed = (fileName: string): string => {
    const path = join(fonts, fileName);
    if (relative(fonts, path).startsWith("..")) throw new Error("Outside the font folder.");
    return path;
  };
  return {
    placed,
    shared: {
      slots: ["me"],
      guarded: [],
      takes: INSTALLABLE,
      prefers: "otf",
      switches: true,
      byHand: false,
      freeBytes: async () => {
        // The folder itself may not exist yet.
        for (let at = fonts; at !== dirname(at); at = dirname(at)) {
          const about = await statfs(at).catch(() => undefined);
          if (about) return about.bavail * about.bsize;
        }
        return null;
      },
      unlock: () => Promise.resolve(),
      place: (_slot: Slot, fileName: string, bytes: Uint8Array) => writeWhole(placed(fileName), bytes),
      remove: (_slot: Slot, fileName: string) => rm(placed(fileName)),
      settle: () => Promise.resolve(),
      folderName: () => (flavour === "fontconfig" ? fonts : basename(fonts)),
    } satisfies Partial<Host>,
  };
}

/** Systems with fontconfig: files are put into the user folder, `fc-cache` takes notice, `fc-list` says what is there. */
function fontconfigHost(place: ComputerPlace): Host {
  const { fonts, rules, run } = place;
  const { placed, shared } = folderHost(place);
  const ruleFile = join(rules, "60-buvano-off.conf");
  const list = join(rules, ".buvano-off.json");

  const readOff = async (): Promise<string[]> => JSON.parse(await readFile(list, "utf8").catch(() => "[]")) as string[];
  /** Switched-off files are named in a rule of the user's own (fontconfig's fonts.conf, "selectfont", "rejectfont", "pattern"). */
  async function writeOff(paths: readonly string[]): Promise<void> {
    if (paths.length === 0) {
      for (const file of [ruleFile, list]) await rm(file, { force: true });
      return;
    }
    // By the file's own name and not by a glob: marks in names would be wildcards there.
    const files = paths.map((path) => `      <pattern><patelt name="file"><string>${escaped(path)}</string></patelt></pattern>`).join("\n");
    const xml = `<?xml version="1.0"?>
<!DOCTYPE fontconfig SYSTEM "urn:fontconfig:fonts.dtd">
<fontconfig>
  <description>Fonts switched off for this account</description>
  <selectfont>
    <rejectfont>
${files}
    </rejectfont>
  </selectfont>
</fontconfig>
`;
    await writeWhole(list, new TextEncoder().encode(JSON.stringify(paths)));
    await writeWhole(ruleFile, new TextEncoder().encode(xml));
  }
  const forget = async (paths: readonly string[]) => {
    const off = await readOff();
    if (paths.some((path) => off.includes(path))) await writeOff(off.filter((one) => !paths.includes(one)));
  };
  /** Switches are lines of one file: changed one after another. */
  let turn: Promise<unknown> = Promise.resolve();
  const inTurn = <T>(work: () => Promise<T>): Promise<T> => {
    const next = turn.then(work, work);
    turn = next.catch(() => {});
    return next;
  };

  const lying = async (): Promise<Found[]> => {
    const off = new Set(await readOff());
    return (await fontsUnder(fonts)).map((name): Found => {
      const path = join(fonts, name);
      const on = !off.has(path);
      return { folder: "me", fileName: name.split(sep).join("/"), on, visible: on, path };
    });
  };

  return {
    ...shared,
    glance: async () => withFacts(await lying()),
    observe: async () => {
      const seen = new Set((await run("fc-list", ["--format", "%{file}\n"])).split("\n").filter(isFont));
      const mine = (await lying()).map((font): Found => ({ ...font, visible: font.on && seen.has(font.path) }));
      const own = new Set(mine.map((font) => font.path));
      const others = [...seen]
        .filter((path) => !own.has(path) && !path.startsWith(fonts + sep))
        .map((path): Found => ({ folder: "built-in", fileName: path, on: true, visible: true, path }));
      return withFacts([...mine, ...others]);
    },
    place: async (slot, fileName, bytes) => {
      await shared.place(slot, fileName, bytes);
      await inTurn(() => forget([placed(fileName)]));
    },
    placeMany: async (_slot, files) => {
      await mkdir(fonts, { recursive: true });
      const codes = await forAll(files, ({ fileName, source }) => fillWhole(placed(fileName), (path) => copyFile(source, path)));
      await inTurn(() => forget(files.map(({ fileName }) => placed(fileName))));
      return codes;
    },
    remove: async (slot, fileName) => {
      await shared.remove(slot, fileName);
      await inTurn(() => forget([placed(fileName)]));
    },
    setOn: (_slot, fileName, on) =>
      inTurn(async () => {
        const path = placed(fileName);
        await stat(path);
        const off = (await readOff()).filter((one) => one !== path);
        await writeOff(on ? off : [...off, path]);
      }),
    settle: async () => {
      await run("fc-cache", [fonts]);
    },
  };
}

/** Systems that watch the user folder: a font that is turned off waits in a folder beside the library. */
function userFolderHost(place: ComputerPlace): Host {
  const { fonts, holding } = place;
  const { placed, shared } = folderHost(place);
  const held = (fileName: string) => join(holding, fileName);
  const found = (folder: string, on: boolean) => async () =>
    (await fontsUnder(folder)).map((name): Found => {
      return { folder: "me", fileName: name.split(sep).join("/"), on, visible: on, path: join(folder, name) };
    });
  return {
    ...shared,
    observe: async () => withFacts([...(await found(fonts, true)()), ...(await found(holding, false)())]),
    remove: async (slot, fileName) => {
      // It may be turned off, and then lies elsewhere.
      await shared.remove(slot, fileName).catch(async (error: NodeJS.ErrnoException) => {
        if (error.code !== "ENOENT") throw error;
        await rm(held(fileName));
      });
    },
    setOn: async (_slot, fileName, on) => {
      const [from, to] = on ? [held(fileName), placed(fileName)] : [placed(fileName), held(fileName)];
      await mkdir(dirname(to), { recursive: true });
      // The two may lie on different disks, so it is copied whole before it goes.
      await writeWhole(to, await readFile(from));
      await rm(from);
    },
  };
}

/** Where a user's fonts are registered; from memory. */
const REGISTRY = "HKCU\\Software\\Microsoft\\Windows NT\\CurrentVersion\\Fonts";

/** Systems where a font in the user folder is registered too; turned off, it stays there unregistered. */
function registeredHost(place: ComputerPlace): Host {
  const { fonts, run } = place;
  const { placed, shared } = folderHost(place);
  const valueName = (fileName: string) => `${basename(fileName).replace(/\.[^.]+$/, "")} (TrueType)`;
  const register = (fileName: string) =>
    run("reg", ["add", REGISTRY, "/v", valueName(fileName), "/t", "REG_SZ", "/d", placed(fileName), "/f"]);
  const unregister = (fileName: string) => run("reg", ["delete", REGISTRY, "/v", valueName(fileName), "/f"]);
  return {
    ...shared,
    observe: async () => {
      // An account that never installed a font has no such key.
      const registered = await run("reg", ["query", REGISTRY]).catch(() => "");
      const names = await fontsUnder(fonts);
      return withFacts(
        names.map((name): Found => {
          const on = registered.includes(`${valueName(name)} `);
          return { folder: "me", fileName: name.split(sep).join("/"), on, visible: on, path: join(fonts, name) };
        }),
      );
    },
    place: async (slot, fileName, bytes) => {
      await shared.place(slot, fileName, bytes);
      await register(fileName);
    },
    remove: async (slot, fileName) => {
      await unregister(fileName).catch(() => {});
      await shared.remove(slot, fileName);
    },
    setOn: async (_slot, fileName, on) => {
      await stat(placed(fileName));
      await (on ? register(fileName) : unregister(fileName));
    },
  };
}

export function computerHost(place: ComputerPlace): Host {
  if (place.flavour === "fontconfig") return fontconfigHost(place);
  return place.flavour === "user-folder" ? userFolderHost(place) : registeredHost(place);
}
