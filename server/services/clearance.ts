// Clearance of families: read from fonts and papers, corrected by a person, opened by licences, ended by their terms.
import { createRequire } from "node:module";
import type { ClearanceView, FamilyClearance, LicenceRequest, LicenceView, TermView, UseClearance } from "../../contract/clearance.ts";
import { weigh, type Clearance } from "../../core/clearance/clearance.ts";
import { textsToKnow } from "../../core/clearance/licences.ts";
import { papersFor } from "../../core/clearance/papers.ts";
import { readFont, readPaper, type Reading } from "../../core/clearance/read.ts";
import { LicenceRecogniser } from "../../core/clearance/spdx.ts";
import { dayAt, termState, type Day, type TermState } from "../../core/clearance/terms.ts";
import { USE_WORDS, USES, type Answer, type Statement, type Use } from "../../core/clearance/uses.ts";
import { creditLine, reasonWords, summaryWords, termWords, whereWords } from "../../core/clearance/words.ts";
import type { StatedLicence } from "../../core/inspect.ts";
import type { Context } from "../context.ts";
import { notFound } from "../fault.ts";
import type { LicenceRow } from "../store/clearance.ts";
import type { Shelf } from "./shelf.ts";

/** What was read for one family, or for one drawer of a parcel. */
export interface ReadClearance {
  statements: Statement[];
  terms: Reading["terms"];
  /** Papers that have no text, with the reason. */
  unread: string[];
  copyright: string;
}
interface PaperRef {
  path: string;
  sha256: string;
}

let recogniser: LicenceRecogniser | undefined;
/** Made when first wanted: it takes a third of a second. */
function knownLicences(): LicenceRecogniser {
  recogniser ??= new LicenceRecogniser(
    textsToKnow(createRequire(import.meta.url)("spdx-license-list/full") as Parameters<typeof textsToKnow>[0]),
  );
  return recogniser;
}

const MINUTE_MS = 60_000;
const MOST_READINGS = 20_000;

export class ClearanceService {
  private readonly context: Context;
  private readonly shelf: Shelf;
  /** Readings by text: families share licences. */
  private readonly readings = new Map<string, Reading>();
  private kept: { stamp: string; read: Map<number, ReadClearance> } | undefined;
  private weighed: { stamp: string; all: Map<number, Clearance> } | undefined;

  constructor(context: Context, shelf: Shelf) {
    this.context = context;
    this.shelf = shelf;
  }

  /** The calendar day it is where this runs. */
  today(): Day {
    const now = this.context.config.now();
    const minute = Math.floor(now.getTime() / MINUTE_MS);
    if (this.dayKnown?.minute !== minute) this.dayKnown = { minute, day: dayAt(now, Intl.DateTimeFormat().resolvedOptions().timeZone) };
    return this.dayKnown.day;
  }
  /** Asked for thousands of times in a row; days begin with minutes. */
  private dayKnown: { minute: number; day: Day } | undefined;
  /** Changes with everything clearance depends on. */
  stamp(): string {
    const { library, parcels, clearance } = this.context;
    return [library.version, parcels.version, clearance.version, this.today()].join();
  }

  private reading(key: string, read: () => Reading): Reading {
    let reading = this.readings.get(key);
    if (!reading) {
      if (this.readings.size >= MOST_READINGS) this.readings.clear();
      this.readings.set(key, (reading = read()));
    }
    return reading;
  }

  /** Reads fonts and their papers. `names` are the families' names, which papers may call the fonts by. */
  read(stated: readonly StatedLicence[], papers: readonly PaperRef[], names: readonly string[]): ReadClearance {
    const words = names.flatMap((name) => name.split(/[\s-]+/)).filter((word) => word.length > 2);
    // Families share their licences' texts; a name matters only to a text that speaks it.
    const spoken = (text: string): string[] => {
      const lower = text.toLowerCase();
      return words.filter((word) => lower.includes(word.toLowerCase()));
    };
    const readings: Reading[] = [];
    const unread: string[] = [];
    for (const one of stated) {
      const text = `${one.licence}\n${one.licenceUrl}\n${one.copyright}`;
      const known = spoken(text);
      const key = `font ${one.fsType} ${one.os2Version} ${text}\n${known.join(" ")}`;
      readings.push(this.reading(key, () => readFont(one, knownLicences(), known)));
    }
    for (const { path, sha256 } of papers) {
      const paper = this.context.parcels.paperText(sha256);
      if (!paper) continue;
      if (paper.problem) unread.push(`${path}: ${paper.problem.message} ${paper.problem.next}`);
      else if (paper.cut) unread.push(`${path} is very long; only its beginning was read.`);
      const { text } = paper;
      if (text !== "") {
        const known = spoken(text);
        readings.push(
          this.reading(`paper ${path} ${sha256} ${known.join(" ")}`, () => readPaper({ path, sha256, text }, knownLicences(), known)),
        );
      }
    }
    const statements = readings.flatMap((one) => one.statements);
    return {
      // The same field in every style says the same thing once.
      statements: statements.filter((one, i) => statements.findIndex((other) => sameStatement(one, other)) === i),
      terms: readings
        .flatMap((one) => one.terms)
        .filter((one, i, all) => all.findIndex((other) => JSON.stringify(other.term) === JSON.stringify(one.term)) === i),
      unread,
      copyright: stated[0]?.copyright ?? "",
    };
  }

  private allRead(): Map<number, ReadClearance> {
    const { library, parcels } = this.context;
    const stamp = [library.version, parcels.version].join();
    if (this.kept?.stamp !== stamp) {
      const papers = parcels.allPapers();
      const places = parcels.fontPaths();
      const read = new Map<number, ReadClearance>();
      for (const family of this.shelf.families()) {
        const near = (places.get(family.id) ?? []).flatMap(({ parcelId, paths }) => papersFor(paths, papers.get(parcelId) ?? []));
        read.set(family.id, this.read(family.stated, near, [family.name]));
      }
      this.kept = { stamp, read };
    }
    return this.kept.read;
  }

  /** Why a family should not be placed without a thought: its licence has ended, or not even one's own use is allowed. */
  hold(familyId: number): { why: "lapsed" | "uncleared"; sentence: string } | undefined {
    const clearance = this.of(familyId);
    if (clearance.lapsed) return { why: "lapsed", sentence: "Its licence has ended. Renew it before you use it." };
    const own = clearance.uses.find((one) => one.use === "own");
    if (own?.answer !== "no") return undefined;
    return { why: "uncleared", sentence: `It is not cleared even for your own use. ${reasonWords(own, false)}` };
  }

  /** The clearance of every family. */
  all(): Map<number, Clearance> {
    const stamp = this.stamp();
    if (this.weighed?.stamp !== stamp) {
      const { clearance } = this.context;
      const [corrections, licences] = [clearance.corrections(), clearance.licences()];
      const today = this.today();
      const all = new Map<number, Clearance>();
      for (const [id, { statements }] of this.allRead()) {
        const recorded = (licences.get(id) ?? []).map((row) => ({ ...row, placedOn: row.placedOn ?? undefined }));
        all.set(id, weigh({ statements, corrections: corrections.get(id) ?? [], licences: recorded, today }));
      }
      this.weighed = { stamp, all };
    }
    return this.weighed.all;
  }
  of(familyId: number): Clearance {
    const clearance = this.all().get(familyId);
    if (!clearance) throw notFound("family");
    return clearance;
  }

  /** Clearance as read, before anything is shelved. */
  view(read: ReadClearance): ClearanceView {
    return clearanceView(weigh({ statements: read.statements, corrections: [], licences: [], today: this.today() }));
  }

  family(id: number): FamilyClearance {
    const clearance = this.of(id);
    const family = this.shelf.family(id)!;
    const read = this.allRead().get(id)!;
    const rows = this.context.clearance.licences().get(id) ?? [];
    return {
      ...clearanceView(clearance),
      familyId: id,
      familyName: family.name,
      licences: rows.map((row) => this.licenceView(row)),
      suggestedTerms: rows.some((row) => row.term !== null)
        ? []
        : read.terms.map(({ term, sentence, source }) => ({ term, sentence, where: whereWords(source) })),
      creditLine: clearance.uses.some((one) => one.answer === "credit") ? this.creditLine(id) : "",
      unread: read.unread,
    };
  }
  creditLine(id: number): string {
    const read = this.allRead().get(id)!;
    return creditLine(this.shelf.family(id)!.name, read.statements, read.copyright);
  }
  private licenceView({ familyId: _, receiptSha256: __, placedOn, ...row }: LicenceRow): LicenceView {
    const state = row.term && termState(row.term, placedOn ?? undefined, this.today());
    return { ...row, termView: state && termView(state) };
  }

  correct(familyId: number, use: Use, answer: Answer | null, note: string): void {
    const { clearance, library, history, db, events } = this.context;
    if (!library.family(familyId)) throw notFound("family");
    db.transaction(() => {
      const at = this.context.now();
      clearance.correct(familyId, use, answer, note, at);
      const words = answer === null ? "left to its papers again" : `set to “${answer.replace("-", " ")}”`;
      history.add(at, "clearance", `${USE_WORDS[use]} was ${words} by hand${note ? `: ${note}` : ""}.`, [familyId]);
    })();
    events.changed("clearance");
  }

  addLicence(familyId: number, request: LicenceRequest): FamilyClearance {
    const { clearance, library, history, db, events } = this.context;
    if (!library.family(familyId)) throw notFound("family");
    // A style that is placed already has been used since; its days count from today, when the term is recorded.
    const placed = this.isPlaced(familyId) ? this.today() : null;
    db.transaction(() => {
      const at = this.context.now();
      clearance.addLicence(familyId, request, request.term ? placed : null, at);
      history.add(at, "licence", `A ${request.kind} licence was recorded.`, [familyId]);
    })();
    events.changed("clearance");
    return this.family(familyId);
  }
  private isPlaced(familyId: number): boolean {
    const sums = new Set(this.shelf.family(familyId)?.styles.map((style) => style.sha256));
    return this.context.devices.observed().some((row) => row.folder !== "built-in" && sums.has(row.sha256));
  }
  /** Terms in days begin with the first placing. */
  placed(familyIds: readonly number[]): void {
    this.context.clearance.beginTerms(familyIds, this.today());
    this.context.events.changed("clearance");
  }

  licence(id: number): LicenceRow {
    const row = this.context.clearance.licence(id);
    if (!row) throw notFound("licence");
    return row;
  }
  removeLicence(id: number, removed: boolean): void {
    const { familyId, kind } = this.licence(id);
    this.context.db.transaction(() => {
      const at = this.context.now();
      this.context.clearance.removeLicence(id, removed ? at : null);
      this.context.history.add(at, "licence", `The ${kind} licence was ${removed ? "taken off the record" : "put back on record"}.`, [
        familyId,
      ]);
    })();
    this.context.events.changed("clearance");
  }
  setReceipt(id: number, sha256: string, name: string): void {
    this.licence(id);
    this.context.clearance.setReceipt(id, sha256, name);
    this.context.events.changed("clearance");
  }
}

const sameStatement = (a: Statement, b: Statement): boolean =>
  a.sentence === b.sentence && whereWords(a.source) === whereWords(b.source) && USES.every((use) => a.answers[use] === b.answers[use]);

export const termView = (state: TermState): TermView => ({
  state: state.state,
  words: termWords(state),
  last: state.state === "not-begun" ? null : state.last,
});

export function clearanceView(clearance: Clearance): ClearanceView {
  const uses = clearance.uses.map((one): UseClearance => ({
    use: one.use,
    answer: one.answer,
    by: one.by,
    reason: reasonWords(one, clearance.lapsed),
    conflict: one.conflict,
    note: one.correction?.note ?? "",
    evidence: one.evidence.map(({ answers, sentence, source, licence }) => ({
      answer: answers[one.use]!,
      sentence,
      where: whereWords(source),
      paperSha256: source.kind === "paper" ? source.sha256 : null,
      line: source.kind === "paper" ? source.line : null,
      licence: licence ?? null,
    })),
  }));
  return { uses, term: clearance.term ? termView(clearance.term) : null, lapsed: clearance.lapsed, summary: summaryWords(clearance) };
}
