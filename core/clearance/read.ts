// Everything a font and its papers say of what it may be used for, each statement with where it stands.
import type { StatedLicence } from "../inspect.ts";
import { NAME } from "../sfnt/name.ts";
import { readEmbedding } from "./embedding.ts";
import { baseLicence, mentionedLicence, variantOf } from "./licences.ts";
import { sentencesOf, type Sentence } from "./sentences.ts";
import type { LicenceRecogniser } from "./spdx.ts";
import { readSentence } from "./statements.ts";
import { readTerm, type ReadTerm } from "./terms.ts";
import type { Source, Statement } from "./uses.ts";

export interface Reading {
  statements: Statement[];
  /** Time limits a paper speaks of. */
  terms: (ReadTerm & { source: Source })[];
}

interface Text {
  text: string;
  source: (line: number) => Source;
}

function readText({ text, source }: Text, recogniser: LicenceRecogniser, names: readonly string[]): Reading {
  const lines = text.split("\n");
  const licences = recogniser.recognise(text);
  const inside = (line: number) => licences.some((one) => line >= one.line && line <= one.lastLine);
  // How to apply a licence, which follows its terms in some copies, is not said of this font.
  const appendix = licences.length > 0 ? lines.findIndex((line) => /end of terms and conditions|how to apply these terms/i.test(line)) : -1;
  const beside = lines.filter((_, i) => !inside(i + 1) && (appendix < 0 || i < appendix)).join("\n");
  const statements: Statement[] = [];
  for (const { id, line } of licences) {
    const licence = variantOf(id, beside);
    const known = baseLicence(licence);
    if (known) statements.push({ answers: known.answers, sentence: known.meaning, source: source(line), licence });
  }
  // The words around a licence's text belong to it: its name there says nothing new, and its own sentences are not read again.
  const sentences = sentencesOf(lines.map((line, i) => (inside(i + 1) || (appendix >= 0 && i >= appendix) ? "" : line)).join("\n"));
  let named = licences.length > 0;
  const terms: Reading["terms"] = [];
  for (const sentence of sentences) {
    const id = named ? undefined : mentionedLicence(sentence.text);
    const licence = id && variantOf(id, beside);
    const known = licence && baseLicence(licence);
    if (known) {
      named = true;
      statements.push({ answers: known.answers, sentence: sentence.text, source: source(sentence.line), licence });
      continue;
    }
    statements.push(...saidBy(sentence, source, names));
    const term = readTerm(sentence.text);
    if (term) terms.push({ ...term, source: source(sentence.line) });
  }
  return { statements, terms };
}

function saidBy(sentence: Sentence, source: Text["source"], names: readonly string[]): Statement[] {
  const answers = readSentence(sentence, names);
  return Object.keys(answers).length > 0 ? [{ answers, sentence: sentence.text, source: source(sentence.line) }] : [];
}

/** Reads one paper; `names` are words of the names of the fonts it came with. */
export const readPaper = (
  paper: { path: string; sha256: string; text: string },
  recogniser: LicenceRecogniser,
  names: readonly string[] = [],
): Reading =>
  readText({ text: paper.text, source: (line) => ({ kind: "paper", path: paper.path, sha256: paper.sha256, line }) }, recogniser, names);

/** What the embedding bits mean for documents (OpenType specification, OS/2, "fsType"). */
function readBits(stated: StatedLicence): Statement {
  const { level } = readEmbedding(stated.fsType, stated.os2Version);
  const meaning = {
    installable: "The font's embedding bits allow embedding it in documents.",
    editable: "The font's embedding bits allow embedding it in documents that are edited.",
    "preview-and-print": "The font's embedding bits allow embedding it in documents for viewing and printing.",
    restricted: "The font's embedding bits forbid embedding it in documents.",
  }[level];
  return {
    answers: { document: level === "restricted" ? "no" : "yes" },
    sentence: meaning,
    source: { kind: "embedding", fsType: stated.fsType },
  };
}

/** Reads a font's own name fields and embedding bits. */
export function readFont(stated: StatedLicence, recogniser: LicenceRecogniser, names: readonly string[] = []): Reading {
  const fields: [id: number, text: string][] = [
    [NAME.licence, stated.licence],
    [NAME.licenceUrl, stated.licenceUrl],
    [NAME.copyright, stated.copyright],
  ];
  const readings = fields
    .filter(([, text]) => text !== "")
    .map(([id, text]) => readText({ text, source: () => ({ kind: "name-field", id }) }, recogniser, names));
  // The address of a licence named in words already says the same once more.
  const statements = readings.flatMap((one) => one.statements);
  const unlike = statements.filter((one, i) => !one.licence || statements.findIndex((other) => other.licence === one.licence) === i);
  return { statements: [...unlike, readBits(stated)], terms: readings.flatMap((one) => one.terms) };
}
