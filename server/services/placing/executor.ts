// Carrying steps out on a device: each checked against what is there, what is taken off kept for undo, progress told on the way.
import type { Problem } from "../../../contract/problem.ts";
import { changes } from "../../../core/placing/plan.ts";
import type { Host } from "../../hosts/host.ts";
import type { Parts } from "../../parts.ts";
import type { DeviceRow } from "../../store/devices/devices.ts";
import type { ObservedRow } from "../../store/devices/observed.ts";
import type { StoredStep } from "../../store/placing/plans.ts";

/** Files copied before progress is told. */
const COPIES_TOGETHER = 256;
const TELL_EVERY_MS = 100;
/** After such a fault the steps that follow would fail alike. */
const HOPELESS = new Set(["EHOSTDOWN", "EROFS", "ENOSPC"]);

const CHANGED: Problem = {
  code: "step-changed",
  message: "Another file is there under this name now; it was left alone.",
  next: "Draw a new plan.",
};

export class PlanExecutor {
  private readonly uses: Pick<Parts, "files" | "events">;
  private readonly host: Host;
  private readonly device: DeviceRow;
  private readonly planId: number;
  private told = 0;
  /** What lies where on the device, as hashes. */
  private readonly there = new Map<string, string>();
  /** Items of which a step failed. */
  private readonly failed = new Set<number>();
  private hopeless: string | undefined;
  constructor(uses: Pick<Parts, "files" | "events">, host: Host, device: DeviceRow, planId: number) {
    this.uses = uses;
    this.host = host;
    this.device = device;
    this.planId = planId;
  }

  /** Performs `steps` in order on a device that holds `files`; each step ends as done or failed, and says why. */
  async run(steps: StoredStep[], files: readonly ObservedRow[]): Promise<void> {
    for (const file of files) this.there.set(`${file.folder}/${file.fileName}`, file.sha256);
    try {
      await this.keep(
        this.host,
        steps.filter((step) => step.op === "remove" && step.state !== "done"),
      );
      for (let i = 0; i < steps.length;) {
        // Copies that follow one another are made side by side; everything else waits for what came before.
        let end = i + 1;
        while (end < steps.length && end - i < COPIES_TOGETHER && steps[i]!.op === "copy" && steps[end]!.op === "copy") end++;
        const waiting = steps.slice(i, end).filter((step) => step.state !== "done");
        if (waiting.length > 1 && this.host.placeMany) await this.copyMany(waiting);
        else await Promise.all(waiting.map((step) => this.perform(step)));
        i = end;
        this.tell(i, steps.length);
      }
    } finally {
      await this.host.settle().catch(() => {});
    }
  }

  /** Why a step is not even tried: what it builds on failed, or everything would. */
  private hindrance(step: StoredStep): string | undefined {
    if (step.op === "remove" && this.failed.has(step.item)) return "EDEPENDS";
    if (this.hopeless !== undefined && changes(step)) return this.hopeless;
    const there = this.there.get(`${step.slot}/${step.fileName}`);
    if ((step.op === "copy" || step.op === "remove") && there !== undefined && there !== step.sha256) return "ECHANGED";
    return undefined;
  }

  private async copyMany(steps: readonly StoredStep[]): Promise<void> {
    const copies: StoredStep[] = [];
    for (const step of steps) {
      const code = this.hindrance(step);
      if (code !== undefined) this.end(step, code);
      else if (this.there.has(`${step.slot}/${step.fileName}`)) this.end(step, undefined);
      else copies.push(step);
    }
    if (copies.length === 0) return;
    const files = copies.map(({ fileName, sha256 }) => ({ fileName, source: this.uses.files.path(sha256) }));
    const codes = await this.host.placeMany!(copies[0]!.slot, files);
    for (const [i, step] of copies.entries()) this.end(step, codes[i]);
  }

  private async perform(step: StoredStep): Promise<void> {
    const { op, slot, fileName, sha256 } = step;
    const hindered = this.hindrance(step);
    if (hindered !== undefined) return this.end(step, hindered);
    try {
      if (op === "copy" && !this.there.has(`${slot}/${fileName}`)) {
        await this.host.place(slot, fileName, await this.uses.files.read(sha256));
      }
      if (op === "remove") {
        if (!(await this.uses.files.has(sha256))) return this.end(step, "EUNKEPT");
        await this.host.remove(slot, fileName);
      }
      if (op === "switch-on" || op === "switch-off") await this.host.setOn(slot, fileName, op === "switch-on");
      this.end(step, undefined);
    } catch (error) {
      this.end(step, (error as NodeJS.ErrnoException).code ?? "unknown");
    }
  }
  private end(step: StoredStep, code: string | undefined): void {
    step.state = code === undefined ? "done" : "failed";
    step.problem = code === undefined ? null : stepProblem(code, step, this.device.name);
    if (code === undefined) return;
    this.failed.add(step.item);
    if (HOPELESS.has(code)) this.hopeless = code;
  }

  /** Puts files a host holds into the library's store, so that they can be had back, or brought elsewhere. */
  async keep(host: Host, steps: readonly StoredStep[]): Promise<void> {
    const missing = new Set<string>();
    for (const step of steps) if (!(await this.uses.files.has(step.sha256))) missing.add(step.sha256);
    if (missing.size === 0) return;
    const batch = this.uses.files.batch();
    try {
      for (const font of await host.observe()) {
        const wanted = steps.some((step) => missing.has(step.sha256) && step.bytes === font.bytes);
        // Which one it is, its bytes tell: the store names it by them.
        if (wanted) await batch.put([await font.read()]);
      }
      await batch.commit();
    } finally {
      await batch.drop();
    }
  }

  private tell(done: number, total: number): void {
    const now = Date.now();
    if (done < total && now - this.told < TELL_EVERY_MS) return;
    this.told = now;
    this.uses.events.tell({ topic: "plan", planId: this.planId, done, total });
  }
}

function stepProblem(code: string, step: StoredStep, device: string): Problem {
  switch (code) {
    case "ECHANGED":
      return CHANGED;
    case "EDEPENDS":
      return {
        code: "step-depends",
        message: "It stays, because what was to take its place did not arrive.",
        next: "Carry the plan out again.",
      };
    case "EUNKEPT":
      return { code: "step-unkept", message: "It could not be kept for undo, so it stays.", next: "Carry the plan out again." };
    case "ENOENT":
      if (step.op === "copy")
        return {
          code: "step-missing",
          message: "Its file is gone from the library.",
          next: "Have missing files looked for on Today, or bring its download again.",
        };
      return { code: "step-gone", message: "The file is not there any more.", next: "Nothing is left to do for it." };
    case "ENOSPC":
      return { code: "step-space", message: `${device} is full.`, next: "Make room on it and carry the plan out again." };
    case "EACCES":
    case "EPERM":
    case "EROFS":
      return {
        code: "step-denied",
        message: "The folder cannot be written to.",
        next: "Allow writing to it and carry the plan out again.",
      };
    case "EBUSY":
    case "ETXTBSY":
      return {
        code: "step-busy",
        message: "A program that is open uses this font.",
        next: "Close the program and carry the plan out again.",
      };
    case "EHOSTDOWN":
      return { code: "step-away", message: `${device} cannot be reached any more.`, next: "Bring it back and carry the plan out again." };
  }
  return { code: "step-failed", message: "The file could not be written.", next: "Carry the plan out again." };
}
