// `buvano inspect`: one line a face, as JSON or in words.
import { createHash } from "node:crypto";
import { readdir, readFile, stat } from "node:fs/promises";
import { basename, extname, join } from "node:path";
import { inspectFont, type Inspection } from "../core/inspect.ts";
import type { Problem } from "../core/problem.ts";
import { isWoff2, loadWoff2 } from "../core/sfnt/woff2.ts";

const FONT_ENDING = /\.(ttf|otf|ttc|otc|woff2?|dfont|eot|pf[abm]|svg)$/i;

/** Files named directly, and every font file under folders. */
async function* fontPaths(paths: string[]): AsyncGenerator<string> {
  for (const path of paths) {
    const found = await stat(path).catch(() => undefined);
    if (!found?.isDirectory()) {
      yield path;
      continue;
    }
    const inside = await readdir(path, { recursive: true, withFileTypes: true });
    const files = inside
      .filter((entry) => entry.isFile() && FONT_ENDING.test(entry.name))
      .map((entry) => join(entry.parentPath, entry.name));
    yield* files.sort();
  }
}

function jsonLine(path: string, sha256: string, face: Inspection): string {
  return JSON.stringify({
    path,
    face: face.face,
    container: face.container,
    outlines: face.outlines,
    family: face.family,
    style: face.style,
    legacyFamily: face.legacyFamily,
    legacyStyle: face.legacyStyle,
    fullName: face.fullName,
    postScriptName: face.postScriptName,
    version: face.version,
    weight: face.weight,
    width: face.width,
    italic: face.italic,
    monospaced: face.monospaced,
    codepoints: face.codepoints,
    axes: face.axes,
    embedding: face.embedding,
    verdict: face.verdict,
    findings: face.findings,
    sha256,
  });
}

function words(path: string, face: Inspection): string {
  const lines = [`${path}: ${face.family}, ${face.style} — ${face.verdict}, ${face.codepoints} characters, ${face.outlines}`];
  for (const finding of face.findings) lines.push(`  ${finding.level}: ${finding.message} ${finding.meaning} ${finding.next}`);
  return lines.join("\n");
}

/** Prints every face of every font file; a file that cannot be read is said and passed. Returns the exit code. */
export async function inspect(paths: string[], json: boolean): Promise<number> {
  const print = (line: string) => process.stdout.write(`${line}\n`);
  const printProblem = (path: string, problem: Problem) =>
    print(
      json
        ? JSON.stringify({ path, error: { code: problem.code, message: `${problem.message} ${problem.next}` } })
        : `${path}: ${problem.message} ${problem.next}`,
    );
  for await (const path of fontPaths(paths)) {
    let bytes: Uint8Array;
    try {
      bytes = await readFile(path);
    } catch {
      printProblem(path, {
        code: "file-unreadable",
        message: "The file cannot be opened.",
        next: "Check its name and that you may read it.",
      });
      continue;
    }
    const result = inspectFont(bytes, basename(path, extname(path)), isWoff2(bytes) ? await loadWoff2() : undefined);
    if (!result.ok) {
      printProblem(path, result.problem);
      continue;
    }
    const sha256 = createHash("sha256").update(bytes).digest("hex");
    for (const face of result.value) print(json ? jsonLine(path, sha256, face) : words(path, face));
  }
  return 0;
}
