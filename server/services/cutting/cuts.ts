// Cuts of a sheet's lines: what is chosen is kept, what is made is remembered with the line it was made from.
import { isDeepStrictEqual } from "node:util";
import { ZipFile } from "yazl";
import type { z } from "zod";
import type { BenchLine, SheetDetail } from "../../../contract/bench.ts";
import { CutSource, type CutFilesRequest, type CutMade, type LineCut, type MachineView } from "../../../contract/cutting.ts";
import { USUAL_CUT, type CutSettings } from "../../../core/cutting/settings.ts";
import type { CutFile } from "../../../core/cutting/sheets/files.ts";
import { fileStem } from "../../../core/words/file-names.ts";
import { Fault, notFound } from "../../fault.ts";
import type { Parts } from "../../parts.ts";
import type { CutTask, CutValue } from "../../work/cut.worker.ts";
import type { WorkPool } from "../../work/pool.ts";
import { familiesOf } from "../../store/cutting/cuts.ts";
import type { BenchService } from "../bench/bench.ts";

type Uses = Pick<Parts, "bench" | "cuts" | "files" | "history" | "events" | "now">;
const TYPES: Record<string, string> = { svg: "image/svg+xml", dxf: "image/vnd.dxf", pdf: "application/pdf", png: "image/png" };

export interface NamedFile {
  fileName: string;
  type: string;
  bytes: Uint8Array;
}

export class CutService {
  private readonly uses: Uses;
  private readonly bench: BenchService;
  private readonly pool: Pick<WorkPool, "cut">;
  constructor(uses: Uses, bench: BenchService, pool: Pick<WorkPool, "cut">) {
    this.uses = uses;
    this.bench = bench;
    this.pool = pool;
  }

  private async run<K extends CutTask["kind"]>(task: CutTask & { kind: K }): Promise<Extract<CutValue, { kind: K }>> {
    const outcome = await this.pool.cut(task);
    if (!outcome.ok) throw new Fault(422, outcome.problem);
    return outcome.value as Extract<CutValue, { kind: K }>;
  }
  private line(sheetId: number, lineId: string): { line: BenchLine; jobId: number | null } {
    const body = this.uses.bench.get(sheetId)?.body;
    const line = body?.lines.find(({ id }) => id === lineId);
    if (!body || !line) throw notFound("line");
    return { line, jobId: body.jobId };
  }

  look(sheetId: number, lineId: string): LineCut {
    const { line, jobId } = this.line(sheetId, lineId);
    const made = this.uses.cuts.made(sheetId, lineId).map(({ source, ...row }): CutMade => ({
      ...row,
      source,
      families: familiesOf(source),
      changedSince: !isDeepStrictEqual(source.line, line),
    }));
    const styles = line.layers.map(({ style }) => style);
    return { settings: this.uses.cuts.settings(sheetId, lineId) ?? null, made, clearance: this.bench.warnings(styles, jobId).join(" ") };
  }
  choose(sheetId: number, lineId: string, settings: CutSettings): LineCut {
    this.line(sheetId, lineId);
    this.uses.cuts.put(sheetId, lineId, settings, this.uses.now());
    return this.look(sheetId, lineId);
  }

  /** The files of a cut, several of them in one zip; remembered but for previews. */
  async files(sheetId: number, lineId: string, request: z.output<typeof CutFilesRequest>): Promise<NamedFile> {
    const current = this.line(sheetId, lineId);
    const earlier = request.again === undefined ? undefined : this.uses.cuts.made(sheetId, lineId).find(({ id }) => id === request.again);
    if (request.again !== undefined && !earlier) throw notFound("cut");
    const { line, settings } = earlier?.source ?? { line: current.line, settings: this.uses.cuts.settings(sheetId, lineId) ?? USUAL_CUT };
    const styles = line.layers.map(({ style }) => style);
    const warnings = this.bench.warnings(styles, current.jobId);
    if (warnings.length > 0 && !request.despite) {
      throw new Fault(409, {
        code: "not-cleared",
        message: warnings.join(" "),
        next: "Get a licence for it, choose another font, or save it anyway if you know that you may.",
      });
    }
    const families = [...new Set(styles.map(({ family }) => family))];
    const { text, letterSpacing, lineSpacing, direction } = line;
    const names = [...new Set(styles.map(({ family, style }) => `${family} ${style}`.trim()))].toReversed().join(" over ");
    const size = `${settings.size.value} ${settings.size.unit}`;
    const { files, numbers, colours } = await this.run({
      kind: "files",
      line: { text, letterSpacing, lineSpacing, direction },
      layers: line.layers.map(({ style, ...layer }) => ({ ...layer, path: this.uses.files.path(style.sha256), face: style.face })),
      settings,
      about: {
        title: text.replace(/\s+/g, " ").slice(0, 200),
        description: `${names}, ${SIZE_WORDS[settings.size.of]} ${size}`,
        source: { line, settings },
      },
      wanted: { format: request.format, curves: request.curves, apart: request.apart },
      stem: fileStem(`${text.slice(0, 40)} ${families.join(" ")}`, "Cut"),
    });
    const at = this.uses.now();
    if (request.format !== "png") {
      if (!earlier) this.uses.cuts.addMade(sheetId, lineId, { source: { line, settings }, numbers, colours, at });
      if (warnings.length > 0)
        this.uses.history.add(
          at,
          "cut",
          `A cut of ${families.join(" and ")} was saved although it is not cleared for its job.`,
          this.bench.familiesOf(styles),
        );
      this.uses.events.changed("bench");
    }
    const [only] = files;
    const type = TYPES[request.format]!;
    if (files.length === 1) return { fileName: only!.name, type, bytes: only!.bytes };
    return { fileName: only!.name.replace(/\.\w+$/, ".zip"), type: "application/zip", bytes: await zipped(files) };
  }

  /** What a machine would follow in an SVG, or in path data of so many millimetres a unit. */
  async machine(drawing: { svg: string } | { paths: string[]; unitMm: number }): Promise<MachineView> {
    return (await this.run({ kind: "machine", ...drawing })).lines;
  }

  /** Puts the line an SVG of a cut was made from on a sheet, with what was chosen for its cut. Throws a `Fault` for any other file. */
  async open(sheetId: number, svg: string): Promise<SheetDetail> {
    const { body, step } = this.bench.detail(sheetId);
    const { source } = await this.run({ kind: "source", svg });
    const read = CutSource.safeParse(source);
    if (!read.success) {
      throw new Fault(422, {
        code: "not-own-svg",
        message: "What this file says of its words and font cannot be read.",
        next: "Choose an SVG that was exported from a cut here, and that no other program has saved since.",
      });
    }
    const { line, settings } = read.data;
    const taken = new Set(body.lines.map(({ id }) => id));
    let id = line.id;
    for (let i = 2; taken.has(id); i++) id = `${line.id.slice(0, 30)}-${i}`;
    const detail = this.bench.change(sheetId, { ...body, lines: [...body.lines, { ...line, id }] }, step);
    this.uses.cuts.put(sheetId, id, settings, this.uses.now());
    return detail;
  }
}

const SIZE_WORDS: Record<CutSettings["size"]["of"], string> = {
  capitals: "capitals",
  small: "small letters",
  whole: "height",
  width: "width",
};

function zipped(files: readonly CutFile[]): Promise<Uint8Array> {
  const zip = new ZipFile();
  for (const { name, bytes } of files) zip.addBuffer(Buffer.from(bytes), name);
  zip.end();
  return new Promise((resolve, reject) => {
    const parts: Buffer[] = [];
    zip.outputStream.on("data", (part: Buffer) => parts.push(part));
    zip.outputStream.on("error", reject);
    zip.outputStream.on("end", () => resolve(new Uint8Array(Buffer.concat(parts))));
  });
}
