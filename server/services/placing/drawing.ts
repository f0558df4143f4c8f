// Drawing plans: what a request would do to what was observed, step by step. Nothing on a device changes.
import { createHash } from "node:crypto";
import type { Slot } from "../../../contract/devices.ts";
import type { PlanWanted } from "../../../contract/placing.ts";
import { isSlot, type PlacedFile, type Target } from "../../../core/placing/files.ts";
import { planLike, planFiles, planPlacing, planRemoving, planSwitching, type Choices, type Item } from "../../../core/placing/plan.ts";
import { Fault } from "../../fault.ts";
import type { Host } from "../../hosts/host.ts";
import type { Parts } from "../../parts.ts";
import type { DeviceRow } from "../../store/devices/devices.ts";
import type { ProgramRow } from "../../store/devices/programs.ts";
import type { ObservedRow } from "../../store/devices/observed.ts";
import type { PlanRow, StoredItem, StoredStep } from "../../store/placing/plans.ts";
import type { Observer } from "../devices/observer.ts";
import type { Wanting } from "./wanted.ts";

type Uses = Pick<Parts, "devices" | "library" | "settings" | "observed" | "programs">;

export class PlanDrawing {
  private readonly uses: Uses;
  private readonly observer: Observer;
  private readonly wanting: Wanting;
  constructor(uses: Uses, observer: Observer, wanting: Wanting) {
    this.uses = uses;
    this.observer = observer;
    this.wanting = wanting;
  }

  /** Where a person carries steps out a profile goes as a whole: files stand for their families. */
  familiesOf(request: PlanWanted, device: DeviceRow): number[] {
    if (!request.files) return this.wanting.familiesOf(request);
    if (!this.observer.hosts.of(device).byHand) return [];
    return [...new Set(this.named(device, request).flatMap(({ sha256 }) => this.uses.library.styleOfFile(sha256)?.familyId ?? []))];
  }
  async compute(
    device: DeviceRow,
    request: PlanWanted,
    choices: Choices | undefined,
  ): Promise<Pick<PlanRow, "items" | "fontsBefore" | "fontsAfter" | "drawnFrom">> {
    const items = (await this.itemsFor(device, request, choices)).map((item, i): StoredItem => ({
      ...item,
      choices: [...item.choices],
      steps: item.steps.map((step) => ({ ...step, item: i, state: "waiting", problem: null })),
    }));
    const steps = items.flatMap((item) => item.steps);
    const placed = this.uses.observed.placedCount(device.id);
    const change = steps.filter((step) => step.op === "copy").length - steps.filter((step) => step.op === "remove").length;
    return { items, fontsBefore: placed, fontsAfter: placed + change, drawnFrom: digestOf(await this.observer.held(device.id)) };
  }
  private async itemsFor(device: DeviceRow, request: PlanWanted, choices: Choices | undefined): Promise<Item[]> {
    const host = this.observer.hosts.of(device);
    const { action } = request;
    if (action === "tidy") return planFiles(this.named(device, request), request.tidyBy ?? "remove", "Another copy is kept.");
    if ((action === "switch-on" || action === "switch-off") && !host.switches) {
      throw new Fault(422, {
        code: "plan-no-switches",
        message: `Single fonts cannot be turned on and off on ${device.name}.`,
        next: "Take the font off instead.",
      });
    }
    if (request.files && !host.byHand && (action === "remove" || action === "switch-on" || action === "switch-off"))
      return planFiles(this.named(device, request), action, "Chosen by you.");
    const target = { ...(await this.targetOf(device, host)), slot: slotOf(host, request.account) };
    if (action === "like") {
      const there = this.wanting.fromDevice(this.observer.filesOn(this.other(request).id));
      return planLike(
        there.map((one) => ({ ...one, slot: slotOf(host, one.slot) })),
        this.observer.filesOn(device.id),
        target,
        choices,
      );
    }
    const wanted = this.wanting.styles(request.familyIds, request.styleIds);
    const files = await this.observer.filesFor(device.id, wanted);
    if (action === "remove") return planRemoving(wanted, files);
    if (action === "place") return planPlacing(wanted, files, target, choices);
    return planSwitching(wanted, files, action === "switch-on");
  }
  other(request: PlanWanted): DeviceRow {
    const other = request.fromDeviceId === undefined ? undefined : this.uses.devices.device(request.fromDeviceId);
    if (!other || other.id === request.deviceId) {
      throw new Fault(422, { code: "plan-like-what", message: "The device to copy from is missing.", next: "Choose another device." });
    }
    return other;
  }
  private named(device: DeviceRow, request: PlanWanted): PlacedFile[] {
    const wanted = new Set((request.files ?? []).map((file) => `${file.folder}/${file.fileName}`));
    const found = this.uses.observed
      .on(device.id)
      .filter((row) => isSlot(row.folder) && wanted.has(`${row.folder}/${row.fileName}`))
      .map((row) => this.observer.fileOf(row));
    if (found.length === 0) {
      throw new Fault(422, { code: "plan-nothing", message: "None of these files is there any more.", next: "Look at the device again." });
    }
    return found;
  }
  private async targetOf(device: DeviceRow, host: Host): Promise<Omit<Target, "slot">> {
    const programs = this.programsOn(device.id).map(({ name, traits }) => ({ name, reads: traits.reads }));
    const prefers = host.slots.includes("profile") ? "otf" : this.uses.settings.get().twinFormat;
    return { takes: host.takes, prefers, freeBytes: await host.freeBytes().catch(() => null), programs };
  }
  programsOn(deviceId: number): ProgramRow[] {
    return this.uses.programs.all().filter((program) => program.deviceId === deviceId);
  }
}

export const stepsOf = (plan: { items: readonly StoredItem[] }): StoredStep[] => plan.items.flatMap((item) => item.steps);
export const slotOf = (host: Host, wished: Slot): Slot => (host.slots.includes(wished) ? wished : host.slots[0]!);
/** Names what a device holds; `files` in order of where they lie. */
export function digestOf(files: readonly ObservedRow[]): string {
  const hash = createHash("sha256");
  for (const { folder, fileName, sha256, on } of files) if (folder !== "built-in") hash.update(`${folder}/${fileName} ${sha256} ${on}\n`);
  return hash.digest("hex");
}
