// `buvano clear`: what fonts may be used for, by the papers that lie with them; nothing is kept. One line a family. Exit code 1 when there is none.
import { createHash } from "node:crypto";
import { createRequire } from "node:module";
import { open, readdir, readFile, stat } from "node:fs/promises";
import { basename, dirname, extname, join, relative } from "node:path";
import { sortEntry } from "../core/archive/kinds.ts";
import { DEFAULT_LIMITS } from "../core/archive/limits.ts";
import { unpackArchive } from "../core/archive/unpack.ts";
import { clearFamilies, type ClearedFont, type ClearedPaper, type FamilyCleared } from "../core/clearance/clear.ts";
import { ISO_639_3 } from "../core/clearance/glossaries.ts";
import { textsToKnow } from "../core/clearance/licences.ts";
import { PAPER_KIND_WORDS } from "../core/clearance/paper-kinds.ts";
import { paperText } from "../core/clearance/paper-text.ts";
import { NOTHING_READ, readPaper } from "../core/clearance/read.ts";
import { LicenceRecogniser } from "../core/clearance/spdx.ts";
import { dayAt } from "../core/clearance/terms.ts";
import { ANSWER_WORDS, USE_WORDS } from "../core/clearance/uses.ts";
import { creditLine, headlineWords, whereWords } from "../core/clearance/words.ts";
import { inspectFont } from "../core/inspect.ts";
import { ProblemError, type Problem } from "../core/problem.ts";
import { isWoff2, loadWoff2 } from "../core/sfnt/woff2.ts";
import { written } from "./unpack.ts";
import { withOwnFolder } from "./own-folder.ts";

interface Found {
  fonts: ClearedFont[];
  papers: ClearedPaper[];
  /** Why a paper could not be read, by its path. */
  unread: Map<string, string>;
}

class Reader {
  private readonly recogniser = new LicenceRecogniser(
    textsToKnow(createRequire(import.meta.url)("spdx-license-list/full") as Parameters<typeof textsToKnow>[0]),
  );
  private readonly texts = new Map<string, { facts: ClearedPaper["facts"]; why: string }>();

  /** What one path holds: an archive, a folder with all that is in it, or a font with the papers beside it. */
  async path(path: string): Promise<FamilyCleared[] | Problem> {
    const found: Found = { fonts: [], papers: [], unread: new Map() };
    try {
      const what = await stat(path);
      if (what.isDirectory()) await this.folder(path, path, found);
      else if (sortEntry(path, await headOf(path)).kind === "archive") await this.archive(path, "", found);
      else {
        await this.file(path, basename(path), found);
        await this.beside(path, found);
      }
    } catch (error) {
      if (error instanceof ProblemError) return error.problem;
      return { code: "file-unreadable", message: "It cannot be opened.", next: "Check its name and that you may read it." };
    }
    if (found.fonts.length === 0)
      return { code: "no-fonts", message: "There are no fonts in it that can be read.", next: "Give an archive, a folder or a font." };
    const today = dayAt(new Date(), Intl.DateTimeFormat().resolvedOptions().timeZone);
    const families = clearFamilies(found.fonts, found.papers, this.recogniser, today);
    for (const { reading } of families) for (const paper of reading.papers) paper.unread ||= found.unread.get(paper.path) ?? "";
    return families;
  }

  private async folder(dir: string, top: string, found: Found): Promise<void> {
    for (const entry of (await readdir(dir, { withFileTypes: true })).sort((a, b) => (a.name < b.name ? -1 : 1))) {
      const path = join(dir, entry.name);
      if (entry.isDirectory()) await this.folder(path, top, found);
      else if (entry.isFile()) await this.file(path, relative(top, path), found);
    }
  }
  private async beside(font: string, found: Found): Promise<void> {
    for (const entry of await readdir(dirname(font), { withFileTypes: true }))
      if (entry.isFile() && sortEntry(entry.name, new Uint8Array()).kind === "paper")
        await this.file(join(dirname(font), entry.name), entry.name, found);
  }
  private archive(path: string, under: string, found: Found): Promise<void> {
    return withOwnFolder(async (dir) => {
      let number = 0;
      await unpackArchive(path, basename(path), {
        limits: DEFAULT_LIMITS,
        staging: join(dir, "staging"),
        sink: async (entry, content) => {
          const at = join(dir, String(number++));
          const sha256 = await written(at, content);
          if (entry.kind !== "archive") await this.file(at, under + entry.path, found);
          return { sha256, path: at };
        },
      });
    });
  }

  private async file(at: string, path: string, found: Found): Promise<void> {
    const { kind } = sortEntry(path, await headOf(at));
    if (kind === "archive") return this.archive(at, `${path}/`, found).catch(() => undefined);
    if (kind === "paper") return this.paper(path, await readFile(at), found);
    if (kind !== "font" && kind !== "web font") return;
    const bytes = new Uint8Array(await readFile(at));
    const read = inspectFont(bytes, basename(path, extname(path)), isWoff2(bytes) ? await loadWoff2() : undefined);
    if (read.ok) found.fonts.push(...read.value.map((inspection) => ({ path, inspection })));
  }
  private async paper(path: string, bytes: Buffer, found: Found): Promise<void> {
    const sha256 = createHash("sha256").update(bytes).digest("hex");
    let read = this.texts.get(sha256);
    if (!read) {
      const text = await paperText(path, new Uint8Array(bytes));
      read = text.ok
        ? { facts: readPaper(text.value.text, this.recogniser), why: "" }
        : { facts: NOTHING_READ, why: `${text.problem.message} ${text.problem.next}` };
      this.texts.set(sha256, read);
    }
    if (read.why) found.unread.set(path, read.why);
    found.papers.push({ path, sha256, facts: read.facts });
  }
}

async function headOf(path: string): Promise<Uint8Array> {
  const file = await open(path, "r");
  try {
    const head = new Uint8Array(16_384);
    const { bytesRead } = await file.read(head, 0, head.length, 0);
    return head.subarray(0, bytesRead);
  } finally {
    await file.close();
  }
}

/** What is printed of a family. */
function told(path: string, { family, reading, clearance, copyright }: FamilyCleared) {
  const licences = reading.statements.filter((one) => one.licence !== undefined && !one.aside).flatMap((one) => one.licence!.split(" OR "));
  const uses = clearance.uses.map(({ use, answer, evidence, open: leftOpen, conflict }) => {
    const first = evidence[0] ?? leftOpen;
    const by = !first ? "nobody" : first.licence ? "licence" : first.source.kind === "embedding" ? "embedding bits" : "statement";
    return [
      use,
      {
        answer,
        by,
        sentence: first?.sentence ?? null,
        paper: first ? (first.source.kind === "paper" ? first.source.path : whereWords(first.source)) : null,
        line: first?.source.kind === "paper" ? first.source.line : null,
        conflict,
      },
    ] as const;
  });
  return {
    path,
    family,
    summary: headlineWords(clearance),
    uses: Object.fromEntries(uses),
    licences: [...new Set(licences)],
    papers: reading.papers.map(({ path: where, kind, languages, unread }) => ({
      path: where,
      kind,
      language: languages[0] === undefined ? null : (ISO_639_3[languages[0]] ?? languages[0]),
      read: unread === "",
      ...(unread ? { why: unread } : {}),
    })),
    term: reading.terms[0]?.term ?? null,
    credit: clearance.uses.some((one) => one.answer === "credit") ? creditLine(family, reading.statements, copyright) : null,
  };
}

function words({ family, summary, uses, licences, papers }: ReturnType<typeof told>): string {
  const lines = [`${family}: ${summary}${licences.length > 0 ? ` (${licences.join(", ")})` : ""}`];
  for (const [use, { answer, sentence, paper, line, conflict }] of Object.entries(uses) as [
    keyof typeof USE_WORDS,
    (typeof uses)[string],
  ][])
    lines.push(
      `  ${USE_WORDS[use]}: ${ANSWER_WORDS[answer]}${conflict ? ", its papers contradict one another" : ""}${sentence ? ` — “${sentence}” (${paper}${line ? `, line ${line}` : ""})` : ""}`,
    );
  for (const paper of papers) lines.push(`  ${PAPER_KIND_WORDS[paper.kind]}: ${paper.path}${paper.why ? ` — ${paper.why}` : ""}`);
  return lines.join("\n");
}

/** Clears each path and prints it. */
export async function clear(paths: readonly string[], json: boolean): Promise<number> {
  const reader = new Reader();
  let families = 0;
  for (const path of paths) {
    const cleared = await reader.path(path);
    if (!Array.isArray(cleared)) {
      const { code, message, next } = cleared;
      if (json) process.stdout.write(`${JSON.stringify({ path, error: { code, message: `${message} ${next}` } })}\n`);
      else process.stderr.write(`${path}: ${message} ${next}\n`);
      continue;
    }
    for (const family of cleared) {
      families++;
      const one = told(path, family);
      process.stdout.write(`${json ? JSON.stringify(one) : words(one)}\n`);
    }
  }
  return families === 0 ? 1 : 0;
}
