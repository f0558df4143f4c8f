// Taking signs off the ends of a text. A pattern for both ends at once would look again at every run of such signs inside.

/** `text` without any of `signs` at its beginning and its end. */
export function withoutEnds(text: string, signs: string): string {
  let [from, to] = [0, text.length];
  while (from < to && signs.includes(text[from]!)) from++;
  while (to > from && signs.includes(text[to - 1]!)) to--;
  return text.slice(from, to);
}
