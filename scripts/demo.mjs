// `npm run demo`: everything from a fresh clone to a running Buvano with the demo's world in it.
import { join } from "node:path";
import { buildDemo, buildNode, buildWeb } from "./build.mjs";
import { buildDir, ensurePackages, say } from "./setup.mjs";

await ensurePackages();
await buildNode();
await buildDemo();
await buildWeb();
process.env.BUVANO_DATA ||= join(buildDir, "demo-library");
process.env.BUVANO_QR = "1";
process.env.BUVANO_PRACTICE = "1";
say(`Archives to try lie in ${join(buildDir, "demo", "downloads")}`);
const { ready } = await import("../build/node/main.mjs");
const { fillDemo } = await import("../build/node/fill.mjs");
await fillDemo(await ready, join(buildDir, "demo", "downloads"));
