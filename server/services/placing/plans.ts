// Plans: drawn from what was observed, carried out step by step, taken back, and picked up again after a stop.
import type { ChooseRequest, PlanView, PlanWanted } from "../../../contract/placing.ts";
import { isStepDone, planSentence } from "../../../core/placing/outcome.ts";
import { changes, planUndo } from "../../../core/placing/plan.ts";
import { Fault, notFound } from "../../fault.ts";
import type { Host } from "../../hosts/host.ts";
import type { Parts } from "../../parts.ts";
import type { DeviceRow } from "../../store/devices/devices.ts";
import type { PlanRow, StoredStep } from "../../store/placing/plans.ts";
import { handedOf, type Handed, type Handing } from "./handing.ts";
import type { Observer } from "../devices/observer.ts";
import { PlanExecutor } from "./executor.ts";
import type { Wanting } from "./wanted.ts";

import { digestOf, PlanDrawing, stepsOf } from "./drawing.ts";
import { PlanPage, type ClearanceOfPlaced } from "./page.ts";

type Uses = Pick<
  Parts,
  "db" | "plans" | "devices" | "library" | "settings" | "history" | "files" | "events" | "now" | "observed" | "programs"
>;

export class PlanService {
  private readonly uses: Uses;
  private readonly observer: Observer;
  private readonly drawing: PlanDrawing;
  private readonly page: PlanPage;
  private readonly handing: Handing;
  private readonly clearing: ClearanceOfPlaced;

  constructor(uses: Uses, observer: Observer, wanting: Wanting, handing: Handing, clearing: ClearanceOfPlaced) {
    this.uses = uses;
    this.observer = observer;
    this.drawing = new PlanDrawing(uses, observer, wanting);
    this.page = new PlanPage(uses, observer, this.drawing, handing, clearing.warn);
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
        familyIds: request.action === "like" || request.action === "tidy" ? [] : this.drawing.familiesOf(request, device),
      };
      // A paired tablet fetches what is wanted in one go, whenever it was placed.
      known.profiles ??= known.familyIds.length > 1 || device.sort === "paired" ? "together" : "family";
      const drawn = await this.drawing.compute(device, known, undefined);
      return this.page.view(this.row(this.uses.plans.add({ request: known, choices: {}, state: "drawn", ...drawn }, this.uses.now())));
    });
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
      const changed = { ...plan, choices, ...(await this.drawing.compute(device, plan.request, choices)) };
      this.uses.plans.update(changed);
      return this.page.view(changed);
    });
  }

  plan(id: number): PlanView {
    return this.page.view(this.row(id));
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
        await executor.keep(this.observer.hosts.of(this.drawing.other(request)), foreign).catch(() => {});
      }
      await executor.run(steps, await this.observer.held(device.id));
      const written = steps.filter((step) => step.op === "copy" && step.state === "done");
      await this.observer.look(device, true, new Map(written.map((step) => [`${step.slot}/${step.fileName}/${step.bytes}`, step.sha256])));
      const failed = steps.some((step) => step.state === "failed");
      if (undo && failed) this.judge(plan, device);
      this.finish(plan, failed ? "failed" : undo ? "undone" : "done", device, planSentence(steps, device.name, undo));
      if (!undo) this.clearing.afterPlacing(this.broughtBy(steps));
      return this.page.view(this.row(id));
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
    const anew = await this.drawing.compute(device, plan.request, plan.choices);
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
    return this.familiesOf(stepsOf(plan));
  }
  private familiesOf(steps: readonly StoredStep[]): number[] {
    return [...new Set(steps.flatMap((step) => this.uses.library.styleOfFile(step.sha256)?.familyId ?? []))];
  }
  /** Families of which something was placed, whatever was asked for: their terms begin. */
  private broughtBy(steps: readonly StoredStep[]): number[] {
    return this.familiesOf(steps.filter((step) => step.op === "copy" && step.state === "done"));
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
    return this.page.view(this.row(plan.id));
  }
  private async takeBackHanded(plan: PlanRow, device: DeviceRow): Promise<PlanView> {
    await this.handing.withdraw(device, handedOf(plan), this.handedBeside(plan));
    this.finish(plan, "undone", device, `Undone: nothing is wanted on ${device.name} by this plan any more.`);
    return this.page.view(this.row(plan.id));
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
        this.clearing.afterPlacing(this.broughtBy(steps));
      } else if (JSON.stringify(plan.items) !== before) this.uses.plans.update(plan);
    }
  }

  /** Sets each step's state by what the device holds, and not by what was done. */
  private judge(plan: PlanRow, device: DeviceRow): void {
    const byHand = this.observer.hosts.of(device).byHand;
    // By the file and where it lies; what a person carried out may bear another name there.
    const placeOf = (folder: string, sha256: string, fileName: string) =>
      byHand ? `${folder}/${sha256}` : `${folder}/${sha256}/${fileName}`;
    const hashes = stepsOf(plan).map((step) => step.sha256);
    const there = new Map(
      this.uses.observed.among(device.id, hashes).map((file) => [placeOf(file.folder, file.sha256, file.fileName), file]),
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

const planState = (message: string): Fault => new Fault(409, { code: "plan-state", message, next: "Draw a new plan." });
