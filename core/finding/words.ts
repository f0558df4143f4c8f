// Finding by words: how texts and what is typed are compared, and which words a misspelt one may mean.
// Trigrams as in SQLite's FTS5 tokenizer of that name: https://www.sqlite.org/fts5.html#the_trigram_tokenizer

/** Without marks on letters and without case, so that "Éclair" and "eclair" are one word. */
export const folded = (text: string): string => text.normalize("NFKD").replace(/\p{M}/gu, "").toLowerCase();

/** So many words of what was typed are looked for. */
const MOST_WORDS = 12;

/** The words of what was typed, folded; letters and digits of any script make words, everything else parts them. */
export const wordsOf = (text: string): string[] => (folded(text).match(/[\p{L}\p{N}]+/gu) ?? []).slice(0, MOST_WORDS);

/** Shorter words are only found at the beginning of a word. */
export const SHORTEST_INSIDE = 3;

/** All runs of three characters in a word, each once; none for a shorter word. */
export function trigramsOf(word: string): string[] {
  const letters = [...word];
  return [...new Set(letters.slice(2).map((_, i) => letters.slice(i, i + 3).join("")))];
}

/** How many letters of a word may be wrong, too many, missing or swapped with a neighbour. */
export const slipsAllowed = (word: string): number => ([...word].length < 4 ? 0 : [...word].length < 8 ? 1 : 2);

/**
 * Whether two words differ by at most `most` slips: a letter changed, put in, left out, or two neighbours swapped (optimal string alignment).
 * `from` may stand for the beginning of a longer word.
 */
export function isNear(from: string, word: string, most: number): boolean {
  const a = [...from];
  const b = [...word].slice(0, a.length + most);
  if (b.length < a.length - most) return false;
  let before: number[] = [];
  let last = b.map((_, j) => j + 1);
  last.unshift(0);
  for (let i = 1; i <= a.length; i++) {
    const row = [i];
    for (let j = 1; j <= b.length; j++) {
      const same = a[i - 1] === b[j - 1];
      let least = Math.min(last[j]! + 1, row[j - 1]! + 1, last[j - 1]! + (same ? 0 : 1));
      if (i > 1 && j > 1 && a[i - 1] === b[j - 2] && a[i - 2] === b[j - 1]) least = Math.min(least, before[j - 2]! + 1);
      row.push(least);
    }
    if (Math.min(...row) > most) return false;
    before = last;
    last = row;
  }
  // The word may go on after what was typed.
  return Math.min(...last.slice(Math.max(0, a.length - most))) <= most;
}

/** Whether every word typed is found in a text, exactly or with the slips its length allows. */
export function isNearText(typed: readonly string[], text: string): boolean {
  const words = wordsOfAll(text);
  return typed.every((word) => text.includes(word) || words.some((one) => isNear(word, one, slipsAllowed(word))));
}
const wordsOfAll = (text: string): string[] => text.match(/[\p{L}\p{N}]+/gu) ?? [];
