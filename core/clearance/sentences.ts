// Papers cut into sentences, each with the line it starts on, so that what is read can be shown where it stands.

export interface Sentence {
  text: string;
  /** Counted from 1. */
  line: number;
}

/** A line that cannot belong to the sentence before it: a bullet, a number, a heading's underline. */
const STARTS_NEW = /^\s*([-*•·◦–—]\s|\(?\d{1,2}[.)]\s|[=_*-]{3,}\s*$)/;

/** Full stops that end no sentence. */
const ABBREVIATION = /\b(e\.g|i\.e|etc|inc|ltd|co|vs|no|st|mr|mrs|dr|approx|incl|excl)\.$/i;

/**
 * Cuts a text into sentences: at . ! ? before white space, at empty lines, and at lines that are an item of a list. A line break
 * alone goes on in the next line. Sentences above 2000 characters are cut there.
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
    const pieces = line.split(/(?<=[.!?]["”’)]?)\s+/u);
    for (const [k, piece] of pieces.entries()) {
      if (piece.trim() === "") continue;
      if (current.trim() === "") startedAt = i + 1;
      current += `${current === "" ? "" : " "}${piece.trim()}`;
      const ends = /[.!?]["”’)]?$/u.test(piece.trim()) && !ABBREVIATION.test(piece.trim());
      if ((ends && (k < pieces.length - 1 || /[.!?]["”’)]?\s*$/u.test(line))) || current.length > 2000) finish();
    }
  }
  finish();
  return found;
}
