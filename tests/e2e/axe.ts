// axe-core on the page as it stands: WCAG 2.0 to 2.2, levels A and AA.
import { createRequire } from "node:module";
import { readFileSync } from "node:fs";
import type { Browser } from "./browser.ts";

const source = readFileSync(createRequire(`${process.cwd()}/package.json`).resolve("axe-core/axe.min.js"), "utf8");

/** What axe finds, one line a finding with the first element it concerns. */
export async function axe(browser: Browser): Promise<string[]> {
  await browser.driver.executeScript(source);
  // A control half scrolled out of view would count as half its size, so the window is made tall for the look.
  return browser.tall(
    async () =>
      (await browser.driver.executeAsyncScript(`
    const done = arguments[0];
    axe.run(document, { runOnly: ["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa"] }).then(
      (result) => done(result.violations.map((one) => one.id + ": " + one.help + " — " + one.nodes[0].html.slice(0, 200))),
      (error) => done([String(error)]),
    );
  `)) as string[],
  );
}

/** Things to press that are smaller than 44 by 44 pixels, by what they say. Words inside running text are exempt. */
export async function smallTargets(browser: Browser): Promise<string[]> {
  return (await browser.driver.executeScript(`
    const found = [];
    for (const element of document.querySelectorAll('button, a[href], [role="button"], [role="radio"], [role="checkbox"], input:not([type="file"])')) {
      const box = element.getBoundingClientRect();
      if (box.width === 0 || getComputedStyle(element).visibility === "hidden") continue;
      const inner = [...element.children].map((child) => child.getBoundingClientRect());
      const height = Math.max(box.height, ...inner.map((one) => one.height));
      const width = Math.max(box.width, ...inner.map((one) => one.width));
      if (height < 43.5 || width < 43.5) found.push((element.getAttribute("aria-label") || element.textContent || element.tagName).trim() + " " + Math.round(width) + "×" + Math.round(height));
    }
    return found;
  `)) as string[];
}

/** Whether the page is wider than the window: something is cut off or must be scrolled sideways. */
export async function overflowing(browser: Browser): Promise<boolean> {
  return (await browser.driver.executeScript("return document.documentElement.scrollWidth > window.innerWidth")) as boolean;
}
