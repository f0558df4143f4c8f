// `npm run demo`: everything from a fresh clone to a running Buvano in whose library the demo's world has lived for some weeks. The server
// runs as a process of its own, so that it can be ended and its library made anew when somebody asks for that.
import { spawn } from "node:child_process";
import { rmSync } from "node:fs";
import { join } from "node:path";
import { buildDemo, buildNode, buildWeb } from "./build.mjs";
import { buildDir, ensurePackages, say } from "./setup.mjs";

/** The server's own way of asking to be begun anew. */
const PUT_BACK = 75;

await ensurePackages();
await buildNode();
await buildDemo();
await buildWeb();
const dataDir = process.env.BUVANO_DATA || join(buildDir, "demo-library");
const downloads = join(buildDir, "demo", "downloads");
const main = join(buildDir, "node", "main.mjs");
const { isDemo, liveIn } = await import("../build/node/live.mjs");

let child;
let ending = false;
for (const signal of ["SIGINT", "SIGTERM"]) {
  process.on(signal, () => {
    ending = true;
    child?.kill(signal);
  });
}
const serve = (env, stdio) => {
  child = spawn(process.execPath, [main], { env: { ...process.env, BUVANO_DATA: dataDir, BUVANO_PRACTICE: "1", ...env }, stdio });
  return child;
};
const ended = (server) => new Promise((resolve) => server.once("exit", (code) => resolve(code ?? 0)));

/** A server whose clock stands some days back, on a port of its own. */
async function start(clockDays) {
  const server = serve({ PORT: "0", BUVANO_CLOCK_DAYS: String(clockDays), BUVANO_QR: "" }, ["ignore", "pipe", "inherit"]);
  const address = await new Promise((resolve, reject) => {
    let said = "";
    server.stdout.on("data", (chunk) => {
      said += chunk;
      const found = /ready: (http:\S+)/.exec(said)?.[1];
      if (found) resolve(found);
    });
    server.once("exit", () => reject(new Error(said || "The server ended.")));
  });
  return {
    address,
    stop: async () => {
      const gone = ended(server);
      server.kill("SIGTERM");
      await gone;
    },
  };
}

for (;;) {
  say("Letting the demo's world live for some weeks…");
  await liveIn(dataDir, downloads, start);
  if (ending) process.exit(0);
  say(`Archives to try lie in ${downloads}`);
  // Somebody's own library is never put back.
  const code = await ended(serve({ BUVANO_DEMO: isDemo(dataDir) ? "1" : "", BUVANO_QR: "1" }, "inherit"));
  if (code !== PUT_BACK || !isDemo(dataDir)) process.exit(code);
  rmSync(dataDir, { recursive: true, force: true });
}
