// Cutting through the API: choices that are kept, files, what is remembered, clearance that is asked before, an SVG opened again, what a machine would follow.
import { readFileSync } from "node:fs";
import { afterAll, beforeAll, expect, test, describe } from "@jest/globals";
import { plainLine, SheetDetail, StylePage, type BenchLine } from "../../contract/bench.ts";
import { CutChoice, LineCut, MachineView } from "../../contract/cutting.ts";
import { DeviceDetail, DeviceSummary } from "../../contract/devices.ts";
import { FamilyDetail } from "../../contract/families.ts";
import { ProblemDocument } from "../../contract/problem.ts";
import { USUAL_CUT, type CutSettings } from "../../core/cutting/settings.ts";
import { Trial } from "./trial.ts";

const LOBSTER = ["/usr/share/fonts/truetype/lobster/lobster.ttf", "/usr/share/fonts/opentype/lobster/lobster.otf"];
const trial = new Trial();
let styles: StylePage["styles"];
beforeAll(async () => {
  await trial.start();
  for (const name of ["Almanac Field (complete).zip", "tendril_script_free.zip"]) await trial.shelve(await trial.bring(name));
  const [bytes] = LOBSTER.flatMap((path) => {
    try {
      return [Uint8Array.from(readFileSync(path))];
    } catch {
      return [];
    }
  });
  await trial.shelve(await trial.bring({ name: "connected.otf", bytes: bytes! }));
  styles = StylePage.parse(await trial.json("/api/bench/styles?limit=100")).styles;
}, 120_000);
afterAll(() => trial.end());

const post = (path: string, body: object) => trial.api().post(`/api${path}`).send(body).buffer(true);
const styleNamed = (family: RegExp) => styles.find((one) => family.test(one.family))!;
const line = (id: string, text: string, family: RegExp): BenchLine => plainLine(id, text, styleNamed(family));
const sheetWith = async (lines: BenchLine[], jobId: number | null = null): Promise<SheetDetail> =>
  SheetDetail.parse(
    (await post("/bench/sheets", { name: "Markers", body: { name: "Markers", jobId, ground: "#ffffff", lines } }).expect(200)).body,
  );
const look = async (sheet: number, of: string) => LineCut.parse(await trial.json(`/api/bench/sheets/${sheet}/cuts/${of}`));
const choose = async (sheet: number, of: string, settings: Partial<CutSettings>) =>
  LineCut.parse((await post(`/bench/sheets/${sheet}/cuts/${of}`, { ...USUAL_CUT, ...settings }).expect(200)).body);
const problem = (body: unknown) => ProblemDocument.parse(body).code;
const textOf = (body: unknown): string => (Buffer.isBuffer(body) ? body.toString("utf8") : String(body));

describe("a line's cut", () => {
  test("what is chosen is kept with the line, each line its own, and goes with a copy of the sheet", async () => {
    const sheet = await sheetWith([line("a", "Fennel", /Lobster/), line("b", "Fennel", /Almanac/)]);
    expect(await look(sheet.id, "a")).toEqual({ settings: null, made: [], clearance: "" });
    await choose(sheet.id, "a", { join: "word", size: { of: "width", value: 5, unit: "in" } });
    await choose(sheet.id, "b", { mirror: true });
    expect((await look(sheet.id, "a")).settings).toEqual({ ...USUAL_CUT, join: "word", size: { of: "width", value: 5, unit: "in" } });
    expect((await look(sheet.id, "b")).settings!.mirror).toBe(true);
    const copy = SheetDetail.parse((await post("/bench/sheets", { name: "Copy", copyOf: sheet.id }).expect(200)).body);
    expect((await look(copy.id, "b")).settings!.mirror).toBe(true);
    await post(`/bench/sheets/${sheet.id}/cuts/nobody`, USUAL_CUT).expect(404);
    await post(`/bench/sheets/${sheet.id}/cuts/a`, { ...USUAL_CUT, copies: 0 }).expect(400);
    expect(CutChoice.parse(USUAL_CUT)).toEqual(USUAL_CUT);
  });

  test("is saved in true size and remembered with the line of that moment, so that it can be had again after the words change", async () => {
    const sheet = await sheetWith([line("a", "Fennel", /Lobster/)]);
    await choose(sheet.id, "a", { size: { of: "whole", value: 40, unit: "mm" } });
    const files = `/bench/sheets/${sheet.id}/cuts/a/files`;
    const first = await post(files, { format: "svg" }).responseType("blob").expect(200);
    expect(first.headers["content-disposition"]).toContain("Fennel-Lobster");
    const svg = textOf(first.body);
    expect(svg).toContain('height="40mm"');
    const [made] = (await look(sheet.id, "a")).made;
    expect([
      made!.colours,
      made!.families.length,
      made!.changedSince,
      made!.numbers.overlapsBefore > 0,
      made!.numbers.overlapsAfter,
    ]).toEqual([1, 1, false, true, 0]);
    // A picture to look at is no cut.
    await post(files, { format: "png" }).expect(200);
    const changed = { ...sheet.body, lines: [{ ...sheet.body.lines[0]!, text: "Thyme" }] };
    await post(`/bench/sheets/${sheet.id}`, { body: changed, from: sheet.step }).expect(200);
    const later = (await look(sheet.id, "a")).made;
    expect([later.length, later[0]!.changedSince]).toEqual([1, true]);
    const again = textOf((await post(files, { format: "svg", again: made!.id }).responseType("blob").expect(200)).body);
    expect(again).toBe(svg);
    expect(textOf((await post(files, { format: "svg" }).responseType("blob").expect(200)).body)).toContain("<title>Thyme</title>");
    expect((await post(files, { format: "svg", again: 999 }).expect(404)).body).toBeDefined();
  });

  test("several sheets are a zip; a sheet that is too small, words that cannot be cut, and a style that is gone say so", async () => {
    const sheet = await sheetWith([line("a", "Fennel", /Lobster/), line("b", "अ", /Lobster/)]);
    const files = `/bench/sheets/${sheet.id}/cuts/a/files`;
    await choose(sheet.id, "a", { backing: { shape: "contour", mm: 3, colour: "#ffffff" }, copies: 3 });
    const zip = await post(files, { format: "dxf", apart: true }).responseType("blob").expect(200);
    expect([zip.headers["content-type"], (zip.body as Buffer).subarray(0, 2).toString()]).toEqual(["application/zip", "PK"]);
    await choose(sheet.id, "a", { sheet: { widthMm: 20, heightMm: 20 } });
    expect(problem((await post(files, { format: "svg" }).expect(422)).body)).toBe("sheet-small");
    expect(problem((await post(`/bench/sheets/${sheet.id}/cuts/b/files`, { format: "svg" }).expect(422)).body)).toBe("nothing-to-cut");
    const gone = line("c", "Fennel", /Lobster/);
    const other = await sheetWith([
      { ...gone, layers: [{ ...gone.layers[0]!, style: { ...gone.layers[0]!.style, sha256: "0".repeat(64) } }] },
    ]);
    expect(problem((await post(`/bench/sheets/${other.id}/cuts/c/files`, { format: "svg" }).expect(422)).body)).toBe("style-gone");
  });

  test("clearance is asked before, and what is saved all the same is noted", async () => {
    const [tendril] = [styleNamed(/Tendril/)];
    const job = (
      await post("/jobs", { name: "Shop markers", uses: ["sold"], languages: [], words: "", familyIds: [tendril.familyId], deviceIds: [] })
    ).body as {
      id: number;
    };
    const sheet = await sheetWith([line("a", "Fennel", /Tendril/)], job.id);
    const files = `/bench/sheets/${sheet.id}/cuts/a/files`;
    expect((await look(sheet.id, "a")).clearance).toMatch(/Tendril Script/);
    expect(problem((await post(files, { format: "svg" }).expect(409)).body)).toBe("not-cleared");
    expect((await look(sheet.id, "a")).made).toEqual([]);
    await post(files, { format: "svg", despite: true }).expect(200);
    const { history } = FamilyDetail.parse(await trial.json(`/api/families/${tendril.familyId}`));
    expect(history.map(({ sentence }) => sentence)).toContain("A cut of Tendril Script was saved although it is not cleared for its job.");
  });
});

describe("files of cuts", () => {
  test("an SVG is opened again as the same live line with its choices; other files are refused in words", async () => {
    const sheet = await sheetWith([line("a", "Wild & <fennel>", /Lobster/)]);
    await choose(sheet.id, "a", { join: "word", mirror: true, limitMm: 0.8 });
    const svg = (await post(`/bench/sheets/${sheet.id}/cuts/a/files`, { format: "svg" }).responseType("blob").expect(200)).body as Buffer;
    const empty = await sheetWith([]);
    const send = (id: number, bytes: Buffer) => trial.api().post(`/api/bench/sheets/${id}/open-cut`).attach("file", bytes, "cut.svg");
    const opened = SheetDetail.parse((await send(empty.id, svg).expect(200)).body);
    expect(opened.body.lines).toEqual(sheet.body.lines);
    expect((await look(empty.id, "a")).settings).toEqual((await look(sheet.id, "a")).settings);
    // On a sheet that has a line of that name already it becomes another.
    const twice = SheetDetail.parse((await send(empty.id, svg).expect(200)).body);
    expect(twice.body.lines.map(({ id }) => id)).toEqual(["a", "a-2"]);
    for (const bytes of ["<svg/>", "", svg.toString().replace("&quot;text&quot;", "&quot;txt&quot;")])
      expect(problem((await send(empty.id, Buffer.from(bytes)).expect(422)).body)).toBe("not-own-svg");
    expect(SheetDetail.parse(await trial.json(`/api/bench/sheets/${empty.id}`)).body.lines).toHaveLength(2);
  });

  test("a practice machine cuts raw text through itself, and joined text clean", async () => {
    const device = DeviceSummary.array()
      .parse(await trial.json("/api/devices"))
      .find(({ name }) => name === "Workshop laptop")!;
    const { programs } = DeviceDetail.parse(await trial.json(`/api/devices/${device.id}`));
    const desk = programs.find(({ kind }) => kind === "cutting")!;
    const other = programs.find(({ kind }) => kind === "office")!;
    for (const { id } of [desk, other]) await post(`/practice/${id}/open`, {}).expect(200);
    const typed = { font: "Aster Plain", text: "fennel", sizePt: 60 };
    const raw = MachineView.parse((await post(`/practice/${desk.id}/machine`, typed).expect(200)).body);
    expect([raw.outlines > 5, raw.lengthMm > 100]).toEqual([true, true]);
    const sheet = await sheetWith([line("a", "Fennel", /Lobster/)]);
    const cutBy = async (join: CutSettings["join"]) => {
      await choose(sheet.id, "a", { join });
      const svg = (await post(`/bench/sheets/${sheet.id}/cuts/a/files`, { format: "svg" }).responseType("blob").expect(200)).body as Buffer;
      return MachineView.parse(
        (await trial.api().post(`/api/practice/${desk.id}/machine-file`).attach("file", svg, "cut.svg").expect(200)).body,
      );
    };
    const [plain, joined] = [await cutBy("nothing"), await cutBy("line")];
    expect([plain.crossed > 0, joined.crossed, joined.lengthMm < plain.lengthMm]).toEqual([true, 0, true]);
    expect(problem((await post(`/practice/${other.id}/machine`, typed).expect(409)).body)).toBe("no-machine");
    expect(
      problem((await trial.api().post(`/api/practice/${desk.id}/machine-file`).attach("file", Buffer.from("x"), "x.svg").expect(422)).body),
    ).toBe("no-paths");
  });
});
