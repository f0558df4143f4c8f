// A tablet's configuration profiles: each waits until it is allowed, is installed with the passcode, listed, and removed. What a profile
// holds is read from its own bytes, and fonts are served straight from it.
import { createHash } from "node:crypto";
import { mkdir, readdir, readFile, rename, rm, stat, utimes } from "node:fs/promises";
import { join } from "node:path";
import { parse } from "plist";
import { writeWhole } from "../core/disk/whole.ts";

export interface Profile {
  /** By which a profile replaces an earlier one. */
  identifier: string;
  name: string;
  description: string;
  organisation: string;
  fonts: { name: string; fileName: string; bytes: Uint8Array }[];
}
export interface ListedProfile extends Profile {
  /** Names its file. */
  id: string;
  /** Allowed to be looked at and installed. */
  allowed: boolean;
  changedAt: number;
}

type Dictionary = Record<string, unknown>;
const text = (value: unknown): string => (typeof value === "string" ? value : "");

/** Reads a profile; undefined when it is none, or not a whole one. Keys as the published key reference names them; from memory. */
export function readProfile(bytes: Uint8Array): Profile | undefined {
  try {
    const xml = new TextDecoder("utf-8", { fatal: true }).decode(bytes);
    if (!xml.includes("<plist")) return undefined;
    const root = parse(xml) as unknown as Dictionary;
    if (root["PayloadType"] !== "Configuration" || !text(root["PayloadIdentifier"]) || !Array.isArray(root["PayloadContent"]))
      return undefined;
    const fonts = (root["PayloadContent"] as Dictionary[])
      .filter((payload) => payload["PayloadType"] === "com.apple.font")
      .map((payload) => {
        const font = payload["Font"] as Uint8Array;
        return { name: text(payload["PayloadDisplayName"]), fileName: text(payload["Name"]), bytes: new Uint8Array(font) };
      });
    return {
      identifier: text(root["PayloadIdentifier"]),
      name: text(root["PayloadDisplayName"]),
      description: text(root["PayloadDescription"]),
      organisation: text(root["PayloadOrganization"]),
      fonts,
    };
  } catch {
    return undefined;
  }
}

const ENDING = ".profile";
const idOf = (identifier: string): string => createHash("sha256").update(identifier).digest("hex").slice(0, 16);

export class ProfileShelf {
  private readonly root: string;
  private readonly now: () => number;
  /** Profiles read before, by path and time. */
  private readonly known = new Map<string, Profile>();
  constructor(root: string, now: () => number) {
    this.root = root;
    this.now = now;
  }

  async prepare(): Promise<void> {
    for (const folder of ["waiting", "allowed", "installed"]) await mkdir(join(this.root, folder), { recursive: true });
  }
  private path(folder: string, id: string): string {
    if (!/^[0-9a-f]{16}$/.test(id)) throw new Error("Not a profile's id.");
    return join(this.root, folder, id + ENDING);
  }

  private async listIn(folder: string): Promise<ListedProfile[]> {
    const found: ListedProfile[] = [];
    for (const name of (await readdir(join(this.root, folder)).catch(() => [])).sort()) {
      if (!name.endsWith(ENDING)) continue;
      const path = join(this.root, folder, name);
      const { mtimeMs } = await stat(path);
      const key = `${path} ${mtimeMs}`;
      const profile = this.known.get(key) ?? readProfile(await readFile(path));
      if (!profile) continue;
      this.known.set(key, profile);
      found.push({ ...profile, id: name.slice(0, -ENDING.length), allowed: folder !== "waiting", changedAt: mtimeMs });
    }
    return found;
  }

  /** A profile arrives: it waits to be allowed. Returns false when it is no profile. */
  async offer(bytes: Uint8Array): Promise<boolean> {
    const profile = readProfile(bytes);
    if (!profile) return false;
    const id = idOf(profile.identifier);
    await rm(this.path("allowed", id), { force: true });
    await writeWhole(this.path("waiting", id), bytes);
    return true;
  }
  /** Profiles that wait, be it to be allowed or to be installed. */
  async waiting(): Promise<ListedProfile[]> {
    return [...(await this.listIn("waiting")), ...(await this.listIn("allowed"))];
  }
  installed(): Promise<ListedProfile[]> {
    return this.listIn("installed");
  }
  async allow(id: string): Promise<void> {
    await rename(this.path("waiting", id), this.path("allowed", id));
  }
  async refuse(id: string): Promise<void> {
    for (const folder of ["waiting", "allowed"]) await rm(this.path(folder, id), { force: true });
  }
  /** Installs an allowed profile; one with the same identifier is replaced. Its fonts count as changed now. */
  async install(id: string): Promise<void> {
    const from = this.path("allowed", id);
    const seconds = this.now() / 1000;
    await utimes(from, seconds, seconds);
    await rename(from, this.path("installed", id));
  }
  async remove(id: string): Promise<void> {
    await rm(this.path("installed", id));
  }

  /** The fonts of installed profiles. */
  async fonts(): Promise<{ fileName: string; changedAt: number; bytes: number; read(): Promise<Uint8Array> }[]> {
    return (await this.installed()).flatMap((profile) =>
      profile.fonts.map((font) => ({
        fileName: `${profile.id}/${font.fileName}`,
        changedAt: profile.changedAt,
        bytes: font.bytes.length,
        read: async () => font.bytes,
      })),
    );
  }
}
