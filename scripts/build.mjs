// Builds what runs: the server, its workers and the command line by esbuild; the interface by Expo's exporter.
import { cpSync, existsSync, readdirSync, readFileSync, renameSync, rmSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { brotliCompressSync, constants, gzipSync } from "node:zlib";
import { buildDir, root, run, say, unlessDone } from "./setup.mjs";

const nodeSources = ["server", "contract", "core", "practice", "cli", "demo", "scripts/build.mjs", "package-lock.json"];
const webSources = [
  "app",
  "ui",
  "contract",
  "core",
  "app.json",
  "babel.config.js",
  "metro.config.js",
  "tailwind.config.js",
  "package-lock.json",
  "scripts/build.mjs",
];

/** Entry points by output name; each becomes one file beside the others. */
const entries = {
  main: "server/main.ts",
  cli: "cli/main.ts",
  // The pool by itself, for whoever tries it without a server.
  pool: "server/work/pool.ts",
  "parcel.worker": "server/work/parcel.worker.ts",
  "evidence.worker": "server/work/evidence.worker.ts",
  "paper.worker": "server/work/paper.worker.ts",
  "font.worker": "server/work/font.worker.ts",
  "glyphs.worker": "server/work/glyphs.worker.ts",
  "cut.worker": "server/work/cut.worker.ts",
  "match.worker": "server/work/match.worker.ts",
  "kit.worker": "server/work/kit.worker.ts",
  "places.worker": "server/work/places.worker.ts",
  "backup.worker": "server/work/backup.worker.ts",
  "practice.worker": "server/work/practice.worker.ts",
  "checkpoint.worker": "server/work/checkpoint.worker.ts",
  demo: "demo/main.ts",
  live: "demo/live.ts",
  bench: "tests/load/bench.ts",
  shots: "tests/e2e/shots.ts",
};

/**
 * Packages that stay where they are: those that bring data or code of their own kind, and those only tests use. The others are bundled, since a
 * server starts in half the time when it need not look for a thousand files.
 */
const OUTSIDE = [
  "better-sqlite3",
  "harfbuzzjs",
  "7z-wasm",
  "wawoff2",
  "pdfjs-dist",
  "spdx-license-list",
  "cldr-misc-full",
  "pathkit-wasm",
  "@unicode/*",
  "cldr-annotations-full",
  "@resvg/resvg-wasm",
  "opentype.js",
  "@fontsource/*",
  "@fontsource-variable/*",
  "esbuild",
  "selenium-webdriver",
  "axe-core",
  "fast-check",
  "jest",
  "@jest/*",
];

/** Bundles everything that runs on Node.js into build/node. */
export async function buildNode() {
  await unlessDone("node", [...nodeSources, "tests"], "build/node/cli.mjs", async () => {
    const { build } = await import("esbuild");
    const present = Object.fromEntries(Object.entries(entries).filter(([, path]) => existsSync(join(root, path))));
    rmSync(join(buildDir, "node"), { recursive: true, force: true });
    await build({
      absWorkingDir: root,
      entryPoints: present,
      outdir: "build/node",
      outExtension: { ".js": ".mjs" },
      bundle: true,
      // What is imported on demand stays in files of its own, and is loaded only then.
      splitting: true,
      chunkNames: "part-[hash]",
      external: OUTSIDE,
      // What is bundled may ask for Node.js' own modules the older way.
      banner: { js: 'import { createRequire as requireMaker } from "node:module"; const require = requireMaker(import.meta.url);' },
      platform: "node",
      format: "esm",
      target: "node20",
      sourcemap: "linked",
      loader: { ".sql": "text" },
      logLevel: "warning",
    });
  });
}

/** Has the page ask at once for the files every screen asks for one after the other: the frame, and the first screen. */
function askEarly(folder) {
  const page = join(folder, "index.html");
  const scripts = readdirSync(join(folder, "_expo", "static", "js", "web")).filter((name) => /^(_layout|index)-[0-9a-f]+\.js$/.test(name));
  const links = scripts.map((name) => `<link rel="preload" href="/_expo/static/js/web/${name}" as="script" fetchpriority="low">\n`);
  writeFileSync(page, readFileSync(page, "utf8").replace("</body>", `${links.join("")}</body>`));
}

/** The icon of the browser's tab. */
function giveIcon(folder) {
  cpSync(join(root, "ui", "icon.svg"), join(folder, "icon.svg"));
  const page = join(folder, "index.html");
  writeFileSync(
    page,
    readFileSync(page, "utf8")
      .replace("</title>", `</title>\n    <link rel="icon" href="/icon.svg" type="image/svg+xml">`)
      .replace('<div id="root"></div>', '<div id="root"><p class="opening" role="status">Buvano is opening…</p></div>'),
  );
}

/** Lists the screens' own files, which load on demand, for a page that has time to fetch them beforehand. */
function listScreens(folder) {
  const page = readFileSync(join(folder, "index.html"), "utf8");
  const files = readdirSync(join(folder, "_expo", "static", "js", "web")).filter((name) => name.endsWith(".js") && !page.includes(name));
  writeFileSync(join(folder, "_expo", "screens.json"), JSON.stringify(files.map((name) => `/_expo/static/js/web/${name}`)));
}

/** Lays compressed copies beside files that gain by it, as browsers ask for them: brotli and gzip. */
export function compressUnder(folder) {
  for (const entry of readdirSync(folder, { recursive: true, withFileTypes: true })) {
    if (!entry.isFile() || !/\.(js|css|html|json|svg|ttf|wasm)$/.test(entry.name)) continue;
    const path = join(entry.parentPath, entry.name);
    const bytes = readFileSync(path);
    const params = { [constants.BROTLI_PARAM_QUALITY]: 11, [constants.BROTLI_PARAM_SIZE_HINT]: bytes.length };
    writeFileSync(`${path}.br`, brotliCompressSync(bytes, { params }));
    writeFileSync(`${path}.gz`, gzipSync(bytes, { level: 9 }));
  }
}

/** The worker that draws fonts: a module of its own, since the exporter cannot bundle the shaping library. */
async function buildWorkers(folder) {
  const { build } = await import("esbuild");
  await build({
    absWorkingDir: root,
    entryPoints: { draw: "ui/work/draw.worker.ts", cut: "ui/work/cut.worker.ts" },
    outdir: folder,
    bundle: true,
    splitting: true,
    chunkNames: "part-[hash]",
    minify: true,
    format: "esm",
    target: "es2022",
    // The library asks for a module of Node.js only when it runs there.
    external: ["module", "fs", "path"],
    logLevel: "warning",
  });
  cpSync(join(root, "node_modules", "harfbuzzjs", "dist", "harfbuzz.wasm"), join(folder, "harfbuzz.wasm"));
  cpSync(join(root, "node_modules", "pathkit-wasm", "bin", "pathkit.wasm"), join(folder, "pathkit.wasm"));
}

/** Exports the interface into build/web. */
export async function buildWeb() {
  await unlessDone("web", webSources, "build/web/index.html", async () => {
    say("Building the interface (about a minute)…");
    const fresh = join(buildDir, "web-new");
    rmSync(fresh, { recursive: true, force: true });
    run("node", ["node_modules/expo/bin/cli", "export", "-p", "web", "--output-dir", fresh], {
      env: { ...process.env, CI: "1", EXPO_OFFLINE: "1", EXPO_NO_TELEMETRY: "1", NODE_ENV: "production" },
    });
    if (!readdirSync(fresh).includes("index.html")) throw new Error("The exporter left no index.html.");
    await buildWorkers(join(fresh, "work"));
    giveIcon(fresh);
    askEarly(fresh);
    listScreens(fresh);
    compressUnder(fresh);
    rmSync(join(buildDir, "web"), { recursive: true, force: true });
    renameSync(fresh, join(buildDir, "web"));
  });
}

/** Makes the demo's fonts and archives into build/demo. */
export async function buildDemo() {
  await unlessDone("demo", ["demo", "core/sfnt", "package-lock.json"], "build/demo/downloads", () => {
    say("Drawing the demo's fonts…");
    run("node", ["build/node/demo.mjs", join(buildDir, "demo")]);
  });
}
