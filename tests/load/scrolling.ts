// How smoothly a shelf of 20,000 styles scrolls in a real browser, each entry drawn in its own font.
import { mkdtempSync, rmSync } from "node:fs";
import type { AddressInfo } from "node:net";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { BoardQuery } from "../../contract/sightings.ts";
import { USUAL_TRAITS, type ProgramKind, type ProgramTraits } from "../../contract/programs.ts";
import { makeApp } from "../../server/app.ts";
import { makeParts, thisMachine, type Parts } from "../../server/parts.ts";
import { makeServices, type Services } from "../../server/services/services.ts";
import { Browser, PHONE, WIDE } from "../e2e/browser.ts";
import { corpusFonts } from "./corpus.ts";
import { p95 } from "./running.ts";
import { fillShelf, giveFiles } from "./shelf.ts";

/** Scrolls for some seconds, as a thumb would or so many pixels a second, and gives the time each frame took in milliseconds. */
const SCROLL = `
const [pace, done] = arguments;
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
    list.scrollTop += pace === null ? 25 : (pace * (now - before)) / 1000;
    before = now;
    if (now < end) requestAnimationFrame(frame);
    else done([list.scrollTop, ...frames.slice(5)]);
  });
}`;

interface Filled {
  parts: Parts;
  services: Services;
  address: string;
}
/** A server of its own with whatever `fill` puts into it, and a browser looking at it. */
export async function looking(
  workerDir: string,
  builtInFonts: string | undefined,
  size: { width: number; height: number },
  work: (filled: Filled, browser: Browser) => Promise<void>,
): Promise<void> {
  const dataDir = mkdtempSync(join(tmpdir(), "buvano-bench-scrolling-"));
  const webDir = join(workerDir, "..", "web");
  const parts = await makeParts({ dataDir, webDir, workerDir, builtInFonts, now: () => new Date(), ...thisMachine() });
  const services = await makeServices(parts);
  const server = makeApp(parts, services).listen(0, "127.0.0.1");
  await new Promise((resolve) => server.once("listening", resolve));
  const browser = await Browser.start(size);
  await browser.driver.manage().setTimeouts({ script: 60_000 });
  try {
    await work({ parts, services, address: `http://localhost:${(server.address() as AddressInfo).port}` }, browser);
  } finally {
    await browser.quit();
    server.close();
    server.closeAllConnections();
    await services.close();
    rmSync(dataDir, { recursive: true });
  }
}
/** `pace` in pixels a second; otherwise 25 a frame. */
export async function scroll(browser: Browser, what: string, print: (line: string) => void, pace: number | null = null): Promise<void> {
  const [reached, ...frames] = (await browser.driver.executeAsyncScript(SCROLL, pace)) as number[];
  const late = frames.filter((ms) => ms > 50).length;
  print(
    `scrolling ${reached} px through ${what}: ${frames.length} frames in 6 s, p95 ${p95(frames).toFixed(0)} ms; ${late} took longer than 50 ms`,
  );
}

export async function benchScrolling(workerDir: string, print: (line: string) => void): Promise<void> {
  await looking(workerDir, undefined, PHONE, async ({ parts, services, address }, browser) => {
    const styles = 20_000;
    const fonts = corpusFonts();
    fillShelf(parts, fonts, styles);
    giveFiles(parts, fonts, styles);
    await services.renewal.settle();
    await browser.open(`${address}/families`);
    await browser.find("family-card");
    await scroll(browser, `${styles} styles`, print);
  });
}

/** The board of some hundred families and thirty programs, wide. */
export async function benchBoardScrolling(workerDir: string, print: (line: string) => void): Promise<void> {
  await looking(workerDir, join(workerDir, "..", "demo", "built-in"), WIDE, async ({ parts, services, address }, browser) => {
    fillShelf(parts, corpusFonts(), 419);
    await services.renewal.settle();
    const kinds = Object.entries(USUAL_TRAITS) as [ProgramKind, ProgramTraits][];
    for (let i = parts.programs.all().length; i < 30; i++) {
      const [kind, traits] = kinds[i % kinds.length]!;
      services.programs.put({ deviceId: 1, name: `Desk ${i}`, kind, traits });
    }
    const { programs, rows } = services.sightings.board(BoardQuery.parse({}));
    const start = performance.now();
    await browser.open(`${address}/sightings`);
    await browser.find("board-row");
    print(`board of ${rows.length} families × ${programs.length} programs: ${(performance.now() - start).toFixed(0)} ms until it is shown`);
    await scroll(browser, "it", print);
  });
}
