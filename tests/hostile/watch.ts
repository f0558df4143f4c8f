// A server in a process of its own, watched while it is attacked: whether it lives, how long others wait for it, what memory it takes.
import { readdirSync, readFileSync, writeFileSync } from "node:fs";
import { request } from "node:http";
import { join } from "node:path";
import { ParcelDetail, ParcelPage } from "../../contract/parcels.ts";
import { TestServer } from "../e2e/server.ts";
import type { Hostile } from "./inputs.ts";
import { computedMs, ownThreadMs, treeOf } from "./effort.ts";

/** What one attack did. */
export interface Seen {
  /** Until it was refused or taken in, and every paper of it was read; what the server and its workers computed, where that is less. */
  ms: number;
  /** How long another request was kept waiting at most by what the server's own thread computed, and how often longer than a tenth of a second. */
  longestWaitMs: number;
  longWaits: number;
  /** Resident memory of the server itself beyond what it took before (proc(5), VmHWM), in MiB. */
  growthMib: number;
  /** The same of the server and its workers: summed over all that live, so that what they share counts several times. */
  withWorkersMib: number;
  /** How it ended: a code of a problem, or the state it came to. */
  outcome: string;
}

const MIB = 1024 * 1024;
const OTHERS_MS = 100;
/** Sends files as a form, by a connection of its own: one kept from before may be closed by the other side just as it is taken up. */
export async function post(
  address: string,
  files: readonly { fileName: string; bytes: Uint8Array }[],
  mostMs = 600_000,
): Promise<{ status: number; body: unknown }> {
  const form = new FormData();
  for (const { fileName, bytes } of files) form.append("file", new Blob([new Uint8Array(bytes)]), fileName);
  const encoded = new Response(form);
  const body = Buffer.from(await encoded.arrayBuffer());
  const headers = { "content-type": encoded.headers.get("content-type")!, "content-length": body.length };
  return new Promise((resolve, reject) => {
    const sending = request(address, { method: "POST", agent: false, headers, signal: AbortSignal.timeout(mostMs) }, (response) => {
      const parts: Buffer[] = [];
      response.on("data", (part: Buffer) => parts.push(part));
      response.on("error", reject);
      response.on("end", () => {
        resolve({ status: response.statusCode!, body: JSON.parse(Buffer.concat(parts).toString("utf8")) as unknown });
      });
    });
    sending.on("error", reject);
    sending.end(body);
  });
}

export class Watched {
  readonly server: TestServer;
  private readonly pid: number;
  private constructor(server: TestServer) {
    this.server = server;
    this.pid = server.pid;
  }
  static async start(): Promise<Watched> {
    return new Watched(await TestServer.start());
  }

  /** Resident memory in MiB, of the server or of its workers too. */
  private memory(field: "VmHWM" | "VmRSS", pids: readonly number[] = [this.pid]): number {
    let kib = 0;
    for (const pid of pids) {
      try {
        kib += Number(new RegExp(`${field}:\\s+(\\d+)`).exec(readFileSync(`/proc/${pid}/status`, "utf8"))?.[1] ?? 0);
      } catch {
        // Ended in between.
      }
    }
    return kib / 1024;
  }
  get alive(): boolean {
    return this.server.pid === this.pid && this.server.running;
  }
  /** Half-written files that nobody writes any more. */
  leftovers(): string[] {
    return readdirSync(join(this.server.dataDir, "files", "unfinished"));
  }

  /** Asks for something light again and again until `work` is done. */
  private async beside<T>(work: Promise<T>): Promise<{ result: T; longestWaitMs: number; longWaits: number; peakMib: number }> {
    let [longestWaitMs, longWaits, peakMib, done] = [0, 0, 0, false];
    const asking = (async () => {
      while (!done) {
        const [begun, computed] = [performance.now(), ownThreadMs(this.pid)];
        await fetch(`${this.server.address}/api/library`).then((response) => response.text());
        const waited = Math.min(performance.now() - begun, ownThreadMs(this.pid) - computed);
        longestWaitMs = Math.max(longestWaitMs, waited);
        if (waited > OTHERS_MS) longWaits++;
        peakMib = Math.max(peakMib, this.memory("VmHWM", treeOf(this.pid)));
        await new Promise((resolve) => setTimeout(resolve, 20));
      }
    })();
    try {
      const result = await work;
      return { result, longestWaitMs, longWaits, peakMib: Math.max(peakMib, this.memory("VmHWM", treeOf(this.pid))) };
    } finally {
      done = true;
      await asking;
    }
  }
  private async watched(work: () => Promise<string>, ownBytes: number): Promise<Seen> {
    // From here on the peak is counted anew (proc(5), clear_refs).
    for (const pid of treeOf(this.pid)) {
      try {
        writeFileSync(`/proc/${pid}/clear_refs`, "5");
      } catch {
        // Ended in between.
      }
    }
    const [before, withWorkers] = [this.memory("VmRSS"), this.memory("VmRSS", treeOf(this.pid))];
    const [begun, computed] = [performance.now(), computedMs(this.pid)];
    const { result, longestWaitMs, longWaits, peakMib } = await this.beside(work());
    const ms = Math.min(performance.now() - begun, computedMs(this.pid) - computed);
    const own = ownBytes / MIB;
    const growthMib = this.memory("VmHWM") - before - own;
    return { ms, longestWaitMs, longWaits, growthMib, withWorkersMib: peakMib - withWorkers - own, outcome: result };
  }

  private send(path: string, input: Hostile): Promise<{ status: number; body: unknown }> {
    return post(`${this.server.address}/api${path}`, [input]);
  }

  /** Drops a file as a parcel and waits until it was taken apart and its papers are read. */
  parcel(input: Hostile): Promise<Seen> {
    return this.watched(async () => {
      const sent = await this.send("/parcels", input);
      if (sent.status !== 200) return (sent.body as { code: string }).code;
      const { id } = sent.body as { id: number };
      for (;;) {
        const { parcels } = ParcelPage.parse(await (await fetch(`${this.server.address}/api/parcels?limit=200`)).json());
        const listed = parcels.find((one) => one.id === id)!;
        if (listed.state === "failed") return listed.problem!.code;
        if (listed.state === "ready" && listed.beingRead === 0) {
          const parcel = ParcelDetail.parse(await (await fetch(`${this.server.address}/api/parcels/${id}`)).json());
          const problems = parcel.entries.flatMap(({ problem }) => problem?.code ?? []);
          return ["ready", ...new Set(problems)].join(", ");
        }
        await new Promise((resolve) => setTimeout(resolve, 100));
      }
    }, input.bytes.length);
  }
  /** Gives a file as evidence, or as a picture of words, of a style in a program. */
  evidence(input: Hostile, cell: string, picture: boolean): Promise<Seen> {
    return this.watched(async () => {
      const { status, body } = await this.send(`${cell}/${picture ? "picture?words=hamburgefonstiv" : "evidence"}`, input);
      return status === 200 ? "taken" : (body as { code: string }).code;
    }, input.bytes.length);
  }
}
