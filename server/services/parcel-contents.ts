// What is in a parcel, as its page shows it: drawers by family, each style with how it stands to its twins and to the shelf.
import type { ClearanceView } from "../../contract/clearance.ts";
import type { EntryKind, ParcelDetail, ParcelEntry, ParcelProgress, ParcelStyle, ParcelSummary } from "../../contract/parcel.ts";
import type { Problem } from "../../contract/problem.ts";
import { papersFor } from "../../core/clearance/papers.ts";
import { forbidsUnwrapping, type Forbidding } from "../../core/clearance/unwrapping.ts";
import { isRightToLeftOnly, ownSample } from "../../core/coverage/text.ts";
import { groupFamilies } from "../../core/family/group.ts";
import { compareToLibrary, differenceWords, KNOWN_WORDS, preferredTwin, twinGroups, type TwinFormat } from "../../core/family/kinship.ts";
import { differingNames, familyNotes } from "../../core/family/notes.ts";
import { sameFamilyReason } from "../../core/family/spelling.ts";
import { examineFamily } from "../../core/health/family.ts";
import type { Inspection } from "../../core/inspect.ts";
import type { Context } from "../context.ts";
import type { EntryRow, ParcelRow } from "../store/parcels.ts";
import type { ClearanceService } from "./clearance.ts";
import type { Shelf } from "./shelf.ts";

/** A face as its parcel lists it. */
type Listed = Inspection & { sha256: string; path: string };

const isWeb = (container: string): boolean => container === "woff" || container === "woff2";
/** Whole, and a file that computers and tablets install; web fonts must be unwrapped first. */
export const whole = (style: ParcelStyle): boolean => style.verdict !== "refused" && !isWeb(style.container);
const unwrappable = (style: ParcelStyle): boolean => style.unwrap?.allowed === true && style.twin === "" && style.verdict !== "refused";
export const shelvable = (style: ParcelStyle): boolean => whole(style) && style.twin === "";

const named = (path: string): string => path.split("/").at(-1)!;

export class ParcelContents {
  private readonly context: Context;
  private readonly shelf: Shelf;
  private readonly clearance: ClearanceService;
  private readonly kept = new Map<number, { stamp: string; summary: ParcelSummary }>();

  /** The styles of the parcel looked at last. */
  private latest: { id: number; stamp: string; styles: ParcelStyle[] } | undefined;

  constructor(context: Context, shelf: Shelf, clearance: ClearanceService) {
    this.context = context;
    this.shelf = shelf;
    this.clearance = clearance;
  }

  private stamp(): string {
    const { parcels, library, settings } = this.context;
    return `${parcels.version},${library.version},${settings.get().twinFormat}`;
  }

  /** Kept until parcels, the shelf or a choice change; `progress` is always the latest. */
  summary(row: ParcelRow, progress: ParcelProgress | null): ParcelSummary {
    const stamp = this.stamp();
    let known = this.kept.get(row.id);
    if (known?.stamp !== stamp) {
      const entries = this.context.parcels.entries(row.id);
      const drawers = this.drawers(row, entries, false);
      this.latest = { id: row.id, stamp, styles: drawers.flatMap((drawer) => drawer.styles) };
      known = { stamp, summary: toSummary(row, entries, drawers) };
      this.kept.set(row.id, known);
    }
    return { ...known.summary, progress };
  }

  detail(row: ParcelRow, progress: ParcelProgress | null): ParcelDetail {
    const entries = this.context.parcels.entries(row.id);
    const drawers = this.drawers(row, entries, true);
    const shown = entries.map((entry): ParcelEntry => ({
      ...entry,
      kind: entry.kind as EntryKind,
      problem: entry.problem ? (JSON.parse(entry.problem) as Problem) : null,
    }));
    const hasTwins = drawers.some((drawer) => drawer.styles.some((style) => style.twin !== ""));
    return { ...toSummary(row, entries, drawers), progress, drawers, entries: shown, hasTwins };
  }

  /** The styles and how they stand to their twins and the shelf, without what only a parcel's own page tells of families. */
  styles(row: ParcelRow): ParcelStyle[] {
    if (this.latest?.id === row.id && this.latest.stamp === this.stamp()) return this.latest.styles;
    return this.drawers(row, this.context.parcels.entries(row.id), false).flatMap((drawer) => drawer.styles);
  }

  private drawers(row: ParcelRow, entries: readonly EntryRow[], whole: boolean): ParcelDetail["drawers"] {
    const seen = new Set<string>();
    const found: Listed[] = [];
    for (const entry of entries) {
      if ((entry.kind !== "font" && entry.kind !== "web font") || entry.sha256 === "") continue;
      for (const { sha256, face, record } of this.context.library.facesOf(entry.sha256)) {
        const key = `${sha256}#${face}`;
        if (seen.has(key)) continue;
        seen.add(key);
        found.push({ ...record, sha256, face, path: entry.path });
      }
    }
    const left = leftForTwins(found, this.context.settings.get().twinFormat);
    const forbidden = found.some((face) => isWeb(face.container)) ? this.forbidsUnwrapping(entries, found) : undefined;
    const groups = groupFamilies(found);
    const names = groups.map((group) => group.family);
    return groups.map(({ family, faces }) => ({
      family,
      ...(whole
        ? {
            notes: familyNotes(faces, found),
            remarks: examineFamily(faces),
            alike: this.alike(family, names),
            clearance: this.cleared(family, faces, entries),
          }
        : { notes: [], remarks: [], alike: [], clearance: null }),
      styles: faces.map((face) => this.style(row, face, left.get(face) ?? "", forbidden, whole)),
    }));
  }

  private cleared(family: string, faces: readonly Listed[], entries: readonly EntryRow[]): ClearanceView {
    const papers = entries.filter((entry) => entry.kind === "paper" && entry.sha256 !== "");
    const near = papersFor(
      faces.map((face) => face.path),
      papers,
    );
    return this.clearance.view(
      this.clearance.read(
        faces.map((face) => face.stated),
        near,
        [family],
      ),
    );
  }

  /** The sentence of a paper, or of the fonts themselves, that forbids unwrapping. */
  private forbidsUnwrapping(entries: readonly EntryRow[], faces: readonly Listed[]): Forbidding | undefined {
    const papers = entries
      .filter((entry) => entry.kind === "paper")
      .map((entry) => ({ where: entry.path, text: this.context.parcels.paperText(entry.sha256)?.text ?? "" }));
    const fields = faces.flatMap((face) => [
      { where: "the font's licence field", text: face.stated.licence },
      { where: "the font's copyright field", text: face.stated.copyright },
    ]);
    return forbidsUnwrapping([...papers, ...fields]);
  }

  private alike(family: string, beside: readonly string[]): ParcelDetail["drawers"][number]["alike"] {
    const suggest = (name: string, shelved: boolean) => {
      const reason = sameFamilyReason(family, name);
      return reason ? [{ name, reason, shelved }] : [];
    };
    return [...beside.flatMap((name) => suggest(name, false)), ...this.shelf.families().flatMap(({ name }) => suggest(name, true))].slice(
      0,
      3,
    );
  }

  private style(row: ParcelRow, face: Listed, twin: string, forbidden: Forbidding | undefined, compared: boolean): ParcelStyle {
    const { library } = this.context;
    const { sha256, path, family, style, fullName, weight, italic, codepoints, container, verdict, findings } = face;
    const unwrap = forbidden
      ? { allowed: false, reason: `Its papers keep it to web pages: “${forbidden.text}” (${forbidden.where}, line ${forbidden.line}).` }
      : { allowed: true, reason: "No paper that came with it forbids it." };
    return {
      ...{ sha256, face: face.face, path, family, style, fullName, weight, italic, codepoints, container, verdict, findings, twin },
      rightToLeft: isRightToLeftOnly(face.ranges),
      sample: ownSample(face.ranges),
      shelved: library.isShelved(sha256, face.face),
      known: compared ? this.known(face) : "",
      names: differingNames(named(path), row.name, family),
      unwrap: isWeb(container) ? unwrap : null,
    };
  }

  private known(face: Listed): string {
    for (const { record, sha256 } of this.context.library.stylesNamed(face.family, face.style)) {
      const other = { ...record, sha256 };
      const known = compareToLibrary(face, other);
      if (known === undefined || known === "same-bytes") continue;
      const difference = differenceWords(face, other);
      return difference === "" ? KNOWN_WORDS[known] : `${KNOWN_WORDS[known]} The difference: ${difference}.`;
    }
    return "";
  }
}

function toSummary(row: ParcelRow, entries: readonly EntryRow[], drawers: ParcelDetail["drawers"]): ParcelSummary {
  const counts: Partial<Record<EntryKind, number>> = {};
  for (const entry of entries) counts[entry.kind as EntryKind] = (counts[entry.kind as EntryKind] ?? 0) + 1;
  const styles = drawers.flatMap((drawer) => drawer.styles);
  return {
    id: row.id,
    name: row.name,
    bytes: row.bytes,
    state: row.state,
    progress: null,
    problem: row.problem ? (JSON.parse(row.problem) as Problem) : null,
    arrivedAt: row.arrived_at,
    counts,
    families: drawers.length,
    styles: styles.length,
    shelvedStyles: styles.filter((style) => style.shelved).length,
    shelvableStyles: styles.filter((style) => !style.shelved && shelvable(style)).length,
    unwrappableStyles: styles.filter(unwrappable).length,
    troubles: entries.filter((entry) => entry.problem !== null).length + styles.filter((style) => style.verdict === "refused").length,
    cleared: row.cleared_at !== null,
  };
}

/** Styles left in the parcel because their twin is taken, with the reason. */
function leftForTwins(faces: readonly Listed[], format: TwinFormat): Map<Listed, string> {
  const left = new Map<Listed, string>();
  for (const twins of twinGroups(faces.filter((face) => face.verdict !== "refused"))) {
    const taken = preferredTwin(twins, format);
    for (const twin of twins)
      if (taken && twin !== taken) left.set(twin, `The same style as ${named(taken.path)}, which is taken; both would be listed twice.`);
  }
  return left;
}
