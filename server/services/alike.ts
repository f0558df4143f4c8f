// Look-alikes of families, with what they may be used for.
import { join } from "node:path";
import type { AlikeFamily, AlikeView } from "../../contract/match.ts";
import { clearedFor, clearedWords } from "../../core/clearance/job.ts";
import type { Answer, Use } from "../../core/clearance/uses.ts";
import { alikenessOf } from "../../core/matching/alike.ts";
import { likenessOf } from "../../core/matching/verdict.ts";
import { othersFirst } from "../../core/turns.ts";
import { notFound } from "../fault.ts";
import type { Parts } from "../parts.ts";
import type { FaceId } from "../store/matches.ts";
import type { Renewal } from "../views/renewal.ts";
import type { WorkPool } from "../work/pool.ts";

type Uses = Pick<Parts, "matches" | "library" | "jobs" | "config">;

/** Faces looked up between two pauses. */
const LOOKED_UP_TOGETHER = 2000;
/** Styles of a family whose look-alikes are looked for, and families told. */
const STYLES_COMPARED = 4;
const FAMILIES_TOLD = 12;
const NEAREST_FACES = 400;
export const OWN_USE: readonly Use[] = ["own"];

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
  constructor(uses: Uses, pool: Pick<WorkPool, "match">, renewal: Pick<Renewal, "family">) {
    this.uses = uses;
    this.pool = pool;
    this.renewal = renewal;
  }

  /** Families that look like one, the nearest first, with what they may be used for: by a job, or for one's own use. */
  async alike(familyId: number, jobId: number | null): Promise<AlikeView> {
    const { library, matches } = this.uses;
    const family = library.family(familyId);
    const own = library.briefsOf(familyId);
    if (!family || own.length === 0) throw notFound("family");
    const job = jobId === null ? undefined : this.uses.jobs.get(jobId);
    if (jobId !== null && !job) throw notFound("job");
    const styles = telling(own);
    const keys = new Map(styles.map((style) => [keyOf(style), style]));
    const ownKeys = new Set(own.map(keyOf));
    const among: string[] = [];
    const familyOf = new Map<string, { familyId: number; styleId: number }>();
    for (let last = 0; ;) {
      const rows = matches.shelved(last, LOOKED_UP_TOGETHER);
      for (const row of rows) {
        last = row.styleId;
        const key = keyOf(row);
        if (ownKeys.has(key)) continue;
        among.push(key);
        familyOf.set(key, row);
      }
      if (rows.length < LOOKED_UP_TOGETHER) break;
      await othersFirst();
    }
    const found = await this.pool.match({
      kind: "alike",
      library: join(this.uses.config.dataDir, "library.db"),
      of: [...keys.keys()],
      among,
      most: NEAREST_FACES,
    });
    const best = new Map<number, { distance: number; of: string; key: string }>();
    for (const { of, found: near } of found) {
      for (const { key, distance } of near) {
        const to = familyOf.get(key)!.familyId;
        if (distance < (best.get(to)?.distance ?? Infinity)) best.set(to, { distance, of, key });
      }
    }
    const families = [...best]
      .sort((a, b) => a[1].distance - b[1].distance)
      .slice(0, FAMILIES_TOLD)
      .flatMap(([to, { distance, of, key }]): AlikeFamily[] => {
        const alike = alikenessOf(distance);
        const style = library.styleBrief(familyOf.get(key)!.styleId);
        const from = keys.get(of)!;
        const name = library.family(to)?.name;
        if (!alike || !style || name === undefined) return [];
        return [
          {
            ...{ familyId: to, family: name, styleId: style.id, style: style.brief.style, ofStyleId: from.id, ofStyle: from.brief.style },
            ...{ alike, likeness: likenessOf(distance * distance * 4) },
            ...clearedTo(this.renewal, to, job?.uses ?? OWN_USE),
          },
        ];
      });
    const unmeasured = styles.filter((style) => !matches.manner(style.sha256, style.face)).length;
    return { familyId, family: family.name, asked: job?.name ?? "", families, unmeasured };
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
