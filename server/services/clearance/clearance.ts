// Clearance of families: shown with its evidence, corrected by a person, opened by licences, ended by their terms.
import type {
  ClearanceView,
  EvidenceOfUse,
  FamilyClearance,
  LeaveOutRequest,
  LicenceRequest,
  LicenceView,
  TermView,
  UseClearance,
} from "../../../contract/clearance.ts";
import { weigh, type Clearance } from "../../../core/clearance/clearance.ts";
import { termState, type Day, type TermState } from "../../../core/clearance/terms.ts";
import { ANSWER_WORDS, USE_WORDS, type Answer, type Statement, type Use } from "../../../core/clearance/uses.ts";
import { languageWords } from "../../../core/clearance/foreign.ts";
import { PAPER_KIND_WORDS } from "../../../core/clearance/paper-kinds.ts";
import { ASIDE_WORDS } from "../../../core/clearance/speech.ts";
import { creditLine, headlineWords, reasonWords, summaryWords, termWords, whereWords } from "../../../core/clearance/words.ts";
import { notFound } from "../../fault.ts";
import type { Parts } from "../../parts.ts";
import type { LicenceRow } from "../../store/clearance/clearance.ts";
import type { Clearing, ReadClearance } from "../../views/clearance.ts";

type Uses = Pick<Parts, "db" | "library" | "clearance" | "devices" | "history" | "events" | "now" | "observed">;

export class ClearanceService {
  private readonly uses: Uses;
  private readonly clearing: Clearing;

  constructor(uses: Uses, clearing: Clearing) {
    this.uses = uses;
    this.clearing = clearing;
  }

  /** The calendar day it is where this runs. */
  today(): Day {
    return this.clearing.today();
  }

  private known(familyId: number): { name: string; read: ReadClearance; clearance: Clearance } {
    const known = this.clearing.of(familyId);
    if (!known) throw notFound("family");
    return known;
  }

  /** Clearance as read, before anything is shelved. */
  view({ statements, beingRead }: Pick<ReadClearance, "statements" | "beingRead">): ClearanceView {
    return clearanceView(weigh({ statements, corrections: [], licences: [], today: this.today(), beingRead }));
  }

  family(id: number): FamilyClearance {
    const { name, read, clearance } = this.known(id);
    const rows = this.uses.clearance.licences(id);
    const credit = clearance.uses.some((one) => one.answer === "credit");
    return {
      ...clearanceView(clearance),
      familyId: id,
      familyName: name,
      licences: rows.map((row) => this.licenceView(row)),
      suggestedTerms: rows.some((row) => row.term !== null)
        ? []
        : read.terms.map(({ term, sentence, source }) => ({ term, sentence, where: whereWords(source) })),
      creditLine: credit ? creditLine(name, read.statements, read.copyright) : "",
      unread: read.unread,
      papers: read.papers.map(({ kind, languages, ...paper }) => ({
        ...paper,
        kind: PAPER_KIND_WORDS[kind],
        languages: languages.map(languageWords),
      })),
    };
  }
  private licenceView({ familyId: _, receiptSha256: __, placedOn, ...row }: LicenceRow): LicenceView {
    const state = row.term && termState(row.term, placedOn ?? undefined, this.today());
    return { ...row, termView: state && termView(state) };
  }

  correct(familyId: number, use: Use, answer: Answer | null, note: string): void {
    const { clearance, library, history, db, events } = this.uses;
    if (!library.family(familyId)) throw notFound("family");
    db.transaction(() => {
      const at = this.uses.now();
      clearance.correct(familyId, use, answer, note, at);
      const words = answer === null ? "left to its papers again" : `set to “${ANSWER_WORDS[answer]}”`;
      history.add(at, "clearance", `“${USE_WORDS[use]}” was ${words} by hand${note ? `: ${note}` : ""}.`, [familyId]);
    })();
    events.changed("clearance");
  }

  /** Leaves a sentence out wherever it occurs in one text, for every family that text speaks of, or lets it count again. */
  leaveOut({ text, sentence, out }: LeaveOutRequest): void {
    const { clearance, history, db, events } = this.uses;
    const families = clearance.familiesOf(text);
    if (families.length === 0) throw notFound("paper");
    db.transaction(() => {
      const at = this.uses.now();
      clearance.leaveOut(text, sentence, out, at);
      const words = `“${sentence.length > MOST_QUOTED ? `${sentence.slice(0, MOST_QUOTED)}…` : sentence}” ${out ? "was left out of clearance" : "counts again"}.`;
      history.add(at, "clearance", words, families, ...(out ? [{ kind: "left-out" as const, text, sentence }] : []));
    })();
    events.changed("clearance");
  }

  addLicence(familyId: number, request: LicenceRequest): FamilyClearance {
    const { clearance, library, history, db, events, observed } = this.uses;
    if (!library.family(familyId)) throw notFound("family");
    // A style that is placed already has been used since; its days count from today, when the term is recorded.
    const placed = observed.devicesOf(familyId).length > 0 ? this.today() : null;
    db.transaction(() => {
      const at = this.uses.now();
      const id = clearance.addLicence(familyId, request, request.term ? placed : null, at);
      history.add(at, "licence", `A ${request.kind} licence was recorded.`, [familyId], { kind: "licence", id });
    })();
    events.changed("clearance");
    return this.family(familyId);
  }
  /** Terms in days begin with the first placing. */
  placed(familyIds: readonly number[]): void {
    if (familyIds.length === 0) return;
    this.uses.clearance.beginTerms(familyIds, this.today());
    this.uses.events.changed("clearance");
  }

  licence(id: number): LicenceRow {
    const row = this.uses.clearance.licence(id);
    if (!row) throw notFound("licence");
    return row;
  }
  removeLicence(id: number, removed: boolean): void {
    const { familyId, kind } = this.licence(id);
    this.uses.db.transaction(() => {
      const at = this.uses.now();
      this.uses.clearance.removeLicence(id, removed ? at : null);
      this.uses.history.add(
        at,
        "licence",
        `The ${kind} licence was ${removed ? "taken off the record" : "put back on record"}.`,
        [familyId],
        ...(removed ? [{ kind: "licence-removed" as const, id }] : []),
      );
    })();
    this.uses.events.changed("clearance");
  }
  setReceipt(id: number, sha256: string, name: string): void {
    this.licence(id);
    this.uses.clearance.setReceipt(id, sha256, name);
    this.uses.events.changed("clearance");
  }
}

export const termView = (state: TermState): TermView => ({
  state: state.state,
  words: termWords(state),
  last: state.state === "not-begun" ? null : state.last,
});

/** Of a sentence, in the history. */
const MOST_QUOTED = 120;

function evidenceView({ answers, sentence, source, licence, around, again, aside }: Statement, use: Use): EvidenceOfUse {
  return {
    answer: answers[use]!,
    sentence,
    before: around?.before ?? "",
    after: around?.after ?? "",
    where: whereWords(source),
    again: again ?? 0,
    text: source.kind === "paper" ? source.sha256 : (source.key ?? ""),
    paperSha256: source.kind === "paper" ? source.sha256 : null,
    line: source.kind === "paper" ? source.line : null,
    licence: licence ?? null,
    aside: aside ? ASIDE_WORDS[aside] : "",
    leftOut: aside === "person",
  };
}

/** Statements shown for one use; those that decide come first. */
const MOST_SHOWN = 10;

function clearanceView(clearance: Clearance): ClearanceView {
  const uses = clearance.uses.map((one): UseClearance => ({
    use: one.use,
    answer: one.answer,
    by: one.by,
    reason: reasonWords(one),
    conflict: one.conflict,
    reading: one.reading,
    note: one.correction?.note ?? "",
    more: Math.max(0, one.evidence.length - MOST_SHOWN),
    evidence: one.evidence.slice(0, MOST_SHOWN).map((statement) => evidenceView(statement, one.use)),
    also: one.also.slice(0, MOST_SHOWN).map((statement) => evidenceView(statement, one.use)),
  }));
  const term = clearance.term ? termView(clearance.term) : null;
  return {
    headline: headlineWords(clearance),
    uses,
    term,
    lapsed: clearance.lapsed,
    beingRead: clearance.beingRead,
    summary: summaryWords(clearance),
  };
}
