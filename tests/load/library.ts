// A library of 20,000 styles, made from variations of real ones, asked over HTTP as the interface asks.
import { createHash } from "node:crypto";
import { mkdtempSync, readFileSync, rmSync } from "node:fs";
import type { AddressInfo } from "node:net";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { FamilyPage } from "../../contract/family.ts";
import { inspectFont, type Inspection } from "../../core/inspect.ts";
import { makeApp } from "../../server/app.ts";
import { makeParts, thisMachine, type Parts } from "../../server/parts.ts";
import { makeServices } from "../../server/services/services.ts";
import { corpusFonts } from "./corpus.ts";

const STYLES = 20_000;

/** Fills the shelf: every real style again and again, each time in a family of another name. */
export function fillShelf(parts: Parts, styles = STYLES): void {
  const real = corpusFonts().flatMap((path): Inspection[] => {
    const result = inspectFont(readFileSync(path), "font");
    return result.ok ? result.value : [];
  });
  const parcelId = parts.parcels.add("20,000 styles", [], parts.now());
  parts.db.transaction(() => {
    for (let i = 0; i < styles; i++) {
      const one = real[i % real.length]!;
      const round = Math.floor(i / real.length);
      const record = {
        ...one,
        family: `${one.family} ${round}`,
        legacyFamily: `${one.legacyFamily} ${round}`,
        fullName: `${one.fullName} ${round}`,
      };
      const sha256 = createHash("sha256").update(`${i}`).digest("hex");
      parts.library.addFaces(sha256, 50_000, [record]);
      parts.library.shelve({ sha256, face: one.face, family: record.family }, parcelId, `${i}.ttf`, parts.now());
    }
    parts.parcels.setState(parcelId, "ready");
  })();
}

export const p95 = (times: number[]): number => times.sort((a, b) => a - b)[Math.floor(times.length * 0.95)]!;

/** Prints the 95th percentile of each kind of question. */
export async function benchLibrary(workerDir: string, print: (line: string) => void): Promise<void> {
  const dataDir = mkdtempSync(join(tmpdir(), "buvano-bench-library-"));
  const parts = await makeParts({
    dataDir,
    webDir: undefined,
    workerDir,
    builtInFonts: join(workerDir, "..", "demo", "built-in"),
    now: () => new Date(),
    ...thisMachine(),
  });
  const services = await makeServices(parts);
  fillShelf(parts);
  const server = makeApp(parts, services).listen(0, "127.0.0.1");
  await new Promise((resolve) => server.once("listening", resolve));
  const base = `http://127.0.0.1:${(server.address() as AddressInfo).port}/api/families?`;
  const ask = async (query: string): Promise<number> => {
    const start = performance.now();
    const response = await fetch(base + query);
    const text = await response.text();
    const took = performance.now() - start;
    FamilyPage.parse(JSON.parse(text));
    return took;
  };
  const text = encodeURIComponent("Wild fennel, 4.50");
  const start = performance.now();
  await ask(`from=0&limit=50&text=${text}`);
  const { total } = FamilyPage.parse(await (await fetch(`${base}limit=1`)).json());
  print(`${STYLES} styles in ${total} families; first answer after the start ${(performance.now() - start).toFixed(0)} ms`);
  const kinds: [name: string, query: (i: number) => string][] = [
    ["list, any part", (i) => `from=${(i * 50) % total}&limit=50&text=${text}`],
    ["search by name", (i) => `search=${["no", "sans", "lato", "serif 1", "zz"][i % 5]}&limit=50&text=${text}`],
    [
      "covers my words",
      (i) => `covers=yes&limit=50&text=${encodeURIComponent(["Wild fennel", "שלום", "Привет", "नमस्ते", "Ωμέγα"][i % 5]!)}`,
    ],
    ["stuck at", (i) => `at=${["sound", "cleared", "placed", "seen"][i % 4]}&limit=50&text=${text}`],
    ["script", (i) => `script=${["latin", "hebrew", "arabic", "thai"][i % 4]}&limit=50&text=${text}`],
    ["kind", (i) => `kind=${["text", "symbols", "variable", "monospaced"][i % 4]}&limit=50&text=${text}`],
    ["cleared for a use", (i) => `use=${["own", "sold", "client", "web"][i % 4]}&limit=50&text=${text}`],
    ["pinned", () => `pinned=yes&limit=50&text=${text}`],
  ];
  for (const [name, query] of kinds) {
    const times: number[] = [];
    for (let i = 0; i < 200; i++) times.push(await ask(query(i)));
    print(`  ${name}: p95 ${p95(times).toFixed(1)} ms`);
  }
  server.close();
  server.closeAllConnections();
  await services.close();
  rmSync(dataDir, { recursive: true });
}
