// Everything at once in a library of 5,000 families: finding, counting, choosing all, and acting on all of them while others are answered.
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { Done } from "../../server/routes/answer.ts";
import { FamilyActed, FamilyCounts, FamilyIds, FamilyPage } from "../../contract/families.ts";
import { QuickCheck } from "../../contract/quick-check.ts";
import { CellKeys, LookedMany } from "../../contract/sightings.ts";
import { makeLibrary } from "./library.ts";
import { clientOf, p95, runServer } from "./running.ts";
import { STYLES } from "./shelf.ts";

const ASKED = 40;
const SECONDS = (ms: number): string => (ms < 1000 ? `${ms.toFixed(0)} ms` : `${(ms / 1000).toFixed(1)} s`);

/** Somebody else who looks at a list all the while: how long they waited at most. */
function someoneElse(address: string): () => Promise<number> {
  let on = true;
  let most = 0;
  const looking = (async () => {
    while (on) {
      const start = performance.now();
      await (await fetch(`${address}/api/families?limit=50`)).text();
      most = Math.max(most, performance.now() - start);
    }
  })();
  return async () => {
    on = false;
    await looking;
    return most;
  };
}
/** Hears what open pages are told, for as long as the server runs. */
async function hearing(address: string): Promise<() => number> {
  let told = 0;
  const stream = (await fetch(`${address}/api/events`)).body!.getReader();
  void (async () => {
    for (;;) {
      const { done, value } = await stream.read();
      if (done) return;
      told += new TextDecoder().decode(value).split('"topic":"acting"').length - 1;
    }
  })().catch(() => {});
  return () => told;
}

export async function benchHands(workerDir: string, print: (line: string) => void): Promise<void> {
  const dataDir = mkdtempSync(join(tmpdir(), "buvano-bench-hands-"));
  await makeLibrary(workerDir, dataDir, STYLES);
  const server = await runServer(workerDir, dataDir);
  const { address } = server;
  const { get, post } = clientOf(address);
  const { total } = FamilyPage.parse(await get("/families?limit=1"));
  print(`${total} families of ${STYLES} styles, all placed on one of 3 devices with 10 programs`);
  const asked = async (name: string, path: (i: number) => string, check: (body: unknown) => unknown): Promise<void> => {
    const times: number[] = [];
    for (let i = 0; i < ASKED; i++) {
      const start = performance.now();
      const text = await (await fetch(`${address}/api${path(i)}`)).text();
      times.push(performance.now() - start);
      check(JSON.parse(text));
    }
    print(`  ${name}: p95 ${p95(times).toFixed(0)} ms`);
  };
  const words = (all: readonly string[]) => (i: number) => `/families?limit=50&search=${encodeURIComponent(all[i % all.length]!)}`;
  await asked(
    "numbers of every filter",
    () => "/families/counts",
    (body) => FamilyCounts.parse(body),
  );
  await asked(
    "numbers of every filter within a search",
    () => "/families/counts?search=sans",
    (body) => FamilyCounts.parse(body),
  );
  await asked(
    "all that fit, to choose them",
    () => "/families/ids",
    (body) => FamilyIds.parse(body),
  );
  await asked("a search", words(["hebrew", "sans bold", "lato", "ofl", "arabic"]), (body) => FamilyPage.parse(body));
  await asked("a misspelt search", words(["hebrwe", "snas", "garamnod", "serfi"]), (body) => FamilyPage.parse(body));
  const { ids } = FamilyIds.parse(await get("/families/ids"));
  const some = ids.slice(0, 400).join();
  await asked(
    "a quick check of 400 families",
    () => `/programs/1/check?families=${some}`,
    (body) => QuickCheck.parse(body),
  );

  const told = await hearing(address);
  const acted = async <T>(name: string, work: () => Promise<T>): Promise<T> => {
    await server.loop();
    const heard = told();
    const stop = someoneElse(address);
    const start = performance.now();
    const result = await work();
    const took = performance.now() - start;
    const waited = await stop();
    const { maxMs } = await server.loop();
    print(
      `  ${name}: ${SECONDS(took)}; others waited at most ${waited.toFixed(0)} ms, event loop held up at most ${maxMs.toFixed(0)} ms; told how far it is ${told() - heard} times`,
    );
    return result;
  };
  const act = async (request: object) => FamilyActed.parse(await post("/families/act", { ids, ...request }));
  await acted("pin all", () => act({ act: "pin", on: true }));
  await acted("tag all", () => act({ act: "tag", tag: "spring", on: true }));
  const { id } = (await post("/jobs", { name: "All", uses: ["own"], languages: [], words: "", familyIds: [], deviceIds: [] })) as {
    id: number;
  };
  await acted("put all into a job", () => post(`/jobs/${id}/families`, { ids, wanted: true }));
  const { cells } = CellKeys.parse(await get("/board/cells?state=reopen&limit=1"));
  const { historyId: looks } = await acted(`say that ${cells.length} cells were seen`, async () =>
    LookedMany.parse(await post("/board/look", { cells, saw: "there", who: "", despite: "sure" })),
  );
  await acted("undo that", async () => Done.parse(await post(`/history/${looks!}/undo`)));
  const { historyId } = await acted("remove all", () => act({ act: "remove" }));
  await acted("undo that", async () => Done.parse(await post(`/history/${historyId}/undo`)));
  // What follows from that is worked out in the background: the list is whole once it is done.
  const start = performance.now();
  const whole = async () => FamilyPage.parse(await get("/families?limit=1")).total === total;
  while (!(await whole())) await new Promise((resolve) => setTimeout(resolve, 100));
  print(`  all of them back in the list ${SECONDS(performance.now() - start)} after that`);
  await server.stop();
  rmSync(dataDir, { recursive: true });
}
