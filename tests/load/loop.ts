// What holds up the server's own thread: a hundred archives arriving, thousands of unknown fonts, a large kit, a large evidence file.
import { execFileSync } from "node:child_process";
import { createWriteStream, mkdirSync, mkdtempSync, openAsBlob, readFileSync, rmSync, statSync, writeFileSync } from "node:fs";
import { once } from "node:events";
import { tmpdir } from "node:os";
import { basename, join } from "node:path";
import { PDFDocument, StandardFonts } from "pdf-lib";
import { DeviceSummary } from "../../contract/devices.ts";
import { FamilyDetail, FamilyPage } from "../../contract/families.ts";
import { ParcelPage } from "../../contract/parcels.ts";
import { makeLibrary } from "./library.ts";
import { p95, runServer } from "./running.ts";

const ARCHIVES = 100;
const UNKNOWN = 2000;
const KIT_FAMILIES = 500;
const EVIDENCE_BYTES = 190 * 1024 * 1024;

/** Asks for a list again and again until `stop`; resolves to how long each took. */
function asking(address: string): () => Promise<number[]> {
  const times: number[] = [];
  let going = true;
  const done = (async () => {
    while (going) {
      const start = performance.now();
      await (await fetch(`${address}/api/families?limit=50`)).text();
      times.push(performance.now() - start);
      await new Promise((resolve) => setTimeout(resolve, 20));
    }
  })();
  return async () => {
    going = false;
    await done;
    return times;
  };
}

/** A PDF of one page and very much that is no page. */
async function largePdf(path: string): Promise<void> {
  const document = await PDFDocument.create();
  const page = document.addPage();
  page.drawText("Wild fennel", { font: await document.embedFont(StandardFonts.Helvetica) });
  await document.attach(Buffer.alloc(1000, "a"), "a.txt");
  const out = createWriteStream(path);
  out.write(await document.save({ useObjectStreams: false }));
  const noise = Buffer.alloc(1024 * 1024, "% Fernhollow seed noise 0123456789\n");
  while (out.bytesWritten < EVIDENCE_BYTES) if (!out.write(noise)) await once(out, "drain");
  out.end();
  await once(out, "close");
}

export async function benchLoop(
  workerDir: string,
  zips: readonly string[],
  fonts: readonly string[],
  print: (line: string) => void,
): Promise<void> {
  const dir = mkdtempSync(join(tmpdir(), "buvano-bench-loop-"));
  const dataDir = join(dir, "data");
  const home = join(dir, "home");
  const folder = join(home, ".local", "share", "fonts");
  mkdirSync(folder, { recursive: true });
  mkdirSync(dataDir);
  await makeLibrary(workerDir, dataDir, 2000);
  const server = await runServer(workerDir, dataDir, {
    HOME: home,
    XDG_DATA_HOME: join(home, ".local", "share"),
    XDG_CONFIG_HOME: join(home, ".config"),
  });
  const { address } = server;
  const get = async (path: string): Promise<unknown> => (await fetch(`${address}/api${path}`)).json();
  const until = async (done: () => Promise<boolean>): Promise<void> => {
    while (!(await done())) await new Promise((resolve) => setTimeout(resolve, 100));
  };
  const watched = async (what: string, work: () => Promise<unknown>): Promise<void> => {
    await server.loop();
    const stop = asking(address);
    const start = performance.now();
    await work();
    const took = (performance.now() - start) / 1000;
    const times = await stop();
    const { maxMs, p99Ms } = await server.loop();
    print(
      `  ${what}: ${took.toFixed(1)} s; event loop held up at most ${maxMs.toFixed(0)} ms, p99 ${p99Ms.toFixed(0)} ms; a list meanwhile p95 ${p95(times).toFixed(0)} ms of ${times.length}`,
    );
  };
  const send = async (path: string, file: string): Promise<Response> => {
    const form = new FormData();
    form.append("file", await openAsBlob(file), basename(file));
    return fetch(`${address}/api${path}`, { method: "POST", body: form });
  };
  print("the server's own thread, with 20,000 styles in its library:");
  const archives = zips.slice(0, ARCHIVES);
  await watched(`${archives.length} downloads arrive`, async () => {
    for (const zip of archives) await (await send("/parcels", zip)).text();
    await until(async () =>
      ParcelPage.parse(await get("/parcels?limit=200")).parcels.every((one) => one.state === "ready" || one.state === "failed"),
    );
  });
  // The same fonts again and again, each time with another few bytes after the last table.
  for (let i = 0; i < UNKNOWN; i++) {
    const source = fonts[i % fonts.length]!;
    writeFileSync(join(folder, `${i}-${basename(source)}`), Buffer.concat([readFileSync(source), Buffer.alloc(4 * (i + 1))]));
  }
  execFileSync("fc-cache", [folder], { env: { ...process.env, HOME: home } });
  await watched(`a device of ${UNKNOWN} unknown fonts is looked at`, async () => {
    await fetch(`${address}/api/settings`, {
      method: "POST",
      headers: { "content-type": "application/json" },
      body: '{"thisComputer":true}',
    });
    await until(async () =>
      DeviceSummary.array()
        .parse(await get("/devices"))
        .some((one) => one.sort === "computer" && one.placedFonts === UNKNOWN),
    );
  });
  const { families } = FamilyPage.parse(await get(`/families?limit=${KIT_FAMILIES}`));
  await watched(`a kit of ${families.length} families is made`, async () => {
    const response = await fetch(`${address}/api/kit?families=${families.map((one) => one.id).join()}`);
    if (!response.ok) throw new Error(await response.text());
    await response.arrayBuffer();
  });
  const { styleList } = FamilyDetail.parse(await get(`/families/${families[0]!.id}`));
  const evidence = join(dir, "large.pdf");
  await largePdf(evidence);
  // What the bench itself wrote is on the disk before anything is measured.
  execFileSync("sync");
  await watched(`an evidence file of ${(statSync(evidence).size / 1e6).toFixed(0)} MB is read`, async () => {
    await (await send(`/cells/${styleList[0]!.id}/1/evidence`, evidence)).text();
  });
  print(`  memory of the server right afterwards, its threads included: ${server.memoryMib().toFixed(0)} MiB`);
  await server.stop();
  rmSync(dir, { recursive: true });
}
