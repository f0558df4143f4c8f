// A parcel's arrival over HTTP: how soon its first style is known, and how much memory a very large one takes.
import { spawn } from "node:child_process";
import { createWriteStream, mkdtempSync, openAsBlob, readFileSync, rmSync, statSync } from "node:fs";
import { once } from "node:events";
import { tmpdir } from "node:os";
import { basename, join } from "node:path";
import { ParcelDetail, ParcelPage, ParcelSummary } from "../../contract/parcels.ts";
import { ServerEvent } from "../../contract/events.ts";
import { crc32 } from "node:zlib";

const MIB = 1024 * 1024;

async function start(workerDir: string, dataDir: string): Promise<{ address: string; pid: number; stop: () => Promise<void> }> {
  const child = spawn(process.execPath, [join(workerDir, "main.mjs")], {
    env: { ...process.env, BUVANO_DATA: dataDir, PORT: "0", BUVANO_PRACTICE: "1" },
    stdio: ["ignore", "pipe", "inherit"],
  });
  let said = "";
  for await (const chunk of child.stdout) {
    said += String(chunk);
    const address = /ready: (http:\S+)/.exec(said)?.[1];
    if (address) {
      child.stdout.resume();
      return {
        address,
        pid: child.pid!,
        stop: async () => {
          child.kill();
          await once(child, "exit");
        },
      };
    }
  }
  throw new Error(`The server did not start: ${said}`);
}

/** Resolves when the first style of the next parcel is told, or the parcel is there whole. */
async function firstStyle(address: string): Promise<() => Promise<void>> {
  const response = await fetch(`${address}/api/events`);
  const reader = response.body!.getReader();
  const decoder = new TextDecoder();
  let text = "";
  return async () => {
    for (;;) {
      const { value, done } = await reader.read();
      if (done) throw new Error("The line to the server was cut.");
      text += decoder.decode(value);
      const lines = text.split("\n");
      text = lines.pop()!;
      for (const line of lines) {
        if (!line.startsWith("data: ")) continue;
        const event = ServerEvent.parse(JSON.parse(line.slice(6)));
        if (event.topic === "progress" && event.progress.found.length > 0) return void reader.cancel();
        if (event.topic !== "parcels") continue;
        const { parcels } = ParcelPage.parse(await (await fetch(`${address}/api/parcels`)).json());
        if (parcels[0]?.styles) return void reader.cancel();
      }
    }
  };
}

async function send(address: string, path: string): Promise<{ id: number; endedAt: number }> {
  const form = new FormData();
  form.append("file", await openAsBlob(path), basename(path));
  const response = await fetch(`${address}/api/parcels`, { method: "POST", body: form });
  const endedAt = performance.now();
  return { id: ParcelSummary.parse(await response.json()).id, endedAt };
}

/** A stored zip of one font and `mib` MiB of noise that no font is. */
async function largeZip(path: string, font: string, mib: number): Promise<void> {
  const out = createWriteStream(path);
  const put = async (bytes: Uint8Array) => void (out.write(bytes) || (await once(out, "drain")));
  let at = 0;
  const central: Buffer[] = [];
  const noise = Buffer.alloc(MIB, "Fernhollow seed noise 0123456789 ");
  const entry = async (name: string, pieces: () => Iterable<Uint8Array>) => {
    let [sum, bytes] = [0, 0];
    for (const piece of pieces()) {
      sum = crc32(piece, sum);
      bytes += piece.length;
    }
    // PKWARE APPNOTE 4.3.7 and 4.3.12.
    const header = Buffer.alloc(30);
    header.writeUInt32LE(0x04034b50, 0);
    header.writeUInt16LE(20, 4);
    header.writeUInt32LE(sum, 14);
    header.writeUInt32LE(bytes, 18);
    header.writeUInt32LE(bytes, 22);
    header.writeUInt16LE(name.length, 26);
    const listed = Buffer.alloc(46);
    listed.writeUInt32LE(0x02014b50, 0);
    header.copy(listed, 6, 4, 30);
    listed.writeUInt32LE(at, 42);
    central.push(listed, Buffer.from(name));
    await put(Buffer.concat([header, Buffer.from(name)]));
    for (const piece of pieces()) await put(piece);
    at += 30 + name.length + bytes;
  };
  await entry("font.ttf", () => [readFileSync(font)]);
  await entry("noise.psd", function* () {
    for (let i = 0; i < mib; i++) yield noise;
  });
  const size = central.reduce((sum, one) => sum + one.length, 0);
  const end = Buffer.alloc(22);
  end.writeUInt32LE(0x06054b50, 0);
  end.writeUInt16LE(2, 8);
  end.writeUInt16LE(2, 10);
  end.writeUInt32LE(size, 12);
  end.writeUInt32LE(at, 16);
  await put(Buffer.concat([...central, end]));
  out.end();
  await once(out, "close");
}

/** Resident memory of a process in MiB (proc(5), status, VmRSS). */
const residentMib = (pid: number): number => Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, "utf8"))![1]) / 1024;

export async function benchArrival(
  workerDir: string,
  archives: readonly string[],
  font: string,
  print: (line: string) => void,
): Promise<void> {
  const dir = mkdtempSync(join(tmpdir(), "buvano-bench-arrival-"));
  const server = await start(workerDir, join(dir, "data"));
  try {
    const times: number[] = [];
    for (const archive of archives) {
      const found = await firstStyle(server.address);
      const { id, endedAt } = await send(server.address, archive);
      await found();
      times.push(performance.now() - endedAt);
      while (ParcelDetail.parse(await (await fetch(`${server.address}/api/parcels/${id}`)).json()).state !== "ready")
        await new Promise((resolve) => setTimeout(resolve, 20));
    }
    const largest = Math.max(...archives.map((path) => statSync(path).size)) / 1e6;
    print(
      `first style after an upload's end, ${archives.length} archives of up to ${largest.toFixed(1)} MB: at most ${Math.max(...times).toFixed(0)} ms`,
    );
    const large = join(dir, "large.zip");
    await largeZip(large, font, 1000);
    const before = residentMib(server.pid);
    let most = before;
    const watch = setInterval(() => (most = Math.max(most, residentMib(server.pid))), 20);
    const { id } = await send(server.address, large);
    for (;;) {
      const { state } = ParcelDetail.parse(await (await fetch(`${server.address}/api/parcels/${id}`)).json());
      if (state === "ready") break;
      if (state === "failed") throw new Error("The large archive failed.");
      await new Promise((resolve) => setTimeout(resolve, 100));
    }
    clearInterval(watch);
    print(
      `memory of the server while ${(statSync(large).size / 1e9).toFixed(2)} GB arrive and are unpacked: ${before.toFixed(0)} MiB, at most ${(most - before).toFixed(0)} MiB more`,
    );
  } finally {
    await server.stop();
    rmSync(dir, { recursive: true });
  }
}
