// Families as the library shows them: lists are read from their rows; a family's page tells everything known of that one.
import type { FamilyDetail, FamilyPage, FamilyQuery, FamilySummary, PlacementView, StyleDetail } from "../../contract/family.ts";
import type { Today, TodayTerm } from "../../contract/today.ts";
import type { Use } from "../../core/clearance/uses.ts";
import { termWords } from "../../core/clearance/words.ts";
import { charactersOf } from "../../core/coverage/text.ts";
import { mannerBounds } from "../../core/matching/manner-steps.ts";
import { compareStyles } from "../../core/family/group.ts";
import { Company, familyNotes, styleFacts } from "../../core/family/notes.ts";
import { nameKeys, sameFamilyReason } from "../../core/family/spelling.ts";
import { examineFamily } from "../../core/health/family.ts";
import { notFound } from "../fault.ts";
import type { Parts } from "../parts.ts";
import type { StyleRow } from "../store/library.ts";
import type { FamilyFilter, FamilyView } from "../store/views.ts";
import type { Renewal } from "../views/renewal.ts";
import type { HistoryService } from "./history.ts";
import type { JobService } from "./jobs.ts";
import { sightingView, type SightingService } from "./sightings.ts";

type Uses = Pick<Parts, "db" | "library" | "parcels" | "views" | "devices" | "sightings" | "readings" | "history" | "events" | "now">;

/** Families of one station that Today names. */
const NAMED_TODAY = 6;
/** Names looked at closely, to see whether they mean the same family. */
const MOST_ALIKE = 500;

const codePoints = (text: string): number[] => charactersOf(text).map((character) => character.codePointAt(0)!);

export class FamilyService {
  private readonly uses: Uses;
  private readonly renewal: Renewal;
  private readonly sightings: SightingService;
  private readonly jobs: Pick<JobService, "usesOf">;
  private readonly history: Pick<HistoryService, "ofFamily">;
  constructor(
    uses: Uses,
    renewal: Renewal,
    sightings: SightingService,
    jobs: Pick<JobService, "usesOf">,
    history: Pick<HistoryService, "ofFamily">,
  ) {
    this.history = history;
    this.uses = uses;
    this.renewal = renewal;
    this.sightings = sightings;
    this.jobs = jobs;
  }

  list(query: FamilyQuery): FamilyPage {
    const { views } = this.uses;
    const { from = 0, limit = 60 } = query;
    const needed = codePoints(query.text ?? "");
    const { total, rows } = views.families(this.filter(query), from, limit);
    return { total, all: views.familyCount(), from, families: rows.map((row) => this.summary(row, needed)) };
  }
  /** What a list asks the views for. */
  filter(query: FamilyQuery): FamilyFilter {
    const { search, at, script, kind } = query;
    const uses = [...(query.job === undefined ? [] : this.jobs.usesOf(query.job)), ...(query.use ? [query.use] : [])] as Use[];
    const needed = query.covers ? codePoints(query.text ?? "") : [];
    const manner = query.manner === undefined ? [] : mannerBounds(query.manner);
    return { search, at, script, kind, uses, manner, pinned: query.pinned === "yes", codePoints: needed };
  }

  private summary(row: FamilyView, needed: readonly number[]): FamilySummary {
    const { familyId: id, name, pinned, styles, specimen, trail, stuckAt: at } = row;
    return { id, name, pinned, styles, specimen, trail, at, coversText: this.uses.views.missing(id, needed).length === 0 };
  }

  detail(id: number, text: string): FamilyDetail {
    const { library, parcels, sightings } = this.uses;
    const row = this.renewal.family(id);
    if (!row) throw notFound("family");
    const styles = library.stylesOf(id).sort((a, b) => compareStyles(a.record, b.record));
    const kin = styles.map(kinOf);
    return {
      ...this.summary(row, codePoints(text)),
      beingRead: row.beingRead,
      styleList: styles.map(styleDetail),
      remarks: examineFamily(kin),
      notes: familyNotes(kin, new Company(library.stylesBeside(id).map(kinOf))),
      spellings: library.spellings(id),
      alike: this.alike(id, row.name),
      placements: this.placements(styles),
      predictions: this.sightings.forFamily(id, row.mainStyle),
      sightings: sightings.ofStyles(styles.map((style) => style.id)).map((one) => sightingView(this.uses, one)),
      papers: parcels.papersOf(id),
      history: this.history.ofFamily(id),
    };
  }

  /** Families whose names seem to mean this one too. */
  private alike(id: number, name: string): FamilyDetail["alike"] {
    return this.uses.views.namedLike(nameKeys(name), MOST_ALIKE).flatMap((other) => {
      const reason = other.id === id ? undefined : sameFamilyReason(name, other.name);
      return reason ? [{ id: other.id, name: other.name, reason }] : [];
    });
  }

  /** Files another family's styles under this one; can be taken back by `part`. */
  join(id: number, otherId: number): void {
    const { library, history, db } = this.uses;
    const [family, other] = [library.family(id), library.family(otherId)];
    if (!family || !other || id === otherId) throw notFound("family");
    db.transaction(() => {
      const key = library.join(otherId, id);
      history.add(this.uses.now(), "joined", `“${other.name}” is filed under “${family.name}”.`, [id], { kind: "spelling", id, key });
    })();
    this.uses.events.changed("families", "parcels", "sightings");
  }
  part(id: number, key: string): void {
    const { library, history, db } = this.uses;
    const spelling = library.spellings(id).find((one) => one.key === key);
    if (!spelling) throw notFound("spelling");
    db.transaction(() => {
      const own = library.part(key)!;
      history.add(this.uses.now(), "parted", `“${spelling.name}” is a family of its own again.`, [id, own]);
    })();
    this.uses.events.changed("families", "parcels", "sightings");
  }
  pin(id: number, pinned: boolean): void {
    if (!this.uses.library.family(id)) throw notFound("family");
    this.uses.library.setPinned(id, pinned);
    this.uses.events.changed("families");
  }

  private placements(styles: readonly StyleRow[]): PlacementView[] {
    const { devices } = this.uses;
    const copies = [...new Set(styles.map((style) => style.sha256))].flatMap((sum) => devices.copiesOf(sum));
    return devices.devices().flatMap((device) =>
      (["me", "everyone", "profile", "own"] as const).flatMap((folder) => {
        const there = copies.filter((row) => row.deviceId === device.id && row.folder === folder);
        if (there.length === 0) return [];
        return [
          {
            deviceId: device.id,
            deviceName: device.name,
            folder,
            on: there.some((copy) => copy.on),
            visible: there.some((copy) => copy.visible),
            styles: there.length,
            observedAt: device.observedAt ?? there[0]!.since,
          },
        ];
      }),
    );
  }

  /** What to do next, by the station where families are stuck; and licences that end. */
  today(): Today {
    const { views, readings, library } = this.uses;
    const groups = (["sound", "cleared", "placed", "seen"] as const).flatMap((station) => {
      const { total, rows } = views.stuck(station, NAMED_TODAY);
      if (total === 0) return [];
      const words = (row: (typeof rows)[number]) => row.trail.find((one) => one.key === station)?.words ?? "";
      return [{ station, total, families: rows.map((row) => ({ id: row.familyId, name: row.name, words: words(row) })) }];
    });
    const { unread, anew } = readings.waiting();
    const renewing = { unread, anew, fonts: library.outdatedCount(), rows: views.staleCount() };
    return { parcels: views.parcels(undefined, 0, 0).total, families: views.familyCount(), groups, terms: this.terms(), renewing };
  }

  /** Licences in their last two weeks, and those that have ended while the family is still on somewhere. */
  private terms(): TodayTerm[] {
    const { views, devices } = this.uses;
    const all = devices.devices();
    return views.ending().flatMap((row): TodayTerm[] => {
      const over = row.ending === 1;
      const on = new Set(devices.devicesOf(row.familyId, true));
      const where = all.filter((device) => on.has(device.id));
      if (over && where.length === 0) return [];
      const { term } = row.clearance;
      const words = term ? termWords(term) : "Its licence has ended";
      return [{ familyId: row.familyId, name: row.name, over, words, devices: where.map(({ id, name }) => ({ id, name })) }];
    });
  }
}

const kinOf = (style: StyleRow) => ({ ...style.record, sha256: style.sha256 });

function styleDetail(style: StyleRow): StyleDetail {
  const { family, style: name, fullName, legacyFamily, legacyStyle, postScriptName, version, weight, italic } = style.record;
  const { codepoints, outlines, embedding, container, verdict, findings } = style.record;
  const names = { family, style: name, fullName, legacyFamily, legacyStyle, postScriptName, version };
  const facts = { weight, italic, codepoints, outlines, embedding, container, verdict, findings, facts: styleFacts(style.record) };
  return { ...names, ...facts, id: style.id, sha256: style.sha256, face: style.face, bytes: style.bytes, fileName: style.fileName };
}
