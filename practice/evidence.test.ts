// What a practice program exports, given as evidence: letters it fakes, swaps or boxes are told as such.
import { mkdtempSync, readFileSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, beforeAll, describe, expect, test } from "@jest/globals";
import { unzipSync } from "fflate";
import { WantedFont } from "../core/evidence/drawing/programs.ts";
import { judgePdf } from "../core/evidence/judge-pdf.ts";
import { readEvidence } from "../core/evidence/read.ts";
import type { Verdict } from "../core/evidence/verdict.ts";
import { PracticeDevice } from "./device.ts";
import { OpenProgram, type TypedText } from "./program.ts";
import { PRACTICE_WORLD } from "./world.ts";

const built = join(process.cwd(), "build", "demo");
const font = unzipSync(readFileSync(join(built, "downloads", "tendril_script_free.zip")))["tendril.ttf"]!;
const NAME = {
  family: "Tendril Script",
  style: "Regular",
  legacyFamily: "Tendril Script",
  legacyStyle: "Regular",
  fullName: "Tendril Script",
  postScriptName: "TendrilScript-Regular",
};

let root: string;
let program: OpenProgram;
beforeAll(async () => {
  root = mkdtempSync(join(tmpdir(), "buvano-shown-"));
  const device = new PracticeDevice(root, "2580", () => 0);
  await device.prepare(join(built, "built-in"));
  await device.write("me", "Tendril.ttf", font);
  await device.refreshCache();
  const { traits } = PRACTICE_WORLD.flatMap((one) => one.programs).find(({ name }) => name === "Letter Desk")!;
  program = await OpenProgram.start("Letter Desk", "letter-desk", traits, device);
});
afterAll(() => rmSync(root, { recursive: true }));

const line = (text: string, more: Partial<TypedText> = {}): TypedText => ({
  font: "Tendril Script",
  style: "",
  bold: false,
  italic: false,
  text,
  sizePt: 24,
  widthPt: 450,
  ...more,
});
async function judged(lines: readonly TypedText[], words = ""): Promise<Verdict> {
  const read = await readEvidence("page.pdf", await program.exportPage(lines));
  if (!read.ok || !read.value.drawn) throw new Error("The page was not read.");
  return judgePdf(read.value.drawn, NAME, new WantedFont({ bytes: font, face: 0 }), words);
}
/** Latin it has, Hebrew another font has, and a sign that only a box stands for. */
const MIXED = "שלום Peace 2026, דבש Honey ⌘";

describe("a program's own page as evidence", () => {
  test("plain letters are seen, and what it lacks is told: another font here, a box there", async () => {
    const { state, reason, letters } = await judged([line(MIXED)]);
    expect({ state, letters }).toEqual({ state: "seen", letters: [..."Peace2026,Honey"].length });
    expect(reason).toMatch(/It has no ב, ד.*: on the same line \S+ is drawn for that\. “⌘” is drawn as the box of a missing character\.$/);
  });
  test("what another line is set in stands in for nothing", async () => {
    const other = (await program.menu()).find(({ label }) => label !== "Tendril Script")!.label;
    const { state, reason } = await judged([line("Peace 2026, Honey"), line("שלום דבש", { font: other })]);
    expect({ state, reason }).toEqual({ state: "seen", reason: expect.stringMatching(/ pt\.$/) });
  });
  test("thickened letters are faked, though a box beside them is not thickened", async () => {
    const { state, reason, letters } = await judged([line(MIXED, { bold: true })]);
    expect({ state, letters }).toEqual({ state: "faked", letters: [..."Peace2026,Honey"].length });
    expect(reason).toContain("“⌘” is drawn as the box");
  });
  test("a box alone shows nothing", async () => {
    expect(await judged([line("⌘⌘⌘ ⌘")])).toMatchObject({ state: "cannot-tell", letters: 0 });
  });
  test("faked beside plain ones is faked, letter by letter, until the plain words are given", async () => {
    const page = [line("Marigold"), line("Foxglove", { bold: true })];
    const mixed = await judged(page);
    expect(mixed).toMatchObject({ state: "faked", letters: 8 });
    expect(mixed.reason).toMatch(/thickening.*“Foxglove”: 8 letters.*Drawn right: “Marigold”: 8 letters/);
    const plain = await judged(page, "Marigold");
    expect(plain).toMatchObject({ state: "seen", letters: 8 });
    expect(plain.reason).toContain("Elsewhere “Foxglove” is made bold by thickening");
    expect(await judged(page, "Foxglove")).toMatchObject({ state: "faked" });
  });
  test("words of which it has no letter cannot be set in it", async () => {
    expect(await judged([line("Marigold")], "שלום")).toMatchObject({ state: "cannot-tell" });
  });
});
