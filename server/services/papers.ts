// Papers, read where they lie.
import type { PaperText } from "../../contract/paper.ts";
import type { Context } from "../context.ts";
import { Fault, notFound } from "../fault.ts";

export class PaperService {
  private readonly context: Context;
  constructor(context: Context) {
    this.context = context;
  }

  /** The text of a paper some parcel holds. Throws a `Fault` when it is gone or has no text. */
  async read(sha256: string): Promise<PaperText> {
    const found = /^[0-9a-f]{64}$/.test(sha256) ? this.context.parcels.paper(sha256) : undefined;
    if (!found || !(await this.context.files.has(sha256))) throw notFound("paper");
    let paper = this.context.parcels.paperText(sha256);
    if (!paper) {
      const { paperText } = await import("../../core/clearance/paper-text.ts");
      const read = await paperText(found.path, await this.context.files.read(sha256));
      paper = read.ok ? { sha256, ...read.value, problem: null } : { sha256, text: "", cut: false, problem: read.problem };
      this.context.parcels.putPaperText(paper);
    }
    if (paper.problem) throw new Fault(422, paper.problem);
    return { ...found, text: paper.text, cut: paper.cut };
  }
}
