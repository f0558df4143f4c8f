// Papers cut into sentences, each with the line it starts on, so that what is read can be shown where it stands.

export interface Sentence {
  text: string;
  /** Counted from 1. */
  line: number;
}

/** A line that cannot belong to the sentence before it: a bullet, a number, a heading's underline. */
const STARTS_NEW = /^\s*([-*•·◦–—]\s|\(?\d{1,2}[.)]\s|[=_*-]{3,}\s*$)/;

/** What is longer is no sentence. */
const MOST_CHARACTERS = 2000;

/** Full stops that end no sentence. */
const ABBREVIATION = /\b(e\.g|i\.e|etc|inc|ltd|co|vs|no|st|mr|mrs|dr|approx|incl|excl)\.$/i;

/**
 * Cuts a text into sentences: at . ! ? before white space, at empty lines, and at lines that are an item of a list. A line break
 * alone goes on in the next line. None is longer than 2000 characters, wherever it comes from: how long it takes to read one is bounded.
 */
export function sentencesOf(text: string): Sentence[] {
  const found: Sentence[] = [];
  let current = "";
  let startedAt = 1;
  const finish = () => {
    const tidy = current.replace(/\s+/g, " ").trim();
    if (/[\p{L}\p{N}]/u.test(tidy)) found.push({ text: tidy, line: startedAt });
    current = "";
  };
  for (const [i, line] of text.split("\n").entries()) {
    // A heading or a short line of its own ends where the next line starts with a capital after no full stop.
    if (line.trim() === "" || STARTS_NEW.test(line)) finish();
    const closed = /[.!?]["”’)]?$/u.test(line.trimEnd());
    const pieces = line.split(/(?<=[.!?]["”’)]?)\s+/u);
    for (const [k, whole] of pieces.entries()) {
      if (whole.trim() === "") continue;
      let piece = whole.trim();
      for (; piece.length > MOST_CHARACTERS; piece = piece.slice(MOST_CHARACTERS)) {
        finish();
        [current, startedAt] = [piece.slice(0, MOST_CHARACTERS), i + 1];
        finish();
      }
      if (current.length + piece.length > MOST_CHARACTERS) finish();
      if (current === "") startedAt = i + 1;
      current += `${current === "" ? "" : " "}${piece}`;
      const ends = /[.!?]["”’)]?$/u.test(piece) && !ABBREVIATION.test(piece.slice(-12));
      if (ends && (k < pieces.length - 1 || closed)) finish();
    }
  }
  finish();
  return found;
}
