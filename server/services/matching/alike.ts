// Look-alikes of families, with what they may be used for.
import { join } from "node:path";
import type { AlikeFamily, AlikeView } from "../../../contract/matching.ts";
import { clearedFor, clearedWords } from "../../../core/clearance/job.ts";
import type { Answer, Use } from "../../../core/clearance/uses.ts";
import { alikenessOf } from "../../../core/matching/answer/alike.ts";
import { likenessOf } from "../../../core/matching/answer/verdict.ts";
import { othersFirst } from "../../../core/turns.ts";
import { notFound } from "../../fault.ts";
import type { Parts } from "../../parts.ts";
import type { StyleBrief } from "../../store/families/families.ts";
import type { FaceId } from "../../store/matching/matches.ts";
import type { Renewal } from "../../views/renewal.ts";
import type { WorkPool } from "../../work/pool.ts";

type Uses = Pick<Parts, "matches" | "library" | "jobs" | "config">;

/** Faces looked up between two pauses. */
const LOOKED_UP_TOGETHER = 2000;
/** Styles of a family whose look-alikes are looked for, and families told. */
const STYLES_COMPARED = 4;
const FAMILIES_TOLD = 12;
const NEAREST_FACES = 400;
export const OWN_USE: readonly Use[] = ["own"];

/** Orders that are kept, for the next part of the list. */
const MOST_ORDERS = 4;

interface Near {
  familyId: number;
  styleId: number;
  distance: number;
  /** The own face it is nearest to, by its key. */
  of: string;
}
interface Nearest {
  styles: StyleBrief[];
  near: Near[];
}

const keyOf = ({ sha256, face }: FaceId): string => `${sha256}#${face}`;

/** What a family's clearance says to some uses, and in words; null where none is known. */
export function clearedTo(
  renewal: Pick<Renewal, "family">,
  familyId: number | null,
  uses: readonly Use[],
): { cleared: Answer | null; clearance: string } {
  const family = familyId === null ? undefined : renewal.family(familyId);
  if (!family) return { cleared: null, clearance: "" };
  if (family.clearance.lapsed) return { cleared: "no", clearance: "Its licence has ended" };
  const cleared = clearedFor(family.clearance, uses);
  const asked = family.clearance.uses.filter((one) => uses.includes(one.use));
  return { cleared, clearance: clearedWords(cleared, asked) };
}

export class AlikeService {
  private readonly uses: Uses;
  private readonly pool: Pick<WorkPool, "match">;
  private readonly renewal: Pick<Renewal, "family">;
  private readonly orders = new Map<number, { stamp: string; order: Promise<readonly number[]> }>();
  constructor(uses: Uses, pool: Pick<WorkPool, "match">, renewal: Pick<Renewal, "family">) {
    this.uses = uses;
    this.pool = pool;
    this.renewal = renewal;
  }

  /** The nearest style of every other family that looks like one at all, the nearest first. */
  private async nearest(familyId: number, most: number): Promise<Nearest> {
    const { library, matches } = this.uses;
    const own = library.briefsOf(familyId);
    if (own.length === 0) throw notFound("family");
    const styles = telling(own);
    const ownKeys = new Set(own.map(keyOf));
    const styleOf = new Map<string, { familyId: number; styleId: number }>();
    for (let last = 0; ;) {
      const rows = matches.shelved(last, LOOKED_UP_TOGETHER);
      for (const row of rows) {
        last = row.styleId;
        if (!ownKeys.has(keyOf(row))) styleOf.set(keyOf(row), row);
      }
      if (rows.length < LOOKED_UP_TOGETHER) break;
      await othersFirst();
    }
    const found = await this.pool.match({
      kind: "alike",
      library: join(this.uses.config.dataDir, "library.db"),
      of: styles.map(keyOf),
      among: [...styleOf.keys()],
      most,
    });
    const best = new Map<number, Near>();
    for (const { of, found: near } of found) {
      for (const { key, distance } of near) {
        const { familyId: to, styleId } = styleOf.get(key)!;
        if (distance < (best.get(to)?.distance ?? Infinity)) best.set(to, { familyId: to, styleId, distance, of });
      }
    }
    return { styles, near: [...best.values()].sort((a, b) => a.distance - b.distance) };
  }

  /** Families that look like one, the nearest first, with what they may be used for: by a job, or for one's own use. */
  async alike(familyId: number, jobId: number | null): Promise<AlikeView> {
    const { library, matches } = this.uses;
    const family = library.family(familyId);
    if (!family) throw notFound("family");
    const job = jobId === null ? undefined : this.uses.jobs.get(jobId);
    if (jobId !== null && !job) throw notFound("job");
    const { styles, near } = await this.nearest(familyId, NEAREST_FACES);
    const keys = new Map(styles.map((style) => [keyOf(style), style]));
    const families = near.slice(0, FAMILIES_TOLD).flatMap(({ familyId: to, styleId, distance, of }): AlikeFamily[] => {
      const alike = alikenessOf(distance);
      const style = library.styleBrief(styleId);
      const from = keys.get(of)!;
      const name = library.family(to)?.name;
      if (!alike || !style || name === undefined) return [];
      return [
        {
          familyId: to,
          family: name,
          styleId: style.id,
          style: style.brief.style,
          ofStyleId: from.id,
          ofStyle: from.brief.style,
          alike,
          likeness: likenessOf(distance * distance * 4),
          ...clearedTo(this.renewal, to, job?.uses ?? OWN_USE),
        },
      ];
    });
    const unmeasured = styles.filter((style) => !matches.manner(style.sha256, style.face)).length;
    return { familyId, family: family.name, asked: job?.name ?? "", families, unmeasured };
  }

  /**
   * All families that can be compared with one, by ID, itself first and then the nearest first; none when it is not on the shelf. Kept until
   * something else is on the shelf or was measured.
   */
  async order(familyId: number): Promise<readonly number[]> {
    if (this.uses.library.briefsOf(familyId).length === 0) return [];
    const stamp = this.uses.matches.stamp();
    const kept = this.orders.get(familyId);
    if (kept?.stamp === stamp) return kept.order;
    const order = this.nearest(familyId, Infinity).then(({ near }) => [familyId, ...near.map((one) => one.familyId)]);
    this.orders.delete(familyId);
    if (this.orders.size >= MOST_ORDERS) this.orders.delete(this.orders.keys().next().value!);
    this.orders.set(familyId, { stamp, order });
    order.catch(() => this.orders.delete(familyId));
    return order;
  }
}

/** Styles that tell a family's look best: the one nearest to regular, a bold, an italic, and what else comes first. */
function telling<T extends FaceId & { brief: { weight: number; italic: boolean } }>(styles: readonly T[]): T[] {
  const far = (one: T) => Math.abs(one.brief.weight - 400) + (one.brief.italic ? 250 : 0);
  const byUse = [...styles].sort((a, b) => far(a) - far(b));
  const wanted = [
    byUse[0],
    byUse.find((one) => one.brief.weight >= 600 && !one.brief.italic),
    byUse.find((one) => one.brief.italic),
    ...byUse,
  ];
  return [...new Set(wanted.filter((one) => one !== undefined))].slice(0, STYLES_COMPARED);
}
