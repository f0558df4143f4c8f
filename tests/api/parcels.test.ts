// Parcels in full over HTTP: unwrapping, clearing with a way back, joining spellings, the watched folder, limits, long lists.
import { execFileSync } from "node:child_process";
import { copyFileSync, mkdirSync, readdirSync, readFileSync, renameSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { afterEach, beforeEach, describe, expect, test } from "@jest/globals";
import { zipSync } from "fflate";
import { FamilyDetail, FamilyPage } from "../../contract/families.ts";
import { ParcelDetail, ParcelPage } from "../../contract/parcels.ts";
import { WatchReport } from "../../contract/settings.ts";
import { TabletView } from "../../contract/tablets.ts";
import { openContainer, tableBytes } from "../../core/sfnt/container.ts";
import { loadWoff2 } from "../../core/sfnt/woff2.ts";
import { renamedTables } from "../../demo/writing/rename.ts";
import { builtInFont, download, Trial } from "./trial.ts";

let trial: Trial;
beforeEach(async () => {
  trial = new Trial();
  await trial.start();
});
afterEach(() => trial.end());

const styles = (parcel: Awaited<ReturnType<Trial["bring"]>>) => parcel.drawers.flatMap((drawer) => drawer.styles);
const family = (name: string, style = "Regular"): Uint8Array =>
  renamedTables(readFileSync(builtInFont("WrenSmall-Regular.ttf")), { family: name, style, version: "1.000" });
const until = async (test: () => boolean | Promise<boolean>): Promise<void> => {
  for (const end = Date.now() + 30_000; !(await test());) {
    if (Date.now() > end) throw new Error("It never came to that.");
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
};

describe("web fonts", () => {
  const web = () => readFileSync(join(process.cwd(), "node_modules", "@fontsource", "petrona", "files", "petrona-latin-400-normal.woff2"));
  test("are unwrapped with their tables unchanged, and can be shelved then", async () => {
    const parcel = await trial.bring("hedgerow-web.zip");
    const [style] = styles(parcel);
    expect([parcel.shelvableStyles, style!.unwrap?.allowed]).toEqual([0, true]);
    const { body } = await trial
      .api()
      .post(`/api/parcels/${parcel.id}/unwrap`)
      .send({ files: [style!.sha256] })
      .expect(200);
    expect(body).toMatchObject({ shelvableStyles: 1 });
    const after = await trial.parcel(parcel.id);
    const made = styles(after).find((one) => one.unwrap === null)!;
    expect([made.path, made.verdict]).toEqual(["fonts/hedgerow-signal.ttf", "sound"]);
    const packed = openContainer(await trial.parts.files.read(style!.sha256), await loadWoff2());
    const plain = openContainer(await trial.parts.files.read(made.sha256));
    for (const [i, table] of packed.faces[0]!.tables.entries())
      expect(Buffer.compare(tableBytes(plain, plain.faces[0]!.tables[i]!), tableBytes(packed, table))).toBe(0);
    await trial.shelve(after);
    // Once more adds nothing.
    await trial
      .api()
      .post(`/api/parcels/${parcel.id}/unwrap`)
      .send({ files: [style!.sha256] })
      .expect(200);
    expect((await trial.parcel(parcel.id)).styles).toBe(2);
  });
  test.each([
    "The web fonts may be used on web pages only.",
    "You may not convert these files to other formats.",
    "Desktop installation is not included in this licence.",
  ])("are left wrapped where a paper says: %s", async (words) => {
    const bytes = zipSync({ "a.woff2": web(), "licence.txt": new TextEncoder().encode(`Hello.\n\n${words}\n`) });
    const parcel = await trial.bring({ name: "web.zip", bytes });
    const [style] = styles(parcel);
    expect(style!.unwrap).toEqual({ allowed: false, reason: expect.stringContaining(`“${words}” (licence.txt, line 3)`) });
    const refused = await trial
      .api()
      .post(`/api/parcels/${parcel.id}/unwrap`)
      .send({ files: [style!.sha256] })
      .expect(422);
    expect(refused.body).toMatchObject({ code: "unwrap-forbidden" });
    expect((await trial.parcel(parcel.id)).entries).toHaveLength(2);
  });
});

test("a parcel whose row of the list could not be written is answered from what is known", async () => {
  const { id, name } = await trial.bring("trellis-fair.zip");
  const before = ParcelDetail.parse(await trial.json(`/api/parcels/${id}`));
  trial.parts.db.prepare("DELETE FROM parcel_views WHERE parcel_id = ?").run(id);
  expect(ParcelDetail.parse(await trial.json(`/api/parcels/${id}`))).toEqual(before);
  expect(name).toBe("trellis-fair.zip");
});

describe("clearing", () => {
  test("an archive goes a day later, with a way back until then; what was left out can still be taken", async () => {
    const parcel = await trial.bring("garden-note.zip");
    await trial.shelve(parcel);
    const clear = (what: string) => trial.api().post(`/api/parcels/${parcel.id}/${what}`);
    expect((await clear("clear").expect(200)).body).toMatchObject({ cleared: true });
    expect((await clear("unclear").expect(200)).body).toMatchObject({ cleared: false });
    await clear("clear").expect(200);
    const later = (hours: number) => new Date(Date.now() + (hours - 24) * 3_600_000).toISOString();
    await trial.services.parcels.tidy(later(23));
    expect(trial.filesLeft().incoming).toBe(1);
    await trial.services.parcels.tidy(later(25));
    expect(trial.filesLeft().incoming).toBe(0);
    expect((await clear("unclear").expect(409)).body).toMatchObject({ code: "archive-gone" });
    const left = styles(await trial.parcel(parcel.id)).find((style) => !style.shelved)!;
    const taken = await trial
      .api()
      .post(`/api/parcels/${parcel.id}/shelve`)
      .send({ faces: [{ sha256: left.sha256, face: left.face }] });
    expect(taken.body).toMatchObject({ shelved: 1 });
  });
  test("a removed parcel keeps the papers of what is on the shelf", async () => {
    const parcel = await trial.bring("tendril_script_free.zip");
    const [id] = await trial.shelve(parcel);
    await trial.api().post(`/api/parcels/${parcel.id}/remove`).expect(200);
    await trial.services.parcels.tidy(new Date(Date.now() + 1000).toISOString());
    await trial.restart();
    const { papers } = FamilyDetail.parse(await trial.json(`/api/families/${id}`));
    expect(papers.map((paper) => paper.path)).toEqual(["please read.txt"]);
    expect(await trial.json(`/api/papers/${papers[0]!.sha256}`)).toMatchObject({ text: expect.stringContaining("personal use") });
  });
  test("files nothing refers to are swept away at the next start, and nothing else", async () => {
    await trial.shelve(await trial.bring("trellis-fair.zip"));
    const root = join(trial.dataDir, "files");
    const stored = () => readdirSync(root, { recursive: true, encoding: "utf8" }).filter((name) => /[0-9a-f]{64}$/.test(name));
    const before = stored();
    mkdirSync(join(root, "ab"), { recursive: true });
    writeFileSync(join(root, "ab", "ab".padEnd(64, "0")), "left behind");
    await trial.restart();
    expect(stored()).toEqual(before);
  });
});

describe("families", () => {
  test("two spellings of one family are suggested, joined, and taken apart again", async () => {
    const bytes = zipSync({ "a.ttf": family("Furrow Garden"), "b.ttf": family("FurrowGarden", "Bold"), "c.ttf": family("Meadow") });
    const parcel = await trial.bring({ name: "two.zip", bytes });
    expect(parcel.drawers.map((drawer) => [drawer.family, drawer.alike.map((one) => one.name)])).toEqual([
      ["Furrow Garden", ["FurrowGarden"]],
      ["FurrowGarden", ["Furrow Garden"]],
      ["Meadow", []],
    ]);
    await trial.shelve(parcel);
    const list = async () => FamilyPage.parse(await trial.json("/api/families")).families.map(({ name, styles }) => [name, styles]);
    expect(await list()).toEqual([
      ["Furrow Garden", 1],
      ["FurrowGarden", 1],
      ["Meadow", 1],
    ]);
    const [one, other] = FamilyPage.parse(await trial.json("/api/families")).families;
    // Once both are there, the parcel's own page offers to file them as one; after that it says nothing more.
    const offered = async () =>
      ParcelDetail.parse(await trial.json(`/api/parcels/${parcel.id}`)).drawers.map((drawer) => drawer.alike.map(({ join }) => join));
    const join = { id: one!.id, name: "Furrow Garden", otherId: other!.id, otherName: "FurrowGarden" };
    expect((await offered())[0]).toEqual([join]);
    await trial.api().post(`/api/families/${one!.id}/join`).send({ otherId: other!.id }).expect(200);
    expect(await list()).toEqual([
      ["Furrow Garden", 2],
      ["Meadow", 1],
    ]);
    expect(await offered()).toEqual([[], [], []]);
    // What comes later under the other spelling is filed with it.
    await trial.shelve(await trial.bring({ name: "more.zip", bytes: zipSync({ "d.ttf": family("FurrowGarden", "Italic") }) }));
    expect((await list())[0]).toEqual(["Furrow Garden", 3]);
    const { spellings } = FamilyDetail.parse(await trial.json(`/api/families/${one!.id}`));
    await trial.api().post(`/api/families/${one!.id}/part`).send({ key: spellings[0]!.key }).expect(200);
    expect(await list()).toEqual([
      ["Furrow Garden", 1],
      ["FurrowGarden", 2],
      ["Meadow", 1],
    ]);
    await trial.api().post(`/api/families/${one!.id}/join`).send({ otherId: 999 }).expect(404);
  });
  test("are found by name, script, kind, pin and the words they cover, a part of the list at a time", async () => {
    for (const name of ["shvil-hebrew.zip", "seedmarks.zip", "trellis-fair.zip", "Seedbox-Layered.zip"])
      await trial.shelve(await trial.bring(name));
    const found = async (query: string) => FamilyPage.parse(await trial.json(`/api/families?${query}`)).families.map((one) => one.name);
    expect(await found("script=hebrew")).toEqual(["Shvil Hand", "Shvil Text"]);
    expect(await found("kind=symbols")).toEqual(["Seedmarks One", "Seedmarks Two"]);
    expect(await found("kind=outlined")).toEqual(["Trellis Fair"]);
    expect(await found("kind=capitals")).toEqual(["Seedbox Block", "Seedbox Block Shade"]);
    expect(await found(`covers=yes&text=${encodeURIComponent("שלום")}`)).toEqual(["Shvil Hand", "Shvil Text"]);
    expect(await found("search=BLOCK")).toEqual(["Seedbox Block", "Seedbox Block Shade"]);
    const page = FamilyPage.parse(await trial.json("/api/families?from=2&limit=3"));
    expect([page.total, page.all, page.families.length, page.families[0]!.name]).toEqual([7, 7, 3, "Seedmarks One"]);
    await trial.api().post(`/api/families/${page.families[0]!.id}/pin`).send({ pinned: true }).expect(200);
    expect(await found("pinned=yes")).toEqual(["Seedmarks One"]);
    await trial.api().get("/api/families?limit=9999").expect(400);
  });
  test("what is worth knowing of them is said: capitals, symbols' code points, other names", async () => {
    const notes = async (name: string) => (await trial.bring(name)).drawers.map((drawer) => drawer.notes.join(" "));
    expect(await notes("trellis-fair.zip")).toEqual(["Capitals are outlines, small letters are filled."]);
    const symbols = await notes("seedmarks.zip");
    expect(symbols[0]).toMatch(
      /^Symbols at U\+E100 to U\+E10\d\. Its symbols are not in Seedmarks Two: pasted there, they are empty boxes\.$/,
    );
    expect(styles(await trial.bring("tendril_script_free.zip"))[0]!.names).toBe("");
    const odd = await trial.bring({ name: "pack_7_final.zip", bytes: zipSync({ "xq12.ttf": family("Furrow") }) });
    expect(styles(odd)[0]!.names).toBe("The file is called xq12.ttf, the archive pack_7_final.zip; programs list it as Furrow.");
  });
  test("records made by an older reader are made anew at the next start", async () => {
    const [id] = await trial.shelve(await trial.bring("trellis-fair.zip"));
    trial.parts.db.prepare("UPDATE faces SET record_version = 1, record = json_remove(record, '$.capitals')").run();
    await trial.restart();
    expect(FamilyDetail.parse(await trial.json(`/api/families/${id}`)).notes).toEqual(["Capitals are outlines, small letters are filled."]);
    expect(trial.parts.library.outdatedCount()).toBe(0);
  });
});

describe("the watched folder", () => {
  test("brings what arrives, once, and leaves alone what lay there, what is unfinished and what holds no font", async () => {
    const folder = join(trial.dataDir, "Downloads");
    mkdirSync(folder);
    copyFileSync(download("trellis-fair.zip"), join(folder, "old.zip"));
    await trial.api().post("/api/settings").send({ watchedFolder: folder }).expect(200);
    writeFileSync(join(folder, "photos.zip"), zipSync({ "a.jpg": new Uint8Array(9) }));
    writeFileSync(join(folder, "letter.txt"), "Hello");
    copyFileSync(download("seedmarks.zip"), join(folder, "seedmarks.zip.part"));
    copyFileSync(download("garden-note.zip"), join(folder, "garden-note.zip"));
    const names = async () => ParcelPage.parse(await trial.json("/api/parcels")).parcels.map((one) => one.name);
    const report = async () => WatchReport.parse(await trial.json("/api/settings/watch"));
    // The list follows a moment after the parcel is there.
    await until(async () => (await report()).taken === 1 && (await report()).passedOver === 1 && (await names()).length > 0);
    expect(await names()).toEqual(["garden-note.zip"]);
    expect((await report()).latest.find((one) => one.name === "photos.zip")?.outcome).toBe("There is no font in it.");
    renameSync(join(folder, "seedmarks.zip.part"), join(folder, "seedmarks.zip"));
    await until(async () => (await names()).length === 2);
    await trial.restart();
    await until(async () => (await report()).folder === folder);
    // Files are taken in the order they are found in: once a new one is in, those found before it were passed by.
    copyFileSync(download("winter-pack.zip"), join(folder, "winter-pack.zip"));
    await until(async () => (await names()).includes("winter-pack.zip"));
    expect(await names()).toEqual(["winter-pack.zip", "seedmarks.zip", "garden-note.zip"]);
    await trial.api().post("/api/settings/watch/take-earlier").expect(200);
    await until(async () => (await names()).includes("old.zip"));
    expect(readdirSync(folder).sort()).toEqual([
      "garden-note.zip",
      "letter.txt",
      "old.zip",
      "photos.zip",
      "seedmarks.zip",
      "winter-pack.zip",
    ]);
    renameSync(folder, `${folder}-moved`);
    await until(async () => (await report()).problem !== null);
    expect((await report()).problem!.message).toMatch(/cannot be found\.$/);
    await trial.services.parcels.whenIdle();
  }, 40_000);
  test("a download that grows beside one that takes long to look into becomes one parcel, whole", async () => {
    const folder = join(trial.dataDir, "Downloads growing");
    mkdirSync(folder);
    await trial.api().post("/api/settings").send({ watchedFolder: folder }).expect(200);
    const packed = join(trial.dataDir, "note.7z");
    execFileSync("7z", ["a", packed, download("garden-note.zip")], { stdio: "ignore" });
    const whole = readFileSync(download("seedmarks.zip"));
    copyFileSync(packed, join(folder, "note.7z"));
    const pieces = 12;
    for (let i = 1; i <= pieces; i++) {
      writeFileSync(join(folder, "seedmarks.zip"), whole.subarray(0, Math.ceil((whole.length * i) / pieces)));
      await new Promise((resolve) => setTimeout(resolve, 300));
    }
    const list = async () => ParcelPage.parse(await trial.json("/api/parcels")).parcels;
    await until(async () => (await list()).length >= 2);
    await trial.services.parcels.whenIdle();
    expect((await list()).map(({ name, state }) => [name, state]).sort()).toEqual([
      ["note.7z", "ready"],
      ["seedmarks.zip", "ready"],
    ]);
  }, 60_000);
  test("what arrives in an empty folder while the server is closed is taken in at its next start", async () => {
    const folder = join(trial.dataDir, "Downloads empty");
    mkdirSync(folder);
    await trial.api().post("/api/settings").send({ watchedFolder: folder }).expect(200);
    await trial.services.close();
    copyFileSync(download("garden-note.zip"), join(folder, "garden-note.zip"));
    await trial.start();
    await until(async () => ParcelPage.parse(await trial.json("/api/parcels")).parcels.length === 1);
    await trial.services.parcels.whenIdle();
  }, 60_000);
  test("must be a folder's whole path", async () => {
    for (const watchedFolder of ["Downloads", "/no/such/folder", download("trellis-fair.zip")]) {
      const refused = await trial.api().post("/api/settings").send({ watchedFolder }).expect(422);
      expect(refused.body).toMatchObject({ code: "watched-folder", detail: expect.stringMatching(/\.$/) });
    }
    expect(WatchReport.parse(await trial.json("/api/settings/watch")).folder).toBeNull();
  });
});

describe("limits", () => {
  const limits = { entries: 20_000, totalMib: 4096, entryMib: 1024, ratio: 200, depth: 3 };
  const set = (change: Partial<typeof limits>) =>
    trial
      .api()
      .post("/api/settings")
      .send({ limits: { ...limits, ...change } });
  test("are settings, and each refusal names the one that was hit", async () => {
    const font = readFileSync(builtInFont("WrenSmall-Regular.ttf"));
    const many = zipSync({ "a.ttf": font, ...Object.fromEntries([...Array(20).keys()].map((i) => [`${i}.txt`, new Uint8Array(1)])) });
    await set({ entries: 10 }).expect(200);
    expect((await trial.bring({ name: "many.zip", bytes: many })).problem).toMatchObject({
      code: "archive-entries-limit",
      next: expect.stringContaining("“Entries”"),
    });
    await set({ totalMib: 1 }).expect(200);
    const large = zipSync({ "a.ttf": font, "b.txt": new Uint8Array(2 ** 20) }, { level: 0 });
    // The upload itself is larger than anything that could be taken.
    await trial.api().post("/api/parcels").attach("file", Buffer.from(large), "large.zip").expect(413);
    const packed = zipSync({ "a.ttf": font, "b.txt": new Uint8Array(2 ** 20) });
    expect((await trial.bring({ name: "large.zip", bytes: packed })).problem).toMatchObject({
      code: "archive-bytes-limit",
      next: expect.stringContaining("“Unpacked in all”"),
    });
    await set({ entryMib: 1 }).expect(200);
    const entry = await trial.bring({ name: "entry.zip", bytes: zipSync({ "a.ttf": font, "b.txt": new Uint8Array(2 ** 20 + 1) }) });
    expect(entry.entries.map((one) => one.problem?.code)).toEqual([undefined, "entry-bytes-limit"]);
    expect(entry.entries[1]!.problem!.next).toContain("“One entry”");
    await set({ ratio: 10 }).expect(200);
    const dense = await trial.bring({ name: "dense.zip", bytes: zipSync({ "a.ttf": font, "b.txt": new Uint8Array(20 * 2 ** 20) }) });
    expect(dense.entries[1]!.problem).toMatchObject({
      code: "entry-ratio-limit",
      next: expect.stringContaining("“Maximum expansion”"),
    });
    await set({ depth: 1 }).expect(200);
    const nested = await trial.bring({ name: "n.zip", bytes: zipSync({ "a.ttf": font, "b.zip": zipSync({ "c.ttf": font }) }) });
    expect(nested.entries[1]!.problem).toMatchObject({
      code: "archive-depth-limit",
      next: expect.stringContaining("“Archives inside archives”"),
    });
    await set({ depth: 0 }).expect(400);
  });
});

describe("a tablet", () => {
  test("gets a profile: .otf before its twin, web fonts never, with the media type that opens it there", async () => {
    const parcel = await trial.bring("garden-note.zip");
    const all = styles(parcel).map((style) => ({ sha256: style.sha256, face: style.face }));
    const shelved = await trial.api().post(`/api/parcels/${parcel.id}/shelve`).send({ faces: all }).expect(200);
    const [id] = (shelved.body as { familyIds: number[] }).familyIds;
    const view = TabletView.parse(await trial.json(`/api/families/${id}/tablet`));
    expect(view.fonts).toEqual([{ name: "Garden Note", fileName: "GardenNote-Regular.otf" }]);
    expect(view.left).toEqual([{ name: "GardenNote.ttf", reason: "The same style as GardenNote.otf, which a tablet prefers." }]);
    const profile = () => trial.api().get(`/api/families/${id}/profile`).responseType("blob").expect(200);
    const text = (answer: { body: unknown }) => (answer.body as Buffer).toString();
    const first = await profile();
    expect([first.headers["content-type"], first.headers["content-disposition"]]).toEqual([
      "application/x-apple-aspen-config",
      "attachment; filename=Garden-Note.mobileconfig",
    ]);
    const otf = styles(parcel).find((style) => style.path.endsWith(".otf"))!;
    const font = Buffer.from(await trial.parts.files.read(otf.sha256)).toString("base64");
    expect(text(first).replace(/\s/g, "")).toContain(font);
    // The same after a restart: placing it again replaces it.
    await trial.restart();
    expect(text(await profile())).toBe(text(first));
    await trial.api().get("/api/families/999/profile").expect(404);
  });
});
