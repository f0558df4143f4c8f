// Families as the library shows them: specimen, trail, and everything known of one family.
import type { FamilyDetail, FamilyQuery, FamilySummary, PlacementView, StyleDetail } from "../../contract/family.ts";
import type { Station, StationKey } from "../../contract/style.ts";
import type { Today } from "../../contract/today.ts";
import { isRightToLeftOnly, missingFrom, ownSample } from "../../core/coverage/text.ts";
import { compareStyles, familyKey } from "../../core/family/group.ts";
import { count } from "../../core/words/words.ts";
import type { SightingState } from "../../core/menu/state.ts";
import type { Context } from "../context.ts";
import { notFound } from "../fault.ts";
import type { ObservedRow } from "../store/devices.ts";
import type { FamilyRow, StyleRow } from "../store/library.ts";
import { standsFor, type SightingService } from "./sightings.ts";

export class FamilyService {
  private readonly context: Context;
  private readonly sightings: SightingService;
  constructor(context: Context, sightings: SightingService) {
    this.context = context;
    this.sightings = sightings;
  }

  list(query: FamilyQuery): FamilySummary[] {
    const styles = new Map<number, StyleRow[]>();
    for (const style of this.context.library.allStyles()) styles.set(style.familyId, [...(styles.get(style.familyId) ?? []), style]);
    const observed = this.context.devices.observed();
    const seen = this.sightings.seenStates();
    const search = query.search ? familyKey(query.search) : "";
    return this.context.library.families().flatMap((family) => {
      const members = styles.get(family.id);
      if (!members || !familyKey(family.name).includes(search)) return [];
      const summary = this.summary(family, members, observed, seen.get(family.id) ?? new Set(), query.text ?? "");
      if (query.at && summary.at !== query.at) return [];
      if (query.covers && !summary.coversText) return [];
      return [summary];
    });
  }

  private summary(
    family: FamilyRow,
    styles: readonly StyleRow[],
    observed: readonly ObservedRow[],
    seen: ReadonlySet<SightingState>,
    text: string,
  ): FamilySummary {
    const main = standsFor(styles)!;
    const trail = [inStation(styles), soundStation(styles), clearedStation(), placedStation(styles, observed), seenStation(seen)];
    return {
      id: family.id,
      name: family.name,
      styles: styles.length,
      specimen: {
        sha256: main.sha256,
        face: main.face,
        container: main.record.container,
        rightToLeft: isRightToLeftOnly(main.record.ranges),
        sample: ownSample(main.record.ranges),
      },
      trail,
      at: whereStuck(trail),
      coversText: missingFrom(main.record.ranges, text).length === 0,
    };
  }

  detail(id: number, text: string): FamilyDetail {
    const family = this.context.library.family(id);
    if (!family) throw notFound("family");
    const styles = this.context.library.stylesOf(id).sort((a, b) => compareStyles(a.record, b.record));
    const observed = this.context.devices.observed();
    const seen = this.sightings.seenStates().get(id) ?? new Set<SightingState>();
    return {
      ...this.summary(family, styles, observed, seen, text),
      styleList: styles.map(styleDetail),
      placements: this.placements(styles, observed),
      predictions: this.sightings.forFamily(id),
      sightings: this.context.sightings.ofStyles(styles.map((style) => style.id)).map((row) => this.sightings.toView(row)),
      papers: this.context.parcels.papersOf(id),
      history: this.context.history.ofFamily(id),
    };
  }

  private placements(styles: readonly StyleRow[], observed: readonly ObservedRow[]): PlacementView[] {
    const sums = new Set(styles.map((style) => style.sha256));
    return this.context.devices.devices().flatMap((device) =>
      (["me", "everyone"] as const).flatMap((account) => {
        const copies = observed.filter((row) => row.deviceId === device.id && row.folder === account && sums.has(row.sha256));
        if (copies.length === 0) return [];
        const on = copies.some((copy) => copy.on);
        return [
          {
            deviceId: device.id,
            deviceName: device.name,
            account,
            on,
            styles: copies.length,
            observedAt: device.observedAt ?? copies[0]!.since,
          },
        ];
      }),
    );
  }

  /** What to do next, by the station where families are stuck. Clearance is shown, but does not hold anything up. */
  today(): Today {
    const families = this.list({});
    const groups = (["sound", "placed", "seen"] as const).flatMap((station) => {
      const stuck = families.filter((family) => family.at === station);
      if (stuck.length === 0) return [];
      const words = (family: FamilySummary) => family.trail.find((one) => one.key === station)?.words ?? "";
      return [
        {
          station,
          total: stuck.length,
          families: stuck.slice(0, 6).map((family) => ({ id: family.id, name: family.name, words: words(family) })),
        },
      ];
    });
    return { families: families.length, groups };
  }
}

function inStation(styles: readonly StyleRow[]): Station {
  return { key: "in", state: "done", words: count(styles.length, "style") };
}

function soundStation(styles: readonly StyleRow[]): Station {
  const refused = styles.filter((style) => style.record.verdict === "refused").length;
  const usable = styles.filter((style) => style.record.verdict === "usable").length;
  if (refused > 0) return { key: "sound", state: "stuck", words: `${count(refused, "style")} damaged` };
  if (usable > 0) return { key: "sound", state: "remark", words: `Usable, with ${count(usable, "remark")}` };
  return { key: "sound", state: "done", words: "Whole and sound" };
}

/** Licences are not read yet: what nobody has read is never shown as allowed. */
function clearedStation(): Station {
  return { key: "cleared", state: "open", words: "Papers not read yet" };
}

function placedStation(styles: readonly StyleRow[], observed: readonly ObservedRow[]): Station {
  const sums = new Set(styles.map((style) => style.sha256));
  const devices = new Set(observed.filter((row) => row.folder !== "built-in" && sums.has(row.sha256)).map((row) => row.deviceId));
  if (devices.size === 0) return { key: "placed", state: "open", words: "On no device" };
  return { key: "placed", state: "done", words: `On ${count(devices.size, "device")}` };
}

function seenStation(seen: ReadonlySet<SightingState>): Station {
  if (seen.has("seen")) return { key: "seen", state: "done", words: "Seen" };
  if (seen.has("swapped")) return { key: "seen", state: "stuck", words: "Swapped for another font" };
  if (seen.has("reopen")) return { key: "seen", state: "open", words: "Reopen the program" };
  return { key: "seen", state: "open", words: "Not looked for yet" };
}

/** The first station that waits for something; clearance waits for its own screen. */
function whereStuck(trail: readonly Station[]): StationKey | null {
  return trail.find((station) => station.key !== "cleared" && station.state !== "done" && station.state !== "remark")?.key ?? null;
}

function styleDetail(style: StyleRow): StyleDetail {
  const { family, style: name, fullName, legacyFamily, legacyStyle, postScriptName, version, weight, italic } = style.record;
  const { codepoints, outlines, embedding, container, verdict, findings } = style.record;
  const names = { family, style: name, fullName, legacyFamily, legacyStyle, postScriptName, version };
  const facts = { weight, italic, codepoints, outlines, embedding, container, verdict, findings };
  return { ...names, ...facts, id: style.id, sha256: style.sha256, face: style.face, bytes: style.bytes, fileName: style.fileName };
}
