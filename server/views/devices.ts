// Rows of fonts on devices, by the family name they claim: duplicates, newer versions on the shelf and rivals are all of one name.
import { basename } from "node:path";
import { findDuplicates, inTheWay } from "../../core/placing/duplicates.ts";
import { isSlot, type Claim, type PlacedFile } from "../../core/placing/files.ts";
import type { Parts } from "../parts.ts";
import type { ObservedRow } from "../store/devices/observed.ts";
import { TROUBLE } from "../store/views/devices.ts";

type Uses = Pick<Parts, "devices" | "library" | "settings" | "familyViews" | "observed" | "programs" | "deviceViews" | "stale">;
type Row = Parameters<Parts["deviceViews"]["putDeviceFonts"]>[1][number];

export class DeviceViews {
  private readonly uses: Uses;
  private readonly lapsed: (familyId: number) => boolean;
  constructor(uses: Uses, lapsed: (familyId: number) => boolean) {
    this.uses = uses;
    this.lapsed = lapsed;
  }

  *renew({ nameKey, seq }: { nameKey: string; seq: number }): Generator<void> {
    const { observed, stale, deviceViews } = this.uses;
    const files = nameKey === "" ? observed.unreadable() : observed.claimants(nameKey);
    yield;
    const byDevice = new Map<number, ObservedRow[]>();
    for (const file of files) byDevice.set(file.deviceId, [...(byDevice.get(file.deviceId) ?? []), file]);
    const rows: Row[] = [];
    const duplicates: Parameters<Parts["deviceViews"]["putDuplicates"]>[1][number][] = [];
    for (const [deviceId, own] of byDevice) {
      rows.push(...(nameKey === "" ? own.map((file) => unreadable(file)) : this.rows(nameKey, deviceId, own, duplicates)));
      yield;
    }
    if (stale.staleName(nameKey)?.seq !== seq) return;
    deviceViews.putDeviceFonts(nameKey, rows);
    deviceViews.putDuplicates(nameKey, duplicates);
    stale.markRivals(nameKey);
    stale.settle("name", nameKey, seq);
  }

  private rows(
    nameKey: string,
    deviceId: number,
    files: readonly ObservedRow[],
    duplicates: { deviceId: number; claim: string; inTheWay: boolean }[],
  ): Row[] {
    const { library, settings } = this.uses;
    const own = (claim: Claim) => claim.key.startsWith(`${nameKey}\n`);
    const placed = files.map((file): PlacedFile & { claims: Claim[] } => ({ ...file, claims: library.claimsOf(file.sha256) }));
    const programs = this.uses.programs.all().filter((program) => program.deviceId === deviceId);
    const target = { programs: programs.map(({ name, traits }) => ({ name, reads: traits.reads })), prefers: settings.get().twinFormat };
    const groups = findDuplicates(
      placed.map((file) => ({ ...file, claims: file.claims.filter(own) })),
      target,
    );
    const clashing = new Set<string>();
    for (const group of groups) {
      duplicates.push({ deviceId, claim: group.key, inTheWay: inTheWay(group) });
      if (inTheWay(group)) for (const { folder, fileName } of group.files) clashing.add(`${group.key}\n${folder}/${fileName}`);
    }
    return placed.flatMap((file) =>
      file.claims.flatMap((claim, face): Row[] => {
        if (!own(claim)) return [];
        const { folder, fileName, sha256, on } = file;
        const style = library.styleOfFace(sha256, face);
        const inFile = style ?? library.styleOfFile(sha256);
        const slot = isSlot(folder);
        const newer = slot ? library.newerThan(claim) : undefined;
        const { visible } = files.find((one) => one.folder === folder && one.fileName === fileName)!;
        const trouble =
          (slot && clashing.has(`${claim.key}\n${folder}/${fileName}`) ? TROUBLE.duplicate : 0) |
          (slot && !on ? TROUBLE.off : 0) |
          (slot && on && !visible ? TROUBLE.unseen : 0) |
          (newer !== undefined ? TROUBLE.outdated : 0) |
          (slot && on && inFile && this.lapsed(inFile.familyId) ? TROUBLE.lapsed : 0);
        return [
          {
            deviceId,
            folder,
            fileName,
            face,
            trouble,
            family: claim.family,
            style: claim.style,
            placed: folder !== "built-in",
            familyId: inFile?.familyId ?? null,
            styleId: inFile?.id ?? null,
            newer: newer ?? "",
          },
        ];
      }),
    );
  }
}

/** A file nobody can read is listed by its own name. */
const unreadable = ({ deviceId, folder, fileName, on, visible }: ObservedRow): Row => ({
  deviceId,
  folder,
  fileName,
  face: 0,
  family: basename(fileName),
  style: "cannot be read",
  familyId: null,
  styleId: null,
  newer: "",
  placed: folder !== "built-in",
  trouble: isSlot(folder) ? (on ? (visible ? 0 : TROUBLE.unseen) : TROUBLE.off) : 0,
});
