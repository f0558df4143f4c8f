// A Buvano of its own for each test file: an empty library in a temporary folder, on a free port.
import { execFileSync, spawn, type ChildProcess } from "node:child_process";
import { mkdtemp, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";

export const ROOT = process.cwd();

export class TestServer {
  readonly dataDir: string;
  address = "";
  /** What it complained of, all runs together; an error nobody foresaw among it. */
  complaints = "";
  private child: ChildProcess | undefined;
  private readonly practice: boolean;
  private constructor(dataDir: string, practice: boolean) {
    this.dataDir = dataDir;
    this.practice = practice;
  }

  get pid(): number {
    return this.child?.pid ?? 0;
  }
  get running(): boolean {
    return this.child !== undefined && this.child.exitCode === null && this.child.signalCode === null;
  }

  /** `practice`: with the practice devices, as most tests want them. `from`: a library that lies ready, of which it gets a copy. */
  static async start(practice = true, from?: string): Promise<TestServer> {
    const server = new TestServer(await mkdtemp(join(tmpdir(), "buvano-data-")), practice);
    // Where the disk can, a copy shares the bytes until one of the two changes them.
    if (from !== undefined) execFileSync("cp", ["-a", "--reflink=auto", `${from}/.`, server.dataDir]);
    await server.run();
    return server;
  }

  /** Starts the built server on the data folder; again after `kill`, `clockDays` ahead of the real clock. */
  async run(clockDays = 0): Promise<void> {
    const child = spawn(process.execPath, [join(ROOT, "build", "node", "main.mjs")], {
      env: {
        ...process.env,
        // Without practice devices fonts may be placed on this computer: on an account of the test's own.
        ...(this.practice ? {} : { HOME: join(this.dataDir, "home"), XDG_DATA_HOME: "", XDG_CONFIG_HOME: "" }),
        BUVANO_DATA: this.dataDir,
        PORT: "0",
        BUVANO_CLOCK_DAYS: String(clockDays),
        BUVANO_PRACTICE: this.practice ? "1" : "",
      },
      stdio: ["ignore", "pipe", "pipe"],
    });
    this.child = child;
    child.stderr!.on("data", (chunk: Buffer) => {
      this.complaints += chunk.toString();
      process.stderr.write(chunk);
    });
    this.address = await new Promise<string>((resolve, reject) => {
      let said = "";
      child.stdout!.on("data", (chunk: Buffer) => {
        said += chunk.toString();
        const address = /ready: (http:\S+)/.exec(said)?.[1];
        if (address) resolve(address);
      });
      child.on("exit", (code) => reject(new Error(`The server ended with ${code}: ${said}`)));
    });
  }

  /** As pulling the plug: no time to clean up. */
  async kill(signal: NodeJS.Signals = "SIGKILL"): Promise<void> {
    const child = this.child;
    if (!child || child.exitCode !== null || child.signalCode !== null) return;
    const gone = new Promise((resolve) => child.once("exit", resolve));
    child.kill(signal);
    await gone;
  }
  async stop(): Promise<void> {
    await this.kill("SIGTERM");
    await rm(this.dataDir, { recursive: true, force: true });
  }
}
