// Recognises licence texts under the SPDX matching guidelines (SPDX specification, Annex B
// "License matching guidelines and templates"): case, white space, punctuation, bullets, copyright lines and varietal spellings are ignored. A text may stand alone
// or inside a longer paper. The texts themselves are handed in.

export interface LicenceText {
  /** SPDX identifier. */
  id: string;
  text: string;
}

export interface Recognised {
  id: string;
  /** Line of the paper, counted from 1, where the text begins. */
  line: number;
  /** Line where it ends. */
  lastLine: number;
  /** The part of the licence's word runs found, 0 to 1. */
  found: number;
}

/** Annex B.10 "Varietal word spelling", the pairs that occur in licences. */
const VARIETAL: Record<string, string> = {
  acknowledgement: "acknowledgment",
  analogue: "analog",
  analyse: "analyze",
  artefact: "artifact",
  authorisation: "authorization",
  authorised: "authorized",
  calibre: "caliber",
  cancelled: "canceled",
  catalogue: "catalog",
  categorise: "categorize",
  centre: "center",
  emphasised: "emphasized",
  favour: "favor",
  favourite: "favorite",
  fulfil: "fulfill",
  initialise: "initialize",
  judgement: "judgment",
  labelling: "labeling",
  labour: "labor",
  licence: "license",
  licences: "licenses",
  maximise: "maximize",
  modelled: "modeled",
  offence: "offense",
  optimise: "optimize",
  organisation: "organization",
  organise: "organize",
  practise: "practice",
  programme: "program",
  realise: "realize",
  recognise: "recognize",
  signalling: "signaling",
  utilisation: "utilization",
  whilst: "while",
  wilful: "wilfull",
  owner: "holder",
  https: "http",
};

const SPELT: ReadonlyMap<string, string> = new Map(Object.entries(VARIETAL));

/** A line that only says who holds the copyright (Annex B.11 "Copyright notice"), or who contributed. */
const COPYRIGHT_LINE = /^\s*(copyright|©|\(c\)|all rights reserved\.?$)/i;
/** List marks (B.8 "Bullets and numbering") and comment signs (B.6 "Code comment indicators") at a line's start. */
const LINE_START = /^\s*([*#;%|>.]+|\/\/+|\/\*+|--+|[•·◦–—-])?\s*(\(?(\d{1,2}|[a-z]|[ivx]{1,4})[.)]\s)?/i;

interface Word {
  word: string;
  line: number;
}

function wordsOf(text: string): Word[] {
  const words: Word[] = [];
  for (const [i, line] of text.split("\n").entries()) {
    if (COPYRIGHT_LINE.test(line)) continue;
    const lower = line.replace(LINE_START, "").toLowerCase();
    const plain = (/[^\u0000-\u007f]/.test(lower) ? lower.normalize("NFKC") : lower).replace(/\(c\)|©/g, "copyright");
    for (const word of plain.match(/[a-z0-9]+/g) ?? []) words.push({ word: SPELT.get(word) ?? word, line: i + 1 });
  }
  return words;
}

/** Words in a row that are compared; shorter runs are shared by many licences. */
const RUN = 6;

/**
 * Names every run of words by a number of 53 bits, made of two sums over the words' own numbers: among the hundred thousand runs of all
 * licences two different ones share a name with a chance of one in a million million. −1 where a word stands in no licence.
 */
function runNames(words: readonly Word[], numberOf: (word: string) => number | undefined): Float64Array {
  const numbers = new Int32Array(words.length);
  for (const [i, { word }] of words.entries()) numbers[i] = numberOf(word) ?? -1;
  const names = new Float64Array(Math.max(0, words.length - RUN + 1));
  for (let i = 0; i < names.length; i++) {
    let [a, b] = [0x811c9dc5, 0x9e3779b9];
    let known = true;
    for (let k = i; k < i + RUN; k++) {
      const number = numbers[k]!;
      if (number < 0) known = false;
      a = Math.imul(a ^ number, 0x01000193);
      a ^= a >>> 15;
      b = Math.imul(b + number, 0x85ebca6b);
      b ^= b >>> 13;
    }
    names[i] = known ? (a >>> 0) * 0x200000 + ((b >>> 0) & 0x1fffff) : -1;
  }
  return names;
}

/** Texts of licences found in one paper; a paper with more is a collection of them, of which the first say enough. */
const MOST_TEXTS = 60;

/** So much of the licence must be there, and so much of the stretch it spans must be it. */
const LEAST_FOUND = 0.82;
const LEAST_PURE = 0.75;

export class LicenceRecogniser {
  private readonly known: { id: string; runs: ReadonlySet<number> }[];
  /** Licences by run, to look only at those that share any. */
  private readonly byRun = new Map<number, number[]>();
  /** Every word of every licence, numbered. */
  private readonly vocabulary = new Map<string, number>();

  constructor(texts: readonly LicenceText[]) {
    this.known = texts.map(({ id, text }, number) => {
      const words = wordsOf(withoutAppendix(text));
      for (const { word } of words) if (!this.vocabulary.has(word)) this.vocabulary.set(word, this.vocabulary.size);
      const runs = new Set(runNames(words, (word) => this.vocabulary.get(word)));
      for (const run of runs) {
        const there = this.byRun.get(run);
        if (there) there.push(number);
        else this.byRun.set(run, [number]);
      }
      return { id, runs };
    });
  }

  /** All licences whose text stands in `paper`, in order of place. */
  recognise(paper: string): Recognised[] {
    const words = wordsOf(paper);
    const runs = runNames(words, (word) => this.vocabulary.get(word));
    const taken = new Array<boolean>(runs.length).fill(false);
    const found: Recognised[] = [];
    const hits = this.hits(runs);
    for (;;) {
      const best = found.length < MOST_TEXTS ? this.best(runs, hits) : undefined;
      if (!best) return found.sort((a, b) => a.line - b.line);
      found.push({ id: best.id, line: words[best.from]!.line, lastLine: words[best.to + RUN - 1]!.line, found: best.found });
      for (let i = best.from; i <= best.to; i++) taken[i] = true;
      for (const [number, places] of hits) {
        const left = places.filter((i) => !taken[i]);
        if (left.length < LEAST_FOUND * this.known[number]!.runs.size) hits.delete(number);
        else hits.set(number, left);
      }
    }
  }

  /** Where runs of each licence stand; licences of which too little does are left out. */
  private hits(runs: Float64Array): Map<number, readonly number[]> {
    const hits = new Map<number, number[]>();
    for (const [i, run] of runs.entries()) {
      for (const number of this.byRun.get(run) ?? []) {
        const list = hits.get(number);
        if (list) list.push(i);
        else hits.set(number, [i]);
      }
    }
    for (const [number, places] of hits) if (places.length < LEAST_FOUND * this.known[number]!.runs.size) hits.delete(number);
    return hits;
  }

  private best(
    runs: Float64Array,
    hits: ReadonlyMap<number, readonly number[]>,
  ): { id: string; from: number; to: number; found: number } | undefined {
    let best: { id: string; from: number; to: number; found: number; score: number } | undefined;
    for (const [number, places] of hits) {
      const { id, runs: wanted } = this.known[number]!;
      const stretch = densest(places, wanted.size);
      const different = new Set(stretch.map((i) => runs[i]!)).size;
      const share = different / wanted.size;
      const [from, to] = [stretch[0]!, stretch.at(-1)!];
      const pure = stretch.length / (to - from + 1);
      const score = share * pure;
      if (share < LEAST_FOUND || pure < LEAST_PURE) continue;
      // Between a licence and one it contains, both wholly there, the longer one says more.
      if (!best || score > best.score + 0.01 || (score > best.score - 0.01 && wanted.size > this.sizeOf(best.id)))
        best = { id, from, to, found: share, score };
    }
    return best;
  }
  private sizeOf(id: string): number {
    return this.known.find((one) => one.id === id)?.runs.size ?? 0;
  }
}

/** The stretch of places that holds most of them without reaching much further than the licence is long. */
function densest(places: readonly number[], length: number): readonly number[] {
  const span = Math.ceil(length * 1.35) + 2 * RUN;
  let [bestFrom, bestTo] = [0, 0];
  for (let from = 0, to = 0; to < places.length; to++) {
    while (places[to]! - places[from]! > span) from++;
    if (to - from > bestTo - bestFrom) [bestFrom, bestTo] = [from, to];
  }
  return withoutStrays(places.slice(bestFrom, bestTo + 1), length);
}

/** A gap of this many words ends what belongs together. */
const GAP = 60;

/** Drops short bits at either end that lie apart from the rest: a disclaimer that the neighbouring licence shares. */
function withoutStrays(places: readonly number[], length: number): readonly number[] {
  let [from, to] = [0, places.length];
  const least = Math.max(3, 0.08 * length);
  for (let i = 1; i < places.length; i++) if (places[i]! - places[i - 1]! > GAP && i - from < least) from = i;
  for (let i = places.length - 1; i > from; i--) if (places[i]! - places[i - 1]! > GAP && to - i < least) to = i;
  return places.slice(from, to);
}

/** What follows the terms themselves is optional (Annex B.5): how to apply them, and boilerplate to copy. */
function withoutAppendix(text: string): string {
  const end = text.search(/^[ \t]*(end of terms and conditions|appendix: how to apply|how to apply these terms)/im);
  return end > text.length / 2 ? text.slice(0, end) : text;
}
