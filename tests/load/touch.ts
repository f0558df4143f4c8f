// How soon a tap shows in a library of 5,000 families: from the click to the frame that first shows something of it.
import { mkdtempSync, readdirSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { z } from "zod";
import type { ParcelPage } from "../../contract/parcels.ts";
import { Browser, PHONE } from "../e2e/browser.ts";
import { makeLibrary } from "./library.ts";
import { runServer } from "./running.ts";
import { STYLES } from "./shelf.ts";

const PINS = 10;

/** Waits for a click, then for the first change a reader or a screen reader would notice, then for the frame that shows it. */
const WATCH = `
window.shown = undefined;
addEventListener("click", () => {
  const start = performance.now();
  const seen = new MutationObserver(() => {
    seen.disconnect();
    requestAnimationFrame((now) => { window.shown = Math.max(now, performance.now()) - start; });
  });
  seen.observe(document.body, { subtree: true, childList: true, characterData: true, attributeFilter: ["aria-pressed", "aria-disabled", "aria-busy"] });
}, { once: true, capture: true });`;

async function tapped(browser: Browser, testId: string): Promise<number> {
  await browser.driver.executeScript(WATCH);
  await browser.click(testId);
  let shown: unknown;
  await browser.waitUntil("the tap shows", async () => {
    shown = await browser.driver.executeScript("return window.shown ?? null");
    return shown !== null;
  });
  return z.number().parse(shown);
}

export async function benchTouch(workerDir: string, print: (line: string) => void): Promise<void> {
  const dataDir = mkdtempSync(join(tmpdir(), "buvano-bench-touch-"));
  await makeLibrary(workerDir, dataDir, STYLES);
  const server = await runServer(workerDir, dataDir);
  const browser = await Browser.start(PHONE);
  const worst = (times: readonly number[]) => `${Math.max(...times).toFixed(0)} ms at most of ${times.length}`;
  try {
    const pins: number[] = [];
    for (let i = 1; i <= PINS; i++) {
      await browser.open(`${server.address}/family/${i * 97}`);
      pins.push(await tapped(browser, "pin"));
    }
    const corrections: number[] = [];
    for (let i = 1; i <= PINS; i++) {
      await browser.open(`${server.address}/family/${i * 101}`);
      await browser.clickText("Video");
      await browser.choose("correct-answer", "No");
      corrections.push(await tapped(browser, "keep-correction"));
    }
    const shelvings: number[] = [];
    const folder = join(workerDir, "..", "demo", "downloads");
    for (const name of readdirSync(folder).filter((name) => name.endsWith(".zip"))) {
      await browser.open(`${server.address}/`);
      await browser.find("bring");
      await browser.give(join(folder, name));
    }
    const parcels = async () => ((await (await fetch(`${server.address}/api/parcels?limit=50`)).json()) as ParcelPage).parcels;
    await browser.waitUntil("all are unpacked", async () =>
      (await parcels()).every((one) => one.state === "ready" || one.state === "failed"),
    );
    for (const parcel of await parcels()) {
      await browser.open(`${server.address}/parcel/${parcel.id}`);
      await browser.find("parcel");
      if ((await browser.all("shelve")).length > 0) shelvings.push(await tapped(browser, "shelve"));
    }
    print(
      `a tap shows, in a library of ${STYLES} styles on a phone: pinned in ${worst(pins)}, corrected ${worst(corrections)}, shelved ${worst(shelvings)}`,
    );
  } finally {
    await browser.quit();
    await server.stop();
    rmSync(dataDir, { recursive: true });
  }
}
