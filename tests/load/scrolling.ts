// How smoothly a shelf of 20,000 styles scrolls in a real browser, each entry drawn in its own font.
import { linkSync, mkdirSync, mkdtempSync, rmSync } from "node:fs";
import { createHash } from "node:crypto";
import type { AddressInfo } from "node:net";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { makeApp } from "../../server/app.ts";
import { makeContext, thisMachine } from "../../server/context.ts";
import { makeServices } from "../../server/services/services.ts";
import { Browser, PHONE } from "../e2e/browser.ts";
import { corpusFonts } from "./corpus.ts";
import { fillShelf, p95 } from "./library.ts";

/** Scrolls for some seconds, as a thumb would, and gives the time each frame took in milliseconds. */
const SCROLL = `
const done = arguments[0];
const frames = [];
let before = performance.now();
let end;
requestAnimationFrame(function frame(now) {
  // The page's tallest part that scrolls; it may take a moment to grow.
  const list = [...document.querySelectorAll("div")].filter((one) => getComputedStyle(one).overflowY !== "visible")
    .sort((a, b) => b.scrollHeight - b.clientHeight - (a.scrollHeight - a.clientHeight))[0];
  if (list && list.scrollHeight > list.clientHeight) run(list);
  else requestAnimationFrame(frame);
});
function run(list) {
  before = performance.now();
  end = before + 6000;
  requestAnimationFrame(function frame(now) {
    frames.push(now - before);
    before = now;
    list.scrollTop += 25;
    if (now < end) requestAnimationFrame(frame);
    else done([list.scrollTop, ...frames.slice(5)]);
  });
}`;

export async function benchScrolling(workerDir: string, print: (line: string) => void): Promise<void> {
  const dataDir = mkdtempSync(join(tmpdir(), "buvano-bench-scrolling-"));
  const webDir = join(workerDir, "..", "web");
  const context = await makeContext({ dataDir, webDir, workerDir, builtInFonts: undefined, now: () => new Date(), ...thisMachine() });
  const services = await makeServices(context);
  const styles = 20_000;
  fillShelf(context, styles);
  // Every style has bytes of its own to be drawn from: the real fonts', linked under its name.
  const fonts = corpusFonts();
  for (let i = 0; i < styles; i++) {
    const path = context.files.path(createHash("sha256").update(`${i}`).digest("hex"));
    mkdirSync(join(path, ".."), { recursive: true });
    linkOrSkip(fonts[i % fonts.length]!, path);
  }
  const server = makeApp(context, services).listen(0, "127.0.0.1");
  await new Promise((resolve) => server.once("listening", resolve));
  const browser = await Browser.start(PHONE);
  try {
    services.families.list({ limit: 1 });
    await browser.open(`http://localhost:${(server.address() as AddressInfo).port}/families`);
    await browser.find("family-card");
    await browser.driver.manage().setTimeouts({ script: 60_000 });
    const [reached, ...frames] = (await browser.driver.executeAsyncScript(SCROLL)) as number[];
    const late = frames.filter((ms) => ms > 50).length;
    print(
      `scrolling ${reached} px through ${styles} styles: ${frames.length} frames in 6 s, p95 ${p95(frames).toFixed(0)} ms; ${late} took longer than 50 ms`,
    );
  } finally {
    await browser.quit();
    server.close();
    server.closeAllConnections();
    await services.close();
    rmSync(dataDir, { recursive: true });
  }
}

function linkOrSkip(from: string, to: string): void {
  try {
    linkSync(from, to);
  } catch {
    // On another file system a link cannot be made; that entry shows that it cannot be drawn.
  }
}
