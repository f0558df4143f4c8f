// Devices: what each holds, with trouble first; duplicates, comparisons, looking again, and taking in what was found there.
import { randomUUID } from "node:crypto";
import { writeFile } from "node:fs/promises";
import { basename, join } from "node:path";
import type {
  Adopted,
  Comparison,
  DeviceDetail,
  DeviceFont,
  DeviceFonts,
  DeviceSummary,
  DuplicateGroup,
  PracticeState,
  PracticeStateChange,
  Rescan,
  ExternalChange,
} from "../../../contract/devices.ts";
import type { ProgramSummary } from "../../../contract/programs.ts";
import { findDuplicates, inTheWay, type FoundDuplicates as Group } from "../../../core/placing/duplicates.ts";
import { folderWords, isSlot, type PlacedFile } from "../../../core/placing/files.ts";
import type { PracticeDevice } from "../../../practice/device.ts";
import type { PracticeRoom } from "../../../practice/room.ts";
import { Fault, notFound } from "../../fault.ts";
import type { Parts } from "../../parts.ts";
import type { HostFont } from "../../hosts/host.ts";
import type { DeviceRow } from "../../store/devices/devices.ts";
import type { ProgramRow } from "../../store/devices/programs.ts";
import type { ObservedRow } from "../../store/devices/observed.ts";
import { TROUBLE } from "../../store/views/devices.ts";
import { type DeviceViewRow } from "../../store/views/devices.ts";
import type { Renewal } from "../../views/renewal.ts";
import type { WorkPool } from "../../work/pool.ts";
import { COMPUTER_SLUG } from "./hosts.ts";
import type { Observer } from "./observer.ts";
import type { ParcelService } from "../parcels/parcels.ts";

export const programSummary = (row: ProgramRow): ProgramSummary => {
  const { id, deviceId, name, kind, traits, own } = row;
  return { id, deviceId, name, kind, traits, practice: !own };
};

/** A practice device that is "full" holds this little. */
const FULL_BYTES = 1;
const ROOMY_BYTES = 512 * 1024 * 1024;
/** Fonts that come with a device's page; the rest is fetched as it comes into view. */
const MOST_WORDS = 5;
const FIRST_FONTS = 100;
const MANY_FONTS = 1000;
/** So long a page waits for what a look changed. */
const SETTLE_MS = 500;

type Uses = Pick<
  Parts,
  | "config"
  | "devices"
  | "plans"
  | "settings"
  | "familyViews"
  | "library"
  | "files"
  | "events"
  | "incoming"
  | "now"
  | "externalChanges"
  | "observed"
  | "programs"
  | "deviceViews"
>;

/** A device's fonts that one request brings. */
const MOST_FONTS = 500;
/** Things that happened behind Buvano's back, listed at most. */
const MOST_EXTERNAL_CHANGES = 500;

export class DeviceService {
  private readonly uses: Uses;
  private readonly room: PracticeRoom;
  private readonly observer: Observer;
  private readonly parcels: ParcelService;
  private readonly pool: WorkPool;
  private readonly renewal: Renewal;

  constructor(uses: Uses, room: PracticeRoom, observer: Observer, parcels: ParcelService, pool: WorkPool, renewal: Renewal) {
    this.uses = uses;
    this.room = room;
    this.observer = observer;
    this.parcels = parcels;
    this.pool = pool;
    this.renewal = renewal;
  }

  /** Takes devices that are not wanted any more out of the lists, and enters those that are. */
  prepare(): void {
    if (this.uses.settings.get().practice) this.enterPractice();
    else this.leavePractice();
    const known = this.uses.devices.devices().find((device) => device.slug === COMPUTER_SLUG);
    if (known && !this.uses.settings.get().thisComputer) this.uses.devices.setRemoved(known.id, this.uses.now());
  }
  /** Enters the practice room's devices and programs, where the room ships with this Buvano. */
  private enterPractice(): void {
    for (const device of this.uses.config.builtInFonts === undefined ? [] : this.room.world) {
      const id = this.uses.devices.ensureDevice(device.slug, device.name, device.kind, "practice");
      for (const program of device.programs) this.uses.programs.ensure(id, program.slug, program.name, program.kind, program.traits);
    }
  }
  private leavePractice(): void {
    const { devices } = this.uses;
    for (const device of devices.devices()) if (device.sort === "practice") devices.setRemoved(device.id, this.uses.now());
  }
  /** Brings the practice devices out, or puts them away; what lies on them stays for the next time. */
  async usePractice(wanted: boolean): Promise<void> {
    if (wanted) {
      this.enterPractice();
      await this.lookAround();
    } else this.leavePractice();
    this.uses.events.changed("devices", "families", "sightings");
  }

  /** Looks at what practice devices, and this computer if that is wanted, hold by now. */
  async lookAround(): Promise<void> {
    if (this.uses.settings.get().thisComputer) await this.useComputer(true);
    for (const device of this.uses.devices.devices()) if (device.sort === "practice") await this.observer.observe(device.id);
  }

  /** Takes this computer among the devices, or out of them; its fonts are not touched by that. */
  async useComputer(wanted: boolean): Promise<void> {
    const { devices, config } = this.uses;
    if (wanted) {
      const id = devices.ensureDevice(COMPUTER_SLUG, "This computer", config.platform === "darwin" ? "laptop" : "desktop", "computer");
      await this.observer.observe(id, true);
    } else {
      const known = devices.devices().find((device) => device.slug === COMPUTER_SLUG);
      if (known) devices.setRemoved(known.id, this.uses.now());
    }
    this.uses.events.changed("devices", "families", "sightings");
  }

  private toSummary(device: DeviceRow): DeviceSummary {
    const host = this.observer.hosts.of(device);
    const { id, name, kind, sort, observedAt } = device;
    const { placed, builtIn, ...trouble } = this.uses.deviceViews.deviceCounts(id);
    return {
      id,
      name,
      kind,
      sort,
      observedAt,
      slots: [...host.slots],
      switches: host.switches,
      byHand: host.byHand,
      placedFonts: placed,
      builtInFonts: builtIn,
      problem: this.observer.problem(id),
      trouble: { ...trouble, externalChanges: this.uses.externalChanges.count(id) },
      programs: this.programsOn(id).map(programSummary),
    };
  }
  private programsOn(deviceId: number): ProgramRow[] {
    return this.uses.programs.all().filter((program) => program.deviceId === deviceId);
  }
  private groups(device: DeviceRow, files: readonly PlacedFile[]): Group[] {
    const programs = this.programsOn(device.id).map(({ name, traits }) => ({ name, reads: traits.reads }));
    return findDuplicates(files, { programs, prefers: this.uses.settings.get().twinFormat });
  }

  list(): DeviceSummary[] {
    return this.uses.devices.devices().map((device) => this.toSummary(device));
  }

  /** Looks at the device of a program, before something is said of what is there. */
  async lookBefore(programId: number): Promise<void> {
    const program = this.uses.programs.get(programId);
    if (!program) return;
    await this.observer.observe(program.deviceId);
    await this.renewal.settle(SETTLE_MS);
  }

  /** A device as it is now, with the first of its fonts. */
  async detail(id: number): Promise<Omit<DeviceDetail, "history" | "waiting">> {
    const look = this.observer.observe(id).then(() => this.renewal.settle(SETTLE_MS));
    // A device with very many fonts is shown as it was last seen, and looked at meanwhile; what that finds is told.
    if (this.uses.observed.placedCount(id) < MANY_FONTS || this.observer.row(id).observedAt === null) await look;
    const device = this.observer.row(id);
    return {
      ...this.toSummary(device),
      ...this.fonts(id, "", 0, FIRST_FONTS),
      builtInFamilies: this.uses.deviceViews.builtInFamilies(id),
      externalChanges: this.externalChanges(id),
      practiceState: device.sort === "practice" ? await this.practiceState(device) : null,
    };
  }

  /** A part of the fonts placed on a device whose names hold all words of `q`, as they were last seen. */
  fonts(id: number, q: string, from: number, limit: number): DeviceFonts {
    const words = q.toLowerCase().split(/\s+/).filter(Boolean).slice(0, MOST_WORDS);
    const { total, rows } = this.uses.deviceViews.deviceFonts(id, words, from, Math.min(limit, MOST_FONTS));
    return { total, from, fonts: rows.map(fontView) };
  }

  private externalChanges(id: number): ExternalChange[] {
    const { library, externalChanges, observed } = this.uses;
    return externalChanges.unseenOn(id, MOST_EXTERNAL_CHANGES).map(({ sha256, ...row }) => {
      const [face] = library.facesBrief(sha256);
      const name = face?.brief.fullName ?? basename(row.fileName);
      const here = observed
        .copiesOf(sha256)
        .some((one) => one.deviceId === id && one.folder === row.folder && one.fileName === row.fileName);
      return { ...row, name, adoptable: here && face !== undefined && this.uses.library.styleOfFile(sha256) === undefined };
    });
  }

  /** Looks again, has the device look through its own font folders, and says what happened meanwhile. */
  async rescan(id: number): Promise<Rescan> {
    const placed = () => this.uses.observed.placedCount(id);
    const before = placed();
    const known = new Set(this.uses.externalChanges.unseenOn(id, MOST_EXTERNAL_CHANGES).map((one) => one.id));
    const device = this.observer.row(id);
    await this.observer.inTurn(id, async () => {
      await this.observer.hosts
        .of(device)
        .settle()
        .catch(() => {});
      await this.observer.lookOrFail(device);
    });
    const found = this.externalChanges(id).filter((one) => !known.has(one.id));
    this.uses.events.changed("devices");
    return { before, after: placed(), found };
  }
  seeExternalChanges(id: number): void {
    this.uses.externalChanges.see(this.observer.row(id).id, this.uses.now());
    this.uses.events.changed("devices");
  }

  /** Takes fonts found on a device into the library, as a parcel that is shelved at once. */
  async adopt(id: number, named: readonly { folder: string; fileName: string }[] | undefined): Promise<Adopted> {
    const device = this.observer.row(id);
    const wanted = named && new Set(named.map((file) => `${file.folder}/${file.fileName}`));
    const foreign = new Set(
      this.uses.observed
        .on(id)
        .filter((row) => isSlot(row.folder) && this.uses.library.styleOfFile(row.sha256) === undefined)
        .map((row) => `${row.folder}/${row.fileName}`),
    );
    const fonts = (await this.observer.hosts.of(device).observe()).filter((font) => {
      const key = `${font.folder}/${font.fileName}`;
      return foreign.has(key) && (!wanted || wanted.has(key));
    });
    if (fonts.length === 0) {
      throw new Fault(422, {
        code: "adopt-nothing",
        message: "There is nothing here that the library does not have.",
        next: "Look at the device again.",
      });
    }
    const files = [];
    for (const font of fonts) files.push(await this.toIncoming(font));
    const parcelId = this.parcels.receive(`Found on ${device.name}`, files);
    await this.parcels.whenSettled(parcelId);
    const { shelved } = this.parcels.shelve(parcelId, undefined);
    this.seeExternalChanges(id);
    return { parcelId, styles: shelved };
  }
  private async toIncoming(font: HostFont): Promise<{ name: string; stored_as: string; bytes: number }> {
    const bytes = await font.read();
    const stored_as = randomUUID();
    await writeFile(join(this.uses.incoming, stored_as), bytes, { flush: true });
    return { name: basename(font.fileName), stored_as, bytes: bytes.length };
  }

  async duplicates(id: number): Promise<DuplicateGroup[]> {
    await this.observer.observe(id);
    await this.renewal.settle();
    const device = this.observer.row(id);
    const claims = this.uses.deviceViews.duplicateClaims(id).map((claim) => claim.split("\n") as [string, string]);
    const rows = new Map(
      claims
        .flatMap(([family, style]) => this.uses.observed.claimantsOn(id, family, style))
        .map((row) => [`${row.folder}/${row.fileName}`, row]),
    );
    const groups = this.groups(
      device,
      [...rows.values()].map((row) => this.observer.fileOf(row)),
    );
    const fonts = await this.observer.hosts
      .of(device)
      .observe()
      .catch(() => []);
    const lying = new Map(fonts.map((font) => [`${font.folder}/${font.fileName}`, font]));
    const views: DuplicateGroup[] = [];
    for (const group of groups) views.push(await this.duplicateView(group, rows, lying));
    return views;
  }

  private async duplicateView(
    group: Group,
    rows: ReadonlyMap<string, ObservedRow>,
    fonts: ReadonlyMap<string, HostFont>,
  ): Promise<DuplicateGroup> {
    const { key, family, style, how, keep, reason } = group;
    const place = (file: PlacedFile) => `${file.folder}/${file.fileName}`;
    const lies = (file: PlacedFile) => {
      const face = Math.max(
        0,
        file.claims.findIndex((claim) => claim.key === key),
      );
      return { path: fonts.get(place(file))?.path ?? "", face };
    };
    const others = group.files.filter((file) => file !== keep && file.sha256 !== keep.sha256);
    const drawn = others.length > 0 ? await this.pool.font({ kind: "drawn", kept: lies(keep), others: others.map(lies) }) : [];
    return {
      key,
      family,
      style,
      how,
      reason,
      keep: group.files.indexOf(keep),
      inTheWay: inTheWay(group),
      files: group.files.map((file) => {
        const { folder, fileName, bytes, on, sha256 } = file;
        const claim = file.claims.find((one) => one.key === key)!;
        return {
          folder,
          fileName,
          bytes,
          on,
          sha256,
          version: claim.version,
          characters: claim.codepoints,
          outlines: claim.outlines,
          where: folderWords(folder),
          changedAt: rows.get(place(file))?.since ?? this.uses.now(),
          movable: isSlot(folder),
          drawn: file === keep ? "" : sha256 === keep.sha256 ? "The very same file." : drawn[others.indexOf(file)]!,
        };
      }),
    };
  }

  /** What two devices have, family by family. */
  async compare(id: number, otherId: number): Promise<Comparison> {
    const [device, other] = [this.observer.row(id), this.observer.row(otherId)];
    for (const one of [device, other]) await this.observer.observe(one.id);
    const [here, there] = [id, otherId].map((one) => this.uses.observed.claimsOn(one)) as [Map<string, string>, Map<string, string>];
    const rows = new Map<string, { family: string; here: number; there: number }>();
    const tally = (family: string, side: "here" | "there") => {
      const row = rows.get(family) ?? { family, here: 0, there: 0 };
      row[side]++;
      rows.set(family, row);
    };
    for (const family of here.values()) tally(family, "here");
    for (const family of there.values()) tally(family, "there");
    const both = [...here.keys()].filter((key) => there.has(key)).length;
    const order = new Intl.Collator("en");
    return {
      deviceName: device.name,
      otherName: other.name,
      rows: [...rows.values()].sort((a, b) => order.compare(a.family, b.family)),
      onlyThere: there.size - both,
      onlyHere: here.size - both,
      both,
    };
  }

  /** The simulated device behind a device. Throws a `Fault` when it is a real one. */
  practiceDevice(id: number): PracticeDevice {
    const device = this.observer.row(id);
    const practice = device.sort === "practice" ? this.room.device(device.slug) : undefined;
    if (!practice) throw notFound("practice device");
    return practice;
  }
  private async practiceState(device: DeviceRow): Promise<PracticeState> {
    const { away, readOnly, locksOpenFonts, capacityBytes } = await this.practiceDevice(device.id).state();
    return { passcode: this.room.plan(device.slug)?.passcode ?? "", away, readOnly, locksOpenFonts, full: capacityBytes <= FULL_BYTES };
  }
  /** Makes a practice device difficult, or easy again. */
  async setPracticeState(id: number, { full, ...change }: PracticeStateChange): Promise<Omit<DeviceDetail, "history" | "waiting">> {
    const room = full === undefined ? {} : { capacityBytes: full ? FULL_BYTES : ROOMY_BYTES };
    await this.practiceDevice(id).setState({ ...change, ...room });
    this.uses.events.changed("devices");
    return this.detail(id);
  }
}

/** What is the matter with a font, as sentences, the gravest first. */
function fontView({ trouble, newer, on, visible, first, face: _, ...row }: DeviceViewRow): DeviceFont {
  const remarks = [
    trouble & TROUBLE.duplicate && "There is another copy under the same name.",
    trouble & TROUBLE.unseen &&
      "It is there and on, and programs do not find it yet: the device has not looked through its font folders since.",
    trouble & TROUBLE.outdated && `The library has ${newer}.`,
    trouble & TROUBLE.lapsed && "Its licence has ended.",
  ].filter((words) => typeof words === "string");
  return { ...row, folder: row.folder as DeviceFont["folder"], on: on === 1, visible: visible === 1, first: first === 1, remarks };
}
