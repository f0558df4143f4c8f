// For tests: what all views hold, and what they hold after being made from nothing.
import type { Parts } from "../../server/parts.ts";
import { Cells } from "../../server/views/sightings.ts";
import { Clearing } from "../../server/views/clearance.ts";
import { DeviceViews } from "../../server/views/devices.ts";
import { FamilyViews } from "../../server/views/families.ts";
import { ParcelViews } from "../../server/views/parcels.ts";
import { Renewal } from "../../server/views/renewal.ts";

const VIEWS = {
  family_views: "family_id",
  family_coverage: "block, family_id",
  style_cells: "family_id, style_id, program_id",
  family_cells: "family_id, program_id",
  parcel_views: "parcel_id",
  device_views: "device_id, folder, file_name, face",
  device_duplicates: "device_id, claim",
  family_search: "rowid",
};

/** Every row of every view, in order. */
export const allViews = (parts: Parts): Record<string, unknown[]> =>
  Object.fromEntries(
    Object.entries(VIEWS).map(([table, order]) => [table, parts.db.prepare(`SELECT ${order}, * FROM ${table} ORDER BY ${order}`).all()]),
  );

/** A renewal of a library no server has open. */
export function renewalOf(parts: Parts): { renewal: Renewal; clearing: Clearing } {
  const clearing = new Clearing(parts);
  const lapsed = (familyId: number) => clearing.lapsed(familyId);
  const families = new FamilyViews(parts, clearing, new Cells(parts, lapsed));
  return { clearing, renewal: new Renewal(parts, families, new ParcelViews(parts), new DeviceViews(parts, lapsed)) };
}

/** Throws all views away and makes them anew. */
export async function rebuilt(parts: Parts, renewal: Renewal): Promise<Record<string, unknown[]>> {
  for (const table of Object.keys(VIEWS)) parts.db.exec(`DELETE FROM ${table}`);
  parts.stale.markEverything();
  await renewal.settle();
  return allViews(parts);
}
