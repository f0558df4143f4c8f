// The row of one family: what lists, filters, Today and the board show of it. Only the parts that are stale are worked out.
import { conflictsOf } from "../../core/clearance/job.ts";
import { USES } from "../../core/clearance/uses.ts";
import { SCRIPT_NAMES, SCRIPTS } from "../../core/coverage/script-list.ts";
import { familyKey, representative } from "../../core/family/group.ts";
import { FACE_KINDS, type FaceKind } from "../../core/family/kind-list.ts";
import { nameKeys } from "../../core/family/spelling.ts";
import type { Station } from "../../core/family/stations.ts";
import { clearedStation, inStation, placedStation, seenStation, soundStation, whereStuck } from "../../core/family/trail.ts";
import type { Parts } from "../parts.ts";
import type { StyleBrief } from "../store/families/families.ts";
import type { FamilyWords } from "../store/families/search.ts";
import { bitsOf, blocksOf, type FamilyView } from "../store/views/families.ts";
import { PARTS } from "../store/views/stale.ts";
import { type StaleFamily } from "../store/views/stale.ts";
import type { Cells } from "./sightings.ts";
import { clearanceBrief, type Clearing } from "./clearance.ts";

type Uses = Pick<
  Parts,
  "library" | "familyViews" | "search" | "jobs" | "devices" | "clearance" | "readings" | "observed" | "cellViews" | "stale"
>;

/** What its main style is, and whether any other is variable or coloured. */
const kindsOfFamily = (main: StyleBrief, styles: readonly StyleBrief[]): FaceKind[] => [
  ...new Set([
    ...main.brief.kinds,
    ...styles.flatMap(({ brief }) => brief.kinds.filter((kind) => kind === "variable" || kind === "colour")),
  ]),
];

/** Licences are named where their text begins. */
const STATED_LICENCE = 300;

function* characters(ranges: readonly number[]): Generator<number> {
  for (let i = 0; i < ranges.length; i += 2) for (let code = ranges[i]!; code <= ranges[i + 1]!; code++) yield code;
}

export class FamilyViews {
  private readonly uses: Uses;
  private readonly clearing: Clearing;
  private readonly cells: Cells;
  constructor(uses: Uses, clearing: Clearing, cells: Cells) {
    this.uses = uses;
    this.clearing = clearing;
    this.cells = cells;
  }

  /** What it is found by, as far as its files and names say. */
  private shelfWords(family: { id: number; name: string }, styles: readonly StyleBrief[]): Omit<FamilyWords, "licence"> {
    const { library } = this.uses;
    return {
      name: distinct([family.name, ...library.spellings(family.id).map(({ name }) => name)]),
      styles: distinct(styles.flatMap(({ brief, fileName }) => [brief.style, brief.fullName, brief.postScriptName, fileName])),
      makers: distinct(styles.map(({ brief }) => brief.makers)),
      scripts: distinct(styles.flatMap(({ brief }) => brief.scripts.map((script) => SCRIPT_NAMES[script]))),
      parcels: distinct(library.parcelNames(family.id)),
    };
  }
  /** What its licence is found by: what was made of it, what its fonts state, and what was noted with licences on record. */
  private licenceWords(familyId: number, summary: string): string {
    const stated = this.uses.readings.statedBy(familyId).map((one) => one.stated?.licence.slice(0, STATED_LICENCE) ?? "");
    const noted = this.uses.clearance.licences(familyId).flatMap(({ note, orderNumber }) => [note, orderNumber]);
    return distinct([summary, ...stated, ...noted]);
  }

  /**
   * Renews one family's row, and takes its mark away. Pauses, as a generator, between pieces of work; everything is written at the end, and
   * nothing when the family was marked again meanwhile: then its turn comes once more.
   */
  *renew({ familyId, parts, seq }: StaleFamily): Generator<void> {
    const { library, familyViews } = this.uses;
    const family = library.family(familyId);
    const styles = family ? library.briefsOf(familyId) : [];
    const best = representative(styles.map((style) => ({ ...style.brief, of: style })));
    if (!family || !best) {
      familyViews.removeFamily(familyId);
      this.uses.search.remove(familyId);
      return this.uses.stale.settle("family", familyId, seq);
    }
    yield;
    const main = best.of;
    const before = familyViews.family(familyId);
    const wanted = before && before.name === family.name ? parts : PARTS.all;
    const row = wanted & PARTS.shelf || !before ? shelfPart(family, styles, main, before) : { ...before };
    const redrawn = before?.specimen.sha256 !== main.sha256 || before.specimen.face !== main.face;
    const blocks = redrawn ? blocksOf(characters(library.rangesOf(main.sha256, main.face))) : undefined;
    const trail = new Map<string, Station>((before?.trail ?? []).map((station) => [station.key, station]));
    const words: Partial<FamilyWords> = {};
    if (wanted & PARTS.shelf) {
      Object.assign(words, this.shelfWords(family, styles));
      trail.set("in", inStation(styles.length));
      trail.set("sound", soundStation(styles.map((style) => style.brief.verdict)));
    }
    let lapseChanged = false;
    if (wanted & PARTS.clearance) {
      yield;
      const { read, clearance } = this.clearing.of(familyId)!;
      row.clearance = clearanceBrief(family.name, read, clearance);
      words.licence = this.licenceWords(familyId, row.clearance.summary);
      row.cleared = bitsOf(
        USES,
        clearance.uses.filter((one) => one.answer === "yes" || one.answer === "credit").map((one) => one.use),
      );
      row.ending = clearance.lapsed ? 1 : clearance.term?.state === "ending" ? 2 : 0;
      row.beingRead = clearance.beingRead;
      lapseChanged = (row.ending === 1) !== (before?.ending === 1);
      trail.set("cleared", clearedStation(clearance, conflictsOf(clearance, this.uses.jobs.of(familyId))));
    }
    let found: ReturnType<Cells["ofFamily"]> | undefined;
    if (wanted & PARTS.cells || lapseChanged) {
      yield;
      found = this.cells.ofFamily(styles, main.id);
      trail.set("placed", placedStation(this.uses.observed.devicesOf(familyId).length));
      trail.set("seen", seenStation(found.styles));
    }
    row.trail = (["in", "sound", "cleared", "placed", "seen"] as const).map((key) => trail.get(key)!);
    row.stuckAt = whereStuck(row.trail);
    yield;
    if (this.uses.stale.staleFamily(familyId)?.seq !== seq) return;
    // A pin is written through at once, without a mark.
    familyViews.putFamily({ ...row, pinned: library.family(familyId)!.pinned });
    this.uses.search.put(familyId, words);
    if (blocks) familyViews.putCoverage(familyId, blocks);
    if (found) this.uses.cellViews.putCells(familyId, found.styles, found.family);
    // What devices show of its fonts says that its licence has ended.
    if (lapseChanged) this.uses.stale.markNamesOf(familyId);
    this.uses.stale.settle("family", familyId, seq);
  }
}

const distinct = (texts: Iterable<string>): string => [...new Set(texts)].join(" ");

/** What follows from its styles alone; the rest stays as it was. */
function shelfPart(
  family: { id: number; name: string; pinned: boolean },
  styles: readonly StyleBrief[],
  main: StyleBrief,
  before: FamilyView | undefined,
): FamilyView {
  const { brief, sha256, face } = main;
  return {
    stuckAt: null,
    cleared: 0,
    ending: 0,
    beingRead: 0,
    trail: [],
    clearance: { lapsed: false, term: undefined, beingRead: 0, uses: [], summary: "", creditLine: "" },
    ...before,
    familyId: family.id,
    name: family.name,
    nameKey: familyKey(family.name),
    pinned: family.pinned,
    scripts: bitsOf(SCRIPTS, brief.scripts),
    kinds: bitsOf(FACE_KINDS, kindsOfFamily(main, styles)),
    styles: styles.length,
    mainStyle: main.id,
    specimen: {
      sha256,
      face,
      container: brief.container,
      rightToLeft: brief.rightToLeft,
      sample: brief.sample,
      signsOnly: brief.signsOnly,
    },
    ...nameKeys(family.name),
  };
}
