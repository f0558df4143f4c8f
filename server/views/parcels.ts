// The row of one parcel: what lists say of it. Its page works out the rest.
import type { EntryKind, ParcelProgress, ParcelSummary } from "../../contract/parcels.ts";
import type { Problem } from "../../contract/problem.ts";
import type { Brief } from "../../core/family/brief.ts";
import { familyKey } from "../../core/family/group.ts";
import { takenTwins, type TwinFormat } from "../../core/family/kinship.ts";
import type { Claim } from "../../core/placing/files.ts";
import type { Parts } from "../parts.ts";
import type { EntryRow, ParcelRow } from "../store/parcels/parcels.ts";

type Uses = Pick<Parts, "parcels" | "library" | "settings" | "readings" | "familyViews" | "parcelViews" | "stale">;

/** A face as its parcel lists it. */
export interface Listed {
  sha256: string;
  face: number;
  /** Of its file in the parcel. */
  path: string;
  brief: Brief;
  claim: Claim;
}

/** Why web fonts of a parcel may not be unwrapped, or not yet. */
export type Unwrapping = { allowed: boolean; reason: string };

export const isWeb = (container: string): boolean => container === "woff" || container === "woff2";
/** Whole, and a file that computers and tablets install; web fonts must be unwrapped first. */
export const whole = (style: { verdict: string; container: string }): boolean => style.verdict !== "refused" && !isWeb(style.container);

const fileNameOf = (path: string): string => path.split("/").at(-1)!;
/** Faces looked up between two pauses. */
const FACES_IN_A_ROW = 40;

/** The faces of a parcel, each once. Pauses between pieces of work. */
export function* listFaces(
  uses: Pick<Parts, "library" | "parcelViews" | "stale">,
  entries: readonly EntryRow[],
): Generator<void, Listed[]> {
  const seen = new Set<string>();
  const found: Listed[] = [];
  let looked = 0;
  for (const entry of entries) {
    if ((entry.kind !== "font" && entry.kind !== "web font") || entry.sha256 === "" || seen.has(entry.sha256)) continue;
    seen.add(entry.sha256);
    const claims = uses.library.claimsOf(entry.sha256);
    for (const { sha256, face, brief } of uses.library.facesBrief(entry.sha256)) {
      found.push({ sha256, face, path: entry.path, brief, claim: claims[face]! });
      if (++looked % FACES_IN_A_ROW === 0) yield;
    }
  }
  return found;
}

/** Styles left in the parcel because their twin is taken, with the reason. */
export function leftForTwins(faces: readonly Listed[], format: TwinFormat): Map<Listed, string> {
  const left = new Map<Listed, string>();
  const kin = faces.filter((face) => face.brief.verdict !== "refused").map((face) => ({ ...face.claim, listed: face }));
  for (const { taken, left: others } of takenTwins(kin, format))
    for (const { listed } of others)
      left.set(listed, `The same style as ${fileNameOf(taken.listed.path)}, which is taken; both would be listed twice.`);
  return left;
}

/** Whether a parcel's web fonts may be unwrapped: a sentence of a paper, or of the fonts themselves, may forbid it. */
export function mayUnwrap(
  uses: Pick<Parts, "readings" | "library" | "parcelViews" | "stale">,
  entries: readonly EntryRow[],
  faces: readonly Listed[],
): Unwrapping {
  let waiting = 0;
  for (const { path, sha256, kind } of entries) {
    if (kind !== "paper" || sha256 === "") continue;
    const facts = uses.readings.facts(sha256);
    if (!facts) waiting++;
    const said = facts?.forbidsUnwrapping;
    if (said) return { allowed: false, reason: `Its papers keep it to web pages: “${said.text}” (${path}, line ${said.line}).` };
  }
  for (const key of new Set(faces.map((face) => uses.library.statedKey(face.sha256, face.face)))) {
    const facts = key === undefined ? null : uses.readings.facts(key);
    if (!facts) waiting++;
    const said = facts?.forbidsUnwrapping;
    if (said)
      return { allowed: false, reason: `Its papers keep it to web pages: “${said.text}” (the font's own fields, line ${said.line}).` };
  }
  return waiting > 0
    ? { allowed: false, reason: "Its papers are still being read; one of them may forbid it." }
    : { allowed: true, reason: "No paper that came with it forbids it." };
}

const problemOf = (text: string | null): Problem | null => (text === null ? null : (JSON.parse(text) as Problem));

/** What lists show of a parcel; `progress` is added by whoever knows it. */
export function* summarise(uses: Uses, row: ParcelRow): Generator<void, ParcelSummary> {
  const { counts, troubles, beingRead } = uses.parcels.entryCounts(row.id);
  const faces = yield* listFaces(uses, uses.parcels.fontEntries(row.id));
  yield;
  const left = leftForTwins(faces, uses.settings.get().twinFormat);
  yield;
  const web = faces.filter((face) => isWeb(face.brief.container));
  const unwrap = web.length > 0 && mayUnwrap(uses, uses.parcels.entries(row.id), faces).allowed;
  const shelved = new Set(faces.filter((face) => uses.library.isShelved(face.sha256, face.face)));
  return {
    id: row.id,
    name: row.name,
    bytes: row.bytes,
    state: row.state,
    progress: null satisfies ParcelProgress | null,
    problem: problemOf(row.problem),
    arrivedAt: row.arrived_at,
    counts: counts as Partial<Record<EntryKind, number>>,
    families: new Set(faces.map((face) => familyKey(face.brief.family))).size,
    styles: faces.length,
    shelvedStyles: shelved.size,
    shelvableStyles: faces.filter((face) => !shelved.has(face) && whole(face.brief) && !left.has(face)).length,
    unwrappableStyles: unwrap ? web.filter((face) => !left.has(face) && face.brief.verdict !== "refused").length : 0,
    troubles: troubles + faces.filter((face) => face.brief.verdict === "refused").length,
    cleared: row.cleared_at !== null,
    beingRead,
  };
}

/** Whether a parcel waits for somebody. */
const waits = (parcel: ParcelSummary): boolean => parcel.state !== "ready" || parcel.shelvableStyles > 0 || parcel.unwrappableStyles > 0;

export class ParcelViews {
  private readonly uses: Uses;
  constructor(uses: Uses) {
    this.uses = uses;
  }
  *renew({ parcelId, seq }: { parcelId: number; seq: number }): Generator<void> {
    const row = this.uses.parcels.get(parcelId);
    if (row) {
      const summary = yield* summarise(this.uses, row);
      // Marked again, or gone, meanwhile: whoever did that sees to it.
      if (this.uses.stale.staleParcel(parcelId)?.seq !== seq) return;
      this.uses.parcelViews.putParcel(summary, waits(summary));
    }
    this.uses.stale.settle("parcel", parcelId, seq);
  }
}
