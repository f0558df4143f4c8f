// Brings the demo's downloads into an empty library the way a visitor would: through the same requests.
import { readdir, readFile } from "node:fs/promises";
import { join } from "node:path";
import { z } from "zod";
import { ParcelSummary } from "../contract/parcel.ts";

/** Left on Today as it arrived, so that a visitor has something to shelve. */
const LEFT_TO_SHELVE = new Set(["fernhollow-text-family.zip", "fernhollow-broken-download.zip", "hedgerow-web.zip", "trail-bundle.zip"]);

async function settled(base: string, id: number): Promise<ParcelSummary> {
  for (;;) {
    const parcel = ParcelSummary.parse(await (await fetch(`${base}/api/parcels/${id}`)).json());
    if (parcel.state === "ready" || parcel.state === "failed") return parcel;
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
}

/** Does nothing when the library holds parcels already. */
export async function fillDemo(base: string, downloads: string): Promise<void> {
  const there = z.array(ParcelSummary).parse(await (await fetch(`${base}/api/parcels`)).json());
  if (there.length > 0) return;
  for (const name of (await readdir(downloads)).sort()) {
    const form = new FormData();
    form.append("file", new Blob([new Uint8Array(await readFile(join(downloads, name)))]), name);
    const sent = ParcelSummary.parse(await (await fetch(`${base}/api/parcels`, { method: "POST", body: form })).json());
    const parcel = await settled(base, sent.id);
    if (parcel.state !== "ready" || LEFT_TO_SHELVE.has(name)) continue;
    await fetch(`${base}/api/parcels/${parcel.id}/shelve`, { method: "POST", headers: { "content-type": "application/json" }, body: "{}" });
  }
}
