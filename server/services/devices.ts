// Devices: what they hold, and bringing fonts to them and off them through plans.
import { createHash } from "node:crypto";
import { basename, extname } from "node:path";
import type { DeviceDetail, DeviceFont, DeviceSummary } from "../../contract/device.ts";
import type { PlanRequest, PlanStep, PlanView } from "../../contract/plan.ts";
import type { ProgramSummary } from "../../contract/program.ts";
import type { z } from "zod";
import { inspectFont } from "../../core/inspect.ts";
import {
  changes,
  planPlacing,
  planRemoving,
  planSwitching,
  planUndo,
  type ObservedFile,
  type Step,
  type WantedStyle,
} from "../../core/placing/plan.ts";
import type { PracticeRoom } from "../../practice/room.ts";
import type { Context } from "../context.ts";
import { Fault, notFound } from "../fault.ts";
import type { Host } from "../hosts/host.ts";
import { practiceHost } from "../hosts/practice.ts";
import type { DeviceRow, ObservedRow, ProgramRow } from "../store/devices.ts";
import type { StyleRow } from "../store/library.ts";
import type { PlanRow, StoredStep } from "../store/plans.ts";

export const programSummary = (row: ProgramRow): ProgramSummary => {
  const { id, deviceId, name, kind, traits } = row;
  return { id, deviceId, name, kind, traits, practice: true };
};

export class DeviceService {
  private readonly context: Context;
  private readonly room: PracticeRoom;
  /** Plans and observations of one device happen one after another. */
  private readonly turns = new Map<number, Promise<unknown>>();
  /** Sums of files whose name, size and time were seen before. */
  private readonly known = new Map<string, string>();

  /** What to know before families are placed; set by whoever knows of clearance. */
  private readonly warn: (familyIds: readonly number[]) => string[];
  private readonly afterPlacing: (familyIds: readonly number[]) => void;

  constructor(
    context: Context,
    room: PracticeRoom,
    clearance: { warn: (familyIds: readonly number[]) => string[]; afterPlacing: (familyIds: readonly number[]) => void },
  ) {
    this.context = context;
    this.room = room;
    this.warn = clearance.warn;
    this.afterPlacing = clearance.afterPlacing;
  }

  /** Enters the practice room's devices and looks at what they hold. */
  async prepare(): Promise<void> {
    for (const device of this.room.world) {
      const id = this.context.devices.ensureDevice(device.slug, device.name, device.kind);
      for (const program of device.programs)
        this.context.devices.ensureProgram(id, program.slug, program.name, program.kind, program.traits);
      await this.observe(id);
    }
  }

  private row(id: number): DeviceRow {
    const row = this.context.devices.device(id);
    if (!row) throw notFound("device");
    return row;
  }
  private host(device: DeviceRow): Host {
    const practice = this.room.device(device.slug);
    if (!practice) throw notFound("device");
    return practiceHost(practice);
  }
  private inTurn<T>(deviceId: number, work: () => Promise<T>): Promise<T> {
    const turn = (this.turns.get(deviceId) ?? Promise.resolve()).then(work, work);
    this.turns.set(
      deviceId,
      turn.catch(() => {}),
    );
    return turn;
  }

  /** Looks at a device and remembers what is there. */
  observe(id: number): Promise<void> {
    return this.inTurn(id, () => this.lookAt(this.row(id)));
  }

  private async lookAt(device: DeviceRow): Promise<void> {
    const { devices, library, db } = this.context;
    const seen: Omit<ObservedRow, "deviceId">[] = [];
    for (const font of await this.host(device).observe()) {
      const key = `${device.id}/${font.folder}/${font.fileName}/${font.since}`;
      let sha256 = this.known.get(key);
      if (sha256 === undefined) {
        const bytes = await font.read();
        sha256 = createHash("sha256").update(bytes).digest("hex");
        this.known.set(key, sha256);
        if (!library.knowsFile(sha256)) {
          const result = inspectFont(bytes, basename(font.fileName, extname(font.fileName)));
          if (result.ok) db.transaction(() => library.addFaces(sha256!, bytes.length, result.value))();
        }
      }
      seen.push({ folder: font.folder, fileName: font.fileName, sha256, on: font.on, since: font.since });
    }
    devices.setObserved(device.id, seen, this.context.now());
  }

  private toSummary(device: DeviceRow, observed: readonly ObservedRow[]): DeviceSummary {
    const builtIn = observed.filter((font) => font.folder === "built-in").length;
    return {
      id: device.id,
      name: device.name,
      kind: device.kind,
      practice: true,
      placedFonts: observed.length - builtIn,
      builtInFonts: builtIn,
      observedAt: device.observedAt,
      programs: this.context.devices
        .programs()
        .filter((program) => program.deviceId === device.id)
        .map(programSummary),
    };
  }

  list(): DeviceSummary[] {
    return this.context.devices.devices().map((device) => this.toSummary(device, this.context.devices.observedOn(device.id)));
  }

  async detail(id: number): Promise<DeviceDetail> {
    await this.observe(id);
    const device = this.row(id);
    const observed = this.context.devices.observedOn(id);
    const shelved = new Map(this.context.library.allStyles().map((style) => [`${style.sha256}#${style.face}`, style]));
    const fonts = observed.flatMap((file): DeviceFont[] =>
      this.context.library.facesOf(file.sha256).map(({ face, record }) => {
        const style = shelved.get(`${file.sha256}#${face}`);
        const { fileName, on, folder: account } = file;
        return {
          fileName,
          account,
          on,
          family: record.family,
          style: record.style,
          familyId: style?.familyId ?? null,
          styleId: style?.id ?? null,
        };
      }),
    );
    const order = new Intl.Collator("en");
    fonts.sort((a, b) => Number(a.account === "built-in") - Number(b.account === "built-in") || order.compare(a.family, b.family));
    return { ...this.toSummary(device, observed), fonts };
  }

  /** Computes what placing or taking off would do. Nothing on the device changes. */
  async draw(request: z.output<typeof PlanRequest>): Promise<PlanView> {
    const device = this.row(request.deviceId);
    await this.observe(device.id);
    const families = request.familyIds.map((id) => {
      const family = this.context.library.family(id);
      if (!family) throw notFound("family");
      return family;
    });
    const wanted = families.flatMap((family) => this.context.library.stylesOf(family.id)).map(wantedStyle);
    const observed = placedFiles(this.context.devices.observedOn(device.id));
    // A collection's faces share one file: it is placed once.
    const byFile = [...new Map(wanted.map((style) => [style.sha256, style])).values()];
    const steps =
      request.action === "place"
        ? planPlacing(byFile, observed, request.account)
        : request.action === "remove"
          ? planRemoving(byFile, observed)
          : planSwitching(byFile, observed, request.action === "switch-on");
    const change = steps.filter((step) => step.op === "copy").length - steps.filter((step) => step.op === "remove").length;
    const id = this.context.plans.add(
      {
        deviceId: device.id,
        action: request.action,
        account: request.account,
        familyIds: request.familyIds,
        state: "drawn",
        steps: steps.map((step) => ({ ...step, state: "waiting", problem: null })),
        fontsBefore: observed.length,
        fontsAfter: observed.length + change,
      },
      this.context.now(),
    );
    return this.plan(id);
  }

  private planRow(id: number): PlanRow {
    const plan = this.context.plans.get(id);
    if (!plan) throw notFound("plan");
    return plan;
  }

  plan(id: number): PlanView {
    const plan = this.planRow(id);
    const device = this.row(plan.deviceId);
    const changing = plan.steps.some(changes);
    const accounts = new Set(plan.steps.map((step) => step.account));
    return {
      id: plan.id,
      deviceId: device.id,
      deviceName: device.name,
      action: plan.action,
      account: plan.account,
      families: plan.familyIds.flatMap((familyId) => this.context.library.family(familyId) ?? []),
      state: plan.state,
      steps: plan.steps.map(({ sha256: _, ...step }): PlanStep => step),
      programs: this.context.devices
        .programs()
        .filter((program) => program.deviceId === device.id)
        .map((program) => ({
          programId: program.id,
          name: program.name,
          need: changing ? need(program, plan.action, accounts) : "Nothing changes.",
        })),
      fontsBefore: plan.fontsBefore,
      fontsAfter: plan.fontsAfter,
      folder: this.host(device).folderName(plan.account),
      warnings: plan.state !== "undone" && (plan.action === "place" || plan.action === "switch-on") ? this.warn(plan.familyIds) : [],
    };
  }

  /** Carries a drawn plan out, or takes a done one back. */
  carryOut(id: number, undo: boolean): Promise<PlanView> {
    const { deviceId } = this.planRow(id);
    return this.inTurn(deviceId, async () => {
      const plan = this.planRow(id);
      const expected = undo ? "done" : "drawn";
      if (plan.state !== expected && !(plan.state === "failed" && !undo)) {
        throw new Fault(409, {
          code: "plan-state",
          message: undo ? "This plan is not done, so there is nothing to take back." : "This plan was carried out already.",
          next: "Draw a new plan.",
        });
      }
      const device = this.row(deviceId);
      const steps = undo
        ? planUndo(plan.steps.filter((step) => step.state === "done")).map((step): StoredStep => ({
            ...step,
            state: "waiting",
            problem: null,
          }))
        : plan.steps;
      await this.perform(device, steps);
      const failed = steps.some((step) => step.state === "failed");
      if (!undo) plan.steps = steps;
      plan.state = failed ? "failed" : undo ? "undone" : "done";
      await this.lookAt(device);
      plan.fontsAfter = placedFiles(this.context.devices.observedOn(device.id)).length;
      this.context.db.transaction(() => {
        this.context.plans.update(plan);
        this.context.history.add(this.context.now(), plan.action, historySentence(plan, steps, device, undo), plan.familyIds);
      })();
      if (!undo && plan.action === "place" && steps.some((step) => step.op === "copy" && step.state === "done"))
        this.afterPlacing(plan.familyIds);
      this.context.events.changed("devices", "families", "sightings", "practice");
      return this.plan(id);
    });
  }

  private async perform(device: DeviceRow, steps: StoredStep[]): Promise<void> {
    const host = this.host(device);
    for (const step of steps) {
      if (step.state === "done") continue;
      try {
        if (step.op === "copy") await host.place(step.account, step.fileName, await this.context.files.read(step.sha256));
        if (step.op === "remove") await host.remove(step.account, step.fileName);
        if (step.op === "switch-on" || step.op === "switch-off") await host.setOn(step.account, step.fileName, step.op === "switch-on");
        step.state = "done";
        step.problem = null;
      } catch (error) {
        step.state = "failed";
        step.problem = stepProblem(error, step);
      }
    }
  }
}

function need(program: ProgramRow, action: PlanRow["action"], accounts: ReadonlySet<string>): string {
  if (![...accounts].some((account) => program.traits.reads.includes(account as "me" | "everyone"))) {
    return `${program.name} does not read this folder and will not list it.`;
  }
  if (program.traits.readsWhen === "start") return `Close ${program.name} completely and open it again.`;
  return action === "place" || action === "switch-on" ? `${program.name} notices by itself.` : `${program.name} drops it by itself.`;
}

function historySentence(plan: PlanRow, steps: readonly Step[], device: DeviceRow, undo: boolean): string {
  const copied = steps.filter((step) => step.op === "copy").length;
  const removed = steps.filter((step) => step.op === "remove").length;
  const switched = (op: Step["op"]) => steps.filter((step) => step.op === op).length;
  const files = (count: number) => `${count} ${count === 1 ? "file" : "files"}`;
  const owner = plan.account === "me" ? "for me" : "for everyone";
  const done = [
    copied > 0 && `${files(copied)} placed on ${device.name}, ${owner}`,
    removed > 0 && `${files(removed)} taken off ${device.name}`,
    switched("switch-off") > 0 && `${files(switched("switch-off"))} switched off on ${device.name}`,
    switched("switch-on") > 0 && `${files(switched("switch-on"))} switched on on ${device.name}`,
  ].filter(Boolean);
  return `${undo ? "Undone: " : ""}${done.join("; ") || `Nothing changed on ${device.name}`}.`;
}

function stepProblem(error: unknown, step: StoredStep) {
  const code = (error as NodeJS.ErrnoException).code;
  if (code === "ENOENT" && step.op === "remove") {
    return { code: "step-gone", message: "The file is not there any more.", next: "Nothing is left to do for it." };
  }
  if (code === "ENOSPC")
    return { code: "step-space", message: "The device is full.", next: "Make room on it and carry the plan out again." };
  if (code === "EACCES" || code === "EPERM" || code === "EROFS") {
    return { code: "step-denied", message: "The folder cannot be written to.", next: "Allow writing to it and carry the plan out again." };
  }
  return { code: "step-failed", message: "The file could not be written.", next: "Carry the plan out again." };
}

function placedFiles(observed: readonly ObservedRow[]): ObservedFile[] {
  return observed.flatMap((row) =>
    row.folder === "built-in" ? [] : [{ fileName: row.fileName, account: row.folder, sha256: row.sha256, on: row.on }],
  );
}

function wantedStyle(style: StyleRow): WantedStyle {
  return {
    styleId: style.id,
    name: style.record.fullName,
    postScriptName: style.record.postScriptName,
    sha256: style.sha256,
    ending: extname(style.fileName) || ".ttf",
    bytes: style.bytes,
    refused: style.record.verdict === "refused",
  };
}
