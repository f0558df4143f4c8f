// Quick check over HTTP: one page for everything that is due in a program, one file that answers for all of it.
import { afterEach, beforeEach, expect, test } from "@jest/globals";
import PDFDocument from "pdfkit";
import { PlanView } from "../../contract/placing.ts";
import { QuickAnswer, QuickCheck } from "../../contract/quick-check.ts";
import { Board, Sighting } from "../../contract/sightings.ts";
import { readEvidence } from "../../core/evidence/read.ts";
import { Trial } from "./trial.ts";

let trial: Trial;
const LETTER = 1;
const POSTER = 2;
beforeEach(async () => {
  trial = new Trial();
  await trial.start();
  const almanac = await trial.shelve(await trial.bring("Almanac Field (complete).zip"));
  const note = await trial.shelve(await trial.bring("garden-note.zip"));
  const plan = PlanView.parse(await post("/plans", { deviceId: 1, action: "place", familyIds: [...almanac, ...note] }));
  await post(`/plans/${plan.id}/do`);
});
afterEach(() => trial.end());

const post = async (path: string, body: object = {}, status = 200): Promise<unknown> =>
  (await trial.api().post(`/api${path}`).send(body).expect(status)).body as unknown;
const look = async (program: number) => QuickCheck.parse(await trial.json(`/api/programs/${program}/check`));
const states = async (program: number) =>
  Board.parse(await trial.json("/api/board?by=styles&device=1&limit=200")).rows.map(
    ({ cells }) => cells.find((cell) => cell.programId === program)!.state,
  );
const give = async (bytes: Uint8Array, sure = false) =>
  QuickAnswer.parse(
    (
      await trial
        .api()
        .post(`/api/programs/${POSTER}/check?sure=${sure ? 1 : 0}`)
        .attach("file", Buffer.from(bytes), "page.pdf")
        .expect(200)
    ).body,
  );
const page = (runs: readonly { path: string; text: string }[], made = new Date()): Promise<Buffer> =>
  new Promise((resolve) => {
    const document = new PDFDocument({ info: { CreationDate: made, Creator: "Poster Desk", Producer: "Poster Desk" } });
    const chunks: Buffer[] = [];
    document.on("data", (chunk: Buffer) => chunks.push(chunk)).on("end", () => resolve(Buffer.concat(chunks)));
    for (const { path, text } of runs) document.font(path).fontSize(24).text(text);
    document.end();
  });
const fileOf = (styleId: number): string => trial.parts.files.path(trial.parts.library.styleBrief(styleId)!.sha256);

test("the page sets every style that is due by the name the program lists it under", async () => {
  const check = await look(LETTER);
  expect([check.total, check.styles.length, check.practice]).toEqual([19, 19, true]);
  const probe = await trial.api().get(`/api/programs/${LETTER}/check/probe?kind=html`).expect(200);
  expect(probe.headers["content-disposition"]).toContain("attachment");
  const read = await readEvidence("page.html", new Uint8Array(Buffer.from(probe.text ?? (probe.body as Buffer))));
  if (!read.ok) throw new Error(read.problem.message);
  const families = new Set(read.value.asked!.texts.flatMap((text) => text.families));
  for (const { menuName } of check.styles) expect(families).toContain(menuName);
});

test("a practice program draws them all, and the board follows", async () => {
  const { answers, question } = QuickAnswer.parse(await post(`/programs/${LETTER}/check/practise`));
  expect([question, new Set(answers.map(({ state }) => state)), answers.length]).toEqual(["", new Set(["seen"]), 19]);
  expect(new Set(await states(LETTER))).toEqual(new Set(["seen"]));
  expect((await look(LETTER)).total).toBe(0);
  expect(await post(`/programs/${LETTER}/check/practise`, {}, 422)).toMatchObject({ type: "urn:buvano:problem:nothing-due" });
  // Another program has its own list.
  expect((await look(POSTER)).total).toBe(19);
});

test("it can be narrowed to families or styles, and answers for what stood on the page though more became due", async () => {
  const all = await look(POSTER);
  const { familyId } = all.styles.find(({ name }) => name.startsWith("Garden"))!;
  const narrowed = async (query: string) => QuickCheck.parse(await trial.json(`/api/programs/${POSTER}/check?${query}`));
  const one = await narrowed(`families=${familyId}`);
  expect([one.total, new Set(one.styles.map((style) => style.familyId))]).toEqual([1, new Set([familyId])]);
  const two = all.styles.slice(0, 2).map(({ styleId }) => styleId);
  expect((await narrowed(`styles=${two.join()}`)).styles.map(({ styleId }) => styleId)).toEqual(two);
  const { answers } = QuickAnswer.parse(await post(`/programs/${POSTER}/check/practise?styles=${two.join()}`));
  expect(answers.map(({ styleId, state }) => [styleId, state])).toEqual(two.map((styleId) => [styleId, "seen"]));
  expect((await look(POSTER)).total).toBe(17);
  await trial.api().get(`/api/programs/${POSTER}/check?families=1;2`).expect(400);
  // What was on the page and is checked by now is not asked again.
  expect(await post(`/programs/${POSTER}/check/practise?styles=${two.join()}`, {}, 422)).toMatchObject({ status: 422 });
});

test("an exported file answers for what is in it, and leaves the rest due", async () => {
  const [first, second, third] = (await look(POSTER)).styles;
  const bytes = await page([first!, second!].map(({ styleId }) => ({ path: fileOf(styleId), text: "Hamburgefonstiv" })));
  const { answers, question } = await give(bytes);
  const told = new Map(answers.map(({ styleId, state, recorded }) => [styleId, [state, recorded]]));
  expect([question, told.get(first!.styleId), told.get(second!.styleId)]).toEqual(["", ["seen", true], ["seen", true]]);
  expect(told.get(third!.styleId)![1]).toBe(false);
  expect((await look(POSTER)).total).toBe(17);
  const { total } = trial.parts.cellViews.dueIn(POSTER, 5);
  expect([total, trial.parts.cellViews.dueIn(POSTER, 5).styles.length]).toEqual([17, 5]);
});

test("a file that is older than the placing is asked about first", async () => {
  const [first] = (await look(POSTER)).styles;
  const bytes = await page([{ path: fileOf(first!.styleId), text: "Hamburgefonstiv" }], new Date(Date.now() - 9 * 86_400_000));
  const asked = await give(bytes);
  expect(asked.question).toContain("before");
  expect(asked.answers.filter(({ recorded }) => recorded)).toEqual([]);
  const sure = await give(bytes, true);
  expect([sure.question, sure.answers.filter(({ recorded }) => recorded).map(({ styleId }) => styleId)]).toEqual(["", [first!.styleId]]);
  const [seen] = Sighting.array().parse(trial.services.recorder.ofCell(first!.styleId, POSTER));
  expect([seen!.result, seen!.fileName, seen!.kept]).toEqual(["seen", "page.pdf", true]);
});
