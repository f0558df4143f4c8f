// Matching through the API: faces measured by themselves, a picture given, read, answered, kept, handed on, forgotten; look-alikes; pictures that cannot be read.
import { execFileSync } from "node:child_process";
import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, beforeAll, describe, expect, test } from "@jest/globals";
import { PNG } from "pngjs";
import { FamilyIds, FamilyPage } from "../../contract/families.ts";
import { HistoryEvent } from "../../contract/history.ts";
import { JobDetail } from "../../contract/jobs.ts";
import { AlikeView, MatchList, MatchReading, MatchView, type MatchAsked } from "../../contract/matching.ts";
import { ProblemDocument } from "../../contract/problem.ts";
import { SheetDetail } from "../../contract/bench.ts";
import { drawWords } from "../reference/lettering.ts";
import { Trial } from "./trial.ts";

const trial = new Trial();
const dir = mkdtempSync(join(tmpdir(), "buvano-matching-"));
let screen: { path: string; frame: MatchAsked["frame"] };
let photo: { path: string; frame: MatchAsked["frame"] };
beforeAll(async () => {
  await trial.start();
  for (const name of ["Almanac Field (complete).zip", "fernhollow-text-family.zip", "trellis-fair.zip"])
    await trial.shelve(await trial.bring(name));
  // This one stays a parcel.
  await trial.bring("garden-note.zip");
  execFileSync("unzip", ["-oq", "build/demo/downloads/trellis-fair.zip", "-d", join(dir, "fair")]);
  execFileSync("unzip", ["-oq", "build/demo/downloads/garden-note.zip", "-d", join(dir, "note")]);
  [screen, photo] = drawWords(dir, [
    { font: join(dir, "fair", "Trellis Fair.ttf"), words: "Garden path", photo: false },
    { font: join(dir, "fair", "Trellis Fair.ttf"), words: "Garden path", photo: true },
  ]) as [typeof screen, typeof photo];
  await trial.services.measurer.measured();
}, 180_000);
afterAll(async () => {
  await trial.end();
  rmSync(dir, { recursive: true });
});

const post = (path: string, body: object = {}) => trial.api().post(`/api${path}`).send(body);
const give = async (path: string): Promise<MatchView> =>
  MatchView.parse((await trial.api().post("/api/matches").attach("file", path).expect(200)).body);
const asked = (frame: MatchAsked["frame"], change: Partial<MatchAsked> = {}): MatchAsked => ({
  frame,
  strokes: [],
  colour: null,
  words: "Garden path",
  jobId: null,
  onlyCleared: false,
  ...change,
});
const answer = async (id: number, what: MatchAsked): Promise<MatchView> =>
  MatchView.parse((await post(`/matches/${id}/answer`, what).expect(200)).body);
const code = (body: unknown) => ProblemDocument.parse(body).code;
const nameOf = ({ family, style }: { family: string; style: string }) => `${family} ${style}`;

test("what is shelved, in a parcel, or on a device is measured by itself, once", async () => {
  const { unmeasured } = MatchList.parse(await trial.json("/api/matches"));
  expect(unmeasured).toBe(0);
  const count = () => trial.parts.db.prepare("SELECT count(*), max(id) FROM face_shapes").raw().get();
  const before = count();
  expect((before as [number, number])[0]).toBeGreaterThan(24);
  await trial.services.measurer.measured();
  expect(count()).toEqual(before);
});

describe("a picture", () => {
  test("has its lines found, its letters read, and its font told when the words are known", async () => {
    const view = await give(screen.path);
    expect(view.lines.length).toBeGreaterThan(0);
    const read = MatchReading.parse((await post(`/matches/${view.id}/read`, asked(view.lines[0]!, { words: "" })).expect(200)).body);
    expect(read.letters.length).toBe(10);
    expect(read.letters.filter(({ letter }, i) => letter === [..."Gardenpath"][i]).length).toBeGreaterThanOrEqual(8);
    const found = await answer(view.id, asked(view.lines[0]!));
    expect(found.answer!.sentence).toBe("This is Trellis Fair Regular.");
    const [first] = found.answer!.candidates;
    expect([first!.verdict, first!.place.kind, first!.familyId !== null]).toEqual(["it", "library", true]);
    expect(first!.overlay).toMatch(/^M[\d.]+ [\d.]+L/);
    expect(
      found.answer!.candidates.filter(({ verdict }) => verdict === "it").every(({ drawnLike }, i) => i === 0 || drawnLike !== ""),
    ).toBe(true);
  });
  test("as a photo, framed by its corners, has the true font within the first", async () => {
    const view = await give(photo.path);
    const found = await answer(view.id, asked(photo.frame));
    expect(nameOf(found.answer!.candidates[0]!)).toBe("Trellis Fair Regular");
    // A photo is no proof.
    expect(found.answer!.sentence).not.toMatch(/^This is/);
  });
  test("without words gives an answer that says it is weaker", async () => {
    const view = await give(screen.path);
    const { answer: found } = await answer(view.id, asked(screen.frame, { words: "" }));
    expect(found!.weaker).toBe(true);
    expect(nameOf(found!.candidates[0]!)).toBe("Trellis Fair Regular");
    expect(found!.candidates.some(({ verdict }) => verdict === "it")).toBe(false);
  });
  test("upside down or mirrored is turned, and said to be", async () => {
    for (const [how, args] of [
      ["half", ["-rotate", "180"]],
      ["mirror", ["-flop"]],
    ] as const) {
      const turned = join(dir, `${how}.png`);
      execFileSync("/usr/bin/convert-im6.q16", [screen.path, ...args, turned]);
      const view = await give(turned);
      const found = await answer(view.id, asked(view.lines[0]!));
      expect([how, found.answer!.turned, nameOf(found.answer!.candidates[0]!)]).toEqual([how, how, "Trellis Fair Regular"]);
    }
  });
  test("of a font in a parcel leads to the parcel", async () => {
    const [note] = drawWords(dir, [{ font: join(dir, "note", "TTF", "GardenNote.ttf"), words: "Marigold", photo: false }]);
    const found = await answer((await give(note!.path)).id, asked(note!.frame, { words: "Marigold" }));
    const one = found.answer!.candidates.find(({ family }) => family === "Garden Note")!;
    expect(one.place.kind).toBe("parcel");
    expect(one.familyId).toBeNull();
  });
});

describe("for a job", () => {
  let job: JobDetail;
  beforeAll(async () => {
    job = JobDetail.parse(
      (
        await post("/jobs", {
          name: "Markers",
          uses: ["sold"],
          words: "",
          languages: [],
          familyIds: [],
          deviceIds: [],
          dueOn: null,
          client: "",
        }).expect(200)
      ).body,
    );
  });
  test("each font says whether it is cleared, and only those may be asked for", async () => {
    const view = await give(screen.path);
    const all = (await answer(view.id, asked(screen.frame, { jobId: job.id }))).answer!;
    // What nobody cleared is among all, and not among those.
    const uncleared = all.candidates.filter((one) => one.cleared !== "yes" && one.cleared !== "credit").map(({ family }) => family);
    expect(uncleared.length).toBeGreaterThan(0);
    expect(all.candidates.some(({ clearance }) => clearance !== "")).toBe(true);
    const only = (await answer(view.id, asked(screen.frame, { jobId: job.id, onlyCleared: true }))).answer!;
    expect(only.among).toBeLessThan(all.among);
    for (const one of only.candidates) expect(["yes", "credit"]).toContain(one.cleared);
    expect(only.candidates.length).toBeGreaterThan(0);
    expect(only.candidates.filter(({ family }) => uncleared.includes(family))).toEqual([]);
  });
  test("a candidate is handed to the job and to a sheet", async () => {
    const view = await give(screen.path);
    await answer(view.id, asked(screen.frame, { jobId: job.id }));
    await post(`/matches/${view.id}/job`, { jobId: job.id, chosen: 0 }).expect(200);
    const then = JobDetail.parse(await trial.json(`/api/jobs/${job.id}`));
    expect(then.families.map(({ name }) => name)).toContain("Trellis Fair");
    const sheet = SheetDetail.parse((await post(`/matches/${view.id}/sheet`, { chosen: [0, 1] }).expect(200)).body);
    expect(sheet.body.lines.map(({ text }) => text)).toEqual(["Garden path", "Garden path"]);
    expect(sheet.body.jobId).toBe(job.id);
    expect(code((await post(`/matches/${view.id}/sheet`, { chosen: [98] }).expect(404)).body)).toBe("not-found");
  });
});

describe("kept", () => {
  test("what was asked and answered outlives a restart, and shows fonts as they stand then", async () => {
    const view = await give(screen.path);
    const before = await answer(view.id, asked(screen.frame));
    await trial.restart();
    expect(MatchView.parse(await trial.json(`/api/matches/${view.id}`))).toEqual(before);
    expect((await trial.api().get(`/api/matches/${view.id}/picture`).expect(200)).body).toEqual(readFileSync(screen.path));
  });
  test("removed, it can be had back; a day later it is forgotten, picture and all", async () => {
    const unique = join(dir, "unique.png");
    execFileSync("/usr/bin/convert-im6.q16", [screen.path, "-border", "7", unique]);
    const view = await give(unique);
    const { sha256 } = trial.parts.matches.get(view.id)!;
    await post(`/matches/${view.id}/remove`).expect(200);
    await trial.api().get(`/api/matches/${view.id}`).expect(404);
    const undoable = HistoryEvent.array().parse(await trial.json("/api/history/undoable"));
    expect(undoable.some(({ sentence }) => sentence.includes("unique.png"))).toBe(true);
    await post(`/matches/${view.id}/bring-back`).expect(200);
    await trial.api().get(`/api/matches/${view.id}`).expect(200);
    await post(`/matches/${view.id}/remove`).expect(200);
    await trial.services.matching.tidy("2999-01-01T00:00:00.000Z");
    expect(existsSync(trial.parts.pictures.path(sha256))).toBe(false);
    await post(`/matches/${view.id}/bring-back`).expect(404);
  });
});

describe("look-alikes and manner", () => {
  const families = async (query: string) => FamilyPage.parse(await trial.json(`/api/families?limit=100&${query}`)).families;
  test("of a family are other families of the library, the nearest first, with their clearance", async () => {
    const [fernhollow] = await families("search=Fernhollow+Text");
    const view = AlikeView.parse(await trial.json(`/api/families/${fernhollow!.id}/alike`));
    expect(view.unmeasured).toBe(0);
    expect(view.families.some(({ familyId }) => familyId === fernhollow!.id)).toBe(false);
    // Its variable twin is the same design.
    expect(view.families[0]).toMatchObject({ family: "Fernhollow Text Variable", alike: "same" });
    for (const [i, one] of view.families.entries()) if (i > 0) expect(one.likeness).toBeLessThanOrEqual(view.families[i - 1]!.likeness);
    await trial.api().get("/api/families/99999/alike").expect(404);
    // The whole list in that order: itself, the version of the same design, and all others; filters narrow it, pages go on.
    const page = async (query: string) => FamilyPage.parse(await trial.json(`/api/families?sort=likeness&like=${fernhollow!.id}${query}`));
    const whole = await page("");
    expect(whole.families.slice(0, 2).map(({ name }) => name)).toEqual(["Fernhollow Text", "Fernhollow Text Variable"]);
    expect(whole.families.length).toBe(whole.total);
    expect((await page("&from=1&limit=1")).families.map(({ id }) => id)).toEqual([whole.families[1]!.id]);
    expect((await page("&search=variable")).families.map(({ name }) => name)).toEqual(["Fernhollow Text Variable"]);
    const { ids } = FamilyIds.parse(await trial.json(`/api/families/ids?sort=likeness&like=${fernhollow!.id}`));
    expect(ids).toEqual(whole.families.map(({ id }) => id));
    // A family that is not there leaves the order of names.
    const byName = FamilyPage.parse(await trial.json("/api/families")).families.map(({ id }) => id);
    expect(FamilyPage.parse(await trial.json("/api/families?sort=likeness&like=99999")).families.map(({ id }) => id)).toEqual(byName);
  });
  test("families are filtered by manner, and every family lies in one step of each scale it has", async () => {
    const all = await families("");
    const steps = await Promise.all([0, 1, 2, 3, 4].map((step) => families(`manner=weight:${step}`)));
    expect(new Set(steps.flat().map(({ id }) => id)).size).toBe(all.length);
    expect(steps.every((some) => some.length < all.length)).toBe(true);
    await trial.api().get("/api/families?manner=weight:9;").expect(400);
  });
});

describe("what cannot be read is said in a sentence", () => {
  const png = (width: number, height: number, paint: (x: number, y: number) => number): string => {
    const picture = new PNG({ width, height });
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++)
        picture.data
          .fill(paint(x, y), 4 * (y * width + x), 4 * (y * width + x) + 3)
          .fill(255, 4 * (y * width + x) + 3, 4 * (y * width + x) + 4);
    const path = join(dir, `${width}x${height}-${paint(1, 1)}.png`);
    writeFileSync(path, PNG.sync.write(picture));
    return path;
  };
  const whole = (width: number, height: number): MatchAsked["frame"] => [
    [0, 0],
    [width, 0],
    [width, height],
    [0, height],
  ];
  test("an empty picture, noise, and a frame that is none", async () => {
    const empty = await give(png(300, 100, () => 200));
    expect(empty.lines).toEqual([]);
    expect(code((await post(`/matches/${empty.id}/answer`, asked(whole(300, 100))).expect(422)).body)).toBe("match-no-letters");
    const view = await give(screen.path);
    for (const frame of [
      [
        [0, 0],
        [0, 0],
        [0, 0],
        [0, 0],
      ],
      [
        [0, 0],
        [100, 0],
        [0, 50],
        [100, 50],
      ],
    ] as unknown as MatchAsked["frame"][])
      expect(code((await post(`/matches/${view.id}/read`, asked(frame)).expect(422)).body)).toBe("match-no-letters");
  });
  test("a page of text, words that do not stand there, a file that is no picture", async () => {
    const page = join(dir, "page.png");
    execFileSync("/usr/bin/convert-im6.q16", [
      "-background",
      "white",
      "-font",
      join(dir, "fair", "Trellis Fair.ttf"),
      "-pointsize",
      "26",
      "-size",
      "600x400",
      "caption:" + "Seeds are sown in rows and thinned when they are up. ".repeat(6),
      page,
    ]);
    const view = await give(page);
    expect(
      code((await post(`/matches/${view.id}/answer`, asked(whole(view.width, view.height), { words: "Seeds" })).expect(422)).body),
    ).toBe("match-page");
    const right = await give(screen.path);
    const other = await post(`/matches/${right.id}/answer`, asked(screen.frame, { words: "Zebra box" }));
    // Never a confident wrong answer: refused, or nothing that is it.
    if (other.status === 200) expect(MatchView.parse(other.body).answer!.candidates.some(({ verdict }) => verdict === "it")).toBe(false);
    else expect(["match-words"]).toContain(code(other.body));
    const text = join(dir, "no.png");
    writeFileSync(text, "no picture at all");
    expect(code((await trial.api().post("/api/matches").attach("file", text).expect(422)).body)).toBe("picture-kind");
    const heic = join(dir, "phone.heic");
    writeFileSync(heic, Buffer.concat([Buffer.from([0, 0, 0, 24]), Buffer.from("ftypheic"), Buffer.alloc(40)]));
    const refused = ProblemDocument.parse((await trial.api().post("/api/matches").attach("file", heic).expect(422)).body);
    expect(refused.detail).toContain("HEIC");
  });
  test("a picture of too many pixels; one taken with the camera held askew is upright", async () => {
    const large = join(dir, "large.png");
    execFileSync("/usr/bin/convert-im6.q16", ["-size", "7400x5500", "xc:white", large]);
    const refused = ProblemDocument.parse((await trial.api().post("/api/matches").attach("file", large).expect(422)).body);
    expect(refused.detail).toContain("16 million pixels");
    // Exif 2.32, "Orientation" 6: the first row is at the right.
    const held = join(dir, "held.jpg");
    execFileSync("/usr/bin/convert-im6.q16", [screen.path, "-rotate", "270", held]);
    const plain = readFileSync(held);
    const exif = Buffer.from("ffe100224578696600004d4d002a00000008000101120003000000010006000000000000", "hex");
    writeFileSync(held, Buffer.concat([plain.subarray(0, 2), exif, plain.subarray(2)]));
    const [upright, own] = [await give(held), await give(screen.path)];
    expect([upright.width, upright.height]).toEqual([own.width, own.height]);
    expect((await answer(upright.id, asked(own.lines[0]!))).answer!.turned).toBe("");
  });
  test("words in letters no font here has", async () => {
    const view = await give(screen.path);
    const answered = await post(`/matches/${view.id}/answer`, asked(screen.frame, { words: "漢字漢字漢字漢字漢字" }));
    expect([answered.status, code(answered.body)]).toEqual([422, "match-words"]);
  });
  test("a search that is stopped ends, and the next one answers", async () => {
    const view = await give(screen.path);
    const { events } = trial.parts;
    const tell = events.tell.bind(events);
    const underWay = new Promise<void>((resolve) => {
      events.tell = (told) => {
        if (told.topic === "match") resolve();
        tell(told);
      };
    });
    const going = post(`/matches/${view.id}/answer`, asked(screen.frame)).then((response) => response);
    await underWay;
    await post(`/matches/${view.id}/stop`).expect(200);
    events.tell = tell;
    expect(code((await going).body)).toBe("match-stopped");
    expect((await answer(view.id, asked(screen.frame))).answer!.sentence).toBe("This is Trellis Fair Regular.");
  });
});
