// Looks at devices and remembers what is there; notices what happened behind Buvano's back.
import { readFile } from "node:fs/promises";
import { basename, extname } from "node:path";
import type { Problem } from "../../../contract/problem.ts";
import { isSlot, type PlacedFile } from "../../../core/placing/files.ts";
import { compareLooks } from "../../../core/placing/rescan.ts";
import { inTurns, othersFirst } from "../../../core/turns.ts";
import { Fault, notFound } from "../../fault.ts";
import type { HostFont } from "../../hosts/host.ts";
import type { Parts } from "../../parts.ts";
import type { DeviceRow } from "../../store/devices/devices.ts";
import type { SeenFont } from "../../store/devices/observed.ts";
import type { ObservedRow } from "../../store/devices/observed.ts";
import type { FontSource } from "../../work/font.worker.ts";
import type { WorkPool } from "../../work/pool.ts";
import { TaskLost } from "../../work/threads.ts";
import type { FactWriter } from "../facts/writer.ts";
import type { Hosts } from "./hosts.ts";

type Uses = Pick<Parts, "db" | "devices" | "library" | "files" | "events" | "now" | "externalChanges" | "observed">;

/** Unknown fonts read together. */
const READ_TOGETHER = 16;
/** Rows entered between two pauses. */
const ROWS_TOGETHER = 300;
/** Rows fetched between two pauses. */
const HELD_TOGETHER = 800;

export class Observer {
  private readonly uses: Uses;
  readonly hosts: Hosts;
  private readonly pool: WorkPool;
  private readonly writer: FactWriter;
  /** Called after each look; plans that wait for a person use it. */
  private readonly afterLook: (device: DeviceRow) => void;
  /** Plans and looks at one device happen one after another. */
  private readonly turns = new Map<number, Promise<unknown>>();
  private readonly problems = new Map<number, Problem>();

  private lastHeld: { deviceId: number; stamp: number; rows: readonly ObservedRow[] } | undefined;
  constructor(uses: Uses, hosts: Hosts, pool: WorkPool, writer: FactWriter, afterLook: (device: DeviceRow) => void) {
    this.uses = uses;
    this.hosts = hosts;
    this.pool = pool;
    this.writer = writer;
    this.afterLook = afterLook;
  }

  row(id: number): DeviceRow {
    const row = this.uses.devices.device(id);
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
  /**
   * All a device was last seen to hold, fetched so that others get their turn in between. A plan asks several times in a row: the rows of the device that
   * was asked for last are kept until they change.
   */
  async held(deviceId: number): Promise<readonly ObservedRow[]> {
    const stamp = this.uses.observed.stampOf(deviceId);
    if (this.lastHeld?.deviceId === deviceId && this.lastHeld.stamp === stamp) return this.lastHeld.rows;
    const rows: ObservedRow[] = [];
    for (;;) {
      const next = this.uses.observed.after(deviceId, rows.at(-1), HELD_TOGETHER);
      for (const row of next) rows.push(row);
      if (next.length < HELD_TOGETHER) break;
      await othersFirst();
    }
    if (this.uses.observed.stampOf(deviceId) === stamp) this.lastHeld = { deviceId, stamp, rows };
    return rows;
  }
  /** Whether a glance shows a device as it was last seen; false when its kind cannot be glanced at. */
  async asLastSeen(device: DeviceRow): Promise<boolean> {
    const now = await this.hosts
      .of(device)
      .glance?.()
      .catch(() => undefined);
    if (!now || this.problems.has(device.id)) return false;
    const text = ({ folder, fileName, on, bytes }: Pick<ObservedRow, "folder" | "fileName" | "on" | "bytes">, stamp: string) =>
      [folder, fileName, on, stamp, bytes].join();
    const known = new Set((await this.held(device.id)).filter((row) => isSlot(row.folder)).map((row) => text(row, row.stamp)));
    return known.size === now.length && now.every((font) => known.has(text(font, font.since)));
  }
  /** As `observe`, for those who need to know: throws a `Fault` when the device cannot be looked at. */
  async lookOrFail(device: DeviceRow, expected = false): Promise<void> {
    await this.look(device, expected);
    const problem = this.problems.get(device.id);
    if (problem) throw new Fault(503, problem);
  }

  /**
   * `expected`: whatever is different is Buvano's own doing, or a person's through Buvano. `written`: hashes of files just written, by
   * "folder/file name/bytes"; they need not be read back to be known. To be called in the device's turn.
   */
  async look(device: DeviceRow, expected: boolean, written: ReadonlyMap<string, string> = new Map()): Promise<void> {
    const { externalChanges } = this.uses;
    let fonts: HostFont[];
    try {
      fonts = await this.hosts.of(device).observe();
    } catch (error) {
      this.problems.set(device.id, lookProblem(error, device));
      return;
    }
    const recovered = this.problems.delete(device.id);
    const before = new Map<string, ObservedRow>();
    await inTurns(await this.held(device.id), (row) => before.set(`${row.folder}/${row.fileName}`, row));
    const outdated = new Set(this.uses.library.outdatedElsewhere());
    const hashes = new Map<HostFont, string>();
    const strangers: HostFont[] = [];
    await inTurns(fonts, (font) => {
      const { folder, fileName, since, bytes } = font;
      const known = before.get(`${folder}/${fileName}`);
      const same = known && known.stamp === since && known.bytes === bytes ? known.sha256 : undefined;
      const sha256 = font.sha256 ?? same ?? written.get(`${folder}/${fileName}/${bytes}`);
      // Known by an older reader is not known.
      if (sha256 !== undefined && !outdated.has(sha256)) hashes.set(font, sha256);
      else strangers.push(font);
    });
    await this.meet(strangers, hashes);
    // Rows that are new or other than before, and those that are gone.
    const put: SeenFont[] = [];
    const were: SeenFont[] = [];
    await inTurns(fonts, (font) => {
      const { folder, fileName, on, visible, since: stamp, bytes } = font;
      const sha256 = hashes.get(font);
      if (sha256 === undefined) return;
      const place = `${folder}/${fileName}`;
      const known = before.get(place);
      before.delete(place);
      // The same bytes, on as before, have been there since, or for longer than was known: a file's time is another, later, in every copy.
      const unchanged = known?.sha256 === sha256 && known.on === on;
      if (unchanged && known.visible === visible && known.stamp === stamp && known.bytes === bytes) return;
      if (known) were.push(known);
      const placedAgain = written.has(`${folder}/${fileName}/${bytes}`);
      const since = unchanged && !placedAgain && known.since < stamp ? known.since : stamp;
      put.push({ folder, fileName, sha256, on, visible, since, stamp, bytes });
    });
    const gone = [...before.values()];
    const at = this.uses.now();
    const first = device.observedAt === null;
    await this.enter(device.id, gone, put, at);
    const changed = gone.length + put.length > 0;
    if (changed && !expected && !first) {
      const placed = (rows: readonly SeenFont[]) => rows.filter((row) => isSlot(row.folder));
      const found = compareLooks(placed([...were, ...gone]), placed(put));
      externalChanges.add(
        device.id,
        found.map(({ how, was = "", file: { folder, fileName, sha256 } }) => ({ how, folder, fileName, sha256, was })),
        at,
      );
    }
    this.afterLook(device);
    if ((changed && !first) || recovered) this.uses.events.changed("devices", "families", "sightings", "practice");
  }

  /** Enters what is different, a few hundred rows at a time. */
  private async enter(deviceId: number, gone: readonly SeenFont[], put: readonly SeenFont[], at: string): Promise<void> {
    const { devices } = this.uses;
    for (let i = 0; i < Math.max(gone.length, put.length); i += ROWS_TOGETHER) {
      if (i > 0) await othersFirst();
      this.uses.observed.enter(deviceId, gone.slice(i, i + ROWS_TOGETHER), put.slice(i, i + ROWS_TOGETHER));
    }
    devices.setLookedAt(deviceId, at);
  }

  /** Reads fonts nobody read before, in threads; what went meanwhile is left out. */
  private async meet(fonts: readonly HostFont[], hashes: Map<HostFont, string>): Promise<void> {
    const read = async (some: readonly HostFont[]): Promise<void> => {
      const sources: { font: HostFont; source: FontSource; name: string }[] = [];
      for (const font of some) {
        const name = basename(font.fileName, extname(font.fileName));
        if (font.path !== undefined) sources.push({ font, source: { path: font.path }, name });
        else {
          const bytes = await font.read().catch(() => undefined);
          if (bytes) sources.push({ font, source: { bytes: Uint8Array.from(bytes) }, name });
        }
      }
      const found = await this.pool
        .font({ kind: "inspect", fonts: sources.map(({ source, name }) => ({ source, name })) })
        .catch((error: unknown) => {
          if (error instanceof TaskLost && error.why === "closed") throw error;
          return undefined;
        });
      // One that brings a thread down is found by reading each by itself; it is left out.
      if (!found) return some.length > 1 ? void (await Promise.all(some.map((font) => read([font])))) : undefined;
      const bringing = this.writer.begin();
      for (const [i, one] of found.entries()) {
        if (!one) continue;
        hashes.set(sources[i]!.font, one.sha256);
        bringing.put(one.faces);
      }
      await bringing.stored();
    };
    for (let i = 0; i < fonts.length; i += 2 * READ_TOGETHER)
      await Promise.all(
        [fonts.slice(i, i + READ_TOGETHER), fonts.slice(i + READ_TOGETHER, i + 2 * READ_TOGETHER)].map((some) =>
          some.length > 0 ? read(some) : undefined,
        ),
      );
  }

  /** A font's bytes, from the library or from the device that holds it; undefined when neither can give them. */
  async bytesOf(deviceId: number, sha256: string): Promise<Uint8Array | undefined> {
    const { files } = this.uses;
    if (await files.has(sha256)) return files.read(sha256);
    const source = (await this.sourcesOf(deviceId, [sha256])).get(sha256);
    if (!source) return undefined;
    return "bytes" in source ? source.bytes : readFile(source.path).catch(() => undefined);
  }
  /** Where a device holds files, by their hashes, or their bytes; what cannot be had is left out. The device is looked at once. */
  async sourcesOf(deviceId: number, hashes: readonly string[]): Promise<Map<string, FontSource>> {
    const found = new Map<string, FontSource>();
    if (hashes.length === 0) return found;
    const wanted = new Map(this.uses.observed.among(deviceId, hashes).map((row) => [`${row.folder}/${row.fileName}`, row.sha256]));
    const fonts = await this.hosts
      .of(this.row(deviceId))
      .observe()
      .catch(() => []);
    for (const font of fonts) {
      const hash = wanted.get(`${font.folder}/${font.fileName}`);
      if (hash === undefined || found.has(hash)) continue;
      if (font.path !== undefined) found.set(hash, { path: font.path });
      else {
        const bytes = await font.read().catch(() => undefined);
        if (bytes) found.set(hash, { bytes: Uint8Array.from(bytes) });
      }
    }
    return found;
  }

  /** A file a device was seen to hold, as plans see it. */
  fileOf({ folder, fileName, sha256, on, bytes, since }: ObservedRow): PlacedFile {
    return { folder, fileName, sha256, on, bytes, since, claims: this.uses.library.claimsOf(sha256) };
  }
  /** All a device was last seen to hold. */
  filesOn(deviceId: number): PlacedFile[] {
    return this.uses.observed.on(deviceId).map((row) => this.fileOf(row));
  }
  /**
   * What a device was last seen to hold, with what plans compare of those files only that have to do with some styles: the same files, and
   * those that claim the same names. Of the others it is enough where they lie.
   */
  async filesFor(deviceId: number, wanted: readonly { sha256: string; claim: { key: string } }[]): Promise<PlacedFile[]> {
    const hashes = new Set(wanted.map((style) => style.sha256));
    const concerned = new Set(hashes);
    for (const key of new Set(wanted.map((style) => style.claim.key))) {
      const [family, style] = key.split("\n") as [string, string];
      for (const row of this.uses.observed.claimantsOn(deviceId, family, style)) concerned.add(row.sha256);
    }
    return (await this.held(deviceId)).map((row) => (concerned.has(row.sha256) ? this.fileOf(row) : { ...row, claims: [] }));
  }
}

function lookProblem(error: unknown, device: DeviceRow): Problem {
  const { code, message } = error as NodeJS.ErrnoException;
  const since = device.observedAt === null ? "Nothing is known of it yet." : "What is shown is from the last time it was looked at.";
  if (code === "EHOSTDOWN")
    return { code: "device-away", message: `${device.name} cannot be reached.`, next: `Turn it on or bring it near. ${since}` };
  if (code === "ENOENT" && device.sort === "computer") {
    const missing = "The font tools this computer's system usually has are missing.";
    return { code: "device-tools", message: missing, next: "Install fontconfig, then look again." };
  }
  process.stderr.write(`${device.name} could not be looked at: ${message}\n`);
  return { code: "device-unreadable", message: `${device.name} could not be looked at.`, next: `Try again. ${since}` };
}
