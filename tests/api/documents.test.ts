// What documents need, over HTTP: told apart by where each font is, placed by one plan, kept over a restart.
import { afterEach, beforeEach, describe, expect, test } from "@jest/globals";
import { Document, Packer, Paragraph, TextRun } from "docx";
import PDFDocument from "pdfkit";
import { JobDetail } from "../../contract/jobs.ts";
import { DocumentsTaken, NeedsView } from "../../contract/documents.ts";
import { PlanView } from "../../contract/placing.ts";
import { Trial } from "./trial.ts";

let trial: Trial;
beforeEach(async () => {
  trial = new Trial();
  await trial.start();
});
afterEach(() => trial.end());

interface Run {
  font: string;
  text: string;
  bold?: boolean;
}
const letter = (...runs: Run[]): Promise<Buffer> =>
  Packer.toBuffer(
    new Document({
      sections: [
        { children: runs.map(({ font, text, bold }) => new Paragraph({ children: [new TextRun({ text, font, bold: bold ?? false })] })) },
      ],
    }),
  );
const page = (...runs: { path: string; text: string }[]): Promise<Buffer> =>
  new Promise((resolve) => {
    const document = new PDFDocument();
    const chunks: Buffer[] = [];
    document.on("data", (chunk: Buffer) => chunks.push(chunk)).on("end", () => resolve(Buffer.concat(chunks)));
    for (const { path, text } of runs) document.font(path).fontSize(24).text(text);
    document.end();
  });
const give = async (...files: [name: string, bytes: Uint8Array][]): Promise<DocumentsTaken> => {
  let call = trial.api().post("/api/documents");
  for (const [name, bytes] of files) call = call.attach("file", Buffer.from(bytes), name);
  return DocumentsTaken.parse((await call.expect(200)).body);
};
const view = async (device = 1) => NeedsView.parse(await trial.json(`/api/documents?device=${device}`));
const told = async (device = 1) =>
  (await view(device)).documents.flatMap(({ needs }) => needs.map(({ name, place, found }) => [name, place, found]));
const post = async (path: string, body: object = {}, status = 200): Promise<unknown> =>
  (await trial.api().post(`/api${path}`).send(body).expect(status)).body as unknown;

describe("an office document", () => {
  beforeEach(async () => {
    await trial.shelve(await trial.bring("garden-note.zip"));
    await trial.bring("fernhollow-text-family.zip");
  });
  const leaflet = () =>
    letter(
      { font: "Garden Note", text: "Sow the peas" },
      { font: "Fernhollow Text", text: "Early", bold: true },
      { font: "Garden Note", text: "In bold that is not there", bold: true },
      { font: "Missing Meadow", text: "Nobody has it" },
      { font: "Aster Plain", text: "Comes with the laptop" },
    );

  test("its fonts are told apart: here, on the shelf, in a parcel, another style, nowhere", async () => {
    const { documentIds, problems } = await give(["leaflet.docx", await leaflet()], ["junk.bin", Buffer.from("nothing of use")]);
    expect(documentIds.length).toBe(1);
    expect(problems).toEqual([expect.objectContaining({ fileName: "junk.bin", message: expect.stringContaining("no kind of file") })]);
    expect((await told()).sort(([a], [b]) => (a! < b! ? -1 : 1))).toEqual([
      ["Aster Plain", "here", "Aster Plain"],
      ["Fernhollow Text Bold", "parcel", "Fernhollow Text Bold"],
      ["Garden Note", "library", "Garden Note"],
      ["Garden Note Bold", "other-style", ""],
      ["Missing Meadow", "nowhere", ""],
    ]);
  });

  test("one plan places what is missing, parcels first; then it is here", async () => {
    const { documentIds } = await give(["leaflet.docx", await leaflet()]);
    const plan = PlanView.parse(await post("/documents/plan", { documentIds, deviceId: 1 }));
    // The styles it sets, and not the other three of that family.
    expect(plan.items.flatMap(({ steps }) => steps.map(({ styleName }) => styleName)).sort()).toEqual([
      "Fernhollow Text Bold",
      "Garden Note",
    ]);
    await post(`/plans/${plan.id}/do`);
    const places = Object.fromEntries((await told()).map(([name, place]) => [name, place]));
    expect(places).toMatchObject({ "Garden Note": "here", "Fernhollow Text Bold": "here", "Missing Meadow": "nowhere" });
    // On another device nothing has changed, and there is nothing left to place here.
    expect((await told(2)).find(([name]) => name === "Garden Note")?.[1]).toBe("library");
    expect(await post("/documents/plan", { documentIds, deviceId: 1 }, 422)).toMatchObject({ type: "urn:buvano:problem:nothing-to-place" });
  });

  test("a job of it holds what is on the shelf", async () => {
    const { documentIds } = await give(["leaflet.docx", await leaflet()]);
    const job = JobDetail.parse(await post(`/documents/${documentIds[0]}/job?device=2`));
    expect([job.name, job.families.map(({ name }) => name), job.deviceIds]).toEqual(["leaflet.docx", ["Garden Note"], [2]]);
    const { documentIds: lost } = await give(["lost.docx", await letter({ font: "Missing Meadow", text: "Nobody" })]);
    await post(`/documents/${lost[0]}/job`, {}, 422);
  });

  test("is kept once over a restart, and can be taken off the list and brought back", async () => {
    const bytes = await leaflet();
    await give(["leaflet.docx", bytes]);
    const { documentIds } = await give(["leaflet.docx", bytes]);
    const before = await view();
    expect(before.documents.length).toBe(1);
    await trial.restart();
    expect(await view()).toEqual(before);
    await post(`/documents/${documentIds[0]}/remove`);
    expect((await view()).documents).toEqual([]);
    await post(`/documents/${documentIds[0]}/bring-back`);
    expect(await view()).toEqual(before);
    await post("/documents/4711/remove", {}, 404);
  });
});

test("a PDF's letters are held against files of the same name", async () => {
  const [familyId] = await trial.shelve(await trial.bring("garden-note.zip"));
  const { sha256 } = trial.parts.library.stylesOf(familyId!)[0]!;
  await give(["poster.pdf", await page({ path: trial.parts.files.path(sha256), text: "Open day" })]);
  const [need] = (await view()).documents[0]!.needs;
  expect(need).toMatchObject({ place: "library", found: "Garden Note", carried: true, words: "Open day", letters: 7, pages: [1] });
  expect(need!.sentence).toContain("the very ones");
  // Another drawing under the same names.
  trial.parts.db.prepare("UPDATE documents SET compared = replace(compared, 'same', 'other')").run();
  expect((await view()).documents[0]!.needs[0]!.sentence).toContain("draws other letters");
});

test("a library of an older program knows its faces by their names too", async () => {
  await trial.shelve(await trial.bring("garden-note.zip"));
  trial.parts.db.exec("DELETE FROM face_names");
  await trial.restart();
  await give(["note.docx", await letter({ font: "Garden Note", text: "Peas" })]);
  expect(await told()).toEqual([["Garden Note", "library", "Garden Note"]]);
});

test("of a document that is too long it is said which pages were not looked at", async () => {
  const document = new PDFDocument({ autoFirstPage: false });
  const chunks: Buffer[] = [];
  const done = new Promise<Buffer>((resolve) =>
    document.on("data", (chunk: Buffer) => chunks.push(chunk)).on("end", () => resolve(Buffer.concat(chunks))),
  );
  for (let page = 0; page < 63; page++) document.addPage().fontSize(24).text("Early peas");
  document.end();
  await give(["long.pdf", await done]);
  const [long] = (await view()).documents;
  expect([long!.unread, long!.needs[0]!.letters]).toEqual([3, 60 * 9]);
});

test("a style sheet asks for fonts and sets no text by itself", async () => {
  await give(["look.css", new TextEncoder().encode("h1 { font: bold 20px 'Missing Meadow', serif } p { font-family: sans-serif }")]);
  const [need, ...others] = (await view()).documents[0]!.needs;
  expect([need!.name, need!.letters, need!.words, others]).toEqual(["Missing Meadow Bold", 0, "", []]);
});
