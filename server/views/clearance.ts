// A family's clearance, put together from what its fonts and papers were read to say, corrections, licences and the day.
import { weigh, type Clearance } from "../../core/clearance/clearance.ts";
import { papersFor } from "../../core/clearance/papers.ts";
import { gather, searchedName, type Fonts, type Reading, type ReadText } from "../../core/clearance/gather.ts";
import { MOST_PAPERS } from "../../core/clearance/clear.ts";
import { dayAt, termState, type Day } from "../../core/clearance/terms.ts";
import { count } from "../../core/words/words.ts";
import { creditLine, reasonWords, summaryWords } from "../../core/clearance/words.ts";
import type { Parts } from "../parts.ts";
import type { ClearanceBrief } from "../store/views/families.ts";

/** What was read for one family, or for one drawer of a parcel. */
export interface ReadClearance extends Reading {
  /** Papers that have no text, with the reason. */
  unread: string[];
  /** So many texts are still being read. */
  beingRead: number;
  copyright: string;
}
interface PaperRef {
  path: string;
  sha256: string;
}

const MINUTE_MS = 60_000;
/** Parcels whose families' names are kept at once. */
const MOST_PARCELS = 200;

export class Clearing {
  private readonly uses: Pick<Parts, "config" | "library" | "parcels" | "clearance" | "readings">;
  private readonly families = new Map<number, { seen: number; names: ReadonlySet<string> }>();
  /** Days begin with minutes. */
  private dayKnown: { minute: number; day: Day } | undefined;
  constructor(uses: Pick<Parts, "config" | "library" | "parcels" | "clearance" | "readings">) {
    this.uses = uses;
  }

  /** The calendar day it is where this runs. */
  today(): Day {
    const now = this.uses.config.now();
    const minute = Math.floor(now.getTime() / MINUTE_MS);
    if (this.dayKnown?.minute !== minute) this.dayKnown = { minute, day: dayAt(now, Intl.DateTimeFormat().resolvedOptions().timeZone) };
    return this.dayKnown.day;
  }

  /** What fonts and papers were read to say. `stated` are keys of readings. */
  read(stated: readonly string[], papers: readonly PaperRef[], fonts: Omit<Fonts, "leftOut">, copyright = ""): ReadClearance {
    const { readings } = this.uses;
    const texts: ReadText[] = [];
    const unread: string[] = [];
    const waiting = new Set<string>();
    for (const key of new Set(stated)) {
      const facts = readings.facts(key);
      if (facts) texts.push({ facts, key });
      else waiting.add(key);
    }
    const more = papers.length - MOST_PAPERS;
    if (more > 0) unread.push(`${count(more, "paper")} more than are read for one family ${more === 1 ? "lies" : "lie"} with it.`);
    for (const { path, sha256 } of papers.slice(0, MOST_PAPERS)) {
      const facts = readings.facts(sha256);
      if (!facts) {
        waiting.add(sha256);
        continue;
      }
      texts.push({ facts, paper: { path, sha256 } });
      const note = readings.paperNote(sha256);
      if (note?.problem) unread.push(`${path}: ${note.problem.message} ${note.problem.next}`);
      else if (note?.cut) unread.push(`${path} is very long; only parts of it were read.`);
    }
    const leftOut = this.uses.clearance.leftOut([...stated, ...papers.slice(0, MOST_PAPERS).map(({ sha256 }) => sha256)]);
    const gathered = gather(texts, { ...fonts, leftOut });
    for (const { path, unread: why } of gathered.papers) if (why) unread.push(`${path}: ${why}`);
    return { ...gathered, unread, beingRead: waiting.size, copyright };
  }

  /** What was read for a family on the shelf. */
  ofFamily(id: number, name: string): ReadClearance {
    const { readings, parcels } = this.uses;
    const stated = readings.statedBy(id);
    const places = parcels.fontPaths(id);
    const near = places.flatMap(({ parcelId, paths }) => papersFor(paths, parcels.papers(parcelId)));
    const beside = () =>
      places.length === 1
        ? this.familiesOf(places[0]!.parcelId)
        : new Set(places.flatMap(({ parcelId }) => [...this.familiesOf(parcelId)]));
    return this.read(
      stated.map((one) => one.key),
      near,
      { names: [name], beside, paths: places.flatMap(({ paths }) => paths) },
      stated[0]?.stated?.copyright ?? "",
    );
  }

  /** The families that lie in a parcel, as papers may name them; looked up anew when the parcel has got more. */
  private familiesOf(parcelId: number): ReadonlySet<string> {
    const known = this.families.get(parcelId);
    const seen = this.uses.parcels.newest(parcelId);
    if (known?.seen === seen) return known.names;
    const names = new Set(this.uses.parcels.familyNames(parcelId).map(searchedName));
    if (this.families.size >= MOST_PARCELS) this.families.clear();
    this.families.set(parcelId, { seen, names });
    return names;
  }

  weigh(id: number, { statements, beingRead }: ReadClearance): Clearance {
    const { clearance } = this.uses;
    const licences = clearance.licences(id).map((row) => ({ ...row, placedOn: row.placedOn ?? undefined }));
    return weigh({ statements, corrections: clearance.corrections(id), licences, today: this.today(), beingRead });
  }
  /** A family's clearance and what it was put together from; undefined when there is no such family. */
  of(id: number): { name: string; read: ReadClearance; clearance: Clearance } | undefined {
    const family = this.uses.library.family(id);
    if (!family) return undefined;
    const read = this.ofFamily(id, family.name);
    return { name: family.name, read, clearance: this.weigh(id, read) };
  }
  /** Every licence recorded for a family has ended, and nothing else allows any use. Papers are weighed only where licences have ended. */
  lapsed(id: number): boolean {
    const licences = this.uses.clearance.licences(id);
    const today = this.today();
    const over = licences.every((one) => one.term !== null && termState(one.term, one.placedOn ?? undefined, today).state === "over");
    return licences.length > 0 && over && (this.of(id)?.clearance.lapsed ?? false);
  }
}

/** What lists and warnings keep of a clearance. */
export const clearanceBrief = (name: string, read: ReadClearance, clearance: Clearance): ClearanceBrief => ({
  lapsed: clearance.lapsed,
  term: clearance.term,
  beingRead: clearance.beingRead,
  uses: clearance.uses.map((one) => ({ use: one.use, answer: one.answer, reason: reasonWords(one) })),
  summary: summaryWords(clearance),
  creditLine: creditLine(name, read.statements, read.copyright),
});
