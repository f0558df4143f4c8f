// `npm run -s buvano -- …`: the command line, built first when its sources changed.
import { spawnSync } from "node:child_process";
import { buildNode } from "./build.mjs";
import { ensurePackages } from "./setup.mjs";

await ensurePackages();
await buildNode();
const cli = new URL("../build/node/cli.mjs", import.meta.url).pathname;
const { status } = spawnSync(process.execPath, [cli, ...process.argv.slice(2)], {
  stdio: "inherit",
  cwd: process.env.INIT_CWD ?? process.cwd(),
});
process.exit(status ?? 1);
