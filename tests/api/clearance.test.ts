// Clearance over HTTP: odd papers, corrections, licences with receipts, terms, jobs, permission sheets.
import { WHOLE_SHELF } from "../../server/store/families/shelf-list.ts";
import { copyFileSync, readFileSync } from "node:fs";
import { join } from "node:path";
import { afterEach, beforeEach, describe, expect, test } from "@jest/globals";
import { zipSync } from "fflate";
import { PDFDocument } from "pdf-lib";
import { FamilyClearance, type LicenceRequest } from "../../contract/clearance.ts";
import { FamilyDetail, FamilyPage } from "../../contract/families.ts";
import { JobDetail, type JobRequest } from "../../contract/jobs.ts";
import { PlanView } from "../../contract/placing.ts";
import { Board, Cell } from "../../contract/sightings.ts";
import { Today } from "../../contract/today.ts";
import { NOTHING_READ } from "../../core/clearance/read.ts";
import { ReadingStore } from "../../server/store/clearance/readings.ts";
import { renamedTables } from "../../demo/writing/rename.ts";
import { builtInFont, Trial } from "./trial.ts";

const DAY_MS = 86_400_000;
let trial: Trial;
beforeEach(async () => {
  trial = new Trial();
  await trial.start();
});
afterEach(() => trial.end());

/** A font that says nothing of its licence itself. */
const font = (family: string, licence = ""): Uint8Array =>
  renamedTables(readFileSync(builtInFont("WrenSmall-Regular.ttf")), {
    family,
    style: "Regular",
    version: "1.000",
    licence,
    copyright: "© 2026 Fernhollow Seed Walk",
  });
const bytes = (text: string): Uint8Array => new TextEncoder().encode(text);

async function shelved(name: string, papers: Record<string, Uint8Array>, licence = ""): Promise<number> {
  const parcel = await trial.bring({
    name: `${name}.zip`,
    bytes: zipSync({ [`${name}.ttf`]: font(name, licence), ...papers }, { level: 0 }),
  });
  return (await trial.shelve(parcel))[0]!;
}
const clearance = async (id: number): Promise<FamilyClearance> => FamilyClearance.parse(await trial.json(`/api/families/${id}/clearance`));
const use = (view: FamilyClearance, name: string) => view.uses.find((one) => one.use === name)!;
const post = async (path: string, body: object, status = 200) =>
  (await trial.api().post(`/api${path}`).send(body).expect(status)).body as unknown;

const LICENCE: LicenceRequest = {
  kind: "commercial",
  answers: { own: "yes", sold: "yes" },
  seats: 1,
  boughtOn: "2026-05-04",
  priceMinor: 1800,
  currency: "EUR",
  orderNumber: "SEED-26",
  note: "",
  term: null,
};
const JOB: JobRequest = { name: "Plant markers", uses: ["sold"], languages: [], words: "Wild fennel", familyIds: [], deviceIds: [] };

describe("papers of every kind", () => {
  const PERSONAL = "Hello.\n\nThis font is free for personal use only. Grüße.\n";
  test.each<[string, Uint8Array]>([
    ["UTF-16 with its mark", Uint8Array.from(Buffer.from(`\ufeff${PERSONAL}`, "utf16le"))],
    ["UTF-16 without", Uint8Array.from(Buffer.from(PERSONAL, "utf16le"))],
    ["Windows-1252", Uint8Array.from(Buffer.from(PERSONAL, "latin1"))],
  ])("%s is read, with its line", async (_how, paper) => {
    const view = await clearance(await shelved("Furrow", { "read me.txt": paper }));
    expect(use(view, "sold")).toMatchObject({
      answer: "no",
      by: "papers",
      evidence: [{ sentence: "This font is free for personal use only.", line: 3 }],
    });
    expect(use(view, "web").answer).toBe("not-stated");
  });
  test("a text of 50 MB is read at its beginning, which is said; memory and time stay small", async () => {
    const long = bytes(`${PERSONAL}${"The seeds are counted again and again, year by year.\n".repeat(990_000)}`);
    expect(long.length).toBeGreaterThan(50 * 1024 * 1024);
    const view = await clearance(await shelved("Furrow", { "log.txt": long }));
    expect(use(view, "sold").answer).toBe("no");
    expect(view.unread).toEqual([expect.stringContaining("log.txt is very long; only parts of it were read.")]);
  }, 60_000);
  test("a scanned paper without text is said, and nothing is made of it", async () => {
    const scan = await PDFDocument.create();
    scan.addPage();
    const view = await clearance(await shelved("Furrow", { "licence.pdf": await scan.save() }));
    expect(view.unread).toEqual([expect.stringMatching(/^licence\.pdf: There is no text in this paper/)]);
    expect(view.uses.filter((one) => one.answer !== "not-stated").map((one) => one.use)).toEqual(["document"]);
  });
  test("one that was begun three times and never came to an end is not begun again; begun less often, it is read", async () => {
    const id = await shelved("Furrow", { "read me.txt": bytes(PERSONAL) });
    const begun = async (attempts: number) => {
      // As a process leaves it that was ended by what it read.
      trial.parts.db.prepare("UPDATE readings SET version = 0, reading = NULL, attempts = ? WHERE kind = 'paper'").run(attempts);
      await trial.restart();
      await trial.services.reader.whenRead(true);
      await trial.services.renewal.settle();
      return clearance(id);
    };
    expect(use(await begun(2), "sold")).toMatchObject({ answer: "no", by: "papers" });
    const given = await begun(3);
    expect(given.unread).toEqual([expect.stringContaining("This paper could not be read.")]);
    expect(use(given, "sold").answer).not.toBe("yes");
  });
  test("a sentence that was misunderstood is left out for every family of its paper, and counts again by undo", async () => {
    const paper = bytes("Thank you.\n\nDrawn for love. Not for commercial use. Enjoy it.\n");
    const [first, second] = [await shelved("Furrow", { "note.txt": paper }), await shelved("Meadow", { "note.txt": paper })];
    const [evidence] = use(await clearance(first), "sold").evidence;
    expect(evidence).toMatchObject({ before: "Drawn for love.", after: "Enjoy it.", where: "note.txt, line 3", aside: "", leftOut: false });
    await post("/sentences/leave-out", { text: evidence!.text, sentence: evidence!.sentence, out: true });
    for (const id of [first, second]) {
      const sold = use(await clearance(id), "sold");
      expect(sold).toMatchObject({ answer: "not-stated", evidence: [], also: [{ leftOut: true, aside: "You left it out." }] });
    }
    await trial.services.renewal.settle();
    const listed = trial.parts.shelf.ids(WHOLE_SHELF, 0, 10).map((id) => trial.parts.familyViews.family(id)!);
    expect(listed.map((row) => row.clearance.uses.find((one) => one.use === "sold")!.answer)).toEqual(["not-stated", "not-stated"]);
    const { history } = FamilyDetail.parse(await trial.json(`/api/families/${second}`));
    const event = history.find((one) => one.sentence.includes("was left out of clearance"))!;
    expect(event.undo).not.toBeNull();
    await post(`/history/${event.id}/undo`, {});
    expect(use(await clearance(first), "sold").answer).toBe("no");
    await post("/sentences/leave-out", { text: "0".repeat(64), sentence: "Nothing.", out: true }, 404);
    await post("/sentences/leave-out", { text: "x", sentence: "Nothing.", out: true }, 400);
  });
  test("papers are told by kind and language; what is written in another one says so", async () => {
    const polish = "Czcionka jest darmowa do użytku prywatnego, a użycie komercyjne wymaga licencji od autora tej czcionki.";
    const view = await clearance(
      await shelved("Furrow", { "OFL-FAQ.txt": bytes("Q: May I sell it?\nA: No."), "czytaj.txt": bytes(polish) }),
    );
    expect(view.papers.map(({ path, kind, languages, unread }) => [path, kind, languages, unread])).toEqual([
      ["OFL-FAQ.txt", "Questions and answers", [], ""],
      ["czytaj.txt", "Other paper", ["Polish"], "It is written in Polish, and was not read."],
    ]);
    expect(view.unread).toEqual(["czytaj.txt: It is written in Polish, and was not read."]);
  });
  test("what an older reader found counts until it is read anew", async () => {
    const id = await shelved("Furrow", { "note.txt": bytes("Not for commercial use.") });
    const old = {
      statements: [{ answers: { sold: "no" }, sentence: "As it was.", place: { kind: "paper", line: 1 } }],
      terms: [],
      forbidsUnwrapping: null,
    };
    trial.parts.db.prepare("UPDATE readings SET reading = ? WHERE kind = 'paper'").run(JSON.stringify(old));
    const { db } = trial.parts;
    expect(new ReadingStore(db).facts(db.prepare("SELECT key FROM readings WHERE kind = 'paper'").pluck().get() as string)).toMatchObject({
      ...NOTHING_READ,
      ...old,
    });
    expect(use(await clearance(id), "sold").answer).toBe("no");
  });
  test("contradicting papers stand side by side; the stricter counts until a person decides", async () => {
    const id = await shelved("Furrow", { "a.txt": bytes("Free for commercial use."), "b.txt": bytes("Not for commercial use.") });
    expect(use(await clearance(id), "sold")).toMatchObject({
      answer: "no",
      conflict: true,
      evidence: [{ where: "b.txt, line 1" }, { where: "a.txt, line 1" }],
    });
    await post(`/families/${id}/clearance`, { use: "sold", answer: "yes", note: "Its maker wrote that a.txt is the newer one." });
    expect(use(await clearance(id), "sold")).toMatchObject({
      answer: "yes",
      by: "person",
      note: "Its maker wrote that a.txt is the newer one.",
    });
    await post(`/families/${id}/clearance`, { use: "sold", answer: null, note: "" });
    expect(use(await clearance(id), "sold")).toMatchObject({ answer: "no", by: "papers" });
  });
  test("papers speak of the fonts that lie with them, before and after shelving", async () => {
    const parcel = await trial.bring({
      name: "two.zip",
      bytes: zipSync({
        "Furrow/a.ttf": font("Furrow"),
        "Furrow/licence.txt": bytes("Free for personal use only."),
        "Meadow/b.ttf": font("Meadow", "Free for any use."),
        "Meadow/licence.txt": bytes("Free for commercial use."),
      }),
    });
    expect(parcel.drawers.map((drawer) => [drawer.family, drawer.clearance!.summary])).toEqual([
      ["Furrow", "Yes: own use, embedded in documents; not: sold goods, client work; not stated: given away, video, web page"],
      ["Meadow", "Every use"],
    ]);
    const [furrow, meadow] = await trial.shelve(parcel);
    expect([(await clearance(furrow!)).summary, (await clearance(meadow!)).summary]).toEqual(
      parcel.drawers.map((drawer) => drawer.clearance!.summary),
    );
  });
  test("the font's own fields count, and say where they stand", async () => {
    const view = await clearance(await shelved("Furrow", {}, "Free for personal use only."));
    expect(use(view, "sold").evidence).toMatchObject([{ where: "the font's licence field", paperSha256: null }]);
  });
});

describe("licences", () => {
  test("stand beside what the papers say, keep their receipt, and can be taken off and put back", async () => {
    const id = await shelved("Furrow", { "a.txt": bytes("Free for personal use only.") });
    await post(`/families/${id}/licences`, {
      ...LICENCE,
      kind: "personal",
      answers: { own: "yes" },
      priceMinor: null,
      currency: "",
      seats: null,
    });
    const view = FamilyClearance.parse(await post(`/families/${id}/licences`, LICENCE));
    expect(view.licences.map((one) => one.kind)).toEqual(["personal", "commercial"]);
    expect([use(view, "sold").answer, use(view, "client").answer]).toEqual(["yes", "no"]);
    const bought = view.licences[1]!;
    await trial
      .api()
      .post(`/api/licences/${bought.id}/receipt`)
      .attach("file", Buffer.from("<script>1</script>"), "../receipt.html")
      .expect(200);
    const kept = (await clearance(id)).licences[1]!;
    expect([kept.receiptName, kept.priceMinor, kept.orderNumber]).toEqual(["receipt.html", 1800, "SEED-26"]);
    await trial.restart();
    const receipt = await trial.api().get(`/api/licences/${bought.id}/receipt`).expect(200);
    expect([receipt.headers["content-type"], receipt.headers["content-disposition"]]).toEqual([
      "application/octet-stream",
      "attachment; filename=receipt.html",
    ]);
    await post(`/licences/${bought.id}/remove`, {});
    expect(use(await clearance(id), "sold").answer).toBe("no");
    await post(`/licences/${bought.id}/bring-back`, {});
    expect(use(await clearance(id), "sold").answer).toBe("yes");
  });
  test.each([
    { boughtOn: "2026-02-30" },
    { currency: "euro" },
    { seats: 0 },
    { priceMinor: -1 },
    { term: { days: 0 } },
    { term: { until: "soon" } },
    { answers: { sold: "maybe" } },
    { answers: { sold: "not-stated" } },
  ])("%j is refused", async (wrong) => {
    const id = await shelved("Furrow", {});
    await post(`/families/${id}/licences`, { ...LICENCE, ...wrong }, 400);
    expect((await clearance(id)).licences).toEqual([]);
  });
  test("of 180 days, from placing: a warning in the last two weeks, lapsed on day 181, turned off by a plan, renewed", async () => {
    const id = await shelved("Frostbloom", {
      "terms.txt": bytes("The licence lasts 180 days from the day you place it. Free for any use."),
    });
    const [suggested] = (await clearance(id)).suggestedTerms;
    expect(suggested).toMatchObject({ term: { days: 180 }, where: "terms.txt, line 1" });
    await post(`/families/${id}/licences`, { ...LICENCE, kind: "time-limited", term: suggested!.term });
    expect((await clearance(id)).term).toMatchObject({ state: "not-begun", words: "180 days from the day it is placed" });
    const plan = PlanView.parse(await post("/plans", { deviceId: 1, action: "place", familyIds: [id] }));
    await post(`/plans/${plan.id}/do`, {});
    const day = (number: number) => (trial.now = () => new Date(Date.now() + (number - 1) * DAY_MS));
    const today = async () => Today.parse(await trial.json("/api/today")).terms;
    expect([(await clearance(id)).term!.state, await today()]).toEqual(["running", []]);
    day(167);
    expect(await today()).toMatchObject([{ familyId: id, over: false, words: expect.stringMatching(/^14 days left/) }]);
    day(180);
    expect([(await clearance(id)).lapsed, (await today())[0]!.words]).toEqual([false, expect.stringMatching(/^Ends today/)]);
    day(181);
    expect((await clearance(id)).lapsed).toBe(true);
    expect(await today()).toMatchObject([{ over: true, devices: [{ id: 1, name: "Workshop laptop" }] }]);
    const cells = async () =>
      Board.parse(await trial.json("/api/board"))
        .rows.find((row) => row.familyId === id)!
        .cells.map((cell) => cell.state);
    expect(await cells()).toContain("lapsed");
    expect(FamilyPage.parse(await trial.json("/api/families?at=cleared")).families.map((one) => one.id)).toEqual([id]);
    // Placing it elsewhere warns; what is proposed switches it off where it is.
    const elsewhere = PlanView.parse(await post("/plans", { deviceId: 2, action: "place", familyIds: [id] }));
    expect(elsewhere.warnings).toEqual(["The licence of Frostbloom has ended. Renew it before you use it."]);
    const off = PlanView.parse(await post("/plans", { deviceId: 1, action: "switch-off", familyIds: [id] }));
    expect(off.items.map((item) => item.steps[0]!.op)).toEqual(["switch-off"]);
    await post(`/plans/${off.id}/do`, {});
    expect(await today()).toEqual([]);
    const open = (await post("/practice/1/open", {})) as { menu: { label: string }[] };
    expect(open.menu.map((entry) => entry.label)).not.toContain("Frostbloom");
    await post(`/plans/${off.id}/undo`, {});
    expect(await today()).toHaveLength(1);
    await post(`/families/${id}/licences`, { ...LICENCE, term: { days: 180 } });
    expect([(await clearance(id)).lapsed, (await clearance(id)).term!.state]).toEqual([false, "running"]);
    expect(FamilyDetail.parse(await trial.json(`/api/families/${id}`)).history[0]!.sentence).toBe("A commercial licence was recorded.");
  });
});

describe("jobs", () => {
  test("tell for each family whether it is cleared, draws the words, is placed and seen; and warn before placing", async () => {
    const personal = await shelved("Furrow", { "a.txt": bytes("Free for personal use only.") });
    const free = await shelved("Meadow", { "a.txt": bytes("Free for commercial use with credit to Fernhollow Seed Walk.") });
    const job = JobDetail.parse(
      await post("/jobs", { ...JOB, words: "Wild שלום", languages: ["en", "he"], familyIds: [personal, free], deviceIds: [1] }),
    );
    const [furrow, meadow] = job.families;
    expect(furrow).toMatchObject({ cleared: "no", clearedWords: "Not cleared for sold goods", seen: false });
    // Both lack the same: no family of the job draws it.
    const draws = { good: false, words: "Sets English. Lacks ש ל ו ם, and so does every other family of the job" };
    expect(job.whoSets).toEqual([
      { language: "English", families: ["Furrow", "Meadow"] },
      { language: "Hebrew", families: [] },
    ]);
    expect([furrow!.draws, furrow!.placed]).toEqual([draws, [{ deviceId: 1, name: "Workshop laptop", placed: false }]]);
    expect(furrow!.warnings).toEqual(["Furrow is not cleared for sold goods. “Free for personal use only.” (a.txt, line 1)"]);
    expect([meadow!.cleared, job.creditLines]).toEqual(["credit", ["Font: Meadow by Fernhollow Seed Walk"]]);
    const plan = PlanView.parse(await post("/plans", { deviceId: 1, action: "place", familyIds: [personal, free] }));
    expect(plan.warnings).toEqual([
      "For “Plant markers”: Furrow is not cleared for sold goods. “Free for personal use only.” (a.txt, line 1)",
    ]);
    // The same is said where the font is about to be used.
    const styleId = plan.items[0]!.steps[0]!.styleId;
    expect(Cell.parse(await trial.json(`/api/cells/${styleId}/1`)).warnings).toEqual(plan.warnings);
    expect(FamilyPage.parse(await trial.json(`/api/families?job=${job.id}`)).families.map((one) => one.name)).toEqual(["Meadow"]);
    expect(FamilyPage.parse(await trial.json("/api/families?use=own")).families.map((one) => one.name)).toEqual(["Furrow"]);
    await post(`/jobs/${job.id}/remove`, {});
    expect(await trial.json("/api/jobs")).toEqual([]);
    await post(`/jobs/${job.id}/bring-back`, {});
    expect(await trial.json("/api/jobs")).toHaveLength(1);
    for (const wrong of [{ name: " " }, { uses: [] }, { uses: ["fun"] }, { languages: ["English!"] }])
      await post("/jobs", { ...JOB, ...wrong }, 400);
  });
  test("the permission sheet gives each family's uses with the evidence, as a page and as a table that runs no formula", async () => {
    const id = await shelved("=Sum <b>Furrow</b>", { "a.txt": bytes('Free for "personal", home and private use only.\n') });
    const job = JobDetail.parse(await post("/jobs", { ...JOB, uses: ["sold", "own"], familyIds: [id] }));
    const csv = await trial.api().get(`/api/jobs/${job.id}/sheet.csv`).expect(200);
    expect(csv.headers["content-disposition"]).toBe("attachment; filename=Permission-sheet-Plant-markers.csv");
    const lines = csv.text.trim().split("\r\n");
    expect(lines[0]).toBe("Font family,Use,Allowed,What was read,Where it stands,Licence,Until,Credit line");
    expect(lines[1]).toBe(`'=Sum <b>Furrow</b>,Own use,Yes,"Free for ""personal"", home and private use only.","a.txt, line 1",,,`);
    expect(lines[2]).toContain(",Sold goods,No,");
    const html = (await trial.api().get(`/api/jobs/${job.id}/sheet.html`).expect(200)).text;
    expect(html).toContain("&lt;b&gt;Furrow&lt;/b&gt;");
    expect(html).not.toContain("<b>Furrow");
    await trial.api().get(`/api/jobs/${job.id}/sheet.exe`).expect(404);
    await trial.api().get("/api/jobs/99/sheet.csv").expect(404);
  });
  test("go with their families when two spellings are joined, and back when they are taken apart", async () => {
    const [a, b] = [await shelved("Furrow Garden", {}), await shelved("FurrowGarden", {})];
    const [own, both] = [
      JobDetail.parse(await post("/jobs", { ...JOB, familyIds: [b] })),
      JobDetail.parse(await post("/jobs", { ...JOB, name: "Both", familyIds: [a, b] })),
    ];
    await post(`/jobs/${own.id}/role`, { familyId: b, role: "headline" });
    await post(`/families/${b}/licences`, LICENCE);
    await post(`/families/${b}/clearance`, { use: "client", answer: "no", note: "Asked." });
    await post("/families/act", { ids: [b], act: "tag", tag: "spring", on: true });
    await post("/families/act", { ids: [a, b], act: "tag", tag: "vinyl", on: true });
    await post(`/families/${a}/join`, { otherId: b });
    expect(JobDetail.parse(await trial.json(`/api/jobs/${own.id}`)).families.map((one) => [one.id, one.cleared])).toEqual([[a, "yes"]]);
    // What is added to the whole stays with it.
    await post("/families/act", { ids: [a], act: "tag", tag: "later", on: true });
    const { spellings } = FamilyDetail.parse(await trial.json(`/api/families/${a}`));
    await post(`/families/${a}/part`, { key: spellings[0]!.key });
    const parted = JobDetail.parse(await trial.json(`/api/jobs/${own.id}`)).families;
    expect(parted.map(({ id, role }) => [id === a, role])).toEqual([[false, "headline"]]);
    const other = parted[0]!.id;
    const inBoth = JobDetail.parse(await trial.json(`/api/jobs/${both.id}`)).families.map(({ id }) => id);
    expect(inBoth.sort()).toEqual([a, other].sort());
    const of = async (id: number) => {
      const { licences, uses } = await clearance(id);
      const { tags, styles } = FamilyDetail.parse(await trial.json(`/api/families/${id}`));
      return [licences.length, uses.find(({ use }) => use === "client")?.by, tags.map(({ name }) => name).sort(), styles];
    };
    expect(await of(other)).toEqual([1, "person", ["spring", "vinyl"], 1]);
    expect(await of(a)).toEqual([0, "nobody", ["later", "vinyl"], 1]);
  });
  test("terms begin when a device is made like another, too", async () => {
    const id = await shelved("Frostbloom", {});
    const place = async (request: object) => {
      const plan = PlanView.parse(await post("/plans", request));
      await post(`/plans/${plan.id}/do`, {});
    };
    await place({ deviceId: 1, action: "place", familyIds: [id] });
    for (const wanted of ["remove", "place"]) await place({ deviceId: 1, action: wanted, familyIds: [id] });
    await place({ deviceId: 1, action: "remove", familyIds: [id] });
    await post(`/families/${id}/licences`, { ...LICENCE, kind: "time-limited", term: { days: 30 } });
    expect((await clearance(id)).term).toMatchObject({ state: "not-begun" });
    // The font lies on the other device, put there by hand.
    const [style] = trial.parts.library.stylesOf(id);
    copyFileSync(trial.parts.files.path(style!.sha256), join(trial.dataDir, "practice", "workshop-laptop", "me", "frost.ttf"));
    await post("/devices/1/rescan", {});
    await place({ deviceId: 2, action: "like", fromDeviceId: 1 });
    expect((await clearance(id)).term).toMatchObject({ state: "running" });
  });
});
