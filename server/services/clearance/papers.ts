// Papers, read where they lie.
import type { PaperText } from "../../../contract/papers.ts";
import { Fault, notFound } from "../../fault.ts";
import type { Parts } from "../../parts.ts";
import type { TextReader } from "../facts/facts.ts";

export class PaperService {
  private readonly uses: Pick<Parts, "parcels" | "readings" | "files">;
  private readonly reader: TextReader;
  constructor(uses: Pick<Parts, "parcels" | "readings" | "files">, reader: TextReader) {
    this.uses = uses;
    this.reader = reader;
  }

  /** The text of a paper some parcel holds. Throws a `Fault` when it is gone, is not read yet, or has no text. */
  async read(sha256: string): Promise<PaperText> {
    const found = /^[0-9a-f]{64}$/.test(sha256) ? this.uses.parcels.paper(sha256) : undefined;
    if (!found || !(await this.uses.files.has(sha256))) throw notFound("paper");
    const paper = this.uses.readings.paperText(sha256);
    if (!paper) {
      this.reader.poke();
      throw new Fault(409, {
        code: "paper-being-read",
        message: "This paper is still being read.",
        next: "Look again in a moment.",
      });
    }
    if (paper.problem) throw new Fault(422, paper.problem);
    return { ...found, text: paper.text, cut: paper.cut };
  }
}
