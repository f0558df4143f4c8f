// What is read of a font's tables, as a reader of the specification would list it: the directory, or one table, a field a line.
import type { Face } from "./face.ts";

/** Longer lists are cut here, and their length said. */
const MOST_LISTED = 4000;

/** Names and their values, some of them nested or in lists. */
export type Dumped = Readonly<Record<string, unknown>>;

const listed = <T>(all: readonly T[]): unknown =>
  all.length <= MOST_LISTED ? all : [...all.slice(0, MOST_LISTED), `… ${all.length} in all`];
/** Fields of a table that is laid out as a record; what a version lacks is left out. */
const fields = (table: object | undefined): Dumped | undefined =>
  table && Object.fromEntries(Object.entries(table).filter(([, value]) => value !== undefined && typeof value !== "function"));

function characters(face: Face): Dumped | undefined {
  const { cmap } = face;
  if (!cmap) return undefined;
  const pairs: string[] = [];
  cmap.each((codePoint, glyph) => pairs.push(`U+${codePoint.toString(16).toUpperCase().padStart(4, "0")} → ${glyph}`));
  return { characters: listed(pairs) };
}

const READERS: Readonly<Record<string, (face: Face) => Dumped | undefined>> = {
  head: (face) => fields(face.head),
  hhea: (face) => fields(face.hhea),
  maxp: (face) => fields(face.maxp),
  "OS/2": (face) => fields(face.os2),
  post: (face) => {
    const post = fields(face.post);
    return post && { ...post, glyphNames: listed(face.glyphNames()) };
  },
  name: (face) => face.names && { records: listed(face.names.records), outside: face.names.outside },
  cmap: characters,
  fvar: (face) => fields(face.fvar),
  STAT: (face) => fields(face.stat),
  GSUB: (face) => fields(face.gsub),
  hmtx: (face) => {
    const { hmtx, maxp } = face;
    return hmtx && { advanceWidths: listed(Array.from({ length: maxp?.numGlyphs ?? 0 }, (_, glyph) => hmtx.advanceUnits(glyph))) };
  },
};

/** The tables there are, in the order of the directory, with where they lie (bytes from the file's start), and whether one is read here. */
export const directoryOf = (face: Face): Dumped[] =>
  face.directory.tables.map(({ tag, checksum, offset, length }) => ({
    tag,
    offset,
    length,
    checksum: checksum.toString(16).padStart(8, "0"),
    read: tag.trimEnd() in READERS,
  }));

/** One table; undefined when the font has none of that tag, or it is not read. Throws a `ProblemError` when it is damaged. */
export function dumpTable(face: Face, tag: string): Dumped | undefined {
  const read = Object.hasOwn(READERS, tag.trimEnd()) ? READERS[tag.trimEnd()] : undefined;
  return read?.(face);
}
