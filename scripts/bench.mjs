// `npm run bench`: figures as ratios in one run against the tools named beside them.
import { buildDemo, buildNode } from "./build.mjs";
import { ensureDebian, ensurePackages } from "./setup.mjs";
import { FONTS, JUDGES } from "./debian.mjs";

ensureDebian([...JUDGES, ...FONTS]);
await ensurePackages();
await buildNode();
await buildDemo();
await import("../build/node/bench.mjs");
