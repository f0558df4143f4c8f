// The list of families as it is asked for: which fit, in which order, and how many each filter would leave. Answered from rows of views.
import type { FamilyQuery, FamilySort } from "../../../contract/families.ts";
import { SCRIPTS, type Script } from "../../../core/coverage/script-list.ts";
import { USES, type Use } from "../../../core/clearance/uses.ts";
import { familyKey } from "../../../core/family/group.ts";
import { FACE_KINDS, type FaceKind } from "../../../core/family/kind-list.ts";
import type { StationKey } from "../../../core/family/stations.ts";
import type { MannerBound } from "../../../core/matching/faces/manner-steps.ts";
import type { Db } from "../database.ts";
import type { Condition } from "./search.ts";
import { bitsOf, blocksOf } from "../views/families.ts";

/** What is asked of the list of families, with everything looked up. */
export interface FamilyFilter extends Pick<FamilyQuery, "at" | "script" | "kind" | "tag"> {
  /** What was typed, for the order, and what it asks for. */
  search: string;
  found: Condition | undefined;
  pinned: boolean;
  /** It must be cleared for all of these. */
  uses: readonly Use[];
  /** One of its styles must lie between all of these. */
  manner: readonly MannerBound[];
  /** It must have all of these characters. */
  codePoints: readonly number[];
  sort: FamilySort | undefined;
  /** Families in the order that is asked for; any others come after them, by name. */
  order?: readonly number[] | undefined;
}
/** Everything on the shelf, by name. */
export const WHOLE_SHELF: FamilyFilter = {
  search: "",
  found: undefined,
  pinned: false,
  uses: [],
  manner: [],
  codePoints: [],
  sort: undefined,
};

const MANNER_COLUMNS: Record<MannerBound["of"], string> = {
  weight: "weight",
  width: "width",
  contrast: "contrast",
  slant: "slant",
  roundness: "roundness",
  serif: "serif",
  joined: "joined",
  smallHeight: "small_height",
};

/** Families that have all of these characters. */
export function covering(codePoints: readonly number[]): Condition {
  const blocks = [...blocksOf(codePoints)];
  return {
    sql: blocks.map(() => "family_id IN (SELECT family_id FROM family_coverage WHERE block = ? AND bits & ? = ?)").join(" AND ") || "1",
    values: blocks.flatMap(([block, bits]) => [block, bits, bits]),
  };
}

function whereFits(filter: FamilyFilter): Condition {
  const parts: string[] = [];
  const values: Condition["values"] = [];
  const put = (sql: string, ...more: Condition["values"]) => {
    parts.push(sql);
    values.push(...more);
  };
  if (filter.found) put(filter.found.sql, ...filter.found.values);
  if (filter.at) put("stuck_at = ?", filter.at);
  if (filter.pinned) put("pinned = 1");
  if (filter.script) put("scripts & ? <> 0", bitsOf(SCRIPTS, [filter.script]));
  if (filter.kind) put("kinds & ? <> 0", bitsOf(FACE_KINDS, [filter.kind]));
  if (filter.tag !== undefined) put("family_id IN (SELECT family_id FROM family_tags WHERE tag_id = ?)", filter.tag);
  if (filter.uses.length > 0) put("cleared & ? = ?", ...new Array<number>(2).fill(bitsOf(USES, filter.uses)));
  if (filter.manner.length > 0) {
    const between = filter.manner.map(({ of }) => `m.${MANNER_COLUMNS[of]} >= ? AND m.${MANNER_COLUMNS[of]} < ?`).join(" AND ");
    put(
      `family_id IN (SELECT s.family_id FROM styles s JOIN face_shapes m ON m.sha256 = s.sha256 AND m.face = s.face WHERE ${between})`,
      ...filter.manner.flatMap(({ from, to }) => [from, to]),
    );
  }
  if (filter.codePoints.length > 0) {
    const covers = covering(filter.codePoints);
    put(covers.sql, ...covers.values);
  }
  return { sql: parts.length > 0 ? `WHERE ${parts.join(" AND ")}` : "", values };
}

/** Damaged first, then what must not be used, then what ends soon, and on to what lacks nothing. */
const TROUBLE_ORDER = `CASE WHEN stuck_at = 'sound' THEN 0 WHEN ending = 1 THEN 1 WHEN ending = 2 THEN 2 WHEN stuck_at = 'cleared' THEN 3
  WHEN stuck_at = 'seen' THEN 4 WHEN stuck_at = 'placed' THEN 5 ELSE 6 END`;

function orderOf({ sort, search }: FamilyFilter): Condition {
  const key = familyKey(search);
  if (sort === "newest")
    return {
      sql: "(SELECT max(shelved_at) FROM styles WHERE styles.family_id = family_views.family_id) DESC, name_key, family_id",
      values: [],
    };
  if (sort === "trouble") return { sql: `${TROUBLE_ORDER}, name_key, family_id`, values: [] };
  // What is called so comes before what only has the words somewhere.
  if (sort === undefined && key !== "")
    return {
      sql: "CASE instr(name_key, ?) WHEN 1 THEN 0 WHEN 0 THEN 2 ELSE 1 END, name_key, family_id",
      values: [key],
    };
  return { sql: "name_key, family_id", values: [] };
}

const countsOfBits = <K extends string>(all: readonly K[], column: string): string =>
  all.map((one, i) => `sum(${column} & ${1 << i} <> 0) AS "${one}"`).join(", ");

export class ShelfList {
  private readonly db: Db;
  constructor(db: Db) {
    this.db = db;
  }

  count(filter: FamilyFilter): number {
    const { sql, values } = whereFits(filter);
    return this.db
      .prepare(`SELECT count(*) FROM family_views ${sql}`)
      .pluck()
      .get(...values) as number;
  }
  /** The families that fit, by ID, in order. */
  ids(filter: FamilyFilter, from: number, limit: number): number[] {
    const { sql, values } = whereFits(filter);
    if (filter.order)
      return this.db
        .prepare(
          `WITH asked AS MATERIALIZED (SELECT value AS id, key AS place FROM json_each(?))
           SELECT family_id FROM family_views LEFT JOIN asked ON asked.id = family_id ${sql}
           ORDER BY place IS NULL, place, name_key, family_id LIMIT ? OFFSET ?`,
        )
        .pluck()
        .all(JSON.stringify(filter.order), ...values, limit, from) as number[];
    const order = orderOf(filter);
    return this.db
      .prepare(`SELECT family_id FROM family_views ${sql} ORDER BY ${order.sql} LIMIT ? OFFSET ?`)
      .pluck()
      .all(...values, ...order.values, limit, from) as number[];
  }
  /** Styles of the families that fit, in the order of the list, by their IDs. */
  styles(filter: FamilyFilter, from: number, limit: number): { total: number; ids: number[] } {
    const { sql, values } = whereFits(filter);
    const of = `FROM styles s JOIN (SELECT family_id AS fitting, name_key FROM family_views ${sql}) ON fitting = s.family_id`;
    return {
      total: this.db
        .prepare(`SELECT count(*) ${of}`)
        .pluck()
        .get(...values) as number,
      ids: this.db
        .prepare(`SELECT s.id ${of} ORDER BY name_key, s.family_id, s.id LIMIT ? OFFSET ?`)
        .pluck()
        .all(...values, limit, from) as number[],
    };
  }

  /** How many families of those that fit are in each of a filter's answers; the filter itself is to be left open. */
  byStation(filter: FamilyFilter): Partial<Record<StationKey, number>> {
    const { sql, values } = whereFits(filter);
    const rows = this.db
      .prepare(`SELECT stuck_at AS at, count(*) AS families FROM family_views ${sql} GROUP BY stuck_at`)
      .all(...values) as { at: StationKey | null; families: number }[];
    return Object.fromEntries(rows.flatMap(({ at, families }) => (at === null ? [] : [[at, families]])));
  }
  private byBits<K extends string>(filter: FamilyFilter, all: readonly K[], column: string): Record<K, number> {
    const { sql, values } = whereFits(filter);
    const row = this.db.prepare(`SELECT ${countsOfBits(all, column)} FROM family_views ${sql}`).get(...values) as Record<K, number | null>;
    return Object.fromEntries(all.map((one) => [one, row[one] ?? 0])) as Record<K, number>;
  }
  byScript(filter: FamilyFilter): Record<Script, number> {
    return this.byBits(filter, SCRIPTS, "scripts");
  }
  byKind(filter: FamilyFilter): Record<FaceKind, number> {
    return this.byBits(filter, FACE_KINDS, "kinds");
  }
  byUse(filter: FamilyFilter): Record<Use, number> {
    return this.byBits(filter, USES, "cleared");
  }
  byTag(filter: FamilyFilter): { id: number; name: string; families: number }[] {
    const { sql, values } = whereFits(filter);
    return this.db
      .prepare(
        `SELECT t.id, t.name, count(*) AS families FROM (SELECT family_id FROM family_views ${sql}) v JOIN family_tags f ON f.family_id = v.family_id
         JOIN tags t ON t.id = f.tag_id GROUP BY t.id ORDER BY t.key`,
      )
      .all(...values) as { id: number; name: string; families: number }[];
  }
}
