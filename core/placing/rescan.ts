// What happened on a device behind Buvano's back: two observations compared.

export interface Looked {
  folder: string;
  fileName: string;
  sha256: string;
  on: boolean;
}
export interface FoundChange<T extends Looked = Looked> {
  how: "appeared" | "vanished" | "changed" | "switched-on" | "switched-off";
  file: T;
  /** For a changed file: the sum of the one that lay there before. */
  was?: string;
}

const place = (file: Looked): string => `${file.folder}/${file.fileName}`;

/** How `after` differs from `before`, in the order of the later observation, vanished files last. */
export function compareLooks<T extends Looked>(before: readonly T[], after: readonly T[]): FoundChange<T>[] {
  const was = new Map(before.map((file) => [place(file), file]));
  const is = new Set(after.map(place));
  const found: FoundChange<T>[] = [];
  for (const file of after) {
    const earlier = was.get(place(file));
    if (!earlier) found.push({ how: "appeared", file });
    else if (earlier.sha256 !== file.sha256) found.push({ how: "changed", file, was: earlier.sha256 });
    else if (earlier.on !== file.on) found.push({ how: file.on ? "switched-on" : "switched-off", file });
  }
  for (const file of before) if (!is.has(place(file))) found.push({ how: "vanished", file });
  return found;
}
