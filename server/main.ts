// Starts the server on this machine's own address. Settings come from the environment:
// BUVANO_DATA (the library's folder), PORT (4173; 0 for any free one), BUVANO_NETWORK_PORT (4174; used only when the network is opened in
// the settings), BUVANO_CLOCK_DAYS (so many days ahead of the real clock, to see
// what a licence's end looks like), BUVANO_PRACTICE (brings the practice devices out).
import type { AddressInfo } from "node:net";
import { existsSync } from "node:fs";
import { homedir } from "node:os";
import { join } from "node:path";
import { fileURLToPath, URL } from "node:url";
import envPaths from "env-paths";
import qrcode from "qrcode";
import { diskFault } from "../core/disk/faults.ts";
import { ProblemError } from "../core/problem.ts";
import { makeApp } from "./app.ts";
import { LibraryTaken } from "./lock.ts";
import { makeNetworkApp, ServerListener } from "./network.ts";
import { makeParts, thisMachine } from "./parts.ts";
import { makeServices, type Services } from "./services/services.ts";

const here = fileURLToPath(new URL(".", import.meta.url));
/** Where the system keeps what programs make; a library that lies where it lay on every system before is used on. */
const EARLIER = join(homedir(), ".local", "share", "buvano");
const ours = envPaths("buvano", { suffix: "" }).data;
const dataDir = process.env["BUVANO_DATA"] || (!existsSync(ours) && existsSync(join(EARLIER, "library.db")) ? EARLIER : ours);

/** A clock further off than that is a slip: a hundred years. */
const MOST_DAYS = 36_525;
const daysAhead = Number(process.env["BUVANO_CLOCK_DAYS"] || 0);
if (!(Math.abs(daysAhead) <= MOST_DAYS)) {
  process.stderr.write(`BUVANO_CLOCK_DAYS takes a number of days, ${-MOST_DAYS} to ${MOST_DAYS}. Leave it out to go by the real clock.\n`);
  process.exit(1);
}

/** Ends with a sentence, where there is nothing to be done here. */
function giveUp(error: unknown): never {
  const problem = error instanceof ProblemError ? error.problem : diskFault(error)?.problem;
  const words = error instanceof LibraryTaken ? error.message : problem && `${problem.message} ${problem.next}`;
  if (words === undefined) throw error;
  process.stderr.write(`${words}\n`);
  process.exit(1);
}
/** The exit code that asks whoever started the demo to make its library anew. */
const PUT_BACK = 75;
const PUT_BACK_AFTER_MS = 200;

const parts = await makeParts({
  dataDir,
  webDir: join(here, "..", "web"),
  workerDir: here,
  builtInFonts: join(here, "..", "demo", "built-in"),
  now: () => new Date(Date.now() + daysAhead * 86_400_000),
  // Answered first, ended after.
  putBack: process.env["BUVANO_DEMO"] ? () => void setTimeout(() => void stop(PUT_BACK), PUT_BACK_AFTER_MS) : undefined,
  ...thisMachine(),
}).catch(giveUp);
if (process.env["BUVANO_PRACTICE"]) parts.settings.set({ practice: true });
const networkPort = Number(process.env["BUVANO_NETWORK_PORT"] ?? (process.env["PORT"] === "0" ? 0 : 4174));
const listener = new ServerListener(networkPort, (hosts) => makeNetworkApp(parts.config.webDir, services, hosts));
const services: Services = await makeServices(parts, listener);
if (parts.settings.get().network) await listener.set(true);
let tellReady: (address: string) => void;
/** Resolves to the address once the server answers there. */
export const ready = new Promise<string>((resolve) => (tellReady = resolve));
const server = makeApp(parts, services).listen(Number(process.env["PORT"] || 4173), "127.0.0.1", async (error?: Error) => {
  if (error) {
    const taken = (error as NodeJS.ErrnoException).code === "EADDRINUSE";
    process.stderr.write(taken ? "Another program uses this port. Set PORT to a free one and start again.\n" : `${error.message}\n`);
    process.exit(1);
  }
  const address = `http://localhost:${(server.address() as AddressInfo).port}`;
  process.stdout.write(`Buvano keeps its library in ${dataDir}\n`);
  // A phone can only open what is open to the network.
  const [outside] = listener.addresses();
  if (outside !== undefined && (process.stdout.isTTY || process.env["BUVANO_QR"]))
    process.stdout.write(await qrcode.toString(outside, { type: "terminal", small: true }));
  process.stdout.write(`Buvano is ready: ${address}\n`);
  parts.lock.answersAt(address);
  tellReady(address);
});

async function stop(code = 0): Promise<void> {
  server.close();
  server.closeAllConnections();
  await listener.close();
  await services.close();
  process.exit(code);
}
// Every promise is waited for or caught; one that was forgotten must not end what somebody is working with.
process.on("unhandledRejection", (error) => {
  if (!parts.disk.report(error))
    process.stderr.write(`Something went wrong unnoticed: ${error instanceof Error ? error.stack : String(error)}\n`);
});
process.on("SIGINT", () => void stop());
process.on("SIGTERM", () => void stop());
