// Runs in a worker thread: reads what papers, and fonts themselves, say of licences. Each text is read once.
import { createRequire } from "node:module";
import { readFileSync } from "node:fs";
import { textsToKnow } from "../../core/clearance/licences.ts";
import { paperText } from "../../core/clearance/paper-text.ts";
import { NOTHING_READ, readFont, readPaper, type TextFacts } from "../../core/clearance/read.ts";
import { LicenceRecogniser } from "../../core/clearance/spdx.ts";
import type { StatedLicence } from "../../core/inspect.ts";
import type { Problem } from "../../core/problem.ts";
import { serve } from "./serve.ts";

export type PaperTask = { id: number; key: string } & (
  { kind: "paper"; path: string; at: string } | { kind: "font"; stated: StatedLicence }
);
export interface PaperOutcome {
  id: number;
  facts: TextFacts;
  text?: { sha256: string; text: string; cut: boolean; problem: Problem | null };
}

let recogniser: LicenceRecogniser | undefined;
/** Made when first wanted: it takes a third of a second. */
function knownLicences(): LicenceRecogniser {
  recogniser ??= new LicenceRecogniser(
    textsToKnow(createRequire(import.meta.url)("spdx-license-list/full") as Parameters<typeof textsToKnow>[0]),
  );
  return recogniser;
}

async function read(task: PaperTask): Promise<PaperOutcome> {
  if (task.kind === "font") return { id: task.id, facts: readFont(task.stated, knownLicences()) };
  const { id, key, path, at } = task;
  const read = await paperText(path, readFileSync(at));
  if (!read.ok) return { id, facts: NOTHING_READ, text: { sha256: key, text: "", cut: false, problem: read.problem } };
  const { text, cut } = read.value;
  return { id, facts: readPaper(text, knownLicences()), text: { sha256: key, text, cut, problem: null } };
}

serve<PaperTask[], PaperOutcome[]>(async (tasks) => {
  const outcomes: PaperOutcome[] = [];
  for (const task of tasks) outcomes.push(await read(task));
  return outcomes;
});
