// Families as the library shows them: lists are read from their rows; a family's page tells everything known of that one.
import {
  MOST_CHOSEN,
  type FamilyCounts,
  type FamilyDetail,
  type FamilyPage,
  type FamilyQuery,
  type FamilySummary,
  type PlacementView,
  type StyleDetail,
} from "../../../contract/families.ts";
import type { Today, TodayTask, TodayTerm } from "../../../contract/today.ts";
import type { Use } from "../../../core/clearance/uses.ts";
import { termWords } from "../../../core/clearance/words.ts";
import { neededLetters } from "../../../core/coverage/languages.ts";
import { charactersOf } from "../../../core/coverage/text.ts";
import { mannerBounds } from "../../../core/matching/faces/manner-steps.ts";
import { compareStyles } from "../../../core/family/group.ts";
import { Company, familyNotes, styleFacts } from "../../../core/family/notes.ts";
import { nameKeys, sameFamilyReason } from "../../../core/family/spelling.ts";
import { examineFamily } from "../../../core/health/family.ts";
import { Fault, notFound } from "../../fault.ts";
import type { Parts } from "../../parts.ts";
import type { StyleRow } from "../../store/families/families.ts";
import type { Condition } from "../../store/families/search.ts";
import { covering, type FamilyFilter } from "../../store/families/shelf-list.ts";
import type { FamilyView } from "../../store/views/families.ts";
import type { Renewal } from "../../views/renewal.ts";
import type { HistoryService } from "../history/history.ts";
import type { JobService } from "../jobs/jobs.ts";
import { languageNamed, lettersOf } from "../jobs/languages.ts";
import { sightingView, type SightingService } from "../sightings/sightings.ts";

type Uses = Pick<
  Parts,
  | "db"
  | "library"
  | "parcels"
  | "familyViews"
  | "shelf"
  | "search"
  | "tags"
  | "devices"
  | "sightings"
  | "readings"
  | "history"
  | "events"
  | "now"
  | "observed"
  | "programs"
  | "externalChanges"
  | "cellViews"
  | "parcelViews"
  | "stale"
>;

/** Families of one station that Today names. */
const NAMED_TODAY = 6;
/** Names looked at closely, to see whether they mean the same family. */
const MOST_ALIKE = 500;

/** A word that names a language means families that have its letters, too. */
function settingLanguage(word: string): Condition | undefined {
  const tag = languageNamed(word);
  const letters = tag === undefined ? [] : neededLetters(lettersOf(tag));
  return letters.length > 0 ? covering(letters) : undefined;
}

const codePoints = (text: string): number[] => charactersOf(text).map((character) => character.codePointAt(0)!);

export class FamilyService {
  private readonly uses: Uses;
  private readonly renewal: Renewal;
  private readonly sightings: SightingService;
  private readonly jobs: Pick<JobService, "usesOf" | "named">;
  private readonly history: Pick<HistoryService, "ofFamily">;
  constructor(
    uses: Uses,
    renewal: Renewal,
    sightings: SightingService,
    jobs: Pick<JobService, "usesOf" | "named">,
    history: Pick<HistoryService, "ofFamily">,
  ) {
    this.history = history;
    this.uses = uses;
    this.renewal = renewal;
    this.sightings = sightings;
    this.jobs = jobs;
  }

  /** A part of the list; `order` is the order asked for where it is worked out elsewhere. */
  list(query: FamilyQuery, order?: readonly number[]): FamilyPage {
    const { familyViews, shelf } = this.uses;
    const { from = 0, limit = 60 } = query;
    const needed = codePoints(query.text ?? "");
    const { filter, total, near } = this.fitting(query);
    const families = shelf.ids({ ...filter, order }, from, limit).map((id) => this.summary(familyViews.family(id)!, needed));
    return { total, all: familyViews.familyCount(), from, near, families };
  }
  /** IDs of all families that fit, in order. */
  ids(query: FamilyQuery, order?: readonly number[]): number[] {
    return this.uses.shelf.ids({ ...this.fitting(query).filter, order }, 0, MOST_CHOSEN);
  }
  /** What fits; where nothing has the words that were typed, what comes near them. */
  private fitting(query: FamilyQuery): { filter: FamilyFilter; total: number; near: boolean } {
    const filter = this.filter(query);
    const total = this.uses.shelf.count(filter);
    if (total > 0 || !filter.found) return { filter, total, near: false };
    const ids = this.uses.search.near(filter.search);
    const instead = { ...filter, found: { sql: "family_id IN (SELECT value FROM json_each(?))", values: [JSON.stringify(ids)] } };
    const some = ids.length === 0 ? 0 : this.uses.shelf.count(instead);
    return some > 0 ? { filter: instead, total: some, near: true } : { filter, total, near: false };
  }
  /** How many families each filter would leave, the others standing as they are. */
  counts(query: FamilyQuery): FamilyCounts {
    const { shelf } = this.uses;
    const { filter, total } = this.fitting(query);
    const jobUses = query.job === undefined ? [] : this.jobs.usesOf(query.job);
    return {
      total,
      at: shelf.byStation({ ...filter, at: undefined }),
      pinned: shelf.count({ ...filter, pinned: true }),
      covers: shelf.count({ ...filter, codePoints: codePoints(query.text ?? "") }),
      scripts: shelf.byScript({ ...filter, script: undefined }),
      kinds: shelf.byKind({ ...filter, kind: undefined }),
      uses: shelf.byUse({ ...filter, uses: jobUses }),
      jobs: this.jobs.named().map(({ id, name, uses }) => ({ id, name, families: shelf.count({ ...filter, uses }) })),
      tags: shelf.byTag({ ...filter, tag: undefined }),
    };
  }
  /** What a list asks the views for. */
  filter(query: FamilyQuery): FamilyFilter {
    const { search = "", at, script, kind, tag, sort } = query;
    const uses = [...(query.job === undefined ? [] : this.jobs.usesOf(query.job)), ...(query.use ? [query.use] : [])] as Use[];
    const needed = query.covers ? codePoints(query.text ?? "") : [];
    const manner = query.manner === undefined ? [] : mannerBounds(query.manner);
    const found = this.uses.search.condition(search, settingLanguage);
    return { search, found, at, script, kind, tag, sort, uses, manner, pinned: query.pinned === "yes", codePoints: needed };
  }

  private summary(row: FamilyView, needed: readonly number[]): FamilySummary {
    const { familyId: id, name, pinned, styles, specimen, trail, stuckAt: at } = row;
    return { id, name, pinned, styles, specimen, trail, at, coversText: this.uses.familyViews.missing(id, needed).length === 0 };
  }

  detail(id: number, text: string): Omit<FamilyDetail, "waiting" | "missing"> {
    const { library, parcels, sightings } = this.uses;
    const row = this.renewal.family(id);
    if (!row) throw this.gone(id);
    const styles = library.stylesOf(id).sort((a, b) => compareStyles(a.record, b.record));
    const kin = styles.map(kinOf);
    const counted = new Map(this.uses.cellViews.familyCells(id).map((cell) => [cell.programId, cell]));
    return {
      ...this.summary(row, codePoints(text)),
      beingRead: row.beingRead,
      tags: this.uses.tags.of(id),
      styleList: styles.map(styleDetail),
      remarks: examineFamily(kin),
      notes: familyNotes(kin, new Company(library.stylesBeside(id).map(kinOf))),
      spellings: library.spellings(id),
      alike: this.alike(id, row.name),
      placements: this.placements(styles),
      predictions: this.sightings.forFamily(id, row.mainStyle).map((one) => {
        const { seen = 0, listed = 0 } = counted.get(one.programId) ?? {};
        return { ...one, seen, listed };
      }),
      sightings: sightings.ofStyles(styles.map((style) => style.id)).map((one) => sightingView(this.uses, one)),
      papers: parcels.papersOf(id),
      history: this.history.ofFamily(id),
    };
  }

  /** Why there is no such family: one that was removed can be brought back. */
  private gone(id: number): Fault {
    if (!this.uses.library.isRemoved(id)) return notFound("family");
    const { name } = this.uses.library.family(id)!;
    return new Fault(404, {
      code: "family-removed",
      message: `“${name}” was removed from the library.`,
      next: "Bring it back on Today, under “Can be taken back”.",
    });
  }

  /** Families whose names seem to mean this one too. */
  private alike(id: number, name: string): FamilyDetail["alike"] {
    return this.uses.familyViews.namedLike(nameKeys(name), MOST_ALIKE).flatMap((other) => {
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
    const copies = [...new Set(styles.map((style) => style.sha256))].flatMap((hash) => this.uses.observed.copiesOf(hash));
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
  today(): Omit<Today, "backup" | "missing"> {
    const { familyViews, readings, library } = this.uses;
    const groups = (["sound", "cleared", "placed"] as const).flatMap((station) => {
      const { total, rows } = familyViews.stuck(station, NAMED_TODAY);
      if (total === 0) return [];
      const words = (row: (typeof rows)[number]) => row.trail.find((one) => one.key === station)?.words ?? "";
      return [{ station, total, families: rows.map((row) => ({ id: row.familyId, name: row.name, words: words(row) })) }];
    });
    const { unread, anew } = readings.waiting();
    const renewing = { unread, anew, fonts: library.outdatedCount(), rows: this.uses.stale.staleCount() };
    return {
      parcels: this.uses.parcelViews.parcels(undefined, 0, 0).total,
      families: familyViews.familyCount(),
      placed: this.uses.observed.placedEverywhere(),
      groups,
      tasks: this.tasks(),
      terms: this.terms(),
      renewing,
    };
  }

  /** What is to be done in programs: trouble first, then what has to be done before one can look. */
  private tasks(): TodayTask[] {
    const programs = new Map(this.uses.programs.all().map((program) => [program.id, program]));
    const order: readonly string[] = ["swapped", "reopen", "due"];
    return this.uses.cellViews
      .tasks()
      .flatMap(({ programId, state, families }): TodayTask[] => {
        const program = programs.get(programId);
        if (!program) return [];
        return [{ programId, programName: program.name, deviceName: program.deviceName, state: state as TodayTask["state"], families }];
      })
      .sort((a, b) => order.indexOf(a.state) - order.indexOf(b.state) || b.families - a.families);
  }

  /** Licences in their last two weeks, and those that have ended while the family is still on somewhere. */
  private terms(): TodayTerm[] {
    const { familyViews, devices } = this.uses;
    const all = devices.devices();
    return familyViews.ending().flatMap((row): TodayTerm[] => {
      const over = row.ending === 1;
      const on = new Set(this.uses.observed.devicesOf(row.familyId, true));
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
