// A family's clearance, put together from what its fonts and papers were read to say, corrections, licences and the day.
import { weigh, type Clearance } from "../../core/clearance/clearance.ts";
import { papersFor } from "../../core/clearance/papers.ts";
import { gather, type Reading, type ReadText } from "../../core/clearance/read.ts";
import { dayAt, termState, type Day } from "../../core/clearance/terms.ts";
import { count } from "../../core/words/words.ts";
import { creditLine, reasonWords, summaryWords } from "../../core/clearance/words.ts";
import type { Parts } from "../parts.ts";
import type { ClearanceBrief } from "../store/views.ts";

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

/** Papers that are read for one family; those nearest to its fonts come first. */
const MOST_PAPERS = 100;
const MINUTE_MS = 60_000;

export class Clearing {
  private readonly uses: Pick<Parts, "config" | "library" | "parcels" | "clearance" | "readings">;
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

  /** What fonts and papers were read to say. `stated` are keys of readings; `names` the families' names, which papers may call the fonts by. */
  read(stated: readonly string[], papers: readonly PaperRef[], names: readonly string[], copyright = ""): ReadClearance {
    const { readings } = this.uses;
    const texts: ReadText[] = [];
    const unread: string[] = [];
    const waiting = new Set<string>();
    for (const key of new Set(stated)) {
      const facts = readings.facts(key);
      if (facts) texts.push({ facts });
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
    return { ...gather(texts, names), unread, beingRead: waiting.size, copyright };
  }

  /** What was read for a family on the shelf. */
  ofFamily(id: number, name: string): ReadClearance {
    const { readings, parcels } = this.uses;
    const stated = readings.statedBy(id);
    const near = parcels.fontPaths(id).flatMap(({ parcelId, paths }) => papersFor(paths, parcels.papers(parcelId)));
    return this.read(
      stated.map((one) => one.key),
      near,
      [name],
      stated[0]?.stated?.copyright ?? "",
    );
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
  /** Every licence under which a family could be used has ended. Depends on its licences and the day alone. */
  lapsed(id: number): boolean {
    const licences = this.uses.clearance.licences(id);
    const today = this.today();
    return (
      licences.length > 0 &&
      licences.every((one) => one.term !== null && termState(one.term, one.placedOn ?? undefined, today).state === "over")
    );
  }
}

/** What lists and warnings keep of a clearance. */
export const clearanceBrief = (name: string, read: ReadClearance, clearance: Clearance): ClearanceBrief => ({
  lapsed: clearance.lapsed,
  term: clearance.term,
  beingRead: clearance.beingRead,
  uses: clearance.uses.map((one) => ({ use: one.use, answer: one.answer, reason: reasonWords(one, clearance.lapsed) })),
  summary: summaryWords(clearance),
  creditLine: creditLine(name, read.statements, read.copyright),
});
