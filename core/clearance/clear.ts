// A whole download cleared at once: each family with the papers that lie with it. What the server keeps as facts is here put together in one go.
import type { Inspection } from "../inspect.ts";
import { groupFamilies } from "../family/group.ts";
import { weigh, type Clearance } from "./clearance.ts";
import { gather, searchedName, type Reading, type ReadText } from "./gather.ts";
import { papersFor } from "./papers.ts";
import { readFont, type TextFacts } from "./read.ts";
import type { LicenceRecogniser } from "./spdx.ts";
import type { Day } from "./terms.ts";

export interface ClearedFont {
  /** Where its file lies in the download. */
  path: string;
  inspection: Inspection;
}
export interface ClearedPaper {
  path: string;
  sha256: string;
  facts: TextFacts;
}
export interface FamilyCleared {
  family: string;
  reading: Reading;
  clearance: Clearance;
  /** The fonts' own copyright field. */
  copyright: string;
}

/** Papers that are read for one family; those nearest to its fonts come first. */
export const MOST_PAPERS = 100;

/** Clears every family among some fonts by the papers that came with them. */
export function clearFamilies(
  fonts: readonly ClearedFont[],
  papers: readonly ClearedPaper[],
  recogniser: LicenceRecogniser,
  today: Day,
): FamilyCleared[] {
  const groups = groupFamilies(fonts.map((font) => ({ ...font.inspection, font })));
  const names = new Set(groups.map(({ family }) => searchedName(family)));
  const stated = new Map<string, TextFacts>();
  return groups.map(({ family, faces }) => {
    const paths = [...new Set(faces.map(({ font }) => font.path))];
    const texts: ReadText[] = [];
    const seen = new Set<string>();
    for (const { font } of faces) {
      const key = JSON.stringify(font.inspection.stated);
      if (seen.has(key)) continue;
      seen.add(key);
      let facts = stated.get(key);
      if (!facts) stated.set(key, (facts = readFont(font.inspection.stated, recogniser)));
      texts.push({ facts, key });
    }
    for (const { facts, path, sha256 } of papersFor(paths, papers).slice(0, MOST_PAPERS)) texts.push({ facts, paper: { path, sha256 } });
    const reading = gather(texts, { names: [family], beside: () => names, paths });
    const clearance = weigh({ statements: reading.statements, corrections: [], licences: [], today });
    return { family, reading, clearance, copyright: faces[0]!.font.inspection.stated.copyright };
  });
}
