// The first screen on a phone with a slow processor and a slow line, against an empty page of the same stack.
import { spawnSync } from "node:child_process";
import { cpSync, existsSync, mkdirSync, mkdtempSync, rmSync, symlinkSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import type { AddressInfo } from "node:net";
import express from "express";
import { serveInterface } from "../../server/routes/interface.ts";
import { Browser, PHONE } from "../e2e/browser.ts";
import { runServer } from "./running.ts";

const RUNS = 3;
/** 1.6 Mbit/s and 150 ms, a processor four times slower. */
const LINE = { offline: false, latency: 150, downloadThroughput: (1.6e6 / 8) | 0, uploadThroughput: (750e3 / 8) | 0 };

interface DevTools {
  sendDevToolsCommand(command: string, parameters: object): Promise<void>;
}

/** Milliseconds until `ready` is there, and the bytes of JavaScript that came for it. */
async function load(address: string, ready: string): Promise<{ ms: number; scripts: number }> {
  const browser = await Browser.start(PHONE);
  try {
    const tools = browser.driver as unknown as DevTools;
    await tools.sendDevToolsCommand("Network.enable", {});
    await tools.sendDevToolsCommand("Network.setCacheDisabled", { cacheDisabled: true });
    await tools.sendDevToolsCommand("Network.emulateNetworkConditions", LINE);
    await tools.sendDevToolsCommand("Emulation.setCPUThrottlingRate", { rate: 4 });
    const start = performance.now();
    await browser.open(address);
    await browser.find(ready);
    const ms = performance.now() - start;
    const scripts = (await browser.driver.executeScript(
      "return performance.getEntriesByType('resource').filter((one) => /\\.js$/.test(new URL(one.name).pathname)).reduce((sum, one) => sum + one.encodedBodySize, 0)",
    )) as number;
    return { ms, scripts };
  } finally {
    await browser.quit();
  }
}
async function best(address: string, ready: string): Promise<{ ms: number; scripts: number }> {
  const runs = [];
  for (let i = 0; i < RUNS; i++) runs.push(await load(address, ready));
  return runs.sort((a, b) => a.ms - b.ms)[0]!;
}

/** A page of one word, made with the same tools and packages as the interface. */
function emptyPage(root: string, to: string): void {
  if (existsSync(join(to, "web", "index.html"))) return;
  const app = join(to, "app-folder");
  rmSync(to, { recursive: true, force: true });
  mkdirSync(join(app, "app"), { recursive: true });
  mkdirSync(join(app, "ui", "theme"), { recursive: true });
  for (const file of ["package.json", "app.json", "babel.config.js", "tailwind.config.js", "metro.config.js", "tsconfig.json"])
    cpSync(join(root, file), join(app, file));
  for (const file of ["global.css", "palette.js"]) cpSync(join(root, "ui", "theme", file), join(app, "ui", "theme", file));
  symlinkSync(join(root, "node_modules"), join(app, "node_modules"));
  writeFileSync(
    join(app, "app", "_layout.tsx"),
    `import { Slot } from "expo-router";\nimport "../ui/theme/global.css";\nexport default function Layout() { return <Slot />; }\n`,
  );
  writeFileSync(
    join(app, "app", "index.tsx"),
    `import { Text, View } from "react-native";\nexport default function Page() { return <View testID="page"><Text>Hello</Text></View>; }\n`,
  );
  const env = { ...process.env, CI: "1", EXPO_OFFLINE: "1", EXPO_NO_TELEMETRY: "1", NODE_ENV: "production" as const };
  const { status } = spawnSync(
    "node",
    [join(root, "node_modules", "expo", "bin", "cli"), "export", "-p", "web", "--output-dir", join(to, "web")],
    {
      cwd: app,
      env,
      stdio: ["ignore", 2, 2],
    },
  );
  if (status !== 0) throw new Error("The empty page could not be built.");
}

export async function benchFirstScreen(
  workerDir: string,
  compress: (folder: string) => void,
  print: (line: string) => void,
): Promise<void> {
  const build = join(workerDir, "..");
  const empty = join(build, "bench-empty-page");
  emptyPage(join(build, ".."), empty);
  compress(join(empty, "web"));
  const app = express();
  serveInterface(app, join(empty, "web"));
  const plain = app.listen(0, "127.0.0.1");
  await new Promise((resolve) => plain.once("listening", resolve));
  const dir = mkdtempSync(join(tmpdir(), "buvano-bench-first-"));
  const server = await runServer(workerDir, join(dir, "data"));
  const nothing = await best(`http://localhost:${(plain.address() as AddressInfo).port}/`, "page");
  const ours = await best(`${server.address}/`, "bring");
  plain.close();
  plain.closeAllConnections();
  await server.stop();
  rmSync(dir, { recursive: true });
  print(
    `first screen on a phone (processor 4 times slower, 1.6 Mbit/s, 150 ms): ${ours.ms.toFixed(0)} ms, ${(ours.scripts / 1000).toFixed(0)} kB of JavaScript`,
  );
  print(`  an empty page of the same stack: ${nothing.ms.toFixed(0)} ms, ${(nothing.scripts / 1000).toFixed(0)} kB`);
  print(`  first screen ÷ empty page = ${(ours.ms / nothing.ms).toFixed(2)}`);
}
