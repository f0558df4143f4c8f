// How long papers take to read: those of real packages, and the worst that were thought of, beside `grep -E` over the same texts.
import { execFileSync } from "node:child_process";
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { createRequire } from "node:module";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { gunzipSync } from "node:zlib";
import { sortEntry } from "../../core/archive/kinds.ts";
import { textsToKnow } from "../../core/clearance/licences.ts";
import { paperText } from "../../core/clearance/paper-text.ts";
import { readPaper } from "../../core/clearance/read.ts";
import { LicenceRecogniser } from "../../core/clearance/spdx.ts";
import { hostilePapers } from "../hostile/inputs.ts";
import { namesIn, STUDIED_PACKAGES, UNSEEN_PACKAGES } from "../reference/package-papers.ts";
import { unpackedPackages } from "./downloads.ts";

const WORDS = "licen[cs]e|commercial|personal|permi(t|ssion)|allow|embed|credit|free for|not for|web ?font|video|sell";
const TEXT = 100_000;
const ROUNDS = 5;
const middle = (numbers: number[]): number => numbers.sort((a, b) => a - b)[Math.floor(numbers.length / 2)]!;

export async function benchPapers(dir: string, print: (line: string) => void): Promise<void> {
  const recogniser = new LicenceRecogniser(
    textsToKnow(createRequire(import.meta.url)("spdx-license-list/full") as Parameters<typeof textsToKnow>[0]),
  );
  const texts = new Set<string>();
  for (const tree of unpackedPackages(
    dir,
    [...namesIn(STUDIED_PACKAGES), ...namesIn(UNSEEN_PACKAGES)].map(([name]) => name),
  ).values()) {
    for (const entry of readdirSync(tree, { recursive: true, withFileTypes: true })) {
      if (!entry.isFile()) continue;
      const packed = entry.name.endsWith(".gz");
      const path = packed ? entry.name.slice(0, -3) : entry.name;
      if (sortEntry(path, new Uint8Array()).kind !== "paper") continue;
      const bytes = readFileSync(join(entry.parentPath, entry.name));
      const read = await paperText(path, packed ? gunzipSync(bytes) : bytes);
      if (read.ok) texts.add(read.value.text);
    }
  }
  const all = [...texts].join("\n\n");
  const pieces = Array.from({ length: Math.floor(all.length / TEXT) }, (_, i) => all.slice(i * TEXT, (i + 1) * TEXT));
  const file = join(mkdtempSync(join(tmpdir(), "buvano-papers-")), "papers.txt");
  const read = (text: string): number => {
    const begun = performance.now();
    readPaper(text, recogniser);
    return performance.now() - begun;
  };
  try {
    writeFileSync(file, pieces.join(""));
    for (const piece of pieces.slice(0, 3)) read(piece);
    const ratios: number[] = [];
    const each: number[] = [];
    for (let round = 0; round < ROUNDS; round++) {
      const ms = pieces.map(read);
      each.push(...ms);
      const begun = performance.now();
      execFileSync("grep", ["-ciE", WORDS, file]);
      ratios.push(ms.reduce((sum, one) => sum + one, 0) / (performance.now() - begun));
    }
    print(
      `papers: ${pieces.length} times 100 kB of real ones, ${middle(each).toFixed(0)} ms each in the middle, ${Math.max(...each).toFixed(0)} ms at most; ÷ grep -E over the same: ${middle(ratios).toFixed(1)}`,
    );
    let worst = { name: "", ms: 0 };
    // Taking documents apart has a deadline of its own; here it is the reading that counts.
    for (const { name, fileName, bytes } of hostilePapers().filter((one) => !/\.(pdf|docx)$/.test(one.fileName))) {
      const text = await paperText(fileName, bytes);
      if (!text.ok) continue;
      const piece = text.value.text.slice(0, TEXT);
      const ms = Math.min(...Array.from({ length: ROUNDS }, () => read(piece)));
      if (ms > worst.ms) worst = { name, ms };
    }
    print(`papers: 100 kB of the worst one, ${worst.name}, ${worst.ms.toFixed(0)} ms`);
  } finally {
    rmSync(join(file, ".."), { recursive: true });
  }
}
