// Devices: what each holds, with trouble first; duplicates, comparisons, looking again, and taking in what was found there.
import { randomUUID } from "node:crypto";
import { writeFile } from "node:fs/promises";
import { basename, join } from "node:path";
import type {
  Adopted,
  Comparison,
  DeviceDetail,
  DeviceFont,
  DeviceSummary,
  DuplicateGroup,
  PracticeState,
  PracticeStateChange,
  Rescan,
  Surprise,
} from "../../contract/device.ts";
import type { ProgramSummary } from "../../contract/program.ts";
import { drawnDifference, drawnWords } from "../../core/family/drawn.ts";
import { findDuplicates, inTheWay, type DuplicateGroup as Group } from "../../core/placing/duplicates.ts";
import { folderWords, isSlot, type PlacedFile } from "../../core/placing/files.ts";
import { openContainer } from "../../core/sfnt/container.ts";
import { Face } from "../../core/sfnt/face.ts";
import type { PracticeDevice } from "../../practice/device.ts";
import type { PracticeRoom } from "../../practice/room.ts";
import type { Context } from "../context.ts";
import { Fault, notFound } from "../fault.ts";
import type { HostFont } from "../hosts/host.ts";
import type { DeviceRow, ObservedRow, ProgramRow } from "../store/devices.ts";
import { COMPUTER_SLUG } from "./hosts.ts";
import type { Observer } from "./observer.ts";
import type { ParcelService } from "./parcels.ts";

export const programSummary = (row: ProgramRow): ProgramSummary => {
  const { id, deviceId, name, kind, traits, own } = row;
  return { id, deviceId, name, kind, traits, practice: !own };
};

/** A practice device that is "full" holds this little. */
const FULL_BYTES = 1;
const ROOMY_BYTES = 512 * 1024 * 1024;

export class DeviceService {
  private readonly context: Context;
  private readonly room: PracticeRoom;
  private readonly observer: Observer;
  private readonly parcels: ParcelService;
  private readonly lapsed: (familyId: number) => boolean;
  /** The newest version of each style on the shelf that was asked about, until the shelf changes. */
  private newest: { version: number; of: Map<string, { revision: number; words: string }> } = { version: -1, of: new Map() };

  constructor(context: Context, room: PracticeRoom, observer: Observer, parcels: ParcelService, lapsed: (familyId: number) => boolean) {
    this.context = context;
    this.room = room;
    this.observer = observer;
    this.parcels = parcels;
    this.lapsed = lapsed;
  }

  /** Enters the practice room's devices, and this computer if that is wanted, and looks at what they hold. */
  async prepare(practice: boolean): Promise<void> {
    for (const device of practice ? this.room.world : []) {
      const id = this.context.devices.ensureDevice(device.slug, device.name, device.kind, "practice");
      for (const program of device.programs)
        this.context.devices.ensureProgram(id, program.slug, program.name, program.kind, program.traits);
      // What a plan did before it was interrupted is no surprise.
      await this.observer.observe(id, this.context.plans.inState("doing", id).length > 0);
    }
    const known = this.context.devices.devices().find((device) => device.slug === COMPUTER_SLUG);
    if (this.context.settings.get().thisComputer) await this.useComputer(true);
    else if (known) this.context.devices.setRemoved(known.id, this.context.now());
  }

  /** Takes this computer among the devices, or out of them; its fonts are not touched by that. */
  async useComputer(wanted: boolean): Promise<void> {
    const { devices, config } = this.context;
    if (wanted) {
      const id = devices.ensureDevice(COMPUTER_SLUG, "This computer", config.platform === "darwin" ? "laptop" : "desktop", "computer");
      await this.observer.observe(id, true);
    } else {
      const known = devices.devices().find((device) => device.slug === COMPUTER_SLUG);
      if (known) devices.setRemoved(known.id, this.context.now());
    }
    this.context.events.changed("devices", "families", "sightings");
  }

  private toSummary(
    device: DeviceRow,
    files: readonly PlacedFile[],
    rows: readonly ObservedRow[],
    groups: readonly Group[],
  ): DeviceSummary {
    const host = this.observer.hosts.of(device);
    const placed = rows.filter((row) => isSlot(row.folder));
    const { id, name, kind, sort, observedAt } = device;
    return {
      ...{ id, name, kind, sort, observedAt },
      slots: [...host.slots],
      switches: host.switches,
      byHand: host.byHand,
      placedFonts: placed.length,
      builtInFonts: rows.filter((row) => row.folder === "built-in").length,
      problem: this.observer.problem(id),
      trouble: {
        duplicates: groups.filter(inTheWay).length,
        off: placed.filter((row) => !row.on).length,
        unseen: placed.filter((row) => row.on && !row.visible).length,
        outdated: files.filter((file) => isSlot(file.folder) && this.newerShelved(file) !== undefined).length,
        lapsed: placed.filter((row) => row.on && this.lapsedFile(row.sha256)).length,
        surprises: this.context.devices.surprises(id).length,
      },
      programs: this.programsOn(id).map(programSummary),
    };
  }
  private programsOn(deviceId: number): ProgramRow[] {
    return this.context.devices.programs().filter((program) => program.deviceId === deviceId);
  }
  private groups(device: DeviceRow, files: readonly PlacedFile[]): Group[] {
    const programs = this.programsOn(device.id).map(({ name, traits }) => ({ name, reads: traits.reads }));
    return findDuplicates(files, { programs, prefers: this.context.settings.get().twinFormat });
  }

  /** Version of a newer file of the same style on the shelf. */
  private newerShelved(file: PlacedFile): string | undefined {
    const { library } = this.context;
    if (this.newest.version !== library.version) this.newest = { version: library.version, of: new Map() };
    for (const claim of file.claims) {
      let newest = this.newest.of.get(claim.key);
      if (!newest) {
        const records = library.stylesNamed(claim.family, claim.style).map(({ record }) => record);
        const best = records.sort((a, b) => b.revision - a.revision)[0];
        this.newest.of.set(claim.key, (newest = { revision: best?.revision ?? -Infinity, words: best?.version || "a newer version" }));
      }
      if (newest.revision > claim.revision) return newest.words;
    }
    return undefined;
  }
  private lapsedFile(sha256: string): boolean {
    const style = this.context.library.styleOfFile(sha256);
    return style !== undefined && this.lapsed(style.familyId);
  }

  list(): DeviceSummary[] {
    return this.context.devices.devices().map((device) => {
      const files = this.observer.filesOn(device.id);
      return this.toSummary(device, files, this.context.devices.observedOn(device.id), this.groups(device, files));
    });
  }

  async detail(id: number): Promise<DeviceDetail> {
    await this.observer.observe(id);
    const device = this.observer.row(id);
    const files = this.observer.filesOn(id);
    const rows = this.context.devices.observedOn(id);
    const groups = this.groups(device, files);
    const fonts = rows.flatMap((row) => this.fonts(row, files, groups));
    const order = new Intl.Collator("en");
    const last = (font: DeviceFont) => Number(font.folder === "built-in") * 2 + Number(font.remarks.length === 0);
    fonts.sort((a, b) => last(a) - last(b) || order.compare(a.family, b.family));
    return {
      ...this.toSummary(device, files, rows, groups),
      fonts,
      surprises: this.surprises(id),
      practiceState: device.sort === "practice" ? await this.practiceState(device) : null,
    };
  }

  private fonts(row: ObservedRow, files: readonly PlacedFile[], groups: readonly Group[]): DeviceFont[] {
    const { fileName, on, visible, folder } = row;
    const remarks: string[] = [];
    if (isSlot(folder)) {
      const file = files.find((one) => one.folder === folder && one.fileName === fileName)!;
      const group = groups.find(
        (one) => inTheWay(one) && one.files.some((member) => member.folder === folder && member.fileName === fileName),
      );
      const newer = this.newerShelved(file);
      if (group) remarks.push("There is another copy under the same name.");
      if (on && !visible)
        remarks.push("It is there and on, and programs do not find it yet: the device has not looked through its font folders since.");
      if (!on) remarks.push("It is switched off.");
      if (newer) remarks.push(`The library has ${newer}.`);
      if (on && this.lapsedFile(row.sha256)) remarks.push("Its licence has ended.");
    }
    const style = this.context.library.styleOfFile(row.sha256);
    const faces = this.context.library.facesOf(row.sha256);
    const names = faces.length > 0 ? faces.map(({ record }) => record) : [{ family: basename(fileName), style: "cannot be read" }];
    return names.map((name) => ({
      ...{ fileName, folder, on, visible, remarks, family: name.family, style: name.style },
      familyId: style?.familyId ?? null,
      styleId: style?.id ?? null,
    }));
  }

  private surprises(id: number): Surprise[] {
    const there = new Set(this.context.devices.observedOn(id).map((row) => `${row.folder}/${row.fileName}/${row.sha256}`));
    return this.context.devices.surprises(id).map(({ sha256, ...row }) => {
      const [face] = this.context.library.facesOf(sha256);
      const name = face?.record.fullName ?? basename(row.fileName);
      const here = there.has(`${row.folder}/${row.fileName}/${sha256}`);
      return { ...row, name, adoptable: here && face !== undefined && this.context.library.styleOfFile(sha256) === undefined };
    });
  }

  /** Looks again, has the device look through its own font folders, and says what happened meanwhile. */
  async rescan(id: number): Promise<Rescan> {
    const placed = () => this.context.devices.observedOn(id).filter((row) => isSlot(row.folder)).length;
    const before = placed();
    const known = new Set(this.context.devices.surprises(id).map((one) => one.id));
    const device = this.observer.row(id);
    await this.observer.inTurn(id, async () => {
      await this.observer.hosts
        .of(device)
        .settle()
        .catch(() => {});
      await this.observer.lookOrFail(device);
    });
    const found = this.surprises(id).filter((one) => !known.has(one.id));
    this.context.events.changed("devices");
    return { before, after: placed(), found };
  }
  seeSurprises(id: number): void {
    this.context.devices.seeSurprises(this.observer.row(id).id, this.context.now());
    this.context.events.changed("devices");
  }

  /** Takes fonts found on a device into the library, as a parcel that is shelved at once. */
  async adopt(id: number, named: readonly { folder: string; fileName: string }[] | undefined): Promise<Adopted> {
    const device = this.observer.row(id);
    const wanted = named && new Set(named.map((file) => `${file.folder}/${file.fileName}`));
    const foreign = new Set(
      this.context.devices
        .observedOn(id)
        .filter((row) => isSlot(row.folder) && this.context.library.styleOfFile(row.sha256) === undefined)
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
    this.seeSurprises(id);
    return { parcelId, styles: shelved };
  }
  private async toIncoming(font: HostFont): Promise<{ name: string; stored_as: string; bytes: number }> {
    const bytes = await font.read();
    const stored_as = randomUUID();
    await writeFile(join(this.context.incoming, stored_as), bytes, { flush: true });
    return { name: basename(font.fileName), stored_as, bytes: bytes.length };
  }

  async duplicates(id: number): Promise<DuplicateGroup[]> {
    await this.observer.observe(id);
    const device = this.observer.row(id);
    const rows = new Map(this.context.devices.observedOn(id).map((row) => [`${row.folder}/${row.fileName}`, row]));
    const groups = this.groups(device, this.observer.filesOn(id));
    const fonts = await this.observer.hosts
      .of(device)
      .observe()
      .catch(() => []);
    const bytesOf = new Map(fonts.map((font) => [`${font.folder}/${font.fileName}`, font]));
    const views: DuplicateGroup[] = [];
    for (const group of groups) views.push(await this.duplicateView(group, rows, bytesOf));
    return views;
  }

  private async duplicateView(
    group: Group,
    rows: ReadonlyMap<string, ObservedRow>,
    fonts: ReadonlyMap<string, HostFont>,
  ): Promise<DuplicateGroup> {
    const { key, family, style, how, keep, reason } = group;
    const place = (file: PlacedFile) => `${file.folder}/${file.fileName}`;
    const face = async (file: PlacedFile): Promise<Face | undefined> => {
      const number = file.claims.findIndex((claim) => claim.key === key);
      try {
        return new Face(openContainer(await fonts.get(place(file))!.read()), Math.max(0, number));
      } catch {
        return undefined;
      }
    };
    const kept = await face(keep);
    const files: DuplicateGroup["files"] = [];
    for (const file of group.files) {
      const { folder, fileName, bytes, on, sha256 } = file;
      const claim = file.claims.find((one) => one.key === key)!;
      const other = file === keep ? undefined : await face(file);
      const drawn =
        file === keep
          ? ""
          : sha256 === keep.sha256
            ? "The very same file."
            : drawnWords(kept && other ? drawnDifference(kept, other) : undefined);
      files.push({
        ...{ folder, fileName, bytes, on, sha256, drawn, version: claim.version, characters: claim.codepoints, outlines: claim.outlines },
        where: folderWords(folder),
        changedAt: rows.get(place(file))?.since ?? this.context.now(),
        movable: isSlot(folder),
      });
    }
    return { key, family, style, how, files, reason, keep: group.files.indexOf(keep), inTheWay: inTheWay(group) };
  }

  /** What two devices have, family by family. */
  async compare(id: number, otherId: number): Promise<Comparison> {
    const [device, other] = [this.observer.row(id), this.observer.row(otherId)];
    for (const one of [device, other]) await this.observer.observe(one.id);
    const keys = (deviceId: number) =>
      new Map(
        this.observer
          .filesOn(deviceId)
          .filter((file) => isSlot(file.folder) && file.on)
          .flatMap((file) => file.claims.map((claim) => [claim.key, claim.family])),
      );
    const [here, there] = [keys(id), keys(otherId)];
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
  async setPracticeState(id: number, { full, ...change }: PracticeStateChange): Promise<DeviceDetail> {
    const room = full === undefined ? {} : { capacityBytes: full ? FULL_BYTES : ROOMY_BYTES };
    await this.practiceDevice(id).setState({ ...change, ...room });
    this.context.events.changed("devices");
    return this.detail(id);
  }
}
