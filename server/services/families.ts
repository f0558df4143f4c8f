// Families as the library shows them: specimen, trail, and everything known of one family.
import type { FamilyDetail, FamilyPage, FamilyQuery, FamilySummary, PlacementView, StyleDetail } from "../../contract/family.ts";
import type { Station, StationKey } from "../../contract/style.ts";
import type { Today, TodayTerm } from "../../contract/today.ts";
import { isCleared, type Clearance } from "../../core/clearance/clearance.ts";
import type { Use } from "../../core/clearance/uses.ts";
import { summaryWords, termWords } from "../../core/clearance/words.ts";
import { charactersOf, holdsAll, missingFrom } from "../../core/coverage/text.ts";
import { compareStyles, familyKey } from "../../core/family/group.ts";
import { familyNotes, styleFacts } from "../../core/family/notes.ts";
import { sameFamilyReason } from "../../core/family/spelling.ts";
import { examineFamily } from "../../core/health/family.ts";
import type { SightingState } from "../../core/menu/state.ts";
import { count } from "../../core/words/words.ts";
import type { Context } from "../context.ts";
import { notFound } from "../fault.ts";
import type { ObservedRow } from "../store/devices.ts";
import type { StyleRow } from "../store/library.ts";
import type { ClearanceService } from "./clearance.ts";
import type { JobService } from "./jobs.ts";
import type { Shelf, ShelfFamily, ShelfStyle } from "./shelf.ts";
import { copiesByFile, sightingView, type SightingService } from "./sightings.ts";

export class FamilyService {
  private readonly context: Context;
  private readonly shelf: Shelf;
  private readonly sightings: SightingService;
  private readonly clearance: ClearanceService;
  private readonly jobs: JobService;
  private kept: { stamp: string; entries: readonly Entry[] } | undefined;
  constructor(context: Context, shelf: Shelf, sightings: SightingService, clearance: ClearanceService, jobs: JobService) {
    this.context = context;
    this.shelf = shelf;
    this.sightings = sightings;
    this.clearance = clearance;
    this.jobs = jobs;
  }

  /** All families with their trails, kept until something changes. */
  private entries(): readonly Entry[] {
    const { devices, sightings, jobs } = this.context;
    const stamp = [this.clearance.stamp(), devices.version, sightings.version, jobs.version].join();
    if (this.kept?.stamp !== stamp) {
      const copies = copiesByFile(devices.observed());
      const seen = this.sightings.seenStates();
      const clearances = this.clearance.all();
      const conflicts = this.jobs.conflicts();
      const entries = this.shelf.families().map((family): Entry => {
        const summary = summaryOf(
          family,
          copies,
          seen.get(family.id) ?? new Set<SightingState>(),
          clearedStation(clearances.get(family.id)!, conflicts.get(family.id) ?? []),
        );
        // What filters look at lies flat: thousands of families are looked through for every letter somebody types.
        const { key, scripts, kinds, ranges } = family;
        const cleared = clearances
          .get(family.id)!
          .uses.filter((one) => one.answer === "yes" || one.answer === "credit")
          .map((one) => one.use);
        return {
          key: Buffer.from(key).toString(),
          at: summary.at,
          pinned: summary.pinned,
          scripts,
          kinds,
          ranges,
          cleared,
          family,
          summary,
        };
      });
      this.kept = { stamp, entries };
    }
    return this.kept.entries;
  }

  list(query: FamilyQuery): FamilyPage {
    const search = query.search ? familyKey(query.search) : "";
    const needed = charactersOf(query.text ?? "").map((character) => character.codePointAt(0)!);
    const wanted = [...(query.job === undefined ? [] : this.jobs.usesOf(query.job)), ...(query.use ? [query.use] : [])] as Use[];
    const fits = this.entries().filter(
      (entry) =>
        (search === "" || entry.key.includes(search)) &&
        (!query.at || entry.at === query.at) &&
        (!query.pinned || entry.pinned) &&
        (!query.script || entry.scripts.includes(query.script)) &&
        (!query.kind || entry.kinds.includes(query.kind)) &&
        wanted.every((use) => entry.cleared.includes(use)) &&
        (!query.covers || holdsAll(entry.ranges, needed)),
    );
    const { from = 0, limit = 60 } = query;
    const shown = fits
      .slice(from, from + limit)
      .map(({ family, summary }): FamilySummary => ({ ...summary, coversText: holdsAll(family.ranges, needed) }));
    return { total: fits.length, all: this.entries().length, from, families: shown };
  }

  detail(id: number, text: string): FamilyDetail {
    const entry = this.entries().find(({ family }) => family.id === id);
    const { library, parcels, history } = this.context;
    if (!entry || !library.family(id)) throw notFound("family");
    const styles = library.stylesOf(id).sort((a, b) => compareStyles(a.record, b.record));
    const kin = styles.map(kinOf);
    return {
      ...entry.summary,
      coversText: missingFrom(entry.family.ranges, text).length === 0,
      styleList: styles.map(styleDetail),
      remarks: examineFamily(kin),
      notes: familyNotes(kin, library.stylesBeside(id).map(kinOf)),
      spellings: library.spellings(id),
      alike: this.alike(entry.family.id, entry.family.name),
      placements: this.placements(styles, this.context.devices.observed()),
      predictions: this.sightings.forFamily(id),
      sightings: this.context.sightings.ofStyles(styles.map((style) => style.id)).map((row) => sightingView(this.context, row)),
      papers: parcels.papersOf(id),
      history: history.ofFamily(id),
    };
  }

  /** Families whose names seem to mean this one too. */
  private alike(id: number, name: string): FamilyDetail["alike"] {
    return this.shelf.families().flatMap((other) => {
      const reason = other.id === id ? undefined : sameFamilyReason(name, other.name);
      return reason ? [{ id: other.id, name: other.name, reason }] : [];
    });
  }

  /** Files another family's styles under this one; can be taken back by `part`. */
  join(id: number, otherId: number): void {
    const { library, history, db } = this.context;
    const [family, other] = [library.family(id), library.family(otherId)];
    if (!family || !other || id === otherId) throw notFound("family");
    db.transaction(() => {
      library.join(otherId, id);
      history.add(this.context.now(), "joined", `“${other.name}” is filed under “${family.name}”.`, [id]);
    })();
    this.context.events.changed("families", "parcels", "sightings");
  }
  part(id: number, key: string): void {
    const { library, history, db } = this.context;
    const spelling = library.spellings(id).find((one) => one.key === key);
    if (!spelling) throw notFound("spelling");
    db.transaction(() => {
      const own = library.part(key)!;
      history.add(this.context.now(), "parted", `“${spelling.name}” is a family of its own again.`, [id, own]);
    })();
    this.context.events.changed("families", "parcels", "sightings");
  }
  pin(id: number, pinned: boolean): void {
    if (!this.context.library.family(id)) throw notFound("family");
    this.context.library.setPinned(id, pinned);
    this.context.events.changed("families");
  }

  private placements(styles: readonly StyleRow[], observed: readonly ObservedRow[]): PlacementView[] {
    const sums = new Set(styles.map((style) => style.sha256));
    return this.context.devices.devices().flatMap((device) =>
      (["me", "everyone", "profile", "own"] as const).flatMap((folder) => {
        const copies = observed.filter((row) => row.deviceId === device.id && row.folder === folder && sums.has(row.sha256));
        if (copies.length === 0) return [];
        return [
          {
            deviceId: device.id,
            deviceName: device.name,
            folder,
            on: copies.some((copy) => copy.on),
            visible: copies.some((copy) => copy.visible),
            styles: copies.length,
            observedAt: device.observedAt ?? copies[0]!.since,
          },
        ];
      }),
    );
  }

  /** What to do next, by the station where families are stuck; and licences that end. */
  today(): Today {
    const families = this.entries().map(({ summary }) => summary);
    const groups = (["sound", "cleared", "placed", "seen"] as const).flatMap((station) => {
      const stuck = families.filter((family) => family.at === station);
      if (stuck.length === 0) return [];
      const words = (family: Entry["summary"]) => family.trail.find((one) => one.key === station)?.words ?? "";
      return [
        {
          station,
          total: stuck.length,
          families: stuck.slice(0, 6).map((family) => ({ id: family.id, name: family.name, words: words(family) })),
        },
      ];
    });
    return { families: families.length, groups, terms: this.terms() };
  }

  /** Licences in their last two weeks, and those that have ended while the family is still on somewhere. */
  private terms(): TodayTerm[] {
    const copies = copiesByFile(this.context.devices.observed().filter((row) => row.folder !== "built-in" && row.on));
    return this.entries().flatMap(({ family }): TodayTerm[] => {
      const clearance = this.clearance.of(family.id);
      const ending = clearance.term?.state === "ending";
      if (!clearance.lapsed && !ending) return [];
      const ids = new Set(family.styles.flatMap((style) => copies.get(style.sha256) ?? []).map((row) => row.deviceId));
      const devices = this.context.devices.devices().filter((device) => ids.has(device.id));
      if (clearance.lapsed && devices.length === 0) return [];
      const words = clearance.term ? termWords(clearance.term) : "Its licence has ended";
      return [
        { familyId: family.id, name: family.name, over: clearance.lapsed, words, devices: devices.map(({ id, name }) => ({ id, name })) },
      ];
    });
  }
}

const kinOf = (style: StyleRow) => ({ ...style.record, sha256: style.sha256 });

interface Entry extends Pick<ShelfFamily, "key" | "scripts" | "kinds" | "ranges" | "pinned"> {
  at: StationKey | null;
  /** Uses it is cleared for. */
  cleared: readonly Use[];
  family: ShelfFamily;
  summary: Omit<FamilySummary, "coversText">;
}

function summaryOf(
  family: ShelfFamily,
  copies: ReadonlyMap<string, ObservedRow[]>,
  seen: ReadonlySet<SightingState>,
  cleared: Station,
): Omit<FamilySummary, "coversText"> {
  const { main, styles } = family;
  const trail = [inStation(styles), soundStation(styles), cleared, placedStation(styles, copies), seenStation(seen)];
  return {
    id: family.id,
    name: family.name,
    pinned: family.pinned,
    styles: styles.length,
    specimen: {
      sha256: main.sha256,
      face: main.face,
      container: main.record.container,
      rightToLeft: family.rightToLeft,
      sample: family.sample,
    },
    trail,
    at: whereStuck(trail),
  };
}

function inStation(styles: readonly ShelfStyle[]): Station {
  return { key: "in", state: "done", words: count(styles.length, "style") };
}

function soundStation(styles: readonly ShelfStyle[]): Station {
  const refused = styles.filter((style) => style.record.verdict === "refused").length;
  const usable = styles.filter((style) => style.record.verdict === "usable").length;
  if (refused > 0) return { key: "sound", state: "stuck", words: `${count(refused, "style")} damaged` };
  if (usable > 0) return { key: "sound", state: "remark", words: `Usable, with ${count(usable, "remark")}` };
  return { key: "sound", state: "done", words: "Whole and sound" };
}

/** Silence is never shown as allowed; a job that wants more than is cleared holds a family up, and so does a licence that has ended. */
function clearedStation(clearance: Clearance, conflicts: readonly string[]): Station {
  const key = "cleared";
  if (clearance.lapsed) return { key, state: "stuck", words: summaryWords(clearance) };
  if (conflicts.length > 0) return { key, state: "stuck", words: `Not cleared for ${conflicts.map((name) => `“${name}”`).join(", ")}` };
  if (!isCleared(clearance, "own")) {
    const silent = clearance.uses.find((one) => one.use === "own")!.answer === "not-stated";
    return { key, state: silent ? "open" : "stuck", words: silent ? "Nothing stated for your own use" : "Not cleared for your own use" };
  }
  const all = clearance.uses.every((one) => one.answer === "yes" || one.answer === "credit");
  return { key, state: all && clearance.term?.state !== "ending" ? "done" : "remark", words: summaryWords(clearance) };
}

function placedStation(styles: readonly ShelfStyle[], copies: ReadonlyMap<string, ObservedRow[]>): Station {
  const there = styles.flatMap((style) => copies.get(style.sha256) ?? []).filter((row) => row.folder !== "built-in");
  const devices = new Set(there.map((row) => row.deviceId));
  if (devices.size === 0) return { key: "placed", state: "open", words: "On no device" };
  return { key: "placed", state: "done", words: `On ${count(devices.size, "device")}` };
}

function seenStation(seen: ReadonlySet<SightingState>): Station {
  if (seen.has("seen")) return { key: "seen", state: "done", words: "Seen" };
  if (seen.has("swapped")) return { key: "seen", state: "stuck", words: "Swapped for another font" };
  if (seen.has("reopen")) return { key: "seen", state: "open", words: "Reopen the program" };
  return { key: "seen", state: "open", words: "Not looked for yet" };
}

/** The first station that waits for something. */
function whereStuck(trail: readonly Station[]): StationKey | null {
  return trail.find((station) => station.state !== "done" && station.state !== "remark")?.key ?? null;
}

function styleDetail(style: StyleRow): StyleDetail {
  const { family, style: name, fullName, legacyFamily, legacyStyle, postScriptName, version, weight, italic } = style.record;
  const { codepoints, outlines, embedding, container, verdict, findings } = style.record;
  const names = { family, style: name, fullName, legacyFamily, legacyStyle, postScriptName, version };
  const facts = { weight, italic, codepoints, outlines, embedding, container, verdict, findings, facts: styleFacts(style.record) };
  return { ...names, ...facts, id: style.id, sha256: style.sha256, face: style.face, bytes: style.bytes, fileName: style.fileName };
}
