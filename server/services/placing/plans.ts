// Plans: drawn from what was observed, carried out step by step, taken back, and picked up again after a stop.
import { createHash } from "node:crypto";
import type { Slot } from "../../../contract/devices.ts";
import type { ChooseRequest, PlanView, PlanWanted } from "../../../contract/placing.ts";
import { isSlot, type PlacedFile, type Target } from "../../../core/placing/files.ts";
import { isStepDone, planSentence, programNeed, programNext } from "../../../core/placing/outcome.ts";
import {
  changes,
  passcodes,
  planLike,
  planFiles,
  planPlacing,
  planRemoving,
  planSwitching,
  planUndo,
  type Choices,
  type Item,
} from "../../../core/placing/plan.ts";
import { Fault, notFound } from "../../fault.ts";
import type { Host } from "../../hosts/host.ts";
import type { Parts } from "../../parts.ts";
import type { DeviceRow } from "../../store/devices/devices.ts";
import type { ProgramRow } from "../../store/devices/programs.ts";
import type { ObservedRow } from "../../store/devices/observed.ts";
import type { PlanRow, StoredItem, StoredStep } from "../../store/placing/plans.ts";
import { handedOf, type Handed, type Handing } from "./handing.ts";
import type { Observer } from "../devices/observer.ts";
import { PlanExecutor } from "./executor.ts";
import type { Wanting } from "./wanted.ts";

/** What other services know of and do about families that are placed. */
export interface ClearanceOfPlaced {
  warn: (familyIds: readonly number[]) => string[];
  afterPlacing: (familyIds: readonly number[]) => void;
}

type Uses = Pick<
  Parts,
  "db" | "plans" | "devices" | "library" | "settings" | "history" | "files" | "events" | "now" | "observed" | "programs"
>;

export class PlanService {
  private readonly uses: Uses;
  private readonly observer: Observer;
  private readonly wanting: Wanting;
  private readonly handing: Handing;
  private readonly clearing: ClearanceOfPlaced;

  constructor(uses: Uses, observer: Observer, wanting: Wanting, handing: Handing, clearing: ClearanceOfPlaced) {
    this.uses = uses;
    this.observer = observer;
    this.wanting = wanting;
    this.handing = handing;
    this.clearing = clearing;
  }

  private row(id: number): PlanRow {
    const plan = this.uses.plans.get(id);
    if (!plan) throw notFound("plan");
    return plan;
  }

  /** Computes what a request would do. Nothing on the device changes. */
  draw(request: PlanWanted): Promise<PlanView> {
    const device = this.observer.row(request.deviceId);
    return this.observer.inTurn(device.id, async () => {
      await this.observer.lookOrFail(device);
      if (request.action === "like" && request.fromDeviceId !== undefined && request.fromDeviceId !== device.id)
        await this.observer.look(this.observer.row(request.fromDeviceId), false);
      const known = {
        ...request,
        familyIds: request.action === "like" || request.action === "tidy" ? [] : this.familiesOf(request, device),
      };
      // A paired tablet fetches what is wanted in one go, whenever it was placed.
      known.profiles ??= known.familyIds.length > 1 || device.sort === "paired" ? "together" : "family";
      const drawn = await this.compute(device, known, undefined);
      return this.view(this.row(this.uses.plans.add({ request: known, choices: {}, state: "drawn", ...drawn }, this.uses.now())));
    });
  }

  /** Where a person carries steps out a profile goes as a whole: files stand for their families. */
  private familiesOf(request: PlanWanted, device: DeviceRow): number[] {
    if (!request.files) return this.wanting.familiesOf(request);
    if (!this.observer.hosts.of(device).byHand) return [];
    return [...new Set(this.named(device, request).flatMap(({ sha256 }) => this.uses.library.styleOfFile(sha256)?.familyId ?? []))];
  }

  private async compute(
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

  private other(request: PlanWanted): DeviceRow {
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
  private programsOn(deviceId: number): ProgramRow[] {
    return this.uses.programs.all().filter((program) => program.deviceId === deviceId);
  }

  /** Chooses otherwise for an item, or for all in the same situation, and draws the plan anew. */
  choose(id: number, { key, choice, all }: ChooseRequest): Promise<PlanView> {
    const { request } = this.row(id);
    return this.observer.inTurn(request.deviceId, async () => {
      const plan = this.row(id);
      if (plan.state !== "drawn") throw planState("This plan was carried out already.");
      const asked = plan.items.find((item) => item.key === key);
      if (!asked?.choices.includes(choice)) throw planState("This cannot be chosen here any more.");
      const keys = all ? plan.items.filter((item) => item.situation === asked.situation && item.choices.includes(choice)) : [asked];
      const choices = { ...plan.choices, ...Object.fromEntries(keys.map((item) => [item.key, choice])) };
      const device = this.observer.row(request.deviceId);
      const changed = { ...plan, choices, ...(await this.compute(device, plan.request, choices)) };
      this.uses.plans.update(changed);
      return this.view(changed);
    });
  }

  plan(id: number): PlanView {
    return this.view(this.row(id));
  }

  private passcodesOf(plan: PlanRow, device: DeviceRow, host: Host): PlanView["passcodes"] {
    const { items, by } = handedOf(plan);
    const nameOf = host.slots.includes("profile") ? this.handing.namesProfiles(device) : () => "";
    return passcodes(
      items.flatMap((item) => item.steps),
      host.guarded,
      (step) => nameOf(step, by),
    );
  }
  private view(plan: PlanRow): PlanView {
    const { request } = plan;
    const device = this.observer.row(request.deviceId);
    const host = this.observer.hosts.of(device);
    const steps = plan.items.flatMap((item) => item.steps);
    const ahead = plan.state === "drawn" || plan.state === "failed";
    const gains = request.action === "place" || request.action === "switch-on" || request.action === "like";
    const guarded = steps.some((step) => changes(step) && host.guarded.includes(step.slot));
    const touched = new Set(steps.filter(changes).map((step) => step.slot));
    return {
      id: plan.id,
      deviceId: device.id,
      deviceName: device.name,
      deviceSort: device.sort,
      action: request.action,
      account: request.account,
      families: request.familyIds.flatMap((familyId) => this.uses.library.family(familyId) ?? []),
      fromName: request.action === "like" ? this.other(request).name : "",
      state: plan.state,
      items: plan.items.map((item) => ({
        ...item,
        choices: [...item.choices],
        steps: item.steps.map(({ sha256: _, wasOn: _was, item: _item, ...step }) => step),
      })),
      programs: this.programsOn(device.id).map((program) => ({
        programId: program.id,
        name: program.name,
        need: touched.size > 0 ? programNeed(program, gains, touched) : "Nothing changes.",
        next: programNext(program.traits, gains, touched),
      })),
      fontsBefore: plan.fontsBefore,
      fontsAfter: plan.fontsAfter,
      folder: host.folderName(slotOf(host, request.account)),
      passcodes: this.passcodesOf(plan, device, host),
      needsPasscode: guarded && !host.byHand,
      practicePasscode: host.practicePasscode ?? "",
      byHand: host.byHand && (ahead || plan.state === "handed") ? this.handing.instructions(device, [handedOf(plan)]) : [],
      warnings: plan.state !== "undone" && gains ? this.clearing.warn(request.familyIds) : [],
    };
  }

  /** Carries a drawn plan out or goes on with a stopped one; or takes back what was done. */
  carryOut(id: number, undo: boolean, passcode = ""): Promise<PlanView> {
    const { request } = this.row(id);
    return this.observer.inTurn(request.deviceId, async () => {
      const plan = this.row(id);
      const device = this.observer.row(request.deviceId);
      const host = this.observer.hosts.of(device);
      this.mayBegin(plan, undo, host);
      if (!(await this.observer.asLastSeen(device))) await this.observer.lookOrFail(device);
      if (!undo && plan.state === "drawn") await this.stillTrue(plan, device);
      if (host.byHand) return undo ? this.takeBackHanded(plan, device) : this.hand(plan, device);
      const steps: StoredStep[] = undo
        ? planUndo(stepsOf(plan).filter((step) => step.state === "done")).map((step) => ({
            ...(step as StoredStep),
            state: "waiting",
            problem: null,
          }))
        : stepsOf(plan);
      const waiting = steps.filter((step) => step.state !== "done" && changes(step));
      if (waiting.some((step) => host.guarded.includes(step.slot))) await host.unlock(passcode);
      this.uses.plans.update({ ...plan, state: "doing" });
      const executor = new PlanExecutor(this.uses, host, device, id);
      if (request.action === "like" && !undo) {
        const foreign = steps.filter((step) => step.op === "copy" && step.styleId === null);
        await executor.keep(this.observer.hosts.of(this.other(request)), foreign).catch(() => {});
      }
      await executor.run(steps, await this.observer.held(device.id));
      const written = steps.filter((step) => step.op === "copy" && step.state === "done");
      await this.observer.look(device, true, new Map(written.map((step) => [`${step.slot}/${step.fileName}/${step.bytes}`, step.sha256])));
      const failed = steps.some((step) => step.state === "failed");
      if (undo && failed) this.judge(plan, device);
      this.finish(plan, failed ? "failed" : undo ? "undone" : "done", device, planSentence(steps, device.name, undo));
      if (!undo && request.action === "place" && steps.some((step) => step.op === "copy" && step.state === "done"))
        this.clearing.afterPlacing(request.familyIds);
      return this.view(this.row(id));
    });
  }

  private mayBegin(plan: PlanRow, undo: boolean, host: Host): void {
    const { state } = plan;
    if (!undo && (state === "drawn" || state === "failed")) return;
    if (undo && host.byHand && state === "done") throw planState("This is taken off at the device itself: draw a plan for taking it off.");
    if (undo && (state === "done" || state === "failed" || state === "handed")) return;
    throw planState(undo ? "This plan is not done, so there is nothing to take back." : "This plan was carried out already.");
  }

  /** Draws the plan anew when the device is not as it was; whoever asked sees it before anything is done. */
  private async stillTrue(plan: PlanRow, device: DeviceRow): Promise<void> {
    if (plan.drawnFrom === digestOf(await this.observer.held(device.id))) return;
    const anew = await this.compute(device, plan.request, plan.choices);
    this.uses.plans.update({ ...plan, ...anew });
    if (JSON.stringify(anew.items) === JSON.stringify(plan.items)) return;
    this.uses.events.changed("devices");
    throw new Fault(409, {
      code: "plan-outdated",
      message: `${device.name} has changed since this plan was drawn; nothing was done.`,
      next: "The plan was drawn anew. Look at it, then carry it out.",
    });
  }

  private finish(plan: PlanRow, state: PlanRow["state"], device: DeviceRow, sentence: string): void {
    const fontsAfter = this.uses.observed.placedCount(device.id);
    const undo = (state === "done" || state === "failed") && !this.observer.hosts.of(device).byHand;
    const counted = `${sentence} ${plan.fontsBefore} placed ${plan.fontsBefore === 1 ? "font" : "fonts"} before, now ${fontsAfter}.`;
    this.uses.db.transaction(() => {
      this.uses.plans.update({ ...plan, state, fontsAfter });
      const named = plan.request.familyIds;
      this.uses.history.add(
        this.uses.now(),
        plan.request.action,
        counted,
        named.length > 0 ? named : this.familiesIn(plan),
        undo ? { kind: "plan", id: plan.id } : undefined,
        device.id,
      );
    })();
    this.uses.events.changed("devices", "families", "sightings", "practice");
  }
  private familiesIn(plan: PlanRow): number[] {
    return [...new Set(stepsOf(plan).flatMap((step) => this.uses.library.styleOfFile(step.sha256)?.familyId ?? []))];
  }

  /** What other plans handed over to the same device, and is not there yet. */
  private handedBeside({ id, request }: PlanRow): Handed[] {
    return this.uses.plans
      .inState("handed", request.deviceId)
      .filter((other) => other.id !== id)
      .map(handedOf);
  }
  private async hand(plan: PlanRow, device: DeviceRow): Promise<PlanView> {
    await this.handing.hand(device, handedOf(plan), this.handedBeside(plan));
    for (const step of stepsOf(plan)) if (step.state === "waiting") step.state = changes(step) ? "handed" : "done";
    this.uses.plans.update({ ...plan, state: "handed" });
    this.settleHanded(device);
    this.uses.events.changed("devices", "practice");
    return this.view(this.row(plan.id));
  }
  private async takeBackHanded(plan: PlanRow, device: DeviceRow): Promise<PlanView> {
    await this.handing.withdraw(device, handedOf(plan), this.handedBeside(plan));
    this.finish(plan, "undone", device, `Undone: nothing is wanted on ${device.name} by this plan any more.`);
    return this.view(this.row(plan.id));
  }

  /** What was handed over to devices, or to one, and is not there yet. */
  waiting(deviceId?: number): { deviceId: number; styleId: number | null; name: string }[] {
    return this.uses.plans
      .inState("handed", deviceId)
      .flatMap((plan) =>
        stepsOf(plan).flatMap((step) =>
          step.op === "copy" && step.state === "handed"
            ? [{ deviceId: plan.request.deviceId, styleId: step.styleId, name: step.styleName }]
            : [],
        ),
      );
  }

  /** Plans that wait for a person are done once the device shows it. */
  settleHanded(device: DeviceRow): void {
    for (const plan of this.uses.plans.inState("handed", device.id)) {
      const before = JSON.stringify(plan.items);
      this.judge(plan, device);
      const steps = stepsOf(plan);
      for (const step of steps) if (step.state === "waiting") step.state = "handed";
      if (steps.every((step) => step.state === "done")) {
        this.finish(plan, "done", device, planSentence(steps, device.name, false));
        if (plan.request.action === "place") this.clearing.afterPlacing(plan.request.familyIds);
      } else if (JSON.stringify(plan.items) !== before) this.uses.plans.update(plan);
    }
  }

  /** Sets each step's state by what the device holds, and not by what was done. */
  private judge(plan: PlanRow, device: DeviceRow): void {
    const byHand = this.observer.hosts.of(device).byHand;
    // By the file and where it lies; what a person carried out may bear another name there.
    const placeOf = (folder: string, sha256: string, fileName: string) =>
      byHand ? `${folder}/${sha256}` : `${folder}/${sha256}/${fileName}`;
    const sums = stepsOf(plan).map((step) => step.sha256);
    const there = new Map(
      this.uses.observed.among(device.id, sums).map((file) => [placeOf(file.folder, file.sha256, file.fileName), file]),
    );
    for (const step of stepsOf(plan)) {
      const at = there.get(placeOf(step.slot, step.sha256, step.fileName));
      const done = isStepDone(step, at);
      step.state = done ? "done" : "waiting";
      if (done) step.problem = null;
    }
  }

  /** Picks up plans a stop interrupted: what was done is found out by looking, and the rest can be carried out or taken back. */
  async recover(): Promise<void> {
    for (const plan of this.uses.plans.inState("doing")) {
      const device = this.uses.devices.device(plan.request.deviceId);
      if (!device) continue;
      const host = this.observer.hosts.of(device);
      await host.settle().catch(() => {});
      await this.observer.look(device, true);
      this.judge(plan, device);
      const whole = stepsOf(plan).every((step) => step.state === "done");
      this.finish(plan, whole ? "done" : "failed", device, whole ? `Carried out on ${device.name}.` : `Interrupted on ${device.name}.`);
    }
  }
}

const stepsOf = (plan: { items: readonly StoredItem[] }): StoredStep[] => plan.items.flatMap((item) => item.steps);
const slotOf = (host: Host, wished: Slot): Slot => (host.slots.includes(wished) ? wished : host.slots[0]!);
const planState = (message: string): Fault => new Fault(409, { code: "plan-state", message, next: "Draw a new plan." });

/** Names what a device holds; `files` in order of where they lie. */
function digestOf(files: readonly ObservedRow[]): string {
  const hash = createHash("sha256");
  for (const { folder, fileName, sha256, on } of files) if (folder !== "built-in") hash.update(`${folder}/${fileName} ${sha256} ${on}\n`);
  return hash.digest("hex");
}
