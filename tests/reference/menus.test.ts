// The predicted font list against what practice programs list, read by HarfBuzz from the same bytes: over every font of the Debian packages,
// for every way programs list. The order is ICU's (Intl.Collator).
import { copyFileSync, mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { basename, join } from "node:path";
import { afterAll, beforeAll, describe, expect, test } from "@jest/globals";
import { PLAIN_TRAITS, type ProgramTraits } from "../../contract/programs.ts";
import { inspectFont } from "../../core/inspect.ts";
import { linesOf, Menu, type MenuFont } from "../../core/menu/menu.ts";
import { briefOf, menuFont } from "../../core/family/brief.ts";
import { PracticeDevice } from "../../practice/device.ts";
import { OpenProgram } from "../../practice/program.ts";
import { PRACTICE_WORLD } from "../../practice/world.ts";
import { corpusFonts } from "../load/corpus.ts";

let root: string;
let device: PracticeDevice;
const fonts: MenuFont[] = [];
beforeAll(async () => {
  root = mkdtempSync(join(tmpdir(), "buvano-menus-"));
  device = new PracticeDevice(root);
  await device.prepare(join(process.cwd(), "build", "demo", "built-in"));
  for (const [i, path] of corpusFonts().entries()) copyFileSync(path, join(root, "me", `${String(i).padStart(4, "0")}-${basename(path)}`));
  await device.refreshCache();
  for (const file of await device.list()) {
    const result = inspectFont(await file.read(), basename(file.fileName));
    if (result.ok) for (const record of result.value) fonts.push(menuFont(briefOf(record), file.fileName, record.face));
  }
}, 180_000);
afterAll(() => rmSync(root, { recursive: true }));

const everyWay = PRACTICE_WORLD.flatMap((one) => one.programs)
  .map((program): [string, ProgramTraits] => [program.name, { ...program.traits, reads: ["me", "everyone", "profile", "own"] }])
  .concat([
    ["PostScript names", { ...PRACTICE_WORLD[0]!.programs[0]!.traits, reads: ["me"], lists: "postscript-names" }],
    [
      "few formats, other scripts last",
      { ...PLAIN_TRAITS, reads: ["me"], formats: ["ttf"], colour: false, symbols: false, otherScripts: "after" },
    ],
    ["sorted by Swedish rules", { ...PLAIN_TRAITS, reads: ["me"], language: "sv" }],
    ["names in Hebrew", { ...PRACTICE_WORLD[0]!.programs[1]!.traits, reads: ["me"], language: "he" }],
  ]);

describe.each(everyWay)("%s", (name, traits) => {
  test("lists what is predicted, in the predicted order, with the predicted styles", async () => {
    expect(fonts.length).toBeGreaterThan(400);
    const program = await OpenProgram.start(name, "any", traits, device);
    const listed = await program.menu();
    const menu = new Menu(fonts, traits);
    expect(listed.map((entry) => entry.label)).toEqual(menu.entries);
    for (const { label, styles } of listed) expect([label, styles]).toEqual([label, menu.stylesOf(label)]);
    const latin = new Set(fonts.filter((font) => font.latin).flatMap((font) => linesOf(font, traits).map((line) => line.label)));
    const parts =
      traits.otherScripts === "among"
        ? [listed]
        : [listed.filter((one) => latin.has(one.label)), listed.filter((one) => !latin.has(one.label))];
    const sorted = parts.flatMap((part) => part.map((one) => one.label).sort(new Intl.Collator(traits.language).compare));
    expect(menu.entries).toEqual(sorted);
    // The shortest text to type leaves that entry alone, in the program's own search box.
    for (const font of fonts.filter((_, i) => i % 40 === 0)) {
      const place = menu.place(font);
      if (place && place.type !== place.menuName) expect(await program.search(place.type)).toEqual([place.menuName]);
    }
  }, 120_000);
});
