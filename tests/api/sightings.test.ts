// Sightings over HTTP: looking by eye, evidence of several kinds, why a style is not there (planted faults), programs people name, probe pages.
import { execFileSync } from "node:child_process";
import { copyFileSync, readdirSync, readFileSync, rmSync, utimesSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { unzipSync, zipSync } from "fflate";
import { afterEach, beforeEach, describe, expect, test } from "@jest/globals";
import { DeviceDetail } from "../../contract/devices.ts";
import { FamilyDetail } from "../../contract/families.ts";
import { PlanView, type PlanRequest } from "../../contract/placing.ts";
import { ProgramSummary, USUAL_TRAITS, type ProgramRequest } from "../../contract/programs.ts";
import { Board, Cell, Diagnosis, LookAnswer, LookedMany, type Sighting } from "../../contract/sightings.ts";
import { makeProbe } from "../../core/evidence/probe.ts";
import { readEvidence } from "../../core/evidence/read.ts";
import type { StyleRow } from "../../server/store/families/families.ts";
import { builtInFont, Trial } from "./trial.ts";

/** Every style on the shelf, with its whole record. */
const allStyles = (): StyleRow[] =>
  (trial.parts.db.prepare("SELECT DISTINCT family_id FROM styles").pluck().all() as number[]).flatMap((id) =>
    trial.parts.library.stylesOf(id),
  );

let trial: Trial;
/** Trellis Fair, shelved. */
let familyId: number;
let styleId: number;
beforeEach(async () => {
  trial = new Trial();
  await trial.start();
  [familyId] = (await trial.shelve(await trial.bring("trellis-fair.zip"))) as [number];
  styleId = trial.parts.library.stylesOf(familyId)[0]!.id;
});
afterEach(() => trial.end());

const post = async (path: string, body: object = {}, status = 200): Promise<unknown> =>
  (await trial.api().post(`/api${path}`).send(body).expect(status)).body as unknown;
const place = async (request: Partial<PlanRequest> & { deviceId: number }, passcode?: string): Promise<void> => {
  const plan = PlanView.parse(await post("/plans", { action: "place", familyIds: [familyId], ...request }));
  await post(`/plans/${plan.id}/do`, { passcode });
};
const cell = async (programId: number) => Cell.parse(await trial.json(`/api/cells/${styleId}/${programId}`));
const reasons = async (programId: number, style = styleId) =>
  Diagnosis.parse(await trial.json(`/api/cells/${style}/${programId}/diagnosis`)).reasons.map((one) => [one.code, one.act]);
const looked = async (programId: number, saw: string, who = "Mara", despite = "") =>
  LookAnswer.parse(await post(`/cells/${styleId}/${programId}/look`, { saw, who, despite }));
const look = async (programId: number, saw: string, who = "Mara"): Promise<Sighting> => (await looked(programId, saw, who)).sighting!;
const programId = async (deviceId: number, name: string): Promise<number> =>
  DeviceDetail.parse(await trial.json(`/api/devices/${deviceId}`)).programs.find((program) => program.name === name)!.id;
const laptopFonts = () => join(trial.dataDir, "practice", "workshop-laptop", "me");
const LETTER = 1;
const POSTER = 2;

describe("looking with one's own eyes", () => {
  test("is kept with who looked and when, and ages when the font is placed again", async () => {
    await place({ deviceId: 1 });
    await post(`/practice/${LETTER}/open`);
    expect((await cell(LETTER)).state).toBe("due");
    expect(await look(LETTER, "not-there")).toMatchObject({
      result: "not-there",
      means: "eye",
      who: "Mara",
      sentence: "Mara looked, and it was not listed.",
    });
    expect(await cell(LETTER)).toMatchObject({ state: "due", reason: expect.stringContaining("somebody looked") });
    expect((await look(LETTER, "wrong")).result).toBe("swapped");
    expect((await look(LETTER, "there", "")).sentence).toMatch(/^Somebody saw/);
    expect((await cell(LETTER)).state).toBe("seen");
    const { history, sightings } = FamilyDetail.parse(await trial.json(`/api/families/${familyId}`));
    expect([sightings.length, history[0]!.sentence]).toEqual([
      3,
      expect.stringContaining("in Letter Desk on Workshop laptop: Somebody saw it"),
    ]);
    for (const action of ["remove", "place"] as const) await place({ deviceId: 1, action });
    expect((await cell(LETTER)).state).toBe("reopen");
    await post(`/practice/${LETTER}/close`);
    await post(`/practice/${LETTER}/open`);
    expect(await cell(LETTER)).toMatchObject({ state: "due", reason: expect.stringContaining("before it was placed again") });
    await post(`/cells/${styleId}/${LETTER}/look`, { saw: "maybe" }, 400);
  });
});

test("a word against what the device knows is asked about, kept as said, and counts for nothing", async () => {
  await place({ deviceId: 1 });
  expect((await cell(LETTER)).state).toBe("reopen");
  expect(await looked(LETTER, "there")).toEqual({ question: expect.stringContaining("has not been reopened"), sighting: null });
  expect((await cell(LETTER)).earlier).toEqual([]);
  const { sighting } = await looked(LETTER, "there", "Mara", "sure");
  expect(sighting!.sentence).toMatch(/^Mara saw it listed and drawn as it should be\. What is known speaks against it: Letter Desk reads/);
  expect((await cell(LETTER)).state).toBe("reopen");
  // A practice program is known to be closed, whatever is said.
  expect((await looked(LETTER, "there", "", "reopened")).sighting).not.toBeNull();
  expect((await cell(LETTER)).state).toBe("reopen");
  await post(`/practice/${LETTER}/open`);
  expect((await cell(LETTER)).state).toBe("due");
  expect(await looked(LETTER, "there", "")).toMatchObject({ question: "", sighting: { result: "seen" } });
  expect(await cell(LETTER)).toMatchObject({ state: "seen", reason: "You saw it in Letter Desk." });
});

test("of many cells those that cannot be are left out until somebody is sure", async () => {
  await place({ deviceId: 1 });
  await post(`/practice/${POSTER}/open`);
  const cells = [LETTER, POSTER].map((program) => ({ styleId, programId: program }));
  const first = LookedMany.parse(await post("/board/look", { cells, saw: "there" }));
  expect(first).toMatchObject({
    sentence: "1 style seen in Poster Desk.",
    doubted: [cells[0]],
    question: expect.stringContaining("reopened"),
  });
  const rest = LookedMany.parse(await post("/board/look", { cells: first.doubted, saw: "there" }));
  expect([rest.historyId, rest.doubted]).toEqual([null, first.doubted]);
  const sure = LookedMany.parse(await post("/board/look", { cells: first.doubted, saw: "there", despite: "sure" }));
  expect([sure.doubted, (await cell(LETTER)).state, (await cell(POSTER)).state]).toEqual([[], "reopen", "seen"]);
});

test("a copied library keeps what was seen: the bytes count, not the times of files", async () => {
  await place({ deviceId: 1 });
  await post(`/practice/${POSTER}/open`);
  await look(POSTER, "there");
  const placed = readdirSync(laptopFonts()).map((name) => join(laptopFonts(), name));
  await trial.restart(() => {
    for (const path of placed) utimesSync(path, new Date("2030-01-01"), new Date("2030-01-01"));
  });
  await post("/devices/1/rescan");
  expect((await cell(POSTER)).state).toBe("seen");
  // That its device noticed the font is not forgotten either: Letter Desk has only to be reopened.
  expect((await cell(LETTER)).state).toBe("reopen");
  expect(trial.parts.externalChanges.latestOf(1, trial.parts.library.stylesOf(familyId)[0]!.sha256, "")).toBeUndefined();
  // Other bytes of the same length are another file.
  const bytes = readFileSync(placed[0]!);
  bytes[bytes.length - 1]! ^= 1;
  writeFileSync(placed[0]!, bytes);
  await post("/devices/1/rescan");
  expect((await cell(POSTER)).state).not.toBe("seen");
});

test("looking again at a device makes a sighting due when another file of its name has come there", async () => {
  await place({ deviceId: 1 });
  await post(`/practice/${POSTER}/open`);
  await look(POSTER, "there");
  await post("/devices/1/rescan");
  expect((await cell(POSTER)).state).toBe("seen");
  const [name] = readdirSync(laptopFonts());
  writeFileSync(join(laptopFonts(), "other.ttf"), Buffer.concat([readFileSync(join(laptopFonts(), name!)), Buffer.alloc(8)]));
  await post("/devices/1/rescan");
  expect(await cell(POSTER)).toMatchObject({ state: "due", reason: expect.stringContaining("Another file of the same name") });
  await look(POSTER, "there");
  expect((await cell(POSTER)).state).toBe("seen");
  rmSync(join(laptopFonts(), "other.ttf"));
});

test("the board has a row a family, or a row a style, each style with its own state", async () => {
  const [almanac] = (await trial.shelve(await trial.bring("Almanac Field (complete).zip"))) as [number];
  const styles = trial.parts.library.stylesOf(almanac);
  await look(POSTER, "there");
  const families = Board.parse(await trial.json("/api/board"));
  expect(families.rows.filter((row) => row.familyId === almanac).map((row) => row.styleId)).toEqual([null]);
  const { rows } = Board.parse(await trial.json("/api/board?by=styles"));
  const own = rows.filter((row) => row.familyId === almanac);
  expect(own.length).toBe(styles.length);
  expect(new Set(own.flatMap((row) => row.cells.map((one) => one.styleId)))).toEqual(new Set(styles.map((style) => style.id)));
  await trial.api().get("/api/board?by=letters").expect(400);
});

test("a shelved style's file can be saved, to be loaded by hand where no folder is read", async () => {
  const style = trial.parts.library.style(styleId)!;
  const saved = await trial.api().get(`/api/styles/${styleId}/file`).expect(200);
  expect(saved.headers["content-disposition"]).toBe(`attachment; filename=${style.record.postScriptName}.ttf`);
  expect(Buffer.compare(saved.body as Buffer, Buffer.from(await trial.parts.files.read(style.sha256)))).toBe(0);
  await trial.api().get("/api/styles/9999/file").expect(404);
});

describe("evidence of other kinds", () => {
  test("a program's own SVG shows the font it holds; one without it names the stand-in", async () => {
    await place({ deviceId: 1 });
    await post(`/practice/${POSTER}/open`);
    const svg = async (font: string) =>
      (
        await trial
          .api()
          .post(`/api/practice/${POSTER}/svg`)
          .send({ font, text: "Wild fennel", sizePt: 20 })
          .buffer(true)
          .parse((response, done) => {
            const parts: Buffer[] = [];
            response.on("data", (part: Buffer) => parts.push(part));
            response.on("end", () => done(null, Buffer.concat(parts)));
          })
          .expect(200)
      ).body as Buffer;
    const give = async (bytes: Buffer, name: string, query = "", status = 200) =>
      (await trial.api().post(`/api/cells/${styleId}/${POSTER}/evidence${query}`).attach("file", bytes, name).expect(status)).body as {
        state?: string;
        code?: string;
        question?: string;
        sighting?: Sighting | null;
      };
    const seen = await give(await svg("Trellis Fair"), "a.svg");
    expect([seen.state, seen.sighting?.result, seen.sighting?.kept]).toEqual(["seen", "seen", true]);
    // What shows none of it is not recorded before somebody was asked.
    const other = await give(await svg("Nowhere"), "a.svg");
    expect([other.state, other.sighting, other.question]).toEqual(["not-in-it", null, expect.stringContaining("or is it another file?")]);
    expect((await cell(POSTER)).state).toBe("seen");
    const sure = await give(await svg("Nowhere"), "a.svg", "?sure=1");
    expect([sure.sighting?.result, sure.sighting?.instead]).toEqual(["swapped", ["Aster Plain"]]);
    expect((await cell(POSTER)).state).toBe("swapped");
    const asked = await give(Buffer.from("<!doctype html><p style='font-family: Trellis Fair'>x"), "a.html");
    expect([asked.state, asked.sighting?.result]).toEqual(["asked-for", "asked-for"]);
    // Asking for it takes nothing from what was shown.
    expect((await cell(POSTER)).state).toBe("swapped");
    expect((await give(Buffer.from("<svg><path d='M0 0'/></svg>"), "a.svg", "", 422)).code).toBe("svg-outlines");
  });
  test("a sighting is taken back, and what was seen before counts again; its file can be had", async () => {
    await place({ deviceId: 1 });
    const page = Buffer.from("<!doctype html><p style='font-family: Trellis Fair'>x");
    const { body } = await trial.api().post(`/api/cells/${styleId}/${POSTER}/evidence`).attach("file", page, "page.html").expect(200);
    const { sighting } = body as { sighting: Sighting };
    const file = await trial.api().get(`/api/sightings/${sighting.id}/file`).buffer(true).expect(200);
    expect([file.headers["content-disposition"], file.headers["content-type"]]).toEqual([
      "attachment; filename=page.html",
      "application/octet-stream",
    ]);
    expect(Buffer.compare(file.body as Buffer, page)).toBe(0);
    const { id } = await look(POSTER, "wrong");
    expect((await cell(POSTER)).state).toBe("swapped");
    await trial.api().post(`/api/sightings/${id}/take-back`).send({ back: true }).expect(200);
    const after = await cell(POSTER);
    expect([after.state, after.earlier.map((one) => one.result)]).toEqual(["due", ["asked-for"]]);
    expect(after.reason).toContain("asks for it");
    await trial.api().post(`/api/sightings/${id}/take-back`).send({ back: false }).expect(200);
    expect((await cell(POSTER)).state).toBe("swapped");
    await trial.api().post("/api/sightings/9999/take-back").send({ back: true }).expect(404);
    // What settings do not leave room for goes.
    await trial.api().post("/api/settings").send({ keepEvidence: false }).expect(200);
    const unkept = await trial
      .api()
      .post(`/api/cells/${styleId}/${POSTER}/evidence`)
      .attach("file", Buffer.concat([page, page]), "b.html");
    expect((unkept.body as { sighting: Sighting }).sighting.kept).toBe(false);
  });
  test("a file from before the font was placed, or from another program, is asked about first", async () => {
    const html = (creator: string) =>
      Buffer.from(`<!doctype html><meta name=generator content="${creator}"><p style='font-family: Trellis Fair'>x`);
    const own = (
      await trial
        .api()
        .post("/api/programs")
        .send({ deviceId: 1, name: "Meadow Press", kind: "design", traits: USUAL_TRAITS.design })
        .expect(200)
    ).body as { id: number };
    await place({ deviceId: 1 });
    const give = async (bytes: Buffer) =>
      (await trial.api().post(`/api/cells/${styleId}/${own.id}/evidence`).attach("file", bytes, "a.html").expect(200)).body as {
        question: string;
      };
    expect((await give(html("Meadow Press 4"))).question).toBe("");
    expect((await give(html("Meadow Press 5"))).question).toBe("");
    expect((await give(html("Vale Writer"))).question).toContain("made by Vale Writer");
    const style = { menuName: "Trellis Fair", bold: false, italic: false, fullName: "Trellis Fair", words: "Wild", rightToLeft: false };
    const meta = "<office:document-meta><meta:creation-date>2020-01-01T00:00:00</meta:creation-date></office:document-meta>";
    const old = zipSync({ ...unzipSync(makeProbe("odt", "Old", [style])), "meta.xml": new TextEncoder().encode(meta) });
    const { body } = await trial.api().post(`/api/cells/${styleId}/${own.id}/evidence`).attach("file", Buffer.from(old), "a.odt");
    expect(body).toMatchObject({ state: "asked-for", question: expect.stringContaining("before Trellis Fair was placed"), sighting: null });
  });
});

describe("a picture", () => {
  test("of the style is a sighting, of another font in its place a swap, and of too little an honest sentence", async () => {
    await place({ deviceId: 1 });
    const words = "Wild fennel 4.50";
    const shot = (path: string, size: number) =>
      execFileSync("hb-view", ["--output-format=png", `--font-size=${size}`, "--margin=24", path, words]);
    const give = async (picture: Buffer, said = words, status = 200) =>
      (
        await trial
          .api()
          .post(`/api/cells/${styleId}/${POSTER}/picture?words=${encodeURIComponent(said)}`)
          .attach("file", picture, "screen.png")
          .expect(status)
      ).body as { sentence: string; overlay: string; sighting: Sighting | null; code?: string };
    const own = trial.parts.files.path(trial.parts.library.stylesOf(familyId)[0]!.sha256);
    const seen = await give(shot(own, 90));
    expect([seen.sighting?.result, seen.overlay.startsWith("M")]).toEqual(["seen", true]);
    expect((await cell(POSTER)).state).toBe("seen");
    const swapped = await give(shot(builtInFont("AsterPlain-Regular.ttf"), 90));
    expect([swapped.sighting?.result, swapped.sighting?.instead]).toEqual(["swapped", ["Aster Plain"]]);
    const unsure = await give(shot(own, 90), "Other words here");
    expect([unsure.sighting, unsure.sentence]).toEqual([null, expect.stringContaining("cannot tell")]);
    expect((await give(shot(own, 12), words, 422)).code).toBe("picture-tiny");
    expect((await give(Buffer.from("no picture"), words, 422)).code).toBe("picture-kind");
  });
});

describe("not there: planted faults, the true reason first", () => {
  test("never placed", async () => expect((await reasons(LETTER))[0]).toEqual(["not-placed", "place"]));
  test("placed while the program was open; reopened, nothing is left", async () => {
    await post(`/practice/${LETTER}/open`);
    await place({ deviceId: 1 });
    expect((await reasons(LETTER))[0]).toEqual(["not-reopened", "reopen"]);
    await post(`/practice/${LETTER}/close`);
    await post(`/practice/${LETTER}/open`);
    expect(await reasons(LETTER)).toEqual([]);
  });
  test("turned off", async () => {
    await place({ deviceId: 1 });
    await place({ deviceId: 1, action: "switch-off" });
    expect((await reasons(LETTER))[0]).toEqual(["off", "switch-on"]);
  });
  test("in a folder the program does not read", async () => {
    await place({ deviceId: 2 });
    const title = await programId(2, "Title Desk");
    const diagnosis = Diagnosis.parse(await trial.json(`/api/cells/${styleId}/${title}/diagnosis`));
    expect([diagnosis.reasons[0]!.code, diagnosis.account]).toEqual(["other-folder", "everyone"]);
  });
  test("copied by hand, so that the device was not told", async () => {
    copyFileSync(trial.parts.files.path(trial.parts.library.stylesOf(familyId)[0]!.sha256), join(laptopFonts(), "by-hand.ttf"));
    await trial.json("/api/devices/1");
    expect((await reasons(POSTER))[0]).toEqual(["not-taken-up", "look-again"]);
    await post("/devices/1/rescan");
    expect(await reasons(POSTER)).toEqual([]);
  });
  test("a program with a store of its own", async () => {
    await place({ deviceId: 2 });
    expect((await reasons(await programId(2, "Browser Desk")))[0]).toEqual(["own-store", "load"]);
  });
  test("a variable font in a program that takes none", async () => {
    await trial.shelve(await trial.bring("fernhollow-text-family.zip"));
    const style = allStyles().find((one) => one.record.axes.length > 0)!;
    expect((await reasons(await programId(1, "Cutting Desk"), style.id))[0]).toEqual(["format", null]);
  });
  test("a program that takes no symbols, no colours, or no files of its kind: refused with the reason, and its place shown all the same", async () => {
    const [symbols] = (await trial.shelve(await trial.bring("seedmarks.zip"))) as [number];
    const wanted = [styleId, trial.parts.library.stylesOf(symbols)[0]!.id] as const;
    await place({ deviceId: 1, familyIds: [familyId, symbols] });
    const own = trial.parts.library.style(styleId)!.fileName.endsWith(".otf") ? "ttf" : "otf";
    const traits: Partial<ProgramRequest["traits"]>[] = [{ formats: [own] }, { symbols: false }];
    for (const [i, change] of traits.entries()) {
      const request: ProgramRequest = { deviceId: 1, name: `Desk ${i}`, kind: "cutting", traits: { ...USUAL_TRAITS.cutting, ...change } };
      const { id } = ProgramSummary.parse(await post("/programs", request));
      expect((await reasons(id, wanted[i]))[0]).toEqual(["format", null]);
      const refused = Cell.parse(await trial.json(`/api/cells/${wanted[i]}/${id}`));
      expect([refused.listed, refused.state, refused.menuName !== ""]).toEqual([false, "not-here", true]);
      expect(refused.reason).toMatch(/It takes no (\.otf|\.ttf) files\.|It takes no fonts of symbols\./);
    }
  });
  test("filed under another name", async () => {
    const [almanac] = (await trial.shelve(await trial.bring("Almanac Field (complete).zip"))) as [number];
    await place({ deviceId: 1, familyIds: [almanac] });
    await post(`/practice/${LETTER}/open`);
    const black = trial.parts.library.stylesOf(almanac).find((one) => one.record.style === "Black")!;
    const [first] = Diagnosis.parse(await trial.json(`/api/cells/${black.id}/${LETTER}/diagnosis`)).reasons;
    expect(first).toMatchObject({ code: "other-name", reason: "It is listed as “Almanac Field Black”." });
  });
  test("another file of the same name", async () => {
    await place({ deviceId: 1 });
    const [name] = readdirSync(laptopFonts());
    const bytes = readFileSync(join(laptopFonts(), name!));
    writeFileSync(join(laptopFonts(), "other.ttf"), Buffer.concat([bytes, Buffer.alloc(8)]));
    await post("/devices/1/rescan");
    expect((await reasons(POSTER))[0]).toEqual(["shadowed", "duplicates"]);
    rmSync(join(laptopFonts(), "other.ttf"));
  });
  test("a font of another script", async () => {
    const [hebrew] = (await trial.shelve(await trial.bring("shvil-hebrew.zip"))) as [number];
    const style = trial.parts.library.stylesOf(hebrew).find((one) => !one.record.ranges.includes(0x41))!;
    await place({ deviceId: 1, familyIds: [style.familyId] });
    expect((await reasons(POSTER, style.id))[0]).toEqual(["filed-after", null]);
    await post(`/practice/${LETTER}/open`, {});
    expect((await reasons(LETTER, style.id))[0]).toEqual(["other-script", null]);
  });
  test("a licence that has ended", async () => {
    await place({ deviceId: 1 });
    await place({ deviceId: 1, action: "switch-off" });
    await post(`/families/${familyId}/licences`, {
      kind: "time-limited",
      answers: {},
      seats: null,
      boughtOn: null,
      priceMinor: null,
      currency: "",
      orderNumber: "",
      note: "",
      term: { until: "2020-01-01" },
    });
    expect((await reasons(LETTER))[0]).toEqual(["lapsed", "renew"]);
  });
});

describe("a program somebody names", () => {
  const request: ProgramRequest = {
    deviceId: 1,
    name: "Label maker",
    kind: "cutting",
    traits: { ...USUAL_TRAITS.cutting, lists: "full-names" },
  };
  test("joins the board, is predicted by its traits, learns from looking, goes and comes back", async () => {
    const program = ProgramSummary.parse(await post("/programs", request));
    expect(program).toMatchObject({ name: "Label maker", practice: false });
    await place({ deviceId: 1 });
    expect(await cell(program.id)).toMatchObject({ practice: false, state: "reopen", menuName: "Trellis Fair", within: "" });
    await post(`/programs/${program.id}/opened`);
    expect((await cell(program.id)).state).toBe("due");
    await look(program.id, "there");
    expect((await cell(program.id)).state).toBe("seen");
    await post(`/programs/${program.id}/updated`);
    expect(await cell(program.id)).toMatchObject({ state: "due", reason: expect.stringContaining("was updated") });
    expect(ProgramSummary.parse(await post(`/programs/${program.id}/learn`, { readsWhen: "always" })).traits.readsWhen).toBe("always");
    const onBoard = async () => Board.parse(await trial.json("/api/board")).programs.some((one) => one.id === program.id);
    await post(`/programs/${program.id}/remove`);
    expect(await onBoard()).toBe(false);
    await post(`/programs/${program.id}/bring-back`);
    expect(await onBoard()).toBe(true);
    await trial.restart();
    expect(await onBoard()).toBe(true);
  });
  test.each<[string, string, object, number]>([
    ["on no device", "/programs", { ...request, deviceId: 99 }, 404],
    ["without a name", "/programs", { ...request, name: " " }, 400],
    ["in place of a practice program", "/programs/1", request, 409],
    ["that is a practice program, removed", "/programs/1/remove", {}, 409],
    ["that is a practice program, taught", "/programs/1/learn", { readsWhen: "always" }, 409],
    ["that is not there", "/programs/99/opened", {}, 404],
  ])("%s is refused", async (_what, path, body, status) => void (await post(path, body, status)));
  test("a probe page sets the family by the name that program lists", async () => {
    const probe = async (program: number, kind: string, status = 200) =>
      (await trial
        .api()
        .get(`/api/programs/${program}/probe?family=${familyId}&kind=${kind}`)
        .buffer(true)
        .parse((response, done) => {
          const parts: Buffer[] = [];
          response.on("data", (part: Buffer) => parts.push(part));
          response.on("end", () => done(null, Buffer.concat(parts)));
        })
        .expect(status)) as unknown as { body: Buffer; headers: Record<string, string> };
    const odt = await probe(LETTER, "odt");
    expect(odt.headers["content-disposition"]).toContain("Trellis-Fair-in-Letter-Desk-on-Workshop-laptop.odt");
    const read = await readEvidence("a.odt", odt.body);
    expect(read).toMatchObject({ ok: true, value: { fonts: [{ name: "Trellis Fair" }] } });
    await probe(LETTER, "exe", 400);
    await probe(99, "odt", 404);
  });
});

test("a family every program of which refuses it has its page, with why (fonts-courier-prime, Debian)", async () => {
  const folder = "/usr/share/fonts/opentype/courier-prime";
  const files = Object.fromEntries(
    ["Courier Prime.otf", "Courier Prime Bold.otf"].map((name) => [name, new Uint8Array(readFileSync(join(folder, name)))]),
  );
  const [own] = await trial.shelve(await trial.bring({ name: "courier.zip", bytes: zipSync(files) }));
  const strict = ProgramSummary.parse(
    await post("/programs", {
      deviceId: 1,
      name: "Strict Desk",
      kind: "design",
      traits: { ...USUAL_TRAITS.design, strict: true, formats: ["ttf"] },
    }),
  );
  const { predictions } = FamilyDetail.parse(await trial.json(`/api/families/${own}`));
  const told = predictions.find((one) => one.programId === strict.id)!;
  expect([told.refusal, told.menuName]).toEqual(["It takes no .otf files.", expect.stringContaining("Courier Prime")]);
  expect(predictions.filter((one) => one.refusal !== "").every((one) => one.refusal.endsWith("."))).toBe(true);
});
