// The bench: kept sheets, undone step by step; what is known of the styles on them; what was decided.
import type {
  BenchStyle,
  ProofRequest,
  SheetBody,
  SheetDetail,
  SheetSummary,
  StyleFacts,
  StyleHead,
  StylePage,
} from "../../../contract/bench.ts";
import type { FamilyQuery } from "../../../contract/families.ts";
import { clearedFor, clearedWords, jobWarnings } from "../../../core/clearance/job.ts";
import type { Use } from "../../../core/clearance/uses.ts";
import { missingFrom } from "../../../core/coverage/text.ts";
import { CAPITALS_WORDS } from "../../../core/family/capitals.ts";
import { Company } from "../../../core/family/notes.ts";
import { readEmbedding } from "../../../core/clearance/embedding.ts";
import { fileStem } from "../../../core/words/file-names.ts";
import { Fault, notFound } from "../../fault.ts";
import type { Parts } from "../../parts.ts";
import type { SheetRow } from "../../store/bench/bench.ts";
import type { StyleBrief, StyleRow } from "../../store/families/families.ts";
import type { FamilyFilter } from "../../store/families/shelf-list.ts";
import type { ProofSource } from "../../work/glyphs.worker.ts";
import type { WorkPool } from "../../work/pool.ts";
import type { Renewal } from "../../views/renewal.ts";

type Uses = Pick<
  Parts,
  "bench" | "cuts" | "jobs" | "library" | "shelf" | "familyViews" | "clearance" | "history" | "events" | "now" | "db" | "files"
>;

const keyOf = ({ sha256, face }: Pick<BenchStyle, "sha256" | "face">): string => `${sha256}#${face}`;
/** Every style on a sheet, each once. */
function stylesOn(body: SheetBody): BenchStyle[] {
  const found = new Map<string, BenchStyle>();
  for (const line of body.lines) for (const { style } of line.layers) found.set(keyOf(style), style);
  return [...found.values()];
}
/** Styles put in the order of a letter at once. */
const MOST_BY_LETTER = 400;
const FAMILIES_NAMED = 4;
const WORDS_SHOWN = 60;
/** Bold to a regular weight, as most programs pair them. Common practice, no source. */
const BOLD = 700;

/** A sheet's name of its own: the one wanted, or that with a number behind it. At most 120 characters. */
function freeName(wanted: string, taken: ReadonlySet<string>): string {
  for (let n = 1; ; n++) {
    const ending = n === 1 ? "" : ` ${n}`;
    const name = `${[...wanted]
      .slice(0, 120 - ending.length)
      .join("")
      .trim()}${ending}`;
    if (!taken.has(name)) return name;
  }
}

export class BenchService {
  private readonly uses: Uses;
  private readonly renewal: Pick<Renewal, "family">;
  private readonly filterOf: (query: FamilyQuery) => FamilyFilter;
  private readonly pool: Pick<WorkPool, "makeProof" | "letterOrder">;
  constructor(
    uses: Uses,
    renewal: Pick<Renewal, "family">,
    filterOf: (query: FamilyQuery) => FamilyFilter,
    pool: Pick<WorkPool, "makeProof" | "letterOrder">,
  ) {
    this.pool = pool;
    this.uses = uses;
    this.renewal = renewal;
    this.filterOf = filterOf;
  }

  private row(id: number): SheetRow {
    const row = this.uses.bench.get(id);
    if (!row) throw notFound("sheet");
    return row;
  }
  private jobName(id: number | null): string | null {
    return id === null ? null : (this.uses.jobs.get(id)?.name ?? null);
  }

  list(): SheetSummary[] {
    return this.uses.bench.all().map(({ id, body, changedAt }) => ({
      id,
      changedAt,
      name: body.name,
      jobId: body.jobId,
      jobName: this.jobName(body.jobId),
      lines: body.lines.length,
      words: (body.lines[0]?.text ?? "").split("\n")[0]!.slice(0, WORDS_SHOWN),
      families: [...new Set(stylesOn(body).map(({ family }) => family))].slice(0, FAMILIES_NAMED),
    }));
  }
  detail(id: number): SheetDetail {
    const { body, step, steps, first, changedAt } = this.row(id);
    return {
      id,
      body,
      step,
      changedAt,
      jobName: this.jobName(body.jobId),
      canUndo: step > first,
      canRedo: step < steps,
      styles: stylesOn(body).map((style) => this.facts(style, body.jobId)),
      decisions: this.uses.bench.decisions({ sheetId: id }),
      cuts: this.uses.cuts.latest(id),
    };
  }

  make({ name, copyOf, body }: { name: string; copyOf?: number | undefined; body?: SheetBody | undefined }): SheetDetail {
    const from = copyOf === undefined ? body : this.row(copyOf).body;
    const id = this.uses.db.transaction(() => {
      const own = freeName(name, new Set(this.uses.bench.all().map((sheet) => sheet.body.name)));
      const made = this.uses.bench.add({ jobId: null, ground: "#ffffff", lines: [], ...from, name: own }, this.uses.now());
      if (copyOf !== undefined) this.uses.cuts.copy(copyOf, made);
      return made;
    })();
    this.uses.events.changed("bench");
    return this.detail(id);
  }
  change(id: number, body: SheetBody, from: number): SheetDetail {
    const row = this.row(id);
    if (row.step !== from) {
      throw new Fault(409, {
        code: "sheet-changed",
        message: "This sheet was changed elsewhere meanwhile.",
        next: "It is shown as it is now; make your change once more.",
      });
    }
    this.uses.bench.put(id, from, body, this.uses.now());
    this.uses.events.changed("bench");
    return this.detail(id);
  }
  step(id: number, back: boolean): SheetDetail {
    const { step, steps, first } = this.row(id);
    const to = step + (back ? -1 : 1);
    if (to < first || to > steps) {
      throw new Fault(409, {
        code: "no-step",
        message: back ? "There is no earlier step of this sheet." : "Nothing of this sheet was taken back.",
        next: "Go on with it as it is.",
      });
    }
    this.uses.bench.stand(id, to, this.uses.bench.body(id, to)!.jobId, this.uses.now());
    this.uses.events.changed("bench");
    return this.detail(id);
  }
  remove(id: number, removed: boolean): void {
    const name = this.uses.bench.get(id)?.body.name;
    if (removed && name === undefined) throw notFound("sheet");
    const at = this.uses.now();
    this.uses.db.transaction(() => {
      this.uses.bench.remove(id, removed ? at : null);
      if (removed) this.uses.history.add(at, "sheet", `The sheet “${name}” was taken off the bench.`, [], { kind: "sheet-removed", id });
    })();
    this.uses.events.changed("bench");
  }

  /** A proof of a sheet to show: each line a candidate, with its names, its clearance for the job and its credit line. */
  async proof(id: number, { kind, paper }: ProofRequest): Promise<{ fileName: string; type: string; bytes: Uint8Array }> {
    const { body } = this.row(id);
    if (body.lines.length === 0) {
      throw new Fault(422, {
        code: "empty-sheet",
        message: "There is no line on this sheet to prove.",
        next: "Add a line in a style first.",
      });
    }
    const sources: ProofSource[] = [];
    const candidates = body.lines.map((line) => {
      const facts = line.layers.map(({ style }) => this.facts(style, body.jobId));
      line.layers.forEach(({ style: { sha256, face } }, i) => {
        const one = facts[i]!;
        // The bits decide (OpenType specification, "OS/2", "fsType"): forbidden, whole only, or pictures only; documents hold parts of fonts.
        const record = this.uses.library.record(sha256, face);
        const bits = record && readEmbedding(record.stated.fsType, record.stated.os2Version);
        const outlinesOnly = !bits || bits.level === "restricted" || bits.noSubsetting || bits.bitmapOnly;
        const name = `${one.family}-${one.style}`.replace(/\s+/g, "");
        if (one.there && !sources.some((other) => other.sha256 === sha256 && other.face === face))
          sources.push({ sha256, face, path: this.uses.files.path(sha256), name, outlinesOnly });
      });
      const names = [...new Set(facts.map(({ family, style, there }) => `${family} ${style}${there ? "" : " (not in the library)"}`))];
      const said = (part: (one: StyleFacts) => string) => [...new Set(facts.map(part).filter(Boolean))];
      const captions = [
        names.toReversed().join(" over "),
        ...said((one) => one.clearance && `${one.family}: ${one.clearance}`),
        ...said((one) => one.creditLine),
      ];
      const { text, size, letterSpacing, lineSpacing, direction } = line;
      const layers = line.layers.map(({ style: { sha256, face }, ...layer }) => ({ ...layer, sha256, face }));
      return { text, size, letterSpacing, lineSpacing, direction, layers, captions };
    });
    const title = [body.name, this.jobName(body.jobId)].filter(Boolean).join(" · ");
    const bytes = await this.pool.makeProof({ kind, paper, title, ground: body.ground, candidates }, sources);
    const type = { pdf: "application/pdf", png: "image/png", html: "text/html" }[kind];
    return { fileName: `${fileStem(body.name, "Proof")}.${kind}`, type, bytes };
  }

  /** Records which style was chosen for a line's job, and which were considered; the chosen family is wanted for the job from then on. */
  decide(id: number, request: { lineId: string; chosen: BenchStyle; considered: readonly BenchStyle[] }): SheetDetail {
    const { body } = this.row(id);
    const job = body.jobId === null ? undefined : this.uses.jobs.get(body.jobId);
    if (!job) {
      throw new Fault(409, {
        code: "no-job",
        message: "This sheet is for no job, so there is nowhere to record the choice.",
        next: "Choose its job first.",
      });
    }
    const { chosen, considered, lineId } = request;
    const familyId = this.styleOf(chosen)?.familyId;
    const at = this.uses.now();
    this.uses.db.transaction(() => {
      const others = considered.filter((one) => keyOf(one) !== keyOf(chosen)).map((style) => ({ style, chosen: false }));
      this.uses.bench.decide(job.id, id, lineId, [{ style: chosen, chosen: true }, ...others], at);
      if (familyId !== undefined && !job.familyIds.includes(familyId)) {
        const { id: _id, ...rest } = job;
        this.uses.jobs.put({ ...rest, familyIds: [...job.familyIds, familyId] }, at, job.id);
      }
      this.uses.history.add(
        at,
        "choice",
        `${chosen.family} ${chosen.style} was chosen for “${job.name}”.`,
        familyId === undefined ? [] : [familyId],
      );
    })();
    this.uses.events.changed("bench", "jobs");
    return this.detail(id);
  }
  /** A style by its number. */
  head(id: number): StyleHead {
    const style = this.uses.library.styleBrief(id);
    if (!style) throw notFound("style");
    const { sha256, face, familyId, brief } = style;
    return { styleId: id, sha256, face, familyId, family: brief.family, style: brief.style };
  }

  /** Families of styles that are in the library. */
  familiesOf(styles: readonly BenchStyle[]): number[] {
    return [...new Set(styles.flatMap((style) => this.styleOf(style)?.familyId ?? []))];
  }
  /** What a job's clearance says against these styles, in sentences; none without a job. */
  warnings(styles: readonly BenchStyle[], jobId: number | null): string[] {
    const job = jobId === null ? undefined : this.uses.jobs.get(jobId);
    if (!job) return [];
    return this.familiesOf(styles).flatMap((id) => {
      const family = this.renewal.family(id);
      return family ? jobWarnings(family.name, family.clearance, job.uses) : [];
    });
  }

  private styleOf({ sha256, face }: Pick<BenchStyle, "sha256" | "face">): StyleBrief | undefined {
    const id = this.uses.library.styleIdOf(sha256, face);
    return id === undefined ? undefined : this.uses.library.styleBrief(id);
  }

  /** What is known of a style; of one that left the library, the names it had. */
  facts(style: BenchStyle, jobId: number | null): StyleFacts {
    const { sha256, face, family, style: name } = style;
    const known = this.styleOf(style);
    const record = known && this.uses.library.record(sha256, face);
    if (!known || !record) {
      return {
        sha256,
        face,
        family,
        style: name,
        there: false,
        styleId: null,
        familyId: null,
        weight: 400,
        rightToLeft: false,
        coloured: false,
        axes: [],
        instances: [],
        capitals: "",
        layers: [],
        bold: null,
        italic: null,
        clearance: "",
        creditLine: "",
        price: "",
        embedding: "",
      };
    }
    const { brief } = known;
    return {
      sha256,
      face,
      there: true,
      styleId: known.id,
      familyId: known.familyId,
      family: brief.family,
      style: brief.style,
      weight: brief.weight,
      rightToLeft: brief.rightToLeft,
      coloured: record.colour.length > 0,
      axes: record.axes,
      instances: record.instances,
      capitals: CAPITALS_WORDS[record.capitals] ?? "",
      layers: this.layersOf(known),
      ...this.partners(known),
      ...this.clearanceOf(known.familyId, jobId),
      embedding: record.embedding,
    };
  }
  /** Styles that came with it and are made to be laid over it, or it over them. */
  private layersOf(known: StyleBrief): BenchStyle[] {
    const beside = this.uses.library.stylesBeside(known.familyId);
    const own = beside.find(({ id }) => id === known.id);
    if (!own) return [];
    const kin = (row: StyleRow) => ({ ...row.record, sha256: row.sha256, id: row.id });
    const others = new Company(beside.map(kin)).layersOf([kin(own)]);
    return beside
      .filter(({ sha256, record }) => others.some((other) => other.sha256 === sha256 && other.face === record.face))
      .map(({ sha256, record }) => ({ sha256, face: record.face, family: record.family, style: record.style }));
  }
  /** The bold and the italic that go with a style, as files of their own. */
  private partners(known: StyleBrief): Pick<StyleFacts, "bold" | "italic"> {
    const { brief } = known;
    const others = this.uses.library
      .briefsOf(known.familyId)
      .filter(({ id, brief: other }) => id !== known.id && other.width === brief.width);
    const asStyle = (one: StyleBrief | undefined): BenchStyle | null =>
      one ? { sha256: one.sha256, face: one.face, family: one.brief.family, style: one.brief.style } : null;
    return {
      bold: asStyle(others.find(({ brief: other }) => other.weight === BOLD && brief.weight < BOLD && other.italic === brief.italic)),
      italic: asStyle(others.find(({ brief: other }) => other.italic && !brief.italic && other.weight === brief.weight)),
    };
  }
  private clearanceOf(familyId: number, jobId: number | null): Pick<StyleFacts, "clearance" | "creditLine" | "price"> {
    const family = this.renewal.family(familyId);
    const job = jobId === null ? undefined : this.uses.jobs.get(jobId);
    const cleared = family && job && clearedFor(family.clearance, job.uses);
    const uses = family?.clearance.uses.filter(({ use }) => (job?.uses as Use[] | undefined)?.includes(use)) ?? [];
    const paid = this.uses.clearance
      .licences(familyId)
      .filter(({ priceMinor }) => priceMinor !== null)
      .at(-1);
    return {
      clearance: cleared ? clearedWords(cleared, uses) : "",
      creditLine: cleared === "credit" ? family!.clearance.creditLine : "",
      price: paid ? priceWords(paid.priceMinor!, paid.currency) : "",
    };
  }

  /** Styles that fit a filter, put in the order of how they draw a character, the likest to one of them first: the first few hundred. */
  async byLetter(query: FamilyQuery, codePoint: number, like: string): Promise<StylePage> {
    const page = this.styles({ ...query, from: 0, limit: MOST_BY_LETTER });
    const to = Math.max(
      0,
      page.styles.findIndex((style) => keyOf(style) === like),
    );
    const sources = page.styles.map(({ sha256, face }) => ({ path: this.uses.files.path(sha256), face }));
    const order = await this.pool.letterOrder(sources, codePoint, to);
    return { total: page.styles.length, from: 0, styles: order.map((i) => page.styles[i]!) };
  }
  /** Styles of the families that fit a filter, in the order of the list. */
  styles(query: FamilyQuery): StylePage {
    const { from = 0, limit = 60, text = "" } = query;
    const { total, ids } = this.uses.shelf.styles(this.filterOf(query), from, limit);
    const styles = ids.flatMap((id) => {
      const style = this.uses.library.styleBrief(id);
      if (!style) return [];
      const { sha256, face, familyId, brief } = style;
      const coversText = missingFrom(this.uses.library.rangesOf(sha256, face), text).length === 0;
      return [
        { sha256, face, family: brief.family, style: brief.style, styleId: id, familyId, rightToLeft: brief.rightToLeft, coversText },
      ];
    });
    return { total, from, styles };
  }
}

function priceWords(minor: number, currency: string): string {
  const format = new Intl.NumberFormat("en", { style: "currency", currency });
  return format.format(minor / 10 ** (format.resolvedOptions().maximumFractionDigits ?? 2));
}
