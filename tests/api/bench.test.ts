// The bench through the API: sheets that are kept and undone step by step, decisions, features, glyphs, which style draws what, proofs.
import { execFileSync } from "node:child_process";
import { readFileSync } from "node:fs";
import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, beforeAll, describe, expect, test } from "@jest/globals";
import {
  Draws,
  GlyphPage,
  plainLine,
  SheetDetail,
  SheetSummary,
  SignsFound,
  StyleFeatures,
  StylePage,
  type BenchLine,
  type SheetBody,
} from "../../contract/bench.ts";
import { HistoryEvent } from "../../contract/history.ts";
import { JobDetail } from "../../contract/jobs.ts";
import { Trial } from "./trial.ts";

const EB_GARAMOND = "/usr/share/fonts/opentype/ebgaramond/EBGaramond12-Regular.otf";
const trial = new Trial();
const dir = mkdtempSync(join(tmpdir(), "buvano-bench-"));
let styles: StylePage["styles"];
beforeAll(async () => {
  await trial.start();
  for (const name of ["Almanac Field (complete).zip", "Seedbox-Layered.zip", "seedmarks.zip", "shvil-hebrew.zip", "trellis-fair.zip"])
    await trial.shelve(await trial.bring(name));
  await trial.shelve(await trial.bring({ name: "features.otf", bytes: Uint8Array.from(readFileSync(EB_GARAMOND)) }));
  styles = StylePage.parse(await trial.json("/api/bench/styles?limit=100")).styles;
}, 120_000);
afterAll(async () => {
  await trial.end();
  rmSync(dir, { recursive: true });
});

const post = async (path: string, body: object, status = 200) =>
  (await trial.api().post(`/api${path}`).send(body).expect(status)).body as unknown;
const sheetOf = async (id: number) => SheetDetail.parse(await trial.json(`/api/bench/sheets/${id}`));
const styleNamed = (family: string, style = "Regular") => {
  const found = styles.find((one) => one.family === family && one.style === style);
  if (!found) throw new Error(`No ${family} ${style} among ${styles.map((one) => one.family).join()}`);
  return found;
};
const line = (id: string, text: string, family: string, style = "Regular"): BenchLine => plainLine(id, text, styleNamed(family, style));
const made = async (lines: BenchLine[], more: Partial<SheetBody> = {}) =>
  SheetDetail.parse(
    await post("/bench/sheets", { name: "Poster", body: { name: "Poster", jobId: null, ground: "#ffffff", lines, ...more } }),
  );

describe("sheets", () => {
  test("are kept, changed, undone and done again step by step", async () => {
    const sheet = await made([line("a", "Spring", "Almanac Field")]);
    expect([sheet.canUndo, sheet.canRedo]).toEqual([false, false]);
    const words = ["Spring opening", "Spring opening, 14 March"];
    let last = sheet;
    for (const text of words)
      last = SheetDetail.parse(
        await post(`/bench/sheets/${sheet.id}`, { body: { ...last.body, lines: [{ ...last.body.lines[0]!, text }] }, from: last.step }),
      );
    const back = SheetDetail.parse(await post(`/bench/sheets/${sheet.id}/step`, { back: true }));
    expect([back.body.lines[0]!.text, back.canUndo, back.canRedo]).toEqual(["Spring opening", true, true]);
    await post(`/bench/sheets/${sheet.id}/step`, { back: true });
    expect((await sheetOf(sheet.id)).body.lines[0]!.text).toBe("Spring");
    await post(`/bench/sheets/${sheet.id}/step`, { back: true }, 409);
    await post(`/bench/sheets/${sheet.id}/step`, { back: false });
    const again = SheetDetail.parse(await post(`/bench/sheets/${sheet.id}/step`, { back: false }));
    expect(again.body.lines[0]!.text).toBe("Spring opening, 14 March");
    await post(`/bench/sheets/${sheet.id}/step`, { back: false }, 409);
  });

  test("as full as they may be are kept, and more is refused with what to do", async () => {
    const text = "שלום Peace 🌻 ".repeat(1000).slice(0, 10_000);
    const lines = Array.from({ length: 200 }, (_, i) => line(`l${i}`, text, "Almanac Field"));
    const { id } = await made(lines);
    expect((await sheetOf(id)).body.lines.map((one) => one.text.length)).toEqual(lines.map(() => 10_000));
    const name = "x".repeat(30 * 1024 * 1024);
    const refused = (await post("/bench/sheets", { name, body: {} }, 413)) as { detail: string; next: string };
    expect([refused.detail, refused.next]).toEqual([
      expect.stringContaining("Nothing was changed"),
      expect.stringContaining("Make it smaller"),
    ]);
  });

  test("a change made elsewhere meanwhile is not written over", async () => {
    const sheet = await made([line("a", "Spring", "Almanac Field")]);
    const renamed = { ...sheet.body, name: "Another" };
    await post(`/bench/sheets/${sheet.id}`, { body: renamed, from: sheet.step });
    const refused = (await post(`/bench/sheets/${sheet.id}`, { body: sheet.body, from: sheet.step }, 409)) as { code: string };
    expect([refused.code, (await sheetOf(sheet.id)).body.name]).toEqual(["sheet-changed", "Another"]);
  });

  test("a change after going back forgets what was taken back; only the latest steps are kept", async () => {
    const sheet = await made([line("a", "0", "Almanac Field")]);
    let last = sheet;
    for (let i = 1; i <= 205; i++)
      last = SheetDetail.parse(
        await post(`/bench/sheets/${sheet.id}`, {
          body: { ...last.body, lines: [{ ...last.body.lines[0]!, text: String(i) }] },
          from: last.step,
        }),
      );
    await post(`/bench/sheets/${sheet.id}/step`, { back: true });
    const changed = SheetDetail.parse(await post(`/bench/sheets/${sheet.id}`, { body: { ...last.body, name: "Other" }, from: 205 }));
    expect([changed.canRedo, changed.step]).toEqual([false, 206]);
    for (let i = 0; i < 198; i++) await post(`/bench/sheets/${sheet.id}/step`, { back: true });
    const earliest = SheetDetail.parse(await post(`/bench/sheets/${sheet.id}/step`, { back: true }));
    expect([earliest.canUndo, earliest.body.lines[0]!.text]).toEqual([false, "6"]);
  }, 60_000);

  test("made under a name that is taken have a name of their own", async () => {
    const named = async () => SheetDetail.parse(await post("/bench/sheets", { name: "Twice told" })).body.name;
    expect([await named(), await named(), await named()]).toEqual(["Twice told", "Twice told 2", "Twice told 3"]);
  });
  test("are found again after a restart, duplicated, removed and had back from the history", async () => {
    const sheet = await made([line("a", "Wild fennel", "Seedbox Block")]);
    await trial.restart();
    const copy = SheetDetail.parse(await post("/bench/sheets", { name: "Poster copy", copyOf: sheet.id }));
    expect(copy.body).toEqual({ ...sheet.body, name: "Poster copy" });
    await post(`/bench/sheets/${sheet.id}/remove`, { removed: true });
    const listed = async () =>
      SheetSummary.array()
        .parse(await trial.json("/api/bench/sheets"))
        .map(({ id }) => id);
    expect(await listed()).not.toContain(sheet.id);
    await trial.api().get(`/api/bench/sheets/${sheet.id}`).expect(404);
    const events = HistoryEvent.array().parse(await trial.json("/api/history/undoable"));
    await post(`/history/${events.find(({ kind }) => kind === "sheet")!.id}/undo`, {});
    expect(await listed()).toContain(sheet.id);
  });

  test("a style that is not in the library stays named", async () => {
    const gone = line("a", "Wild fennel", "Almanac Field");
    const style = { sha256: "0".repeat(64), face: 0, family: "Lost Meadow", style: "Regular" };
    const sheet = await made([{ ...gone, layers: [{ ...gone.layers[0]!, style }] }]);
    expect(sheet.styles).toEqual([expect.objectContaining({ there: false, styleId: null, family: "Lost Meadow", style: "Regular" })]);
    const proof = await trial.api().post(`/api/bench/sheets/${sheet.id}/proof`).send({ kind: "html", paper: "a4" }).expect(200);
    expect(proof.text).toContain("Lost Meadow Regular (not in the library)");
  });

  test.each([
    ["no name", { name: " " }],
    ["a colour that is none", { name: "x", body: { name: "x", jobId: null, ground: "red", lines: [] } }],
    ["a line without layers", { name: "x", body: { name: "x", jobId: null, ground: "#ffffff", lines: [{ id: "a" }] } }],
  ])("refuses %s", async (_what, body) => {
    await post("/bench/sheets", body, 400);
  });
  test("takes 10,000 characters and refuses more", async () => {
    const long = line("a", "x".repeat(10_000), "Almanac Field");
    await made([long]);
    const more = { name: "P", body: { name: "P", jobId: null, ground: "#ffffff", lines: [{ ...long, text: "x".repeat(10_001) }] } };
    await post("/bench/sheets", more, 400);
  });
});

describe("styles on a sheet", () => {
  test("bold and italic of their own, layers made for one another, hollow capitals", async () => {
    const sheet = await made([line("a", "A", "Almanac Field"), line("b", "B", "Seedbox Block"), line("c", "C", "Trellis Fair")]);
    const of = (family: string) => sheet.styles.find((one) => one.family === family)!;
    expect([of("Almanac Field").bold?.style, of("Almanac Field").italic?.style]).toEqual(["Bold", "Italic"]);
    expect([of("Seedbox Block").bold, of("Seedbox Block").layers.map(({ family }) => family)]).toEqual([null, ["Seedbox Block Shade"]]);
    expect(of("Trellis Fair").capitals).toMatch(/Capitals are outlines/);
  });
  test("a decision is recorded in the job, with what was considered; without a job it is refused", async () => {
    const lines = [line("a", "A", "Almanac Field"), line("b", "A", "Trellis Fair")];
    const [first, second] = lines.map(({ layers }) => layers[0]!.style) as [
      BenchLine["layers"][0]["style"],
      BenchLine["layers"][0]["style"],
    ];
    const request = { lineId: "sheet", chosen: second, considered: [first, second] };
    const free = await made(lines);
    await post(`/bench/sheets/${free.id}/decide`, request, 409);
    const job = { name: "Opening poster", uses: ["given-away"], languages: [], words: "", familyIds: [], deviceIds: [] };
    const { id: jobId } = JobDetail.parse(await post("/jobs", job));
    const sheet = await made(lines, { jobId });
    const decided = SheetDetail.parse(await post(`/bench/sheets/${sheet.id}/decide`, request));
    expect(decided.decisions.map(({ style, chosen }) => [style.family, chosen])).toEqual([
      ["Trellis Fair", true],
      ["Almanac Field", false],
    ]);
    const { choices, familyIds } = JobDetail.parse(await trial.json(`/api/jobs/${jobId}`));
    expect(choices.map(({ family, chosen }) => [family, chosen])).toEqual([
      ["Trellis Fair", true],
      ["Almanac Field", false],
    ]);
    expect(familyIds).toEqual([styleNamed("Trellis Fair").familyId]);
    expect(decided.styles.every(({ clearance }) => clearance !== "")).toBe(true);
    // Deciding anew replaces it.
    await post(`/bench/sheets/${sheet.id}/decide`, { ...request, chosen: first });
    const again = JobDetail.parse(await trial.json(`/api/jobs/${jobId}`));
    expect(again.choices.filter(({ chosen }) => chosen).map(({ family }) => family)).toEqual(["Almanac Field"]);
  });
});

describe("glyphs", () => {
  const glyphs = async (styleId: number, query: string) => GlyphPage.parse(await trial.json(`/api/styles/${styleId}/glyphs?${query}`));
  test("are found by word, by code point, by pasting, by number, by block and by look", async () => {
    const { styleId } = styleNamed("Seedmarks Two");
    expect((await glyphs(styleId, "find=watering")).glyphs.map(({ title }) => title)).toEqual(["watering can"]);
    expect((await glyphs(styleId, "find=U%2BE204")).glyphs.map(({ title }) => title)).toEqual(["watering can"]);
    expect((await glyphs(styleId, `find=${encodeURIComponent("\ue204")}`)).glyphs.map(({ title }) => title)).toEqual(["watering can"]);
    const all = await glyphs(styleId, "");
    expect([all.total, all.blocks]).toEqual([
      7,
      [
        { name: "Basic Latin", count: 1 },
        { name: "The font's own signs", count: 5 },
        { name: "Without a character", count: 1 },
      ],
    ]);
    const can = all.glyphs.find(({ title }) => title === "watering can")!;
    expect((await glyphs(styleId, `find=%23${can.glyph}`)).glyphs.map(({ glyph }) => glyph)).toEqual([can.glyph]);
    expect((await glyphs(styleId, `find=~${can.glyph}`)).glyphs[0]!.glyph).toBe(can.glyph);
    expect((await glyphs(styleId, `block=${encodeURIComponent("Basic Latin")}`)).total).toBe(1);
    expect([(await glyphs(styleId, "kind=signs")).total, (await glyphs(styleId, "kind=letters")).total]).toEqual([5, 0]);
    const hebrew = await glyphs(styleNamed("Shvil Text").styleId, "script=Hebrew&kind=letters");
    expect(hebrew.total).toBeGreaterThanOrEqual(27);
    expect(hebrew.glyphs[0]!.title).toBe("HEBREW LETTER ALEF");
    // CLDR's Hebrew word for a comma finds it in a Hebrew family.
    expect(
      (await glyphs(styleNamed("Shvil Hand").styleId, `find=${encodeURIComponent("פסיק")}`)).glyphs.map(({ title }) => title),
    ).toContain("COMMA");
  });
  test("without a character are told how to get them, in words", async () => {
    const { styleId } = styles.find(({ family }) => /Garamond/.test(family))!;
    const { glyphs: found } = await glyphs(styleId, "find=1");
    const sentences = found.flatMap(({ ways }) => ways.map(({ sentence }) => sentence));
    expect(sentences).toContain("Write 1, turn on Lining figures.");
    const { features } = StyleFeatures.parse(await trial.json(`/api/styles/${styleId}/features`));
    const small = features.find(({ tag }) => tag === "smcp")!;
    expect([small.name, small.byItself, small.programs]).toEqual(["Small capitals", false, ["Poster Desk"]]);
    expect(features.map(({ tag }) => tag)).not.toContain("kern");
  });
  test("facts are kept: a second look reads no font", async () => {
    const { styleId, sha256 } = styleNamed("Seedmarks One");
    await glyphs(styleId, "");
    const kept = trial.parts.db.prepare("SELECT length(glyphs) FROM glyph_facts WHERE sha256 = ?").pluck().get(sha256);
    expect(kept).toBeGreaterThan(0);
    await trial.restart();
    expect((await glyphs(styleId, "")).total).toBe(6);
  });
  test("a face that took its thread along twice is given up, in words", async () => {
    const { styleId, sha256, face } = styleNamed("Trellis Fair");
    for (let i = 0; i < 2; i++) trial.parts.bench.beginGlyphs(sha256, face, 1);
    const { body } = await trial.api().get(`/api/styles/${styleId}/glyphs`).expect(422);
    expect((body as { detail: string }).detail).toMatch(/cannot be listed/);
  });
  test("which styles draw a character, and which member of a family does not", async () => {
    const { familyId } = styleNamed("Seedmarks One");
    const { characters } = Draws.parse(await trial.json(`/api/draws?text=${encodeURIComponent("\ue204א")}&family=${familyId}`));
    expect(characters.map(({ total, styles: who }) => [total, who.map(({ family }) => family)])).toEqual([
      [1, ["Seedmarks Two"]],
      [2, ["Shvil Hand", "Shvil Text"]],
    ]);
    expect(characters[0]!.members.map(({ draws }) => draws)).toEqual([false]);
    expect(characters[1]!.title).toBe("HEBREW LETTER ALEF");
  });
  test("signs are found by word in every style: what fonts call their own, and Unicode's", async () => {
    const signs = async (find: string) => SignsFound.parse(await trial.json(`/api/draws/signs?find=${encodeURIComponent(find)}`)).signs;
    for (const until = Date.now() + 20_000; (await signs("watering")).length === 0 && Date.now() < until;)
      await new Promise((resolve) => setTimeout(resolve, 50));
    expect((await signs("watering can")).map(({ title, style }) => [title, style.family])).toEqual([["watering can", "Seedmarks Two"]]);
    expect((await signs("hebrew alef"))[0]).toMatchObject({ codePoint: 0x5d0, title: "HEBREW LETTER ALEF", total: 2 });
    expect([await signs("zyx"), await signs("!?")]).toEqual([[], []]);
  }, 30_000);
  test("styles in the order of how they draw a letter: the model first, its own family before a block face", async () => {
    const model = styleNamed("Almanac Field");
    const like = encodeURIComponent(`${model.sha256}#${model.face}`);
    const page = StylePage.parse(await trial.json(`/api/bench/styles?letter=${"R".codePointAt(0)}&like=${like}&limit=100`));
    const names = page.styles.map(({ family, style }) => `${family} ${style}`);
    expect(names[0]).toBe("Almanac Field Regular");
    expect(names.indexOf("Almanac Field Medium")).toBeLessThan(names.indexOf("Seedbox Block Regular"));
    expect(names.slice(-2).every((name) => /Shvil|Seedmarks/.test(name))).toBe(true);
  });
});

describe("proofs", () => {
  /** poppler's pdffonts and pdftotext read what was written. */
  test("hold their fonts as fonts, and the words as words; each candidate its names and clearance", async () => {
    const sheet = await made([line("a", "Spring opening", "Almanac Field"), line("b", "שביל הזרעים", "Shvil Text")]);
    const { body } = await trial
      .api()
      .post(`/api/bench/sheets/${sheet.id}/proof`)
      .send({ kind: "pdf", paper: "letter" })
      .expect(200)
      .buffer();
    const path = join(dir, "proof.pdf");
    writeFileSync(path, body as Buffer);
    const fonts = execFileSync("pdffonts", [path], { encoding: "utf8" });
    for (const name of ["AlmanacField-Regular", "ShvilText-Regular"])
      expect(fonts).toMatch(new RegExp(`\\+${name}\\s+CID TrueType\\s+Identity-H\\s+yes yes yes`));
    const text = execFileSync("pdftotext", ["-layout", path, "-"], { encoding: "utf8" });
    for (const words of ["Spring opening", "Almanac Field Regular", "Shvil Text Regular", "A", "B"]) expect(text).toContain(words);
    expect([...text.normalize("NFC")].filter((letter) => /[א-ת]/.test(letter)).length).toBe(10);
    expect(execFileSync("pdfinfo", [path], { encoding: "utf8" })).toMatch(/Page size:\s+612 x 792 pts \(letter\)/);
  });
  test("an empty sheet is refused in words", async () => {
    const sheet = await made([]);
    const { body } = await trial.api().post(`/api/bench/sheets/${sheet.id}/proof`).send({ kind: "pdf", paper: "a4" }).expect(422);
    expect((body as { detail: string }).detail).toBe("There is no line on this sheet to prove.");
  });
  test("long texts flow over pages; nothing leaves the page", async () => {
    const sheet = await made([line("a", "Wild fennel along the seed walk. ".repeat(150), "Almanac Field")]);
    const { body } = await trial.api().post(`/api/bench/sheets/${sheet.id}/proof`).send({ kind: "pdf", paper: "a4" }).expect(200).buffer();
    const path = join(dir, "long.pdf");
    writeFileSync(path, body as Buffer);
    const boxes = execFileSync("pdftotext", ["-bbox", path, "-"], { encoding: "utf8" });
    const words = [...boxes.matchAll(/xMin="([\d.]+)" yMin="([\d.]+)" xMax="([\d.]+)" yMax="([\d.]+)"/g)].map((all) =>
      all.slice(1).map(Number),
    );
    expect(words.length).toBeGreaterThan(150 * 6);
    expect(words.filter(([xMin, yMin, xMax, yMax]) => xMin! < 0 || yMin! < 0 || xMax! > 595.3 || yMax! > 841.9)).toEqual([]);
    expect([...boxes.matchAll(/<page /g)].length).toBeGreaterThan(3);
  });
});
