// Matching as somebody does it who saw lettering they want, on a phone by touch and on a wide screen by mouse: framed, straightened, read, put right,
// answered, narrowed to what a job may use, compared; and what looks like a family that is not cleared.
import { execFileSync } from "node:child_process";
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, beforeAll, describe, expect, test } from "@jest/globals";
import { FamilyPage } from "../../contract/families.ts";
import { AlikeView, MatchView } from "../../contract/matching.ts";
import { drawWords, type Drawn } from "../reference/lettering.ts";
import { axe, overflowing, smallTargets } from "./axe.ts";
import { Browser, PHONE, WIDE } from "./browser.ts";
import { TestServer } from "./server.ts";
import { downloads, startFilled } from "./world.ts";

let server: TestServer;
const dir = mkdtempSync(join(tmpdir(), "buvano-lettering-"));
let pictures: { screen: Drawn; photo: Drawn };
beforeAll(async () => {
  server = await startFilled();
  execFileSync("unzip", ["-oq", join(downloads, "trellis-fair.zip"), "-d", dir]);
  const font = join(dir, "Trellis Fair.ttf");
  const [screen, photo] = drawWords(dir, [
    { font, words: "Garden path", photo: false },
    { font, words: "Garden path", photo: true },
  ]);
  pictures = { screen: screen!, photo: photo! };
}, 240_000);
afterAll(async () => {
  await server?.stop();
  rmSync(dir, { recursive: true, force: true });
}, 240_000);

const get = async (path: string): Promise<unknown> => (await fetch(`${server.address}/api${path}`)).json();

describe.each([
  ["a phone, by touch", PHONE, "touch"],
  ["a wide screen, by mouse", WIDE, "mouse"],
] satisfies [string, typeof PHONE, "touch" | "mouse"][])("on %s", (_where, size, kind) => {
  let browser: Browser;
  let id = 0;
  beforeAll(async () => {
    browser = await Browser.start(size);
  }, 240_000);
  afterAll(() => browser?.quit(), 30_000);
  const textOf = async (testId: string): Promise<string> => (await browser.find(testId)).getText();
  const view = async () => MatchView.parse(await get(`/matches/${id}`));
  const frameOnPage = async (): Promise<number[][]> =>
    (await browser.driver.executeScript<string>("return document.querySelector('[data-testid=match-frame]').getAttribute('d')"))
      .slice(1, -1)
      .split("L")
      .map((corner) => corner.split(" ").map(Number));
  const readSettled = (words: string) =>
    browser.waitUntil(`it reads ${words}`, async () => {
      const letters = await browser.driver.executeScript<string[]>(
        "return [...document.querySelectorAll('[data-testid=letter]')].map((one) => one.value)",
      );
      return letters.join("") === words;
    });
  /** Where a place of the picture lies in the window. */
  const onScreen = async (x: number, y: number): Promise<[number, number]> => {
    const picture = await browser.find("match-picture");
    await browser.driver.executeScript("arguments[0].scrollIntoView({block: 'center'})", picture);
    return browser.driver.executeScript<[number, number]>(
      `const svg = arguments[0]; const point = new DOMPoint(${x}, ${y}).matrixTransform(svg.getScreenCTM()); return [Math.round(point.x), Math.round(point.y)];`,
      picture,
    );
  };
  const drag = async (from: readonly [number, number], to: readonly [number, number]): Promise<void> => {
    const [ax, ay] = await onScreen(...from);
    const [bx, by] = await onScreen(...to);
    await browser.drag([ax, ay], [bx, by], kind);
  };
  const find = async (sentence: string) => {
    await browser.click("find-match");
    await browser.waitUntil(`the answer is ${sentence}`, async () => {
      return (await textOf("match-answer")).includes(sentence);
    });
  };

  test("a picture is given from the bench, its line is found and read by itself", async () => {
    await browser.open(`${server.address}/bench`);
    await browser.click("match-picture-link");
    await browser.find("give-match");
    await browser.give(pictures.screen.path, "A picture of lettering");
    await browser.find("match-picture");
    id = Number((await browser.driver.getCurrentUrl()).split("/").at(-1));
    const { lines } = await view();
    expect(lines.length).toBeGreaterThan(0);
    await browser.waitUntil("ten letters are read", async () => (await browser.all("letter")).length === 10);
    expect(await axe(browser)).toEqual([]);
    expect(await overflowing(browser)).toBe(false);
    expect(await smallTargets(browser)).toEqual([]);
  });

  test("a frame is drawn anew, its corner is dragged and moved by arrow keys", async () => {
    const [[x0, y0], , [x1, y1]] = pictures.screen.frame;
    await drag([x0 + 2, y0 + 60], [(x0 + x1) / 2, y1 + 6]);
    await browser.waitUntil("it is the new frame", async () => Math.abs((await frameOnPage())[1]![0]! - (x0 + x1) / 2) < 8);
    const before = await frameOnPage();
    // Back out to the whole of the words, by its right lower corner, and by its left upper one.
    await drag(before[2] as [number, number], [x1 + 4, y1 + 4]);
    await drag((await frameOnPage())[0] as [number, number], [x0 - 2, y0 - 2]);
    const frame = await frameOnPage();
    expect(Math.abs(frame[0]![0]! - (x0 - 2))).toBeLessThan(6);
    expect(Math.abs(frame[2]![1]! - (y1 + 4))).toBeLessThan(6);
    await browser.driver.executeScript("document.querySelector('[data-testid=corner-1]').focus()");
    await browser.driver.switchTo().activeElement().sendKeys("\uE014\uE014");
    expect((await frameOnPage())[1]![0]).toBeGreaterThan(frame[1]![0]!);
  });

  test("a letter is put right, the words are taken, and the font is told, with what lies over the picture", async () => {
    await browser.waitUntil("ten letters are read", async () => (await browser.all("letter")).length === 10);
    const letters = await browser.all("letter");
    await browser.driver.executeScript("arguments[0].scrollIntoView({block: 'center'})", letters[0]);
    await letters[0]!.click();
    await letters[0]!.sendKeys("Q");
    await browser.waitUntil("the words begin with it", async () =>
      (await (await browser.find("match-words")).getAttribute("value"))!.startsWith("Qa"),
    );
    await browser.type("match-words", "Garden path");
    await readSettled("Gardenpath");
    await find("This is Trellis Fair Regular.");
    expect(await textOf("candidates")).toContain("In your library · Every use");
    const overlay = await browser.driver.executeScript<string>(
      "return document.querySelector('[data-testid=match-overlay] path').getAttribute('d')",
    );
    expect(overlay.length).toBeGreaterThan(500);
    const second = (await browser.all("candidate-show"))[1]!;
    await browser.driver.executeScript("arguments[0].scrollIntoView({block: 'center'})", second);
    await second.click();
    await browser.waitUntil(
      "the next is laid over",
      async () =>
        (await browser.driver.executeScript("return document.querySelector('[data-testid=match-overlay] path').getAttribute('d')")) !==
        overlay,
    );
    expect(await axe(browser)).toEqual([]);
    expect(await overflowing(browser)).toBe(false);
  });

  test("only what a job may use is looked among; the answer is kept over a reload", async () => {
    await browser.choose("match-job", "Plant markers for the shop");
    await browser.click("only-cleared");
    await browser.click("find-match");
    await browser.waitUntil("it was looked for among these", async () => (await view()).asked?.onlyCleared === true, 90_000);
    const found = await view();
    for (const one of found.answer!.candidates) expect(["yes", "credit"]).toContain(one.cleared);
    await browser.open(`${server.address}/bench/match/${id}`);
    await browser.text(found.answer!.sentence);
    expect(await (await browser.find("match-words")).getAttribute("value")).toBe("Garden path");
  });

  test("words seen from the side are framed by their four corners", async () => {
    await browser.open(`${server.address}/bench/match`);
    await browser.find("give-match");
    await browser.give(pictures.photo.path, "A picture of lettering");
    await browser.waitUntil(
      "it is another match",
      async () => !(await browser.driver.getCurrentUrl()).endsWith(`/${id}`) && /\/match\/\d+$/.test(await browser.driver.getCurrentUrl()),
    );
    id = Number((await browser.driver.getCurrentUrl()).split("/").at(-1));
    await browser.find("match-frame");
    await browser.click("tool-corners");
    for (const [i, corner] of pictures.photo.frame.entries()) await drag((await frameOnPage())[i] as [number, number], corner);
    for (const [i, corner] of (await frameOnPage()).entries())
      expect(Math.hypot(corner[0]! - pictures.photo.frame[i]![0], corner[1]! - pictures.photo.frame[i]![1])).toBeLessThan(8);
    await browser.type("match-words", "Garden path");
    await readSettled("Gardenpath");
    await find("Trellis Fair Regular");
    const { answer } = await view();
    expect(answer!.candidates[0]!.family).toBe("Trellis Fair");
  });

  test("stray marks are brushed away and the stroke is taken back", async () => {
    await browser.click("tool-brush");
    const [[x0, y0], [x1]] = pictures.photo.frame;
    await drag([x0 + 10, y0 + 20], [(x0 + x1) / 2, y0 + 20]);
    await browser.click("unstroke");
    await browser.waitUntil("it is gone", async () => (await browser.all("unstroke")).length === 0);
  });

  test("candidates are compared on the bench, and the match is removed and brought back", async () => {
    await browser.open(`${server.address}/bench/match/${id}`);
    await browser.find("candidate-choose");
    const ticks = await browser.all("candidate-choose");
    await browser.driver.executeScript("arguments[0].scrollIntoView({block: 'center'})", ticks[0]);
    for (const tick of ticks.slice(0, 2)) await tick.click();
    await browser.click("match-compare");
    await browser.waitUntil("a sheet is open", async () => /\/bench\/sheet\/\d+/.test(await browser.driver.getCurrentUrl()));
    await browser.waitUntil("two lines are drawn", async () => (await browser.all("drawn-line")).length >= 2);
    await browser.open(`${server.address}/bench/match`);
    await browser.waitUntil("matches are listed", async () => (await browser.all("match-card")).length > 0);
    const before = (await browser.all("match-card")).length;
    await browser.click("remove-match");
    await browser.waitUntil("one fewer", async () => (await browser.all("match-card")).length === before - 1);
    await browser.clickText("Undo");
    await browser.waitUntil("it is back", async () => (await browser.all("match-card")).length === before);
    expect(await axe(browser)).toEqual([]);
  });

  test("from a family that is not cleared to one that looks like it and is", async () => {
    const { families } = FamilyPage.parse(await get("/families?limit=100"));
    const script = families.find(({ name }) => name === "Tendril Script")!;
    await browser.open(`${server.address}/family/${script.id}`);
    await browser.click("alike-cleared-link");
    await browser.find("alike-cleared");
    expect(await axe(browser)).toEqual([]);
    const views = await Promise.all(families.map(async (one) => AlikeView.parse(await get(`/families/${one.id}/alike`))));
    const like = views.find((one) => one.families.length > 0)!;
    // The whole library in that order, by one tap; the address holds it.
    await browser.open(`${server.address}/alike/${like.familyId}`);
    await browser.click("families-by-likeness");
    await browser.waitUntil("the nearest comes next", async () => {
      const cards = (await browser.all("family-card")).slice(0, 2);
      const said = await Promise.all(cards.map((card) => card.getText()));
      return (said[0] ?? "").includes(like.family) && (said[1] ?? "").includes(like.families[0]!.family);
    });
    expect(await browser.driver.getCurrentUrl()).toContain(`sort=likeness&like=${like.familyId}`);
    await browser.text(`Most like ${like.family}`);
    await browser.open(`${server.address}/alike/${like.familyId}`);
    await browser.click("alike-compare");
    await browser.waitUntil("both are on the bench", async () => (await browser.all("drawn-line")).length >= 2);
  });

  test("families are found by manner", async () => {
    await browser.open(`${server.address}/families`);
    await browser.find("family-card");
    const all = await browser.words();
    await browser.click("filters");
    await browser.click("by-manner");
    await browser.find("manner-slant");
    await browser.driver.executeScript("document.querySelector('[data-testid=manner-slant] input').focus()");
    // From any to upright, to a little, to italic.
    await browser.driver.switchTo().activeElement().sendKeys("\uE014\uE014\uE014");
    await browser.waitUntil("fewer families", async () => {
      const total = /(\d+) famil/.exec(await browser.words())?.[1];
      return total !== undefined && total !== /(\d+) famil/.exec(all)?.[1];
    });
    expect(await axe(browser)).toEqual([]);
  });
});
