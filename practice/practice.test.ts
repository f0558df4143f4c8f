// The practice room computes from real bytes: change the file and the drawing changes.
import { copyFileSync, mkdtempSync, readFileSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterEach, beforeEach, describe, expect, test } from "@jest/globals";
import { unzipSync } from "fflate";
import { readPdf } from "../core/evidence/pdf.ts";
import { assembleSfnt } from "../core/sfnt/assemble.ts";
import { openContainer, tableBytes } from "../core/sfnt/container.ts";
import type { ProgramTraits } from "../contract/program.ts";
import { PracticeDevice } from "./device.ts";
import { openProgramFont } from "./engine/font.ts";
import { layOut } from "./engine/layout.ts";
import { OpenProgram } from "./program.ts";
import { PRACTICE_WORLD } from "./world.ts";

const builtIn = join(process.cwd(), "build", "demo", "built-in");
const downloads = join(process.cwd(), "build", "demo", "downloads");
const fromZip = (zip: string, name: string): Uint8Array => unzipSync(readFileSync(join(downloads, zip)))[name]!;
const tendril = (): Uint8Array => fromZip("tendril_script_free.zip", "tendril.ttf");

let root: string;
let device: PracticeDevice;
beforeEach(async () => {
  root = mkdtempSync(join(tmpdir(), "buvano-practice-"));
  device = new PracticeDevice(root);
  await device.prepare(builtIn);
});
afterEach(() => rmSync(root, { recursive: true }));

const traitsOf = (name: string): ProgramTraits =>
  PRACTICE_WORLD.flatMap((one) => one.programs).find((program) => program.name === name)!.traits;
const start = (name: string) => OpenProgram.start(name, traitsOf(name), device);
const typed = (font: string, text = "Seed", more = {}) => ({
  font,
  text,
  style: "",
  bold: false,
  italic: false,
  sizePt: 20,
  widthPt: 400,
  ...more,
});
const labels = async (program: OpenProgram) => (await program.menu()).map((entry) => entry.label);

describe("when a program reads fonts", () => {
  test("at start: a font placed later needs a restart; one removed later stays until then", async () => {
    const open = await start("Letter Desk");
    await device.write("me", "Tendril.ttf", tendril());
    expect(await labels(open)).not.toContain("Tendril Script");
    const again = await start("Letter Desk");
    expect(await labels(again)).toContain("Tendril Script");
    await device.remove("me", "Tendril.ttf");
    expect((await again.draw(typed("Tendril Script"))).fontFound).toBe(true);
    expect((await (await start("Letter Desk")).draw(typed("Tendril Script"))).fontFound).toBe(false);
  });
  test("all the time: it comes and goes by itself", async () => {
    const open = await start("Poster Desk");
    await device.write("me", "Tendril.ttf", tendril());
    expect(await labels(open)).toContain("Tendril Script");
    await device.remove("me", "Tendril.ttf");
    expect(await labels(open)).not.toContain("Tendril Script");
  });
  test("from everyone's folder only: mine is never listed", async () => {
    await device.write("me", "Tendril.ttf", tendril());
    expect(await labels(await start("Title Desk"))).not.toContain("Tendril Script");
    await device.write("everyone", "Tendril.ttf", tendril());
    expect(await labels(await start("Title Desk"))).toContain("Tendril Script");
  });
});

describe("drawing", () => {
  test("comes from the placed file's bytes: another file under the same name draws otherwise", async () => {
    await device.write("me", "x.ttf", tendril());
    const before = await (await start("Letter Desk")).draw(typed("Tendril Script"));
    expect(before.runs.map((run) => [run.how, run.drawnWith])).toEqual([["asked", "Tendril Script"]]);
    // Another font's tables under the same names, in a file of the same name.
    const other = openContainer(readFileSync(join(builtIn, "WrenSmall-Regular.ttf")));
    const named = openContainer(tendril());
    const tables = new Map(other.faces[0]!.tables.map((record) => [record.tag, tableBytes(other, record)]));
    tables.set(
      "name",
      tableBytes(
        named,
        named.faces[0]!.tables.find((record) => record.tag === "name")!,
      ),
    );
    await device.write("me", "x.ttf", assembleSfnt("\0\x01\0\0", tables));
    const after = await (await start("Letter Desk")).draw(typed("Tendril Script"));
    const wren = await (await start("Letter Desk")).draw(typed("Wren Small"));
    expect(after.runs.map((run) => [run.how, run.drawnWith])).toEqual([["asked", "Tendril Script"]]);
    expect(after.runs[0]!.path).not.toBe(before.runs[0]!.path);
    expect(after.runs[0]!.path).toBe(wren.runs[0]!.path);
  });
  test("stands in, visibly, for a font or characters that are missing; boxes where nothing has them", async () => {
    const program = await start("Letter Desk");
    const missing = await program.draw(typed("Nowhere", "Hi"));
    expect([missing.fontFound, missing.runs[0]!.how, missing.runs[0]!.drawnWith]).toEqual([false, "fallback", "Aster Plain"]);
    const mixed = await program.draw(typed("Clay Narrow", "Hi שלום 水"));
    expect(mixed.runs.map((run) => run.how)).toEqual(expect.arrayContaining(["asked", "fallback", "box"]));
  });
  test("fakes bold and italic only where the family has none, and only in programs that do", async () => {
    const letter = await start("Letter Desk");
    expect((await letter.draw(typed("Aster Plain", "Hi", { bold: true }))).faked).toEqual([]);
    const faked = await letter.draw(typed("Clay Narrow", "Hi", { bold: true, italic: true }));
    expect([faked.faked, faked.runs[0]!.strokePt > 0]).toEqual([["bold", "italic"], true]);
  });
  test("sets Hebrew from the right, Latin inside it from the left", async () => {
    const font = openProgramFont(readFileSync(join(builtIn, "AsterPlain-Regular.ttf")))!;
    const { runs } = layOut("שלום Fern", font, [font], 20, 400);
    const hebrew = runs.find((run) => /ש/.test(run.text))!;
    const latin = runs.find((run) => run.text.includes("Fern"))!;
    expect(latin.x).toBeLessThan(hebrew.x);
    expect(hebrew.x + hebrew.width).toBeCloseTo(400);
    const drawn = [...hebrew.glyphs].sort((a, b) => b.x - a.x).map((glyph) => glyph.text);
    expect(drawn.join("").trim()).toBe("שלום");
  });
  test("breaks lines between words", async () => {
    const font = openProgramFont(readFileSync(join(builtIn, "AsterPlain-Regular.ttf")))!;
    const { runs, heightPt } = layOut("one two three four five six", font, [font], 20, 120);
    expect(new Set(runs.map((run) => run.baseline)).size).toBeGreaterThan(1);
    expect(runs.every((run) => run.x + run.width <= 121)).toBe(true);
    expect(heightPt).toBeGreaterThan(40);
  });
});

describe("a font that is switched off", () => {
  test("stays where it is, is not offered, and counts as changed at that moment", async () => {
    await device.write("me", "Tendril.ttf", tendril());
    const [before] = await device.list(["me"]);
    await device.setOn("me", "Tendril.ttf", false);
    const [off] = await device.list(["me"]);
    expect([off!.on, off!.bytes, off!.changedAt >= before!.changedAt]).toEqual([false, before!.bytes, true]);
    expect(await labels(await start("Letter Desk"))).not.toContain("Tendril Script");
    await device.setOn("me", "Tendril.ttf", true);
    expect(await labels(await start("Letter Desk"))).toContain("Tendril Script");
  });
  test("a program that reads at start keeps it until then; one that notices by itself drops it at once", async () => {
    await device.write("me", "Tendril.ttf", tendril());
    const [letters, posters] = [await start("Letter Desk"), await start("Poster Desk")];
    await device.setOn("me", "Tendril.ttf", false);
    expect(await labels(letters)).toContain("Tendril Script");
    expect(await labels(posters)).not.toContain("Tendril Script");
  });
  test("is on again when it is placed anew", async () => {
    await device.write("me", "Tendril.ttf", tendril());
    await device.setOn("me", "Tendril.ttf", false);
    await device.write("me", "Tendril.ttf", tendril());
    expect((await device.list(["me"])).map((file) => file.on)).toEqual([true]);
  });
});

test("an unfinished copy is not a font, and nothing is left of it", async () => {
  copyFileSync(join(builtIn, "WrenSmall-Regular.ttf"), join(root, "me", "half.ttf.part"));
  expect((await device.list(["me"])).length).toBe(0);
});

test.each([
  ["TrueType", "trellis-fair.zip", "Trellis Fair.ttf", "TrellisFair-Regular"],
  ["TrueType", "fernhollow-text-family.zip", "Fernhollow Text/FernhollowText-Bold.ttf", "FernhollowText-Bold"],
])("a %s font of %s is embedded in an export, under its own name", async (type, zip, name, postScriptName) => {
  await device.write("me", "x.ttf", fromZip(zip, name));
  const program = await start("Letter Desk");
  const family = (await labels(program)).find((label) => /Trellis|Fernhollow/.test(label))!;
  const read = await readPdf(await program.exportPdf(typed(family, "Opening", { bold: true })));
  expect(read).toMatchObject({ ok: true, value: { pages: 1, fonts: [{ name: postScriptName, embedded: true, subset: true, type }] } });
});
