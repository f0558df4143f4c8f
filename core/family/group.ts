// Which styles belong to one family, and in which order they are shown.

export interface GroupedFace {
  family: string;
  weight: number;
  width: number;
  italic: boolean;
  style: string;
}

/** Two spellings of a family name that differ only in case, spaces or form are one family. */
export const familyKey = (name: string): string => name.normalize("NFKC").toLowerCase().replace(/\s+/g, " ").trim();

/** Styles in a specimen book's order: normal width first, light to heavy, upright before slanted. */
export function compareStyles(a: GroupedFace, b: GroupedFace): number {
  return (
    Math.abs(a.width - 5) - Math.abs(b.width - 5) ||
    a.weight - b.weight ||
    Number(a.italic) - Number(b.italic) ||
    (a.style < b.style ? -1 : 1)
  );
}

/** The style that stands for its family: upright, of normal width, nearest to weight 400. Never empty for a non-empty list. */
export function representative<T extends GroupedFace>(faces: readonly T[]): T | undefined {
  const distance = (face: T) => Number(face.italic) * 1000 + Math.abs(face.width - 5) * 100 + Math.abs(face.weight - 400) / 10;
  return [...faces].sort((a, b) => distance(a) - distance(b))[0];
}

/** Groups faces by family, families and styles in order. */
export function groupFamilies<T extends GroupedFace>(faces: readonly T[]): { family: string; faces: T[] }[] {
  const groups = new Map<string, T[]>();
  for (const face of faces) {
    const key = familyKey(face.family);
    const group = groups.get(key);
    if (group) group.push(face);
    else groups.set(key, [face]);
  }
  const collator = new Intl.Collator("en");
  return [...groups.values()]
    .map((members) => ({ family: members[0]!.family, faces: members.sort(compareStyles) }))
    .sort((a, b) => collator.compare(a.family, b.family));
}
