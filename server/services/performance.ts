// Carrying steps out on a device: each checked against what is there, what is taken off kept for undo, progress told on the way.
import type { Problem } from "../../contract/problem.ts";
import type { PlacedFile } from "../../core/placing/files.ts";
import { changes } from "../../core/placing/plan.ts";
import type { Context } from "../context.ts";
import type { Host } from "../hosts/host.ts";
import type { DeviceRow } from "../store/devices.ts";
import type { StoredStep } from "../store/plans.ts";

/** Files written side by side; more would only wait for the same disk. */
const COPIES_AT_ONCE = 8;
const TELL_EVERY_MS = 100;
/** After such a fault the steps that follow would fail alike. */
const HOPELESS = new Set(["EHOSTDOWN", "EROFS", "ENOSPC"]);

const CHANGED: Problem = {
  code: "step-changed",
  message: "Another file is there under this name now; it was left alone.",
  next: "Draw a new plan.",
};

export class Performance {
  private readonly context: Context;
  private readonly host: Host;
  private readonly device: DeviceRow;
  private readonly planId: number;
  private told = 0;
  constructor(context: Context, host: Host, device: DeviceRow, planId: number) {
    this.context = context;
    this.host = host;
    this.device = device;
    this.planId = planId;
  }

  /** Performs `steps` in order on a device that holds `files`; each step ends as done or failed, and says why. */
  async run(steps: StoredStep[], files: readonly PlacedFile[]): Promise<void> {
    const place = (step: Pick<StoredStep, "slot" | "fileName">) => `${step.slot}/${step.fileName}`;
    const there = new Map(files.map((file) => [`${file.folder}/${file.fileName}`, file.sha256]));
    const failed = new Set<number>();
    let hopeless: string | undefined;
    try {
      await this.keep(
        this.host,
        steps.filter((step) => step.op === "remove" && step.state !== "done"),
      );
      for (let i = 0; i < steps.length;) {
        // Copies that follow one another are made side by side; everything else waits for what came before.
        let end = i + 1;
        while (end < steps.length && end - i < COPIES_AT_ONCE && steps[i]!.op === "copy" && steps[end]!.op === "copy") end++;
        const together = steps.slice(i, end);
        await Promise.all(
          together.map(async (step) => {
            if (step.state === "done") return;
            // What is to replace a file did not arrive: the file stays.
            if (step.op === "remove" && failed.has(step.item)) return this.fail(step, "EDEPENDS");
            if (hopeless !== undefined && changes(step)) return this.fail(step, hopeless);
            const code = await this.perform(step, there.get(place(step)));
            if (code === undefined) return;
            failed.add(step.item);
            if (HOPELESS.has(code)) hopeless = code;
          }),
        );
        i = end;
        this.tell(steps.filter((step) => step.state === "done").length, steps.length);
      }
    } finally {
      await this.host.settle().catch(() => {});
    }
  }

  /** One step; returns the fault's code when it could not be done. */
  private async perform(step: StoredStep, there: string | undefined): Promise<string | undefined> {
    const { op, slot, fileName, sha256 } = step;
    try {
      if (op === "copy" && there !== sha256) {
        if (there !== undefined) return this.fail(step, "ECHANGED");
        await this.host.place(slot, fileName, await this.context.files.read(sha256));
      }
      if (op === "remove") {
        if (there !== undefined && there !== sha256) return this.fail(step, "ECHANGED");
        if (!(await this.context.files.has(sha256))) return this.fail(step, "EUNKEPT");
        await this.host.remove(slot, fileName);
      }
      if (op === "switch-on" || op === "switch-off") await this.host.setOn(slot, fileName, op === "switch-on");
    } catch (error) {
      return this.fail(step, (error as NodeJS.ErrnoException).code ?? "unknown");
    }
    step.state = "done";
    step.problem = null;
    return undefined;
  }
  private fail(step: StoredStep, code: string): string {
    step.state = "failed";
    step.problem = stepProblem(code, step, this.device.name);
    return code;
  }

  /** Puts files a host holds into the library's store, so that they can be had back, or brought elsewhere. */
  async keep(host: Host, steps: readonly StoredStep[]): Promise<void> {
    const missing = new Set<string>();
    for (const step of steps) if (!(await this.context.files.has(step.sha256))) missing.add(step.sha256);
    if (missing.size === 0) return;
    const batch = this.context.files.batch();
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
    this.context.events.tell({ topic: "plan", planId: this.planId, done, total });
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
      if (step.op === "copy") break;
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
