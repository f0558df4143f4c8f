// `npm start`: the user's own library, on this machine only.
import { buildDemo, buildNode, buildWeb } from "./build.mjs";
import { ensurePackages } from "./setup.mjs";

await ensurePackages();
await buildNode();
await buildDemo();
await buildWeb();
await import("../build/node/main.mjs");
