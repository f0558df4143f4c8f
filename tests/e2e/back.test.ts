// The way back: the list of families is found as it was left, after going back and after a reload; pages have titles, and the tab an icon.
import { afterAll, beforeAll, expect, test } from "@jest/globals";
import { Browser, PHONE } from "./browser.ts";
import { TestServer } from "./server.ts";
import { startFilled } from "./world.ts";

let server: TestServer;
let browser: Browser;
beforeAll(async () => {
  server = await startFilled();
  browser = await Browser.start(PHONE);
}, 240_000);
afterAll(async () => {
  await browser?.quit();
  await server?.stop();
}, 240_000);

const cards = async (): Promise<number> => (await browser.all("family-card")).length;
const scrolled = () =>
  browser.driver.executeScript<number>(
    "return Math.max(0, ...[...document.querySelectorAll('[data-testid=families] *')].map((one) => (one.scrollHeight > one.clientHeight + 40 ? one.scrollTop : 0)))",
  );

test("search and filter stand as they were left, after Back and after a reload", async () => {
  await browser.open(`${server.address}/families`);
  await browser.find("family-card");
  const all = await cards();
  await browser.type("search", "seedm");
  await browser.waitUntil("fewer are left", async () => (await cards()) < all && (await cards()) > 0);
  const left = await cards();
  await browser.click("family-card");
  await browser.find("family");
  await browser.click("back");
  await browser.waitUntil("the same are there", async () => (await cards()) === left);
  expect(await (await browser.find("search")).getAttribute("value")).toBe("seedm");
  await browser.driver.navigate().refresh();
  await browser.waitUntil("the same are there after a reload", async () => (await cards()) === left);
  // A way that leads there afresh begins with everything.
  await browser.click("tab-Today");
  await browser.click("tab-Families");
  await browser.waitUntil("all are there", async () => (await cards()) > left);
  expect(await (await browser.find("search")).getAttribute("value")).toBe("");
}, 240_000);

test("the place in the list is where it was left", async () => {
  await browser.open(`${server.address}/families`);
  await browser.waitUntil("all are there", async () => (await cards()) > 5);
  const card = (await browser.all("family-card"))[4]!;
  const name = (await card.getText()).split("\n").find((line) => /^[A-Z]/.test(line))!;
  await browser.driver.executeScript("arguments[0].scrollIntoView({ block: 'center' })", card);
  await browser.waitUntil("it is scrolled", async () => (await scrolled()) > 200);
  const before = await scrolled();
  await card.click();
  await browser.find("family");
  await browser.click("back");
  await browser.waitUntil("it is scrolled there again", async () => Math.abs((await scrolled()) - before) < 120);
  expect(await browser.words()).toContain(name);
}, 240_000);

test("a family's page is as it was left, after Back and after a reload: what was open, and how far it was scrolled", async () => {
  await browser.open(`${server.address}/families`);
  await browser.click("family-card");
  await browser.find("clearance-table");
  const uses = async () => (await browser.all("clearance-table"))[0]!.findElements({ css: "[aria-expanded=true]" });
  const at = () =>
    browser.driver.executeScript<number>(
      "return Math.max(0, ...[...document.querySelectorAll('[data-testid=family] *')].map((one) => (one.scrollHeight > one.clientHeight + 40 ? one.scrollTop : 0)))",
    );
  await browser.clickText("Sold goods");
  await browser.waitUntil("it is open", async () => (await uses()).length === 1);
  await browser.driver.executeScript("document.querySelector('[data-testid=clearance-table]').scrollIntoView({ block: 'start' })");
  await browser.waitUntil("it is scrolled", async () => (await at()) > 200);
  const before = await at();
  const asLeft = async () => (await uses()).length === 1 && Math.abs((await at()) - before) < 40;
  // Clicked where it is: bringing it into view would scroll the page.
  await browser.driver.executeScript("document.querySelector('[data-testid=record-licence]').click()");
  await browser.find("licence-screen");
  await browser.click("back");
  await browser.waitUntil("it is as it was left", asLeft);
  await browser.driver.navigate().refresh();
  await browser.waitUntil("it is as it was left after a reload", asLeft);
  // A way that leads there afresh begins at the top, with nothing open.
  await browser.click("tab-Today");
  await browser.click("tab-Families");
  await browser.click("family-card");
  await browser.find("clearance-table");
  expect([(await uses()).length, (await at()) < 40]).toEqual([0, true]);
}, 240_000);

test("each page has its title, and the browser's tab an icon", async () => {
  await browser.open(`${server.address}/families`);
  await browser.waitUntil("the list names the page", async () => (await browser.driver.getTitle()) === "Families · Buvano");
  await browser.click("family-card");
  await browser.waitUntil("the family names the page", async () => /^(?!Families).+ · Buvano$/.test(await browser.driver.getTitle()));
  const icon = await fetch(`${server.address}/icon.svg`);
  expect([icon.status, icon.headers.get("content-type")?.split(";")[0]]).toEqual([200, "image/svg+xml"]);
  expect(await (await fetch(`${server.address}/`)).text()).toContain('rel="icon"');
});
