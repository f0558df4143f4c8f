// The practice room computes from real bytes: change the file and the drawing changes.
import { copyFileSync, existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterEach, beforeEach, describe, expect, test } from "@jest/globals";
import { unzipSync } from "fflate";
import { readEvidence } from "../core/evidence/read.ts";
import { assembleSfnt } from "../core/sfnt/assemble.ts";
import { openContainer, tableBytes } from "../core/sfnt/container.ts";
import { writeProfile } from "../core/placing/profile.ts";
import type { ProgramTraits } from "../contract/programs.ts";
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
/** What the device takes for the present moment, in milliseconds since 1970. */
let clock: number;
beforeEach(async () => {
  clock = Date.now();
  root = mkdtempSync(join(tmpdir(), "buvano-practice-"));
  device = new PracticeDevice(root, "2580", () => clock);
  await device.prepare(builtIn);
});
afterEach(() => rmSync(root, { recursive: true }));

const traitsOf = (name: string): ProgramTraits =>
  PRACTICE_WORLD.flatMap((one) => one.programs).find((program) => program.name === name)!.traits;
const slugOf = (name: string): string => name.toLowerCase().replace(" ", "-");
const start = (name: string) => OpenProgram.start(name, slugOf(name), traitsOf(name), device);
/** Puts a font in place the way an installer does: the device takes notice. */
async function put(folder: "me" | "everyone", name: string, bytes: Uint8Array, key?: string): Promise<void> {
  await device.write(folder, name, bytes, key);
  await device.refreshCache();
}
async function key(): Promise<string> {
  const answer = await device.unlock("2580");
  if (!answer.ok) throw new Error("The passcode was refused.");
  return answer.key;
}
const mine = async () => (await device.list()).filter((file) => file.folder === "me");
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
    await put("me", "Tendril.ttf", tendril());
    expect(await labels(open)).not.toContain("Tendril Script");
    const again = await start("Letter Desk");
    expect(await labels(again)).toContain("Tendril Script");
    await device.remove("me", "Tendril.ttf");
    expect((await again.draw(typed("Tendril Script"))).fontFound).toBe(true);
    expect((await (await start("Letter Desk")).draw(typed("Tendril Script"))).fontFound).toBe(false);
  });
  test("all the time: it comes and goes by itself", async () => {
    const open = await start("Poster Desk");
    await put("me", "Tendril.ttf", tendril());
    expect(await labels(open)).toContain("Tendril Script");
    await device.remove("me", "Tendril.ttf");
    expect(await labels(open)).not.toContain("Tendril Script");
  });
  test("from everyone's folder only: mine is never listed", async () => {
    await put("me", "Tendril.ttf", tendril());
    expect(await labels(await start("Title Desk"))).not.toContain("Tendril Script");
    await put("everyone", "Tendril.ttf", tendril(), await key());
    expect(await labels(await start("Title Desk"))).toContain("Tendril Script");
  });
});

describe("drawing", () => {
  test("comes from the placed file's bytes: another file under the same name draws otherwise", async () => {
    await put("me", "x.ttf", tendril());
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
    await put("me", "x.ttf", assembleSfnt("\0\x01\0\0", tables));
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

describe("a font that is turned off", () => {
  test("stays where it is, is not offered, and counts as changed at that moment", async () => {
    await put("me", "Tendril.ttf", tendril());
    const [before] = await mine();
    await device.setOn("me", "Tendril.ttf", false);
    const [off] = await mine();
    expect([off!.on, off!.bytes, off!.changedAt >= before!.changedAt]).toEqual([false, before!.bytes, true]);
    expect(await labels(await start("Letter Desk"))).not.toContain("Tendril Script");
    await device.setOn("me", "Tendril.ttf", true);
    expect(await labels(await start("Letter Desk"))).toContain("Tendril Script");
  });
  test("a program that reads at start keeps it until then; one that notices by itself drops it at once", async () => {
    await put("me", "Tendril.ttf", tendril());
    const [letters, posters] = [await start("Letter Desk"), await start("Poster Desk")];
    await device.setOn("me", "Tendril.ttf", false);
    expect(await labels(letters)).toContain("Tendril Script");
    expect(await labels(posters)).not.toContain("Tendril Script");
  });
  test("is on again when it is placed anew", async () => {
    await put("me", "Tendril.ttf", tendril());
    await device.setOn("me", "Tendril.ttf", false);
    await put("me", "Tendril.ttf", tendril());
    expect((await mine()).map((file) => file.on)).toEqual([true]);
  });
});

test("an unfinished copy is not a font, and nothing is left of it", async () => {
  copyFileSync(join(builtIn, "WrenSmall-Regular.ttf"), join(root, "me", "half.ttf.part"));
  expect((await mine()).length).toBe(0);
});

test.each([
  ["TrueType", "trellis-fair.zip", "Trellis Fair.ttf", "TrellisFair-Regular"],
  ["TrueType", "fernhollow-text-family.zip", "Fernhollow Text/FernhollowText-Bold.ttf", "FernhollowText-Bold"],
])("a %s font of %s is embedded in an export, under its own name", async (type, zip, name, postScriptName) => {
  await put("me", "x.ttf", fromZip(zip, name));
  const program = await start("Letter Desk");
  const family = (await labels(program)).find((label) => /Trellis|Fernhollow/.test(label))!;
  const read = await readEvidence("a.pdf", await program.exportPdf(typed(family, "Opening", { bold: true })));
  expect(read).toMatchObject({
    ok: true,
    value: { drawn: { pages: 1 }, fonts: [{ name: postScriptName, embedded: true, subset: true, type }] },
  });
});

describe("a device", () => {
  test("guards the folder for everyone: no key, no writing; the key is worth nothing once given back", async () => {
    await expect(device.write("everyone", "a.ttf", tendril())).rejects.toMatchObject({ code: "EACCES" });
    const opened = await key();
    await put("everyone", "a.ttf", tendril(), opened);
    device.lock(opened);
    await expect(device.remove("everyone", "a.ttf", opened)).rejects.toMatchObject({ code: "EACCES" });
    expect(await labels(await start("Title Desk"))).toContain("Tendril Script");
  });
  test("takes no passcode for a minute after three wrong ones, not even the right one, and remembers that", async () => {
    expect(await device.unlock("1")).toMatchObject({ ok: false, triesLeft: 2 });
    expect(await device.unlock("2")).toMatchObject({ ok: false, triesLeft: 1 });
    expect(await device.unlock("3")).toMatchObject({ ok: false, triesLeft: 0, lockedUntil: clock + 60_000 });
    const again = new PracticeDevice(root, "2580", () => clock);
    expect(await again.unlock("2580")).toMatchObject({ ok: false });
    clock += 60_001;
    expect(await again.unlock("2580")).toMatchObject({ ok: true });
  });
  test("has programs find what its font cache knows: a file put there behind its back waits for the next look", async () => {
    copyFileSync(join(builtIn, "WrenSmall-Regular.ttf"), join(root, "me", "by-hand.ttf"));
    expect(await mine()).toMatchObject([{ on: true, cached: false }]);
    const found = async () => (await device.visible(["me"])).length;
    expect(await found()).toBe(0);
    await device.refreshCache();
    expect([await found(), (await mine())[0]!.cached]).toEqual([1, true]);
  });
  test.each([
    ["is read-only", { readOnly: true }, "EROFS"],
    ["is full", { capacityBytes: 10 }, "ENOSPC"],
    ["is away", { away: true }, "EHOSTDOWN"],
  ])("that %s writes nothing and leaves nothing half-written", async (_how, state, code) => {
    await device.setState(state);
    await expect(device.write("me", "a.ttf", tendril())).rejects.toMatchObject({ code });
    await device.setState({ away: false });
    expect(await mine()).toEqual([]);
  });
  test("may keep fonts from being removed while a program uses them", async () => {
    await put("me", "a.ttf", tendril());
    const program = await start("Letter Desk");
    device.inUse = () => new Set(program.filesRead());
    await device.setState({ locksOpenFonts: true });
    await expect(device.remove("me", "a.ttf")).rejects.toMatchObject({ code: "EBUSY" });
    device.inUse = () => new Set();
    await device.remove("me", "a.ttf");
    expect(await mine()).toEqual([]);
  });
});

describe("profiles on a tablet", () => {
  const profile = (family: string, bytes: Uint8Array) =>
    new TextEncoder().encode(
      writeProfile({
        family,
        organisation: "Fernhollow",
        library: "a",
        fonts: [{ fullName: family, postScriptName: "T", fileName: "T.ttf", bytes }],
      }),
    );
  const offered = async () => (await device.profiles.waiting())[0]!;
  test("wait, are allowed, installed, listed with the very bytes of their fonts, and removed", async () => {
    expect(await device.profiles.offer(new TextEncoder().encode("no profile"))).toBe(false);
    expect(await device.profiles.offer(profile("Tendril", tendril()))).toBe(true);
    const { id, allowed, name, fonts } = await offered();
    expect([allowed, name, fonts[0]!.fileName]).toEqual([false, "Tendril, 1 style", "T.ttf"]);
    await expect(device.profiles.install(id)).rejects.toMatchObject({ code: "ENOENT" });
    await device.profiles.allow(id);
    expect(await labels(await start("Note Desk"))).not.toContain("Tendril Script");
    await device.profiles.install(id);
    expect(await device.profiles.waiting()).toEqual([]);
    const [file] = await device.profiles.fonts();
    expect(Buffer.compare(await file!.read(), tendril())).toBe(0);
    expect(await labels(await start("Note Desk"))).toContain("Tendril Script");
    await device.profiles.remove(id);
    expect(await labels(await start("Note Desk"))).not.toContain("Tendril Script");
  });
  test("one with the same identifier replaces the earlier one", async () => {
    for (const bytes of [tendril(), fromZip("trellis-fair.zip", "Trellis Fair.ttf")]) {
      await device.profiles.offer(profile("Tendril", bytes));
      const { id } = await offered();
      await device.profiles.allow(id);
      await device.profiles.install(id);
    }
    expect(await device.profiles.installed()).toHaveLength(1);
    expect(await labels(await start("Note Desk"))).toContain("Trellis Fair");
  });
});

describe("a program with a store of its own", () => {
  test("reads no folder, lists what is loaded by hand, and after closing only what it was told to keep", async () => {
    await put("me", "Trellis.ttf", fromZip("trellis-fair.zip", "Trellis Fair.ttf"));
    const open = await start("Browser Desk");
    expect(await labels(open)).not.toContain("Trellis Fair");
    expect(await open.load("x.ttf", new Uint8Array(20), true)).toBe(false);
    expect(await open.load("Tendril.ttf", tendril(), false)).toBe(true);
    expect(await open.load("Trellis.ttf", fromZip("trellis-fair.zip", "Trellis Fair.ttf"), true)).toBe(true);
    expect(await labels(open)).toEqual(expect.arrayContaining(["Tendril Script", "Trellis Fair"]));
    const again = await labels(await start("Browser Desk"));
    expect(again).toContain("Trellis Fair");
    expect(again).not.toContain("Tendril Script");
    expect((await device.list()).filter((file) => file.folder === "own").map((file) => file.fileName)).toEqual([
      "browser-desk/Trellis.ttf",
    ]);
  });
});

test("what a killed process left half-written is gone once the device is prepared again", async () => {
  const left = ".buvano-0f8fad5b-d9cb-469f-a165-70867728950e.part";
  const places = ["", "me", "everyone", join("own", "letter-desk"), join("profiles", "waiting")].map((folder) => join(root, folder));
  for (const folder of places) {
    mkdirSync(folder, { recursive: true });
    writeFileSync(join(folder, left), "half");
  }
  await device.prepare(builtIn);
  expect(places.filter((folder) => existsSync(join(folder, left)))).toEqual([]);
});
