// `npm run shots`: pictures of the main views for the README.
import { buildDemo, buildNode, buildWeb } from "./build.mjs";
import { BROWSER } from "./debian.mjs";
import { ensureDebian, ensurePackages } from "./setup.mjs";

await ensureDebian(BROWSER);
await ensurePackages();
await buildNode();
await buildDemo();
await buildWeb();
await import("../build/node/shots.mjs");
