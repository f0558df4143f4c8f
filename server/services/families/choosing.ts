// Several families at once: what is to be known of them before something is done, and what is done with all of them in one step.
import type { ChosenFamilies, FamilyAct } from "../../../contract/families.ts";
import { count } from "../../../core/words/words.ts";
import { Fault } from "../../fault.ts";
import type { Parts } from "../../parts.ts";
import { inPieces } from "../../pieces.ts";
import type { DeviceRow } from "../../store/devices/devices.ts";

type Uses = Pick<Parts, "db" | "library" | "familyViews" | "tags" | "devices" | "history" | "events" | "now" | "observed">;

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
    const counts = new Map(this.uses.observed.filesOf(ids).map((row) => [row.deviceId, row]));
    return {
      ...this.uses.familyViews.tally(ids),
      mains: ids.slice(0, COMPARED).flatMap((id) => {
        const row = this.uses.familyViews.family(id);
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

  /** Acts a few at a time, so that the server answers in between; what is done is done when it is stopped. */
  async act(request: FamilyAct): Promise<Acted> {
    const { ids } = request;
    const acted = await (request.act === "pin"
      ? this.pin(ids, request.on)
      : request.act === "tag"
        ? this.tag(ids, request.tag, request.on)
        : this.remove(ids));
    this.uses.events.changed("families", ...(request.act === "remove" ? (["parcels", "devices", "sightings"] as const) : []));
    return acted;
  }
  private async pin(ids: readonly number[], on: boolean): Promise<Acted> {
    const { library } = this.uses;
    const changed: number[] = [];
    await inPieces(this.uses, ids, (piece) => {
      for (const id of piece) {
        if (library.family(id)?.pinned !== !on) continue;
        library.setPinned(id, on);
        changed.push(id);
      }
    });
    const families = count(changed.length, "family", "families");
    return { sentence: on ? `${families} pinned.` : `${families} unpinned.`, changed, historyId: null };
  }

  private async tag(ids: readonly number[], tag: string, on: boolean): Promise<Acted> {
    const changed: number[] = [];
    await inPieces(this.uses, ids, (piece) => changed.push(...this.uses.tags.set(tag, piece, on)));
    const families = count(changed.length, "family", "families");
    return { sentence: on ? `“${tag}” put on ${families}.` : `“${tag}” taken off ${families}.`, changed, historyId: null };
  }

  /**
   * Takes families off the shelf. Their files are kept until that cannot be undone any more; what is placed stays where it is. The entry of
   * the history is there from the first on: whatever was removed when Buvano is ended meanwhile can be brought back by it.
   */
  private async remove(ids: readonly number[]): Promise<Acted> {
    const { library, history } = this.uses;
    const shelved = new Set(library.onShelf(ids));
    const changed = ids.filter((id) => shelved.has(id));
    if (changed.length === 0) {
      throw new Fault(409, {
        code: "families-gone",
        message: "None of these families is in the library any more.",
        next: "Look at the list as it is now.",
      });
    }
    const at = this.uses.now();
    const undo = { kind: "styles-removed" as const, at };
    const [only] = changed;
    const what = changed.length === 1 ? `“${library.family(only!)!.name}”` : `${changed.length} families`;
    const sentence = `${what} removed from the library.`;
    const historyId = history.add(at, "removed", "Removing families from the library was interrupted.", [], undo);
    await inPieces(this.uses, changed, (piece) => {
      library.setRemoved(library.styleIdsOf(piece), at);
      history.extend(historyId, "Removing families from the library was interrupted.", piece, undo);
    });
    history.extend(historyId, sentence, [], undo);
    return { sentence, changed, historyId };
  }

  /** Brings back to the shelf what was removed at a time. */
  bringBack(at: string): Promise<void> {
    return this.setRemoved(this.uses.library.removedAt(at), null);
  }
  /** Takes back that styles were shelved. */
  unshelve(styleIds: readonly number[]): Promise<void> {
    return this.setRemoved(styleIds, this.uses.now());
  }
  private async setRemoved(styleIds: readonly number[], at: string | null): Promise<void> {
    await inPieces(this.uses, styleIds, (piece) => this.uses.library.setRemoved(piece, at));
    this.uses.events.changed("families", "parcels", "devices", "sightings");
  }
}
