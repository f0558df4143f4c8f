// Quick check: every style that is due in a program on one page; the file it exports from that answers for all of them.
import { rm, writeFile } from "node:fs/promises";
import { join } from "node:path";
import { randomUUID } from "node:crypto";
import { MOST_ON_PAGE, type CheckedOnly, type QuickAnswer, type QuickCheck } from "../../../contract/quick-check.ts";
import type { ProbeKind } from "../../../core/evidence/probe.ts";
import type { Parts } from "../../parts.ts";
import { Fault, notFound } from "../../fault.ts";
import type { ProgramRow } from "../../store/devices/programs.ts";
import type { StyleBrief } from "../../store/families/families.ts";
import type { Renewal } from "../../views/renewal.ts";
import type { EvidenceService } from "./evidence.ts";
import type { PracticeService } from "../practice/practice.ts";
import { probeLine, probePage, type Page } from "./programs.ts";

/** As large as probe pages set them, and as wide as a page. */
const LINE = { sizePt: 24, widthPt: 499 };

interface Due {
  program: ProgramRow;
  total: number;
  reopen: boolean;
  styles: { style: StyleBrief; line: NonNullable<ReturnType<typeof probeLine>> }[];
}

export class QuickCheckService {
  private readonly uses: Pick<Parts, "devices" | "library" | "familyViews" | "incoming" | "programs" | "cellViews">;
  private readonly evidence: EvidenceService;
  private readonly practice: PracticeService;
  private readonly renewal: Renewal;
  constructor(
    uses: Pick<Parts, "devices" | "library" | "familyViews" | "incoming" | "programs" | "cellViews">,
    evidence: EvidenceService,
    practice: PracticeService,
    renewal: Renewal,
  ) {
    this.uses = uses;
    this.evidence = evidence;
    this.practice = practice;
    this.renewal = renewal;
  }

  private due(programId: number, only: CheckedOnly): Due {
    const program = this.uses.programs.get(programId);
    if (!program) throw notFound("program");
    const { total, styles } = this.uses.cellViews.dueIn(programId, MOST_ON_PAGE, only);
    return {
      program,
      total,
      reopen: styles.some(({ state }) => state === "reopen"),
      styles: styles.flatMap(({ styleId }) => {
        const style = this.uses.library.styleBrief(styleId);
        const line = style && probeLine(style, program);
        return line ? [{ style, line }] : [];
      }),
    };
  }
  private dueOrFail(programId: number, styleIds: number[] | undefined): Due {
    const due = this.due(programId, { styles: styleIds });
    if (due.styles.length > 0) return due;
    throw new Fault(422, {
      code: "nothing-due",
      message: `Nothing is left to check in ${due.program.name} on ${due.program.deviceName}.`,
      next: "Place a family there first.",
    });
  }

  look(programId: number, only: CheckedOnly = {}): QuickCheck {
    const { program, total, reopen, styles } = this.due(programId, only);
    return {
      programId,
      programName: program.name,
      deviceName: program.deviceName,
      practice: !program.own,
      reopen,
      total,
      styles: styles.map(({ style, line }) => ({
        styleId: style.id,
        familyId: style.familyId,
        name: style.brief.fullName,
        menuName: line.menuName,
      })),
    };
  }

  /** A page that sets all of them, to be opened in the program. */
  probe(programId: number, kind: ProbeKind, styleIds?: number[]): Page {
    const { program, styles } = this.dueOrFail(programId, styleIds);
    return probePage(
      `Quick check of ${program.name} on ${program.deviceName}`,
      kind,
      styles.map(({ line }) => line),
    );
  }

  /** Takes what the program exported from that page. */
  async give(programId: number, given: { fileName: string; path: string; sure: boolean }, styleIds?: number[]): Promise<QuickAnswer> {
    const { styles } = this.dueOrFail(programId, styleIds);
    const answers = await this.evidence.giveMany(
      styles.map(({ style }) => style.id),
      programId,
      given,
    );
    return {
      answers: answers.map(({ styleId, styleName, state, reason, sighting }, i) => ({
        styleId,
        familyId: styles[i]!.style.familyId,
        name: styleName,
        state,
        reason,
        recorded: sighting !== null,
      })),
      question: answers.find(({ question }) => question !== "")?.question ?? "",
    };
  }

  /** Has a practice program draw them, and takes what it exports. */
  async practise(programId: number, styleIds?: number[]): Promise<QuickAnswer> {
    const { program, styles, reopen } = this.dueOrFail(programId, styleIds);
    const lines = styles.map(({ line }) => ({
      font: line.menuName,
      style: line.style,
      bold: line.bold,
      italic: line.italic,
      text: line.words,
      ...LINE,
    }));
    const pdf = await this.practice.drawAll(programId, lines, reopen);
    // What was due because it had to be opened again is due by now.
    await this.renewal.settle(SETTLE_MS);
    const path = join(this.uses.incoming, randomUUID());
    try {
      await writeFile(path, pdf);
      return await this.give(programId, { fileName: `Quick check of ${program.name}.pdf`, path, sure: true }, styleIds);
    } finally {
      await rm(path, { force: true });
    }
  }
}
const SETTLE_MS = 2000;
