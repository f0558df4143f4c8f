// `npm run bench`: figures as ratios in one run against the tools named beside them.
import { buildDemo, buildNode, buildWeb } from "./build.mjs";
import { ensureDebian, ensurePackages } from "./setup.mjs";
import { BROWSER, CASES, FONTS, JUDGES } from "./debian.mjs";

await ensureDebian([...BROWSER, ...JUDGES, ...FONTS, ...CASES]);
await ensurePackages();
await buildNode();
await buildDemo();
await buildWeb();
await import("../build/node/bench.mjs");
