// What the disk, the system and other programs do to a library: a full disk, one that is read-only, a database somebody else holds, a
// process that ends at any moment. Afterwards everything is true, nothing is lost, and the next start is quick.
import { execFileSync, spawn, spawnSync, type ChildProcess } from "node:child_process";
import { createHash } from "node:crypto";
import { existsSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, statfsSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { gunzipSync } from "node:zlib";
import { afterAll, afterEach, describe, expect, test } from "@jest/globals";
import Database from "better-sqlite3";
import { DeviceDetail } from "../../contract/devices.ts";
import { LibraryState } from "../../contract/library.ts";
import { ParcelDetail, ParcelPage, ParcelSummary, ShelveResult } from "../../contract/parcels.ts";
import { PlanView } from "../../contract/placing.ts";
import { ProblemDocument } from "../../contract/problem.ts";
import { computedMs, within } from "./effort.ts";
import { hostileArchives, wholeFont } from "./inputs.ts";
import { makeFontZip } from "./zips.ts";
import { amount, numbersFrom, runSeed } from "../amount.ts";

const BUILD = join(process.cwd(), "build");
const START_MS = 2000;
const seed = runSeed();
const random = numbersFrom(seed);
const dir = mkdtempSync(join(tmpdir(), "buvano-faults-"));
const PAPERS = hostileArchives().find(({ fileName }) => fileName === "papers.zip")!.bytes;
afterAll(() => rmSync(dir, { recursive: true, force: true }));

/** A server on a folder that outlives it. */
class Server {
  address = "";
  readyMs = 0;
  readonly dataDir: string;
  private child: ChildProcess | undefined;
  private static readonly all = new Set<Server>();
  constructor(dataDir: string) {
    this.dataDir = dataDir;
    Server.all.add(this);
  }
  static async killAll(): Promise<void> {
    for (const one of this.all) await one.end("SIGKILL");
    this.all.clear();
  }
  async start(): Promise<this> {
    const begun = performance.now();
    const child = spawn(process.execPath, [join(BUILD, "node", "main.mjs")], {
      env: { ...process.env, BUVANO_DATA: this.dataDir, PORT: "0", BUVANO_PRACTICE: "1" },
      stdio: ["ignore", "pipe", "inherit"],
    });
    this.child = child;
    this.address = await new Promise<string>((resolve, reject) => {
      let said = "";
      child.stdout.on("data", (chunk: Buffer) => {
        said += chunk.toString();
        const address = /ready: (http:\S+)/.exec(said)?.[1];
        if (address) resolve(address);
      });
      child.on("exit", (code, signal) => reject(new Error(`The server ended with ${code ?? signal}.`)));
    });
    this.readyMs = Math.min(performance.now() - begun, computedMs(child.pid!));
    return this;
  }
  get running(): boolean {
    return this.child !== undefined && this.child.exitCode === null && this.child.signalCode === null;
  }
  async end(signal: NodeJS.Signals): Promise<void> {
    if (!this.running) return;
    const gone = new Promise((resolve) => this.child!.once("exit", resolve));
    this.child!.kill(signal);
    await gone;
  }
  /** A line of its own for each question: this process blocks now and then, and a kept line would be closed meanwhile. */
  async ask(path: string, init: RequestInit = {}): Promise<{ status: number; body: unknown }> {
    const response = await fetch(`${this.address}/api${path}`, { ...init, headers: { connection: "close", ...init.headers } });
    return { status: response.status, body: await response.json() };
  }
  post(path: string, body: object = {}): Promise<{ status: number; body: unknown }> {
    return this.ask(path, { method: "POST", headers: { "content-type": "application/json" }, body: JSON.stringify(body) });
  }
  send(name: string, bytes: Uint8Array): Promise<{ status: number; body: unknown }> {
    const form = new FormData();
    form.append("file", new Blob([new Uint8Array(bytes)]), name);
    return this.ask("/parcels", { method: "POST", body: form });
  }
  async trouble(): Promise<string | undefined> {
    return LibraryState.parse((await this.ask("/library")).body).problem?.code;
  }
  async parcels(): Promise<ParcelSummary[]> {
    return ParcelPage.parse((await this.ask("/parcels?limit=500")).body).parcels;
  }
  async settled(): Promise<ParcelSummary[]> {
    for (const until = Date.now() + 40_000; ;) {
      const all = await this.parcels();
      if (all.every(({ state }) => state === "ready" || state === "failed")) return all;
      if (Date.now() > until) throw new Error(`Not settled: ${JSON.stringify(all)}`);
      await new Promise((resolve) => setTimeout(resolve, 50));
    }
  }
  /** Every file a ready parcel names is there and whole; nothing half-written is left once all is quiet. */
  async holdsTrue(): Promise<void> {
    for (const { id, state } of await this.settled()) {
      if (state !== "ready") continue;
      for (const { sha256, path } of ParcelDetail.parse((await this.ask(`/parcels/${id}`)).body).entries) {
        if (sha256 === "") continue;
        const file = join(this.dataDir, "files", sha256.slice(0, 2), sha256);
        // What fonts do not need is counted and not kept.
        if (!existsSync(file) && !/\.(ttf|otf|txt)$/.test(path)) continue;
        expect([path, createHash("sha256").update(readFileSync(file)).digest("hex")]).toEqual([path, sha256]);
      }
    }
    expect(readdirSync(join(this.dataDir, "files", "unfinished"))).toEqual([]);
  }
}
afterEach(() => Server.killAll());

describe("a disk of its own", () => {
  const disk = join(dir, "disk");
  const filler = join(disk, "filler");
  const mounted = (options: string) => execFileSync("mount", ["-t", "tmpfs", "-o", options, "tmpfs", disk]);
  const free = () => {
    const { bavail, bsize } = statfsSync(disk);
    return bavail * bsize;
  };
  /** Leaves so many bytes free. */
  const fill = (left: number) => {
    rmSync(filler, { force: true });
    try {
      writeFileSync(filler, new Uint8Array(Math.max(0, free() - left)));
    } catch (error) {
      if ((error as NodeJS.ErrnoException).code !== "ENOSPC") throw error;
    }
  };
  const begin = async (): Promise<Server> => {
    mkdirSync(disk, { recursive: true });
    mounted("size=64m");
    return new Server(join(disk, "library")).start();
  };
  afterEach(async () => {
    await Server.killAll();
    spawnSync("umount", [disk]);
  });
  const untilWell = async (server: Server) => {
    for (const until = Date.now() + 15_000; (await server.trouble()) !== undefined && Date.now() < until;)
      await new Promise((resolve) => setTimeout(resolve, 200));
    expect(await server.trouble()).toBeUndefined();
  };

  test("that is full: an upload is refused in words, everything is read, and it goes on once there is room", async () => {
    const server = await begin();
    expect((await server.send("first.zip", makeFontZip(2, random))).status).toBe(200);
    await server.settled();
    fill(100_000);
    const { status, body } = await server.send("second.zip", makeFontZip(60, random));
    expect([status, ProblemDocument.parse(body).code]).toEqual([507, "disk-full"]);
    expect([server.running, await server.trouble()]).toEqual([true, "disk-full"]);
    expect((await server.parcels()).map(({ name, state }) => [name, state])).toEqual([["first.zip", "ready"]]);
    expect((await server.ask("/today")).status).toBe(200);
    rmSync(filler);
    await untilWell(server);
    expect((await server.send("second.zip", makeFontZip(60, random))).status).toBe(200);
    await server.holdsTrue();
    expect((await server.parcels()).map(({ state }) => state)).toEqual(["ready", "ready"]);
  }, 90_000);

  test("that fills up at a random write: a parcel is whole or says that the disk is full", async () => {
    const server = await begin();
    for (let i = 0; i < amount(10); i++) {
      fill(random() * 3_000_000);
      const sent = await server.send(`${i}.zip`, makeFontZip(40, random));
      expect([seed, [200, 507].includes(sent.status), server.running]).toEqual([seed, true, true]);
      // One whose facts wait for room goes on by itself; meanwhile the trouble is told.
      const unsettled = async () => (await server.parcels()).some(({ state }) => state !== "ready" && state !== "failed");
      for (const until = Date.now() + 5000; Date.now() < until && (await unsettled());)
        await new Promise((resolve) => setTimeout(resolve, 50));
      expect([seed, (await unsettled()) ? await server.trouble() : "disk-full"]).toEqual([seed, "disk-full"]);
      rmSync(filler);
      await untilWell(server);
      // That one failed may itself have had to wait for room to be noted.
      const failed = (await server.settled()).filter(({ state }) => state === "failed");
      expect([seed, failed.map(({ problem }) => problem!.code)]).toEqual([seed, failed.map(() => "disk-full")]);
      for (const { id } of failed) await server.post(`/parcels/${id}/retry`);
      await server.holdsTrue();
      expect([seed, (await server.parcels()).filter(({ state }) => state !== "ready")]).toEqual([seed, []]);
      for (const { id } of await server.parcels()) await server.post(`/parcels/${id}/remove`);
    }
  }, 180_000);

  test("that is full to the last byte when Buvano is started: it starts, reads, says so, and goes on", async () => {
    const server = await begin();
    await server.send("first.zip", makeFontZip(3, random));
    const before = await server.settled();
    await server.end("SIGKILL");
    fill(0);
    await server.start();
    expect([server.readyMs, within(server.readyMs, START_MS)]).toEqual([server.readyMs, true]);
    expect(await server.parcels()).toEqual(before);
    expect((await server.send("second.zip", makeFontZip(30, random))).status).toBe(507);
    expect(await server.trouble()).toBe("disk-full");
    rmSync(filler);
    await untilWell(server);
    expect((await server.send("second.zip", makeFontZip(30, random))).status).toBe(200);
    await server.holdsTrue();
  }, 90_000);

  test("that is read-only: what is asked for in writing is refused in words, and it goes on afterwards", async () => {
    const server = await begin();
    await server.send("first.zip", makeFontZip(3, random));
    await server.settled();
    // Open files keep a disk from being made read-only: a second view of it is what the server would see after a fault.
    const remounted = spawnSync("mount", ["-o", "remount,ro", disk]).status === 0;
    if (!remounted) {
      execFileSync("chattr", ["+i", join(server.dataDir, "incoming")]);
    }
    const { status, body } = await server.send("second.zip", makeFontZip(3, random));
    expect([status, ProblemDocument.parse(body).code]).toEqual([503, expect.stringMatching(/^disk-/)]);
    expect([server.running, (await server.parcels()).length]).toEqual([true, 1]);
    if (remounted) execFileSync("mount", ["-o", "remount,rw", disk]);
    else execFileSync("chattr", ["-i", join(server.dataDir, "incoming")]);
    await untilWell(server);
    expect((await server.send("second.zip", makeFontZip(3, random))).status).toBe(200);
    await server.holdsTrue();
  }, 90_000);
});

test("a database that another program holds: reading goes on, writing says so, nothing is lost", async () => {
  const server = await new Server(join(dir, "held")).start();
  await server.send("first.zip", makeFontZip(30, random));
  const other = new Database(join(server.dataDir, "library.db"));
  other.exec("BEGIN IMMEDIATE");
  const refused = await server.send("second.zip", makeFontZip(3, random));
  expect([refused.status, ProblemDocument.parse(refused.body).code]).toEqual([503, "library-busy"]);
  const took: number[] = [];
  for (let asked = 0; asked < 150; asked++) {
    const from = performance.now();
    expect((await server.ask("/parcels")).status).toBe(200);
    took.push(performance.now() - from);
  }
  other.exec("COMMIT");
  other.close();
  // Were they to wait for the other program, each would; the machine itself may halt for a moment.
  expect(took.filter((ms) => ms > 1000).length).toBeLessThan(3);
  for (let tries = 0; (await server.send("second.zip", makeFontZip(3, random))).status !== 200; tries++) expect(tries).toBeLessThan(20);
  await server.holdsTrue();
  expect((await server.parcels()).map(({ name, state }) => [name, state])).toEqual([
    ["second.zip", "ready"],
    ["first.zip", "ready"],
  ]);
  expect(readdirSync(join(server.dataDir, "incoming")).length).toBe(2);
}, 90_000);

describe("a second process on the same library", () => {
  test("does not start, and leaves the first one's work alone", async () => {
    const server = await new Server(join(dir, "twice")).start();
    await server.send("slow.zip", PAPERS);
    const second = spawnSync(process.execPath, [join(BUILD, "node", "main.mjs")], {
      env: { ...process.env, BUVANO_DATA: server.dataDir, PORT: "0", BUVANO_PRACTICE: "1" },
      encoding: "utf8",
    });
    expect([second.status, second.stderr]).toEqual([1, expect.stringContaining(`This library is open already: ${server.address}`)]);
    await server.holdsTrue();
    expect((await server.parcels()).map(({ state }) => state)).toEqual(["ready"]);
  }, 90_000);

  test("that brings files hands them to the first one, with the same result as alone", async () => {
    const [alone, beside] = [join(dir, "alone"), join(dir, "beside")];
    const archive = join(dir, "some.zip");
    writeFileSync(archive, makeFontZip(5, random));
    const loose = join(dir, "loose.ttf");
    writeFileSync(loose, wholeFont());
    const bring = (data: string): { status: number | null; summary: Record<string, unknown> } => {
      const { status, stdout } = spawnSync(
        process.execPath,
        [join(BUILD, "node", "cli.mjs"), "bring", archive, loose, "--data", data, "--json"],
        {
          encoding: "utf8",
        },
      );
      const { ms: _, ...summary } = JSON.parse(stdout) as Record<string, unknown>;
      return { status, summary };
    };
    const server = await new Server(beside).start();
    const [first, second] = [bring(alone), bring(beside)];
    expect(second).toEqual(first);
    expect(first.summary).toMatchObject({ archives: 2, faces: 6 });
    expect((await server.parcels()).length).toBe(2);
  }, 90_000);
});

describe("a process that ends while a parcel is unpacked", () => {
  const beingUnpacked = async (server: Server): Promise<number> => {
    const { id } = ParcelSummary.parse((await server.send("papers.zip", PAPERS)).body);
    for (const until = Date.now() + 10_000; Date.now() < until;) {
      const [parcel] = await server.parcels();
      if (parcel!.state === "unpacking" && (parcel!.progress?.entriesDone ?? 0) > 50) return id;
      await new Promise((resolve) => setTimeout(resolve, 10));
    }
    throw new Error("It was not seen being unpacked.");
  };
  test("killed: it is not tried again by itself, says so, and can be tried by hand", async () => {
    const server = await new Server(join(dir, "killed")).start();
    const id = await beingUnpacked(server);
    await server.end("SIGKILL");
    await server.start();
    expect([server.readyMs, within(server.readyMs, START_MS)]).toEqual([server.readyMs, true]);
    // The note is made once the library can be written to: what is brought up to date after an end may hold it for a moment.
    let told = await server.parcels();
    for (const until = Date.now() + 10_000; Date.now() < until && told[0]!.state === "unpacking"; told = await server.parcels())
      await new Promise((resolve) => setTimeout(resolve, 100));
    expect(told).toMatchObject([{ id, state: "failed", problem: { code: "unpack-interrupted" } }]);
    expect((await server.post(`/parcels/${id}/retry`)).status).toBe(200);
    await server.holdsTrue();
    expect(await server.parcels()).toMatchObject([{ id, state: "ready" }]);
  }, 90_000);
  test("stopped in good order: it goes on", async () => {
    const server = await new Server(join(dir, "stopped")).start();
    const id = await beingUnpacked(server);
    await server.end("SIGTERM");
    await server.start();
    await server.holdsTrue();
    expect(await server.parcels()).toMatchObject([{ id, state: "ready" }]);
  }, 90_000);
});

test("kills while fonts are shelved, placed and taken back: the plan says what is true of the device, and nothing half-written lies there", async () => {
  const server = await new Server(join(dir, "placing")).start();
  const { id } = ParcelSummary.parse((await server.send("many.zip", makeFontZip(60, random))).body);
  await server.settled();
  // Shelved whole or not at all.
  const shelving = server.post(`/parcels/${id}/shelve`).catch(() => undefined);
  await new Promise((resolve) => setTimeout(resolve, random() * 60));
  await server.end("SIGKILL");
  await shelving;
  await server.start();
  const { shelvedStyles } = (await server.parcels())[0]!;
  expect([seed, [0, 60].includes(shelvedStyles)]).toEqual([seed, true]);
  const { familyIds } = ShelveResult.parse((await server.post(`/parcels/${id}/shelve`)).body);
  expect(familyIds.length).toBe(60);
  for (let i = 0; i < amount(8); i++) {
    const plan = PlanView.parse((await server.post("/plans", { deviceId: 1, action: i % 2 ? "remove" : "place", familyIds })).body);
    const answer = server.post(`/plans/${plan.id}/do`).catch(() => undefined);
    await new Promise((resolve) => setTimeout(resolve, random() * 250));
    await server.end("SIGKILL");
    await answer;
    await server.start();
    expect([seed, server.readyMs, within(server.readyMs, START_MS)]).toEqual([seed, server.readyMs, true]);
    let after = PlanView.parse((await server.ask(`/plans/${plan.id}`)).body);
    if (after.state === "failed" || after.state === "drawn") after = PlanView.parse((await server.post(`/plans/${plan.id}/do`)).body);
    expect([seed, i, after.state]).toEqual([seed, i, "done"]);
    const device = DeviceDetail.parse((await server.ask("/devices/1")).body);
    const there = i % 2 ? 0 : 60;
    expect([seed, i, after.fontsAfter, device.placedFonts, device.total]).toEqual([seed, i, there, there, there]);
    const left = readdirSync(join(server.dataDir, "practice"), { recursive: true, encoding: "utf8" }).filter((name) =>
      name.endsWith(".part"),
    );
    expect([seed, left]).toEqual([seed, []]);
  }
}, 180_000);

test("kills while web fonts are unwrapped: the file is whole and listed, or neither", async () => {
  const server = await new Server(join(dir, "unwrapping")).start();
  const web = readFileSync(join(BUILD, "demo", "downloads", "hedgerow-web.zip"));
  for (let i = 0; i < amount(6); i++) {
    const { id } = ParcelSummary.parse((await server.send(`web${i}.zip`, web)).body);
    await server.settled();
    for (const until = Date.now() + 10_000; Date.now() < until && (await server.parcels())[0]!.beingRead > 0;)
      await new Promise((resolve) => setTimeout(resolve, 50));
    const before = ParcelDetail.parse((await server.ask(`/parcels/${id}`)).body);
    const files = before.drawers
      .flatMap(({ styles }) => styles)
      .filter(({ unwrap }) => unwrap?.allowed)
      .map(({ sha256 }) => sha256);
    const answer = server.post(`/parcels/${id}/unwrap`, { files }).catch(() => undefined);
    await new Promise((resolve) => setTimeout(resolve, random() * 120));
    await server.end("SIGKILL");
    await answer;
    await server.start();
    expect([seed, server.readyMs, within(server.readyMs, START_MS)]).toEqual([seed, server.readyMs, true]);
    await server.holdsTrue();
    await server.post(`/parcels/${id}/remove`);
  }
}, 180_000);

test("kills while an old library is brought up to date: nothing of it is lost", async () => {
  const data = join(dir, "old");
  mkdirSync(data);
  const old = new Database(join(data, "library.db"));
  old.pragma("foreign_keys = OFF");
  old.exec(gunzipSync(readFileSync(join(process.cwd(), "tests", "fixtures", "library-7", "library.sql.gz"))).toString());
  old.pragma("user_version = 7");
  const count = (db: Database.Database) =>
    ["parcels", "families", "styles", "faces", "sightings"].map((table) => db.prepare(`SELECT count(*) FROM ${table}`).pluck().get());
  const before = count(old);
  old.close();
  for (let i = 0; i < amount(8); i++) {
    const server = new Server(data);
    const started = server.start().catch(() => undefined);
    await new Promise((resolve) => setTimeout(resolve, 60 + random() * 500));
    await server.end("SIGKILL");
    await started;
  }
  const server = await new Server(data).start();
  expect([server.readyMs, within(server.readyMs, START_MS)]).toEqual([server.readyMs, true]);
  await server.end("SIGTERM");
  const now = new Database(join(data, "library.db"), { readonly: true });
  expect([now.pragma("integrity_check", { simple: true }), count(now)]).toEqual(["ok", before]);
  now.close();
}, 120_000);
