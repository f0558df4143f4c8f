// Cutting as a crafter does it, on a phone and on a wide screen: what would be cut through itself is seen and joined, what falls out is held, two colours
// come out as two sheets, the live line stays; clearance is asked before; a file is opened again; a practice machine cuts it clean.
import { readdirSync, readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { afterAll, beforeAll, describe, expect, test } from "@jest/globals";
import { SheetDetail, SheetSummary } from "../../contract/bench.ts";
import { LineCut } from "../../contract/cutting.ts";
import { DeviceDetail, DeviceSummary } from "../../contract/devices.ts";
import { axe, overflowing, smallTargets } from "./axe.ts";
import { Browser, PHONE, WIDE } from "./browser.ts";
import { TestServer } from "./server.ts";
import { startFilled } from "./world.ts";

let server: TestServer;
beforeAll(async () => {
  server = await startFilled();
}, 240_000);
afterAll(() => server?.stop(), 30_000);

const get = async (path: string): Promise<unknown> => (await fetch(`${server.address}/api${path}`)).json();
const post = async (path: string, body: object): Promise<unknown> =>
  (
    await fetch(`${server.address}/api${path}`, {
      method: "POST",
      headers: { "content-type": "application/json" },
      body: JSON.stringify(body),
    })
  ).json();

describe.each([
  ["a phone", PHONE],
  ["a wide screen", WIDE],
])("on %s", (_where, size) => {
  let browser: Browser;
  let sheet: SheetDetail;
  beforeAll(async () => {
    browser = await Browser.start(size);
    // A sheet of its own each time: the demo's shop sign with its script and its block face.
    const sign = SheetSummary.array()
      .parse(await get("/bench/sheets"))
      .find(({ name }) => name === "Shop sign, two colours")!;
    sheet = SheetDetail.parse(await post("/bench/sheets", { name: `Sign ${size.width}`, copyOf: sign.id }));
  }, 240_000);
  afterAll(() => browser?.quit(), 30_000);
  const textOf = async (testId: string): Promise<string> => (await browser.find(testId)).getText();
  const script = () => sheet.body.lines.find(({ layers }) => layers.some(({ style }) => style.family === "Tendril Script"))!;
  const block = () => sheet.body.lines.find(({ layers }) => layers.some(({ style }) => style.family === "Seedbox Block"))!;
  const openCut = async (lineId: string): Promise<void> => {
    await browser.open(`${server.address}/bench/cut/${sheet.id}?line=${lineId}`);
    await browser.find("cut-drawing");
    await checked();
  };
  const checked = () => browser.waitUntil("it is checked", async () => !(await textOf("cut-numbers")).includes("Being checked"));
  const numbers = async (words: string | RegExp) => {
    await browser.waitUntil(`the numbers say ${words}`, async () => {
      const text = await textOf("cut-numbers");
      return typeof words === "string" ? text.includes(words) : words.test(text);
    });
    await checked();
  };
  const window = async (): Promise<number[]> =>
    (await browser.driver.executeScript<string>("return document.querySelector('[data-testid=cut-drawing]').getAttribute('viewBox')"))
      .split(" ")
      .map(Number);
  const paths = (testId: string) =>
    browser.driver.executeScript<number>(`return document.querySelectorAll('[data-testid=${testId}]').length`);

  test("from a line of the sheet: overlaps are counted, gone to, and seen as they are and as they are joined", async () => {
    await browser.open(`${server.address}/bench/sheet/${sheet.id}`);
    await browser.click(`line-${sheet.body.lines.indexOf(script())}`);
    await browser.click("to-cut");
    await browser.find("cut-drawing");
    await numbers(/\d+ overlaps joined; checked, [\d.]+ % off|under 0.001 % off/);
    const whole = await window();
    await browser.click("show-overlap");
    expect(await textOf("current-finding")).toMatch(/overlap\.\s+1 of \d+ overlaps\. Joined in this cut\./);
    const near = await window();
    expect(near[2]!).toBeLessThan(whole[2]!);
    await browser.waitUntil("where they overlap is shown", async () => (await paths("overlaps")) > 0);
    await browser.click("next-finding");
    expect(await textOf("current-finding")).toContain("2 of ");
    expect(await window()).not.toEqual(near);
    await browser.click("close-finding");
    await browser.click("zoom-all");
    expect(await window()).toEqual(whole);
    await browser.choose("cut-join", "Join nothing");
    await numbers(/\d+ overlaps: the blade would cut through the letters/);
    expect(await axe(browser)).toEqual([]);
    await browser.choose("cut-join", "Join line by line");
    await numbers("joined; checked");
    expect([await axe(browser), await smallTargets(browser), await overflowing(browser)]).toEqual([[], [], false]);
  }, 240_000);

  test("the size is typed, in inches as well, and kept after a reload", async () => {
    await browser.choose("cut-size-of", "Width of the whole");
    await browser.type("cut-size-value", "150");
    await browser.choose("cut-unit", "inches");
    await numbers(/^5\.91 × /);
    await browser.waitUntil("it is kept", async () => {
      const { settings } = LineCut.parse(await get(`/bench/sheets/${sheet.id}/cuts/${script().id}`));
      return settings?.size.of === "width" && settings.size.unit === "in";
    });
    await browser.driver.navigate().refresh();
    await numbers(/^5\.91 × /);
    expect(await (await browser.find("cut-size-value")).getAttribute("value")).toBe("5.906");
    await browser.choose("cut-unit", "mm");
    // Without a limit of its own, everything thinner than the pen is told.
    await browser.type("cut-limit", "6");
    await browser.find("found-thin");
    await browser.type("cut-limit", "0.5");
  }, 240_000);

  test("what falls out of a stencil is held by bridges, proposed and placed by hand", async () => {
    await browser.click("cut-stencil");
    await browser.find("found-falls-out");
    await browser.click("show-falls-out");
    expect(await textOf("current-finding")).toMatch(/falls out when the background is cut/);
    await browser.click("put-bridges");
    await browser.waitUntil("nothing falls out", async () => (await paths("found-falls-out")) === 0);
    const placed = await textOf("cut-letters");
    expect(placed).toMatch(/Remove \d+ bridges/);
    await browser.click("no-bridges");
    await browser.find("found-falls-out");
    await checked();
    // Somewhere within a letter, away from what was found.
    await browser.click("zoom-in");
    const drawing = await browser.find("cut-drawing");
    await browser.driver.executeScript("arguments[0].scrollIntoView({block: 'center'})", drawing);
    const at = await browser.driver.executeScript<{ x: number; y: number } | null>(
      `const svg = arguments[0], box = svg.getBoundingClientRect();
       const path = svg.querySelector('[data-testid=sheet-${script().layers.length - 1}] path');
       const back = path.getScreenCTM().inverse();
       const marks = [...svg.querySelectorAll("circle")].map((one) => one.getBoundingClientRect());
       const inside = (x, y) => { const p = new DOMPoint(x, y).matrixTransform(back), q = svg.createSVGPoint(); q.x = p.x; q.y = p.y; return path.isPointInFill(q); };
       for (let y = box.top + 12; y < box.bottom - 12; y += 2) for (let x = box.left + 12; x < box.right - 12; x += 2)
         if ([[0, 0], [2, 0], [-2, 0], [0, 2], [0, -2]].every(([dx, dy]) => inside(x + dx, y + dy)) &&
             marks.every((m) => Math.hypot(m.x + m.width / 2 - x, m.y + m.height / 2 - y) > 26))
           return { x: Math.round(x - box.left - box.width / 2), y: Math.round(y - box.top - box.height / 2) };
       return null;`,
      drawing,
    );
    expect(at).not.toBeNull();
    await browser.driver
      .actions()
      .move({ origin: drawing, ...at! })
      .click()
      .perform();
    await browser.waitUntil("one bridge is placed", async () => (await textOf("cut-letters")).includes("Remove 1 bridge"));
    await browser.click("no-bridges");
    await browser.click("cut-stencil");
  }, 240_000);

  test("two colours are two sheets, one looked at alone, in register, on sheets of a kept size", async () => {
    await openCut(block().id);
    await browser.click("cut-marks");
    await browser.choose("sheet-shown", await firstSheet());
    await browser.waitUntil("one sheet is drawn", async () => (await paths("sheet-0")) === 1 && (await paths("sheet-1")) === 0);
    await browser.choose("cut-sheet-choice", "A sheet of my size");
    await browser.type("cut-sheet-width", "40");
    expect(await textOf("sheet-problem")).toMatch(/The drawing is [\d.]+ by [\d.]+ mm; the sheet is 40 by 300 mm\./);
    await browser.type("cut-sheet-width", "620");
    await browser.type("keep-sheet-name", "Vinyl roll end");
    await browser.click("keep-sheet");
    await browser.type("cut-copies", "4");
    await browser.waitUntil("four lie on it", async () => /4 copies on \d sheets? of 620 × 300 mm/.test(await textOf("arranged")));
    await browser.choose("cut-sheet-choice", "As large as the drawing");
    await browser.choose("cut-sheet-choice", "Vinyl roll end");
    await browser.waitUntil("the kept size is there", async () => (await textOf("arranged")).includes("620 × 300"));
    expect(await axe(browser)).toEqual([]);
  }, 240_000);
  const firstSheet = async (): Promise<string> =>
    (await (await browser.find("sheet-shown")).getText())
      .split("\n")
      .find((one) => one.trim().startsWith("1:"))!
      .trim();

  test("a file is saved and remembered; the line stays live, and the file of before can be had again", async () => {
    await browser.click("save-cut");
    await browser.waitUntil("it is remembered", async () => /Cut sheet, 2 colours, from Seedbox Block/.test(await textOf("cut-made")));
    await browser.waitUntil("the file is there", async () => readdirSync(browser.downloads).some((name) => name.endsWith(".svg")));
    const saved = join(
      browser.downloads,
      readdirSync(browser.downloads).find((name) => name.endsWith(".svg"))!,
    );
    expect(readFileSync(saved, "utf8")).toContain('id="sheet-2"');
    const { body, step } = SheetDetail.parse(await get(`/bench/sheets/${sheet.id}`));
    const lines = body.lines.map((line) => (line.id === block().id ? { ...line, text: "THYME" } : line));
    await post(`/bench/sheets/${sheet.id}`, { body: { ...body, lines }, from: step });
    await browser.waitUntil("the change is told", async () => (await textOf("cut-made")).includes("The line has changed since."));
    await browser.text("Cut “THYME”");
    await browser.click("save-again");
    await browser.waitUntil(
      "it is there twice",
      async () => readdirSync(browser.downloads).filter((name) => name.endsWith(".svg")).length === 2,
    );
    expect((await browser.all("cut-made")).length).toBe(1);
    // Given back to the sheet it is the line of before.
    await browser.open(`${server.address}/bench/sheet/${sheet.id}`);
    await browser.find("sheet-name");
    expect(await textOf("line-cut")).toMatch(/^Cut sheet, 2 colours, from Seedbox Block/);
    await browser.give(saved, "Choose a cut file (SVG)");
    await browser.waitUntil("it is a line again", async () => (await browser.all("line")).length === lines.length + 1);
    const after = SheetDetail.parse(await get(`/bench/sheets/${sheet.id}`));
    expect({ ...after.body.lines.at(-1)!, id: block().id }).toEqual(block());
  }, 240_000);

  test("a font that is not cleared for the job is asked about before it is saved", async () => {
    await openCut(script().id);
    expect(await textOf("cut-clearance")).toContain("Tendril Script");
    expect(await (await browser.find("save-cut")).getAttribute("aria-disabled")).toBe("true");
    await browser.click("cut-despite");
    await browser.click("save-cut");
    await browser.waitUntil("it is remembered", async () => (await textOf("cut-save")).includes("from Tendril Script"));
    expect(await axe(browser)).toEqual([]);
  }, 240_000);

  test("the practice machine cuts raw text through itself, and the joined file clean", async () => {
    const device = DeviceSummary.array()
      .parse(await get("/devices"))
      .find(({ name }) => name === "Workshop laptop")!;
    const desk = DeviceDetail.parse(await get(`/devices/${device.id}`)).programs.find(({ name }) => name === "Cutting Desk")!;
    await post(`/practice/${desk.id}/open`, {});
    const files = `${server.address}/api/bench/sheets/${sheet.id}/cuts/${script().id}/files`;
    const save = async (name: string, join_: string): Promise<string> => {
      const { settings } = (await get(`/bench/sheets/${sheet.id}/cuts/${script().id}`)) as { settings: object };
      await post(`/bench/sheets/${sheet.id}/cuts/${script().id}`, { ...settings, join: join_ });
      const answer = await fetch(files, {
        method: "POST",
        headers: { "content-type": "application/json" },
        body: JSON.stringify({ format: "svg", despite: true }),
      });
      const path = join(browser.downloads, name);
      writeFileSync(path, Buffer.from(await answer.arrayBuffer()));
      return path;
    };
    await browser.open(`${server.address}/practice/${desk.id}`);
    // Once the page is drawn, nothing moves under the hand any more.
    await browser.find("drawn-with");
    await browser.click("machine-page");
    await browser.find("machine-lines");
    await browser.give(await save("raw.svg", "nothing"), "Choose a cut file (SVG)");
    await browser.waitUntil("it is crossed", async () => /crosses its own lines at \d+ places/.test(await textOf("machine-lines")));
    await browser.give(await save("joined.svg", "line"), "Choose a cut file (SVG)");
    await browser.waitUntil("it is clean", async () => (await textOf("machine-lines")).includes("Clean: no line crosses another."));
    expect(await axe(browser)).toEqual([]);
  }, 240_000);

  test("words that cannot be cut, and a line that is gone, say so", async () => {
    const { body, step } = SheetDetail.parse(await get(`/bench/sheets/${sheet.id}`));
    const lines = body.lines.map((line) => (line.id === script().id ? { ...line, text: "שלום" } : line));
    await post(`/bench/sheets/${sheet.id}`, { body: { ...body, lines }, from: step });
    await browser.open(`${server.address}/bench/cut/${sheet.id}?line=${script().id}`);
    expect(await textOf("cut-problem")).toMatch(/no letter in these words that can be cut/);
    await browser.open(`${server.address}/bench/cut/${sheet.id}?line=nobody`);
    await browser.text("This line is not on the sheet any more.");
  }, 240_000);
});
