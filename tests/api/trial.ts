// A server on a folder of its own, for tests: asked over HTTP, looked into, stopped and started again.
import { execFileSync } from "node:child_process";
import { existsSync, mkdtempSync, readdirSync, renameSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll } from "@jest/globals";
import type { Express } from "express";
import request from "supertest";
import { ParcelDetail } from "../../contract/parcels.ts";
import { makeApp } from "../../server/app.ts";
import { makeParts, type Parts } from "../../server/parts.ts";
import type { NetworkListener } from "../../server/services/pairing/pairing.ts";
import { makeServices, NO_LISTENER, type Services } from "../../server/services/services.ts";
import { WorkPool } from "../../server/work/pool.ts";
import { TaskLost } from "../../server/work/threads.ts";

const build = join(process.cwd(), "build");
export const builtInFont = (name: string): string => join(build, "demo", "built-in", name);
export const download = (name: string): string => join(build, "demo", "downloads", name);

/** One pool of threads for all servers of a test file: loading their code takes a second each time. */
let threads: WorkPool | undefined;
afterAll(() => threads?.close());

/** The pool as one server has it: closing it loses what that server still waits for, and nothing else. */
function leased(pool: WorkPool): WorkPool {
  let lose: (why: TaskLost) => void;
  const lost = new Promise<never>((_resolve, reject) => (lose = reject));
  lost.catch(() => {});
  const close = () => Promise.resolve(lose(new TaskLost("closed", "The work was stopped.")));
  return new Proxy(pool, {
    get(target, name) {
      if (name === "close") return close;
      const value = Reflect.get(target, name, target) as unknown;
      return typeof value === "function" ? (...args: unknown[]) => Promise.race([value.apply(target, args) as unknown, lost]) : value;
    },
  });
}

/**
 * An empty library that was opened before: its schema up to date, the practice devices prepared and looked at. Made once for a run of all tests
 * (BUVANO_RUN names its folder), or for one file where that runs by itself.
 */
const own = process.env["BUVANO_RUN"] === undefined ? mkdtempSync(join(tmpdir(), "buvano-run-")) : undefined;
afterAll(() => {
  if (own) rmSync(own, { recursive: true });
});
const TEMPLATE = join(own ?? process.env["BUVANO_RUN"]!, "empty-library");

async function copyTemplate(dataDir: string): Promise<void> {
  if (!existsSync(TEMPLATE)) {
    const first = new Trial();
    await first.begin();
    await first.services.close();
    // Whoever was quicker has made the same.
    try {
      renameSync(first.dataDir, TEMPLATE);
    } catch {
      rmSync(first.dataDir, { recursive: true });
    }
    rmSync(first.home, { recursive: true });
  }
  // With times to the nanosecond, by which devices know what they have looked at.
  execFileSync("cp", ["-a", "--reflink=auto", `${TEMPLATE}/.`, dataDir]);
}

export class Trial {
  readonly dataDir = mkdtempSync(join(tmpdir(), "buvano-server-"));
  parts!: Parts;
  services!: Services;
  /** A home of its own, for what concerns this computer. */
  readonly home = mkdtempSync(join(tmpdir(), "buvano-home-"));
  /** What the server takes for the present moment. */
  now = (): Date => new Date();
  private app!: Express;

  async start(listener: NetworkListener = NO_LISTENER): Promise<void> {
    if (readdirSync(this.dataDir).length === 0) await copyTemplate(this.dataDir);
    await this.begin(listener);
  }
  /** Opens what lies in the folder, or an empty library. */
  async begin(listener: NetworkListener = NO_LISTENER): Promise<void> {
    this.parts = await makeParts({
      dataDir: this.dataDir,
      webDir: undefined,
      workerDir: join(build, "node"),
      builtInFonts: join(build, "demo", "built-in"),
      now: () => this.now(),
      home: this.home,
      platform: "linux",
      env: { NODE_ENV: "test", PATH: process.env["PATH"] },
    });
    this.parts.settings.set({ practice: true });
    this.services = await makeServices(this.parts, listener, leased((threads ??= new WorkPool(join(build, "node")))));
    await this.services.begun;
    this.app = makeApp(this.parts, this.services);
  }
  async end(): Promise<void> {
    await this.services.close();
    for (const dir of [this.dataDir, this.home]) rmSync(dir, { recursive: true });
  }
  /** Stops and starts again; `between` is done while nothing runs. */
  async restart(between: () => void = () => {}): Promise<void> {
    await this.services.close();
    between();
    await this.start();
  }

  // supertest names its own port; the guard looks at the host name only.
  api() {
    return request(this.app);
  }
  async json(path: string): Promise<unknown> {
    return (await this.api().get(path).expect(200)).body as unknown;
  }
  /** Sends a demo download by name, or bytes, and waits until it is unpacked. */
  async bring(file: string | { name: string; bytes: Uint8Array }): Promise<ParcelDetail> {
    const sent =
      typeof file === "string"
        ? this.api().post("/api/parcels").attach("file", download(file))
        : this.api().post("/api/parcels").attach("file", Buffer.from(file.bytes), file.name);
    const { id } = (await sent.expect(200)).body as { id: number };
    await this.services.parcels.whenIdle();
    return this.parcel(id);
  }
  async parcel(id: number): Promise<ParcelDetail> {
    return ParcelDetail.parse(await this.json(`/api/parcels/${id}`));
  }
  async shelve(parcel: ParcelDetail): Promise<number[]> {
    const answer = await this.api().post(`/api/parcels/${parcel.id}/shelve`).send({}).expect(200);
    return (answer.body as { familyIds: number[] }).familyIds;
  }
  filesLeft() {
    return {
      incoming: readdirSync(join(this.dataDir, "incoming")).length,
      unfinished: readdirSync(join(this.dataDir, "files", "unfinished")).length,
    };
  }
}
