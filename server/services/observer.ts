// Looks at devices and remembers what is there; notices what happened behind Buvano's back.
import { createHash } from "node:crypto";
import { basename, extname } from "node:path";
import type { Problem } from "../../contract/problem.ts";
import { inspectFont } from "../../core/inspect.ts";
import { claimOf, isSlot, type Claim, type PlacedFile } from "../../core/placing/files.ts";
import { compareLooks } from "../../core/placing/rescan.ts";
import type { Context } from "../context.ts";
import { Fault, notFound } from "../fault.ts";
import type { HostFont } from "../hosts/host.ts";
import type { DeviceRow, ObservedRow } from "../store/devices.ts";
import type { Hosts } from "./hosts.ts";

/** Others get their turn after so many files were read. */
const READ_IN_A_ROW = 10;

export class Observer {
  private readonly context: Context;
  readonly hosts: Hosts;
  /** Plans and looks at one device happen one after another. */
  private readonly turns = new Map<number, Promise<unknown>>();
  private readonly problems = new Map<number, Problem>();
  private readonly claims = new Map<string, readonly Claim[]>();
  /** Called after each look; plans that wait for a person use it. */
  afterLook: (device: DeviceRow) => void = () => {};

  constructor(context: Context, hosts: Hosts) {
    this.context = context;
    this.hosts = hosts;
  }

  row(id: number): DeviceRow {
    const row = this.context.devices.device(id);
    if (!row) throw notFound("device");
    return row;
  }
  inTurn<T>(deviceId: number, work: () => Promise<T>): Promise<T> {
    const turn = (this.turns.get(deviceId) ?? Promise.resolve()).then(work, work);
    this.turns.set(
      deviceId,
      turn.catch(() => {}),
    );
    return turn;
  }
  /** Why a device could not be looked at the last time. */
  problem(deviceId: number): Problem | null {
    return this.problems.get(deviceId) ?? null;
  }

  /** Looks at a device. What cannot be reached keeps what was last seen, with its date, and its problem. */
  observe(id: number, expected = false): Promise<void> {
    return this.inTurn(id, () => this.look(this.row(id), expected));
  }
  /** Whether a glance shows a device as it was last seen; false when its kind cannot be glanced at. */
  async asLastSeen(device: DeviceRow): Promise<boolean> {
    const now = await this.hosts
      .of(device)
      .glance?.()
      .catch(() => undefined);
    if (!now || this.problems.has(device.id)) return false;
    const text = ({ folder, fileName, on, since, bytes }: Pick<ObservedRow, "folder" | "fileName" | "on" | "since" | "bytes">) =>
      [folder, fileName, on, since, bytes].join();
    const known = new Set(
      this.context.devices
        .observedOn(device.id)
        .filter((row) => isSlot(row.folder))
        .map(text),
    );
    return known.size === now.length && now.every((font) => known.has(text(font)));
  }
  /** As `observe`, for those who need to know: throws a `Fault` when the device cannot be looked at. */
  async lookOrFail(device: DeviceRow, expected = false): Promise<void> {
    await this.look(device, expected);
    const problem = this.problems.get(device.id);
    if (problem) throw new Fault(503, problem);
  }

  /**
   * `expected`: whatever is different is Buvano's own doing, or a person's through Buvano. `written`: sums of files just written, by
   * "folder/file name/bytes"; they need not be read back to be known. To be called in the device's turn.
   */
  async look(device: DeviceRow, expected: boolean, written: ReadonlyMap<string, string> = new Map()): Promise<void> {
    const { devices, library } = this.context;
    let fonts: HostFont[];
    try {
      fonts = await this.hosts.of(device).observe();
    } catch (error) {
      this.problems.set(device.id, lookProblem(error, device));
      return;
    }
    const recovered = this.problems.delete(device.id);
    const before = devices.observedOn(device.id);
    const known = new Map(before.map((row) => [`${row.folder}/${row.fileName}/${row.since}/${row.bytes}`, row.sha256]));
    const seen: Omit<ObservedRow, "deviceId">[] = [];
    let read = 0;
    for (const font of fonts) {
      const { folder, fileName, on, visible, since, bytes } = font;
      let sha256 = font.sha256 ?? known.get(`${folder}/${fileName}/${since}/${bytes}`) ?? written.get(`${folder}/${fileName}/${bytes}`);
      // Known by an older reader is not known.
      if (sha256 !== undefined && !library.knowsFile(sha256) && library.facesOf(sha256).length > 0) sha256 = font.sha256;
      if (sha256 === undefined) {
        sha256 = await this.readFont(font);
        if (++read % READ_IN_A_ROW === 0) await new Promise(setImmediate);
      }
      if (sha256 !== undefined) seen.push({ folder, fileName, sha256, on, visible, since, bytes });
    }
    const at = this.context.now();
    const first = device.observedAt === null;
    const changed = devices.setObserved(device.id, seen, at);
    if (changed && !expected && !first) {
      const placed = (rows: readonly Omit<ObservedRow, "deviceId">[]) => rows.filter((row) => isSlot(row.folder));
      const found = compareLooks(placed(before), placed(seen));
      devices.addSurprises(
        device.id,
        found.map(({ how, file: { folder, fileName, sha256 } }) => ({ how, folder, fileName, sha256 })),
        at,
      );
    }
    this.afterLook(device);
    if ((changed && !first) || recovered) this.context.events.changed("devices", "families", "sightings", "practice");
  }

  /** Reads a font for the first time; undefined when it went meanwhile. */
  private async readFont(font: HostFont): Promise<string | undefined> {
    const { library, db } = this.context;
    const bytes = await font.read().catch(() => undefined);
    if (!bytes) return undefined;
    const sha256 = createHash("sha256").update(bytes).digest("hex");
    if (!library.knowsFile(sha256)) {
      const result = inspectFont(bytes, basename(font.fileName, extname(font.fileName)));
      if (result.ok) db.transaction(() => library.addFaces(sha256, bytes.length, result.value))();
    }
    return sha256;
  }

  /** A font's bytes, from the library or from the device that holds it; undefined when neither can give them. */
  async bytesOf(deviceId: number, sha256: string): Promise<Uint8Array | undefined> {
    return (await this.bytesOfAll(deviceId, [sha256])).get(sha256);
  }
  /** As `bytesOf`, for several: the device is looked at once. What cannot be had is left out. */
  async bytesOfAll(deviceId: number, sums: readonly string[]): Promise<Map<string, Uint8Array>> {
    const { files, devices } = this.context;
    const found = new Map<string, Uint8Array>();
    const elsewhere = new Map<string, string>();
    const known = new Map(devices.observedOn(deviceId).map((row) => [row.sha256, `${row.folder}/${row.fileName}`]));
    for (const sum of sums) {
      if (await files.has(sum)) found.set(sum, await files.read(sum));
      else if (known.has(sum)) elsewhere.set(known.get(sum)!, sum);
    }
    if (elsewhere.size === 0) return found;
    const fonts = await this.hosts
      .of(this.row(deviceId))
      .observe()
      .catch(() => []);
    for (const font of fonts) {
      const sum = elsewhere.get(`${font.folder}/${font.fileName}`);
      const bytes = sum === undefined ? undefined : await font.read().catch(() => undefined);
      if (sum !== undefined && bytes) found.set(sum, bytes);
    }
    return found;
  }

  claimsOf(sha256: string): readonly Claim[] {
    let known = this.claims.get(sha256);
    if (!known) {
      known = this.context.library.facesOf(sha256).map(({ record }) => claimOf({ ...record, sha256 }));
      if (known.length > 0) this.claims.set(sha256, known);
    }
    return known;
  }
  /** What a device was last seen to hold, as plans see it. */
  filesOn(deviceId: number): PlacedFile[] {
    return this.context.devices.observedOn(deviceId).map(({ folder, fileName, sha256, on, bytes, since }) => ({
      folder,
      fileName,
      sha256,
      on,
      bytes,
      since,
      claims: this.claimsOf(sha256),
    }));
  }
}

function lookProblem(error: unknown, device: DeviceRow): Problem {
  const { code, message } = error as NodeJS.ErrnoException;
  const since = device.observedAt === null ? "Nothing is known of it yet." : "What is shown is from the last time it was looked at.";
  if (code === "EHOSTDOWN")
    return { code: "device-away", message: `${device.name} cannot be reached.`, next: `Switch it on or bring it near. ${since}` };
  if (code === "ENOENT" && device.sort === "computer") {
    const missing = "The font tools this computer's system usually has are missing.";
    return { code: "device-tools", message: missing, next: "Install fontconfig, then look again." };
  }
  process.stderr.write(`${device.name} could not be looked at: ${message}\n`);
  return { code: "device-unreadable", message: `${device.name} could not be looked at.`, next: `Try again. ${since}` };
}
