// Several families at once: what is to be known of them before something is done, and what is done with all of them in one step.
import type { ChosenFamilies, FamilyAct } from "../../contract/family.ts";
import { count } from "../../core/words/words.ts";
import { Fault } from "../fault.ts";
import type { Parts } from "../parts.ts";
import type { DeviceRow } from "../store/devices.ts";

type Uses = Pick<Parts, "db" | "library" | "views" | "tags" | "devices" | "history" | "events" | "now">;

/** So many are put on a sheet side by side. */
const COMPARED = 12;

export interface Acted {
  sentence: string;
  changed: number[];
  historyId: number | null;
}

export class ChoosingService {
  private readonly uses: Uses;
  private readonly switches: (device: DeviceRow) => boolean;
  /** `switches` says whether fonts can be turned on and off one by one on a device. */
  constructor(uses: Uses, switches: (device: DeviceRow) => boolean) {
    this.uses = uses;
    this.switches = switches;
  }

  /** What is to be known of several families before something is done with them. */
  chosen(ids: readonly number[]): ChosenFamilies {
    const { devices } = this.uses;
    const counts = new Map(devices.filesOf(ids).map((row) => [row.deviceId, row]));
    return {
      ...this.uses.views.tally(ids),
      mains: ids.slice(0, COMPARED).flatMap((id) => {
        const row = this.uses.views.family(id);
        const style = row && this.uses.library.styleBrief(row.mainStyle);
        return style ? [{ sha256: style.sha256, face: style.face, family: style.brief.family, style: style.brief.style }] : [];
      }),
      tags: this.uses.tags.among(ids),
      devices: devices.devices().map((device) => ({
        id: device.id,
        name: device.name,
        on: counts.get(device.id)?.on ?? 0,
        off: counts.get(device.id)?.off ?? 0,
        switches: this.switches(device),
      })),
    };
  }

  act(request: FamilyAct): Acted {
    const acted = this.uses.db.transaction(() => {
      if (request.act === "pin") return this.pin(request.ids, request.on);
      if (request.act === "tag") return this.tag(request.ids, request.tag, request.on);
      return this.remove(request.ids);
    })();
    this.uses.events.changed("families", ...(request.act === "remove" ? (["parcels", "devices", "sightings"] as const) : []));
    return acted;
  }

  private pin(ids: readonly number[], on: boolean): Acted {
    const { library } = this.uses;
    const changed = ids.filter((id) => library.family(id)?.pinned === !on);
    for (const id of changed) library.setPinned(id, on);
    const families = count(changed.length, "family", "families");
    return { sentence: on ? `${families} pinned.` : `${families} unpinned.`, changed, historyId: null };
  }

  private tag(ids: readonly number[], tag: string, on: boolean): Acted {
    const changed = this.uses.tags.set(tag, ids, on);
    const families = count(changed.length, "family", "families");
    return { sentence: on ? `“${tag}” put on ${families}.` : `“${tag}” taken off ${families}.`, changed, historyId: null };
  }

  /** Takes families off the shelf. Their files are kept until that cannot be undone any more; what is placed stays where it is. */
  private remove(ids: readonly number[]): Acted {
    const { library, history } = this.uses;
    const styleIds = library.styleIdsOf(ids);
    if (styleIds.length === 0) {
      throw new Fault(409, {
        code: "families-gone",
        message: "None of these families is in the library any more.",
        next: "Look at the list as it is now.",
      });
    }
    const changed = ids.filter((id) => library.family(id) !== undefined);
    const at = this.uses.now();
    const [only] = changed;
    const what = changed.length === 1 ? `“${library.family(only!)!.name}”` : `${changed.length} families`;
    const sentence = `${what} removed from the library.`;
    library.setRemoved(styleIds, at);
    return { sentence, changed, historyId: history.add(at, "removed", sentence, changed, { kind: "styles-removed", styleIds }) };
  }

  /** Brings removed styles back to the shelf. */
  bringBack(styleIds: readonly number[]): void {
    this.uses.library.setRemoved(styleIds, null);
    this.uses.events.changed("families", "parcels", "devices", "sightings");
  }
  /** Takes back that styles were shelved. */
  unshelve(styleIds: readonly number[]): void {
    this.uses.library.setRemoved(styleIds, this.uses.now());
    this.uses.events.changed("families", "parcels", "devices", "sightings");
  }
}
