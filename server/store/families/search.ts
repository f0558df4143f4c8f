// The words families are found by: one row of an index of trigrams each, filled with the family's row.
import { folded, isNearText, SHORTEST_INSIDE, trigramsOf, wordsOf } from "../../../core/finding/words.ts";
import { familyKey } from "../../../core/family/group.ts";
import type { Db } from "../database.ts";

/** What a family is found by, apart from its tags, which are written through. */
export interface FamilyWords {
  name: string;
  styles: string;
  makers: string;
  scripts: string;
  parcels: string;
  licence: string;
}
const COLUMNS = ["name", "styles", "makers", "scripts", "parcels", "licence"] as const;
/** What is kept of each, in characters: a family may have thousands of styles. */
const MOST_KEPT = 6000;

/** A condition on `family_id`, with its values. */
export interface Condition {
  sql: string;
  values: (string | number)[];
}

/** So many rows that share trigrams with a misspelt word are looked at closely. */
const MOST_NEAR = 400;

const quoted = (text: string): string => `"${text.replaceAll('"', '""')}"`;
const ALL_TEXT = "name || ' ' || styles || ' ' || makers || ' ' || scripts || ' ' || parcels || ' ' || licence || ' ' || tags";

export class SearchStore {
  private readonly db: Db;
  constructor(db: Db) {
    this.db = db;
  }

  put(familyId: number, words: Partial<FamilyWords>): void {
    const columns = COLUMNS.filter((column) => words[column] !== undefined);
    const texts = columns.map((column) => folded(words[column]!).slice(0, MOST_KEPT));
    if (this.db.prepare("SELECT 1 FROM family_search WHERE rowid = ?").get(familyId) === undefined) {
      const all = COLUMNS.map((column) => (columns.includes(column) ? texts[columns.indexOf(column)]! : ""));
      const tags = this.db
        .prepare("SELECT coalesce(group_concat(t.key, ' '), '') FROM family_tags f JOIN tags t ON t.id = f.tag_id WHERE f.family_id = ?")
        .pluck()
        .get(familyId) as string;
      this.db
        .prepare(`INSERT INTO family_search (rowid, ${COLUMNS.join()}, tags) VALUES (?, ?, ?, ?, ?, ?, ?, ?)`)
        .run(familyId, ...all, tags);
      return;
    }
    if (columns.length === 0) return;
    const now = this.db.prepare(`SELECT ${columns.join()} FROM family_search WHERE rowid = ?`).get(familyId) as Record<string, string>;
    if (columns.every((column, i) => now[column] === texts[i])) return;
    this.db.prepare(`UPDATE family_search SET ${columns.map((column) => `${column} = ?`).join()} WHERE rowid = ?`).run(...texts, familyId);
  }
  remove(familyId: number): void {
    this.db.prepare("DELETE FROM family_search WHERE rowid = ?").run(familyId);
  }

  /**
   * What a family must meet to be found by what was typed: every word in any of its texts. `alternative` gives what a word may mean besides,
   * such as a language.
   */
  condition(typed: string, alternative: (word: string) => Condition | undefined): Condition | undefined {
    const words = wordsOf(typed);
    const key = familyKey(typed);
    if (key === "") return undefined;
    const asTyped: Condition = { sql: "instr(name_key, ?) > 0", values: [key] };
    if (words.length === 0) return asTyped;
    const each = words.map((word) => {
      const found: Condition =
        [...word].length >= SHORTEST_INSIDE
          ? { sql: "family_id IN (SELECT rowid FROM family_search WHERE family_search MATCH ?)", values: [quoted(word)] }
          : { sql: `family_id IN (SELECT rowid FROM family_search WHERE instr(' ' || ${ALL_TEXT}, ?) > 0)`, values: [` ${word}`] };
      const other = alternative(word);
      return other ? { sql: `(${found.sql} OR ${other.sql})`, values: [...found.values, ...other.values] } : found;
    });
    return {
      sql: `(${asTyped.sql} OR (${each.map(({ sql }) => sql).join(" AND ")}))`,
      values: [...asTyped.values, ...each.flatMap(({ values }) => values)],
    };
  }

  /** Families whose words are near those typed, where none has them exactly. */
  near(typed: string): number[] {
    const words = wordsOf(typed);
    const grams = [...new Set(words.flatMap(trigramsOf))];
    if (grams.length === 0) return [];
    const rows = this.db
      .prepare(`SELECT rowid AS id, ${ALL_TEXT} AS text FROM family_search WHERE family_search MATCH ? ORDER BY rank LIMIT ${MOST_NEAR}`)
      .all(grams.map(quoted).join(" OR ")) as { id: number; text: string }[];
    return rows.filter(({ text }) => isNearText(words, text)).map(({ id }) => id);
  }
}
