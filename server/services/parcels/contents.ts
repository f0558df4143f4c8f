// What is in a parcel, as its page shows it: drawers by family, each style with how it stands to its twins and to the shelf.
import type { ClearanceView } from "../../../contract/clearance.ts";
import type { EntryKind, ParcelDetail, ParcelEntry, ParcelStyle, ParcelSummary } from "../../../contract/parcels.ts";
import type { Problem } from "../../../contract/problem.ts";
import { searchedName } from "../../../core/clearance/gather.ts";
import { papersFor } from "../../../core/clearance/papers.ts";
import { familyKey, groupFamilies } from "../../../core/family/group.ts";
import { compareNamesakes, differenceWords, KNOWN_WORDS } from "../../../core/family/kinship.ts";
import { Company, differingNames, familyNotes } from "../../../core/family/notes.ts";
import { nameKeys, sameFamilyReason } from "../../../core/family/spelling.ts";
import { examineFamily } from "../../../core/health/family.ts";
import type { Finding } from "../../../core/health/finding.ts";
import type { Inspection } from "../../../core/inspect.ts";
import type { Parts } from "../../parts.ts";
import type { EntryRow, ParcelRow } from "../../store/parcels/parcels.ts";
import type { Clearing } from "../../views/clearance.ts";
import { isWeb, leftForTwins, listFaces, mayUnwrap, whole as wholeFace, type Listed, type Unwrapping } from "../../views/parcels.ts";
import type { ClearanceService } from "../clearance/clearance.ts";

type Uses = Pick<Parts, "parcels" | "library" | "settings" | "readings" | "familyViews" | "parcelViews" | "stale">;

export const whole = (style: ParcelStyle): boolean => wholeFace(style);
export const shelvable = (style: ParcelStyle): boolean => whole(style) && style.twin === "";

const named = (path: string): string => path.split("/").at(-1)!;
/** Names looked at closely for each family, to see whether they mean the same one. */
const MOST_ALIKE = 200;
const lettersIn = (one: { name: string } | undefined): number => one?.name.replace(/[^\p{L}\p{N}]/gu, "").length ?? 0;

/** Runs work that would pause, to its end. */
function toTheEnd<T>(work: Generator<void, T>): T {
  for (;;) {
    const step = work.next();
    if (step.done) return step.value;
  }
}

interface Listing {
  entries: EntryRow[];
  faces: Listed[];
  left: ReadonlyMap<Listed, string>;
  unwrap: Unwrapping;
}

export class ParcelContents {
  private readonly uses: Uses;
  private readonly clearing: Clearing;
  private readonly clearance: Pick<ClearanceService, "view">;

  constructor(uses: Uses, clearing: Clearing, clearance: Pick<ClearanceService, "view">) {
    this.uses = uses;
    this.clearing = clearing;
    this.clearance = clearance;
  }

  private listing(row: ParcelRow): Listing {
    const entries = this.uses.parcels.entries(row.id);
    const faces = toTheEnd(listFaces(this.uses, entries));
    return {
      entries,
      faces,
      left: leftForTwins(faces, this.uses.settings.get().twinFormat),
      unwrap: faces.some((face) => isWeb(face.brief.container)) ? mayUnwrap(this.uses, entries, faces) : { allowed: true, reason: "" },
    };
  }

  /** The styles and how they stand to their twins and the shelf, without what only a parcel's own page tells of them. */
  styles(row: ParcelRow): ParcelStyle[] {
    const listing = this.listing(row);
    const groups = groupFamilies(listing.faces.map((face) => ({ ...face.brief, listed: face })));
    return groups.flatMap(({ faces }) => faces.map(({ listed }) => this.style(row, listed, listing, [])));
  }

  detail(row: ParcelRow, summary: ParcelSummary): ParcelDetail {
    const listing = this.listing(row);
    const { entries, faces } = listing;
    // A parcel's page tells of each face what its whole record says; what is only listed is read from briefs.
    const records = new Map(faces.map((face) => [face, this.uses.library.record(face.sha256, face.face)!]));
    const kinOf = (face: Listed) => ({ ...records.get(face)!, sha256: face.sha256, listed: face });
    const company = new Company(faces.map(kinOf));
    const groups = groupFamilies(faces.map((face) => ({ ...face.brief, listed: face })));
    const names = groups.map((group) => group.family);
    const beside = new Set(names.map(searchedName));
    const papers = entries.filter((entry) => entry.kind === "paper" && entry.sha256 !== "");
    const known = new Map<string, EntryRow[]>();
    const drawers = groups.map(({ family, faces: members }) => {
      const kin = members.map((member) => kinOf(member.listed));
      return {
        family,
        notes: familyNotes(kin, company),
        remarks: examineFamily(kin),
        alike: this.alike(family, names),
        clearance: this.cleared(family, kin, { papers, beside, known }),
        styles: members.map(({ listed }) => this.style(row, listed, listing, records.get(listed)!.findings, true)),
      };
    });
    const shown = entries.map((entry): ParcelEntry => ({
      ...entry,
      kind: entry.kind as EntryKind,
      problem: entry.problem ? (JSON.parse(entry.problem) as Problem) : null,
    }));
    return { ...summary, drawers, entries: shown, hasTwins: listing.left.size > 0 };
  }

  private cleared(
    family: string,
    faces: readonly (Inspection & { listed: Listed })[],
    { papers, beside, known }: { papers: readonly EntryRow[]; beside: ReadonlySet<string>; known: Map<string, EntryRow[]> },
  ): ClearanceView {
    const paths = faces.map((face) => face.listed.path);
    // Families that lie in the same folders have the same papers.
    const folders = [...new Set(paths.map((path) => path.slice(0, path.lastIndexOf("/") + 1)))].sort().join("\n");
    let near = known.get(folders);
    if (!near) known.set(folders, (near = papersFor(paths, papers)));
    const keys = faces.flatMap(({ listed }) => this.uses.library.statedKey(listed.sha256, listed.face) ?? []);
    const fonts = { names: [family], beside: () => beside, paths };
    return this.clearance.view(this.clearing.read(keys, near, fonts, faces[0]!.stated.copyright));
  }

  private alike(family: string, beside: readonly string[]): ParcelDetail["drawers"][number]["alike"] {
    const onShelf = this.uses.familyViews.namedLike(nameKeys(family), MOST_ALIKE);
    const shelved = new Map(onShelf.map((one) => [familyKey(one.name), one]));
    const own = shelved.get(familyKey(family));
    const filed = (name: string) => this.uses.library.meantBy(name) ?? shelved.get(familyKey(name))?.id;
    const suggest = (name: string) => {
      const reason = sameFamilyReason(family, name);
      // Filed as one already.
      if (reason && filed(family) !== undefined && filed(family) === filed(name)) return [];
      const other = shelved.get(familyKey(name));
      // The shorter name is the family's: the longer one carries something besides. Of equal ones it is the one that was there first.
      const [first, second] = [own, other].sort((a, b) => lettersIn(a) - lettersIn(b) || (a?.id ?? 0) - (b?.id ?? 0));
      const join = first && second ? { id: first.id, name: first.name, otherId: second.id, otherName: second.name } : null;
      return reason ? [{ name, reason, shelved: other !== undefined, join }] : [];
    };
    const names = new Map([...beside, ...onShelf.map(({ name }) => name)].map((name) => [familyKey(name), name]));
    return [...names.values()].flatMap(suggest).slice(0, 3);
  }

  /** `whole`: with how it stands to what the shelf has. */
  private style(row: ParcelRow, face: Listed, { left, unwrap }: Listing, findings: readonly Finding[], whole = false): ParcelStyle {
    const { sha256, path, brief } = face;
    const { family, style, fullName, weight, italic, codepoints, container, verdict, rightToLeft, sample } = brief;
    return {
      sha256,
      face: face.face,
      path,
      family,
      style,
      fullName,
      weight,
      italic,
      codepoints,
      container,
      verdict,
      rightToLeft,
      sample,
      findings: [...findings],
      twin: left.get(face) ?? "",
      shelved: this.uses.library.isShelved(sha256, face.face),
      known: whole ? this.known(face) : "",
      names: differingNames(named(path), row.name, family),
      unwrap: isWeb(container) ? unwrap : null,
    };
  }

  private known({ claim }: Listed): string {
    for (const other of this.uses.library.shelvedNamesakes(claim.key)) {
      const known = compareNamesakes(claim, other);
      if (known === "same-bytes") continue;
      const difference = differenceWords(claim, other);
      return difference === "" ? KNOWN_WORDS[known] : `${KNOWN_WORDS[known]} The difference: ${difference}.`;
    }
    return "";
  }
}
