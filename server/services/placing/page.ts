// A plan as its page shows it.
import type { PlanView } from "../../../contract/placing.ts";
import { programNeed, programNext } from "../../../core/placing/outcome.ts";
import { changes, passcodes } from "../../../core/placing/plan.ts";
import type { Host } from "../../hosts/host.ts";
import type { Parts } from "../../parts.ts";
import type { DeviceRow } from "../../store/devices/devices.ts";
import type { PlanRow } from "../../store/placing/plans.ts";
import { handedOf, type Handing } from "./handing.ts";
import type { Observer } from "../devices/observer.ts";

import { slotOf, type PlanDrawing } from "./drawing.ts";

/** What other services know of and do about families that are placed. */
export interface ClearanceOfPlaced {
  warn: (familyIds: readonly number[]) => string[];
  afterPlacing: (familyIds: readonly number[]) => void;
}

type Uses = Pick<Parts, "library">;

export class PlanPage {
  private readonly uses: Uses;
  private readonly observer: Observer;
  private readonly drawing: PlanDrawing;
  private readonly handing: Handing;
  private readonly warn: ClearanceOfPlaced["warn"];
  constructor(uses: Uses, observer: Observer, drawing: PlanDrawing, handing: Handing, warn: ClearanceOfPlaced["warn"]) {
    this.uses = uses;
    this.observer = observer;
    this.drawing = drawing;
    this.handing = handing;
    this.warn = warn;
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
  view(plan: PlanRow): PlanView {
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
      fromName: request.action === "like" ? this.drawing.other(request).name : "",
      state: plan.state,
      items: plan.items.map((item) => ({
        ...item,
        choices: [...item.choices],
        steps: item.steps.map(({ sha256: _, wasOn: _was, item: _item, ...step }) => step),
      })),
      programs: this.drawing.programsOn(device.id).map((program) => ({
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
      warnings: plan.state !== "undone" && gains ? this.warn(request.familyIds) : [],
    };
  }
}
