// Computed once for each text: what papers and pages repeat is read once.

/** Longer texts are hardly ever repeated, and would fill the memory. */
const LONGEST = 400;

/** Remembers the answers for the last `most` short texts. Answers are shared: whoever gets one leaves it as it is. */
export function remembered<T>(compute: (text: string) => T, most: number): (text: string) => T {
  const known = new Map<string, T>();
  return (text) => {
    if (text.length > LONGEST) return compute(text);
    if (known.has(text)) return known.get(text)!;
    const found = compute(text);
    if (known.size >= most) known.delete(known.keys().next().value!);
    known.set(text, found);
    return found;
  };
}
