// Many at once over HTTP: shelving, pinning, tagging, removing and their way back; finding by any word, misspelt ones too; counts of filters.
import { afterAll, beforeAll, describe, expect, test } from "@jest/globals";
import { ChosenFamilies, FamilyActed, FamilyCounts, FamilyDetail, FamilyPage } from "../../contract/families.ts";
import { ParcelPage, ShelveResult } from "../../contract/parcels.ts";
import { JobDetail } from "../../contract/jobs.ts";
import { PlanView } from "../../contract/placing.ts";
import { Board } from "../../contract/sightings.ts";
import type { Settings } from "../../contract/settings.ts";
import { Trial } from "./trial.ts";

const DOWNLOADS = ["Almanac Field (complete).zip", "fernhollow-text-family.zip", "shvil-hebrew.zip", "seedmarks.zip", "trail-bundle.zip"];

const trial = new Trial();
let added: ShelveResult;
beforeAll(async () => {
  await trial.start();
  for (const name of DOWNLOADS) await trial.bring(name);
  const { ids } = (await trial.json("/api/parcels/shelvable")) as { ids: number[] };
  expect(ids).toHaveLength(DOWNLOADS.length);
  added = ShelveResult.parse((await trial.api().post("/api/parcels/shelve").send({ ids }).expect(200)).body);
  await trial.services.parcels.whenIdle();
}, 60_000);
afterAll(() => trial.end());

const list = async (query: string): Promise<FamilyPage> => FamilyPage.parse(await trial.json(`/api/families?${query}`));
const names = async (query: string): Promise<string[]> => (await list(query)).families.map((family) => family.name);
const act = async (body: object): Promise<FamilyActed> => {
  const acted = FamilyActed.parse((await trial.api().post("/api/families/act").send(body).expect(200)).body);
  await trial.services.renewal.settle();
  return acted;
};
const undo = async (historyId: number | null): Promise<void> => {
  await trial.api().post(`/api/history/${historyId}/undo`).expect(200);
  await trial.services.renewal.settle();
};
const idsOf = async (query = ""): Promise<number[]> => ((await trial.json(`/api/families/ids?${query}`)) as { ids: number[] }).ids;

describe("shelving several parcels", () => {
  test("is one step with one way back, and can be done again", async () => {
    // One of them is also in a bundle: its turn finds nothing more to do.
    expect([added.parcels, added.passedOver]).toEqual([DOWNLOADS.length - 1, 1]);
    const everything = await names("");
    expect(everything.length).toBeGreaterThan(4);
    await undo(added.historyId);
    expect(await names("")).toEqual([]);
    const waiting = ParcelPage.parse(await trial.json("/api/parcels?waits=yes"));
    expect(waiting.total).toBe(DOWNLOADS.length);
    const again = ShelveResult.parse(
      (
        await trial
          .api()
          .post("/api/parcels/shelve")
          .send({ ids: waiting.parcels.map((one) => one.id) })
          .expect(200)
      ).body,
    );
    await trial.services.renewal.settle();
    expect(again.shelved).toBe(added.shelved);
    expect(await names("")).toEqual(everything);
    added = again;
  });
  test("passes over what holds nothing more, and says so when nothing is left", async () => {
    const { parcels } = ParcelPage.parse(await trial.json("/api/parcels"));
    const answer = await trial
      .api()
      .post("/api/parcels/shelve")
      .send({ ids: parcels.map((one) => one.id) })
      .expect(422);
    expect(answer.body).toMatchObject({ code: "nothing-to-shelve" });
    await trial.api().post("/api/parcels/shelve").send({ ids: [] }).expect(400);
  });
});

describe("finding", () => {
  test.each([
    ["a word of the name", "almanac", "Almanac Field"],
    ["several words in any order", "field almanac", "Almanac Field"],
    ["a script by its name", "hebrew", "Shvil Text"],
    ["a file's name", "ShvilHand", "Shvil Hand"],
    ["the parcel it came in", "seedmarks.zip", "Seedmarks One"],
    ["a name with a slip", "almanca", "Almanac Field"],
    ["a name with a letter missing", "shvl hand", "Shvil Hand"],
  ])("by %s", async (_what, typed, wanted) => {
    expect(await names(`search=${encodeURIComponent(typed)}`)).toContain(wanted);
  });
  test("a misspelt word is said to be one, an exact one is not, and nonsense finds nothing", async () => {
    expect((await list("search=almanca")).near).toBe(true);
    expect((await list("search=almanac")).near).toBe(false);
    expect((await list("search=zzyzxqq")).total).toBe(0);
    // Signs alone ask for what has them in its name, and break nothing.
    for (const odd of ['"', "'", "*", "a* OR b", "%", "_", "NEAR(", "-", "(", "ﬁ", "\u0000", "😀"])
      expect((await list(`search=${encodeURIComponent(odd)}`)).total).toBeGreaterThanOrEqual(0);
  });
  test("a language means families that have its letters", async () => {
    const english = await names("search=english");
    const latin = await names("script=latin");
    expect(english.length).toBeGreaterThan(0);
    expect(latin).toEqual(expect.arrayContaining(english));
    const { ids } = (await trial.json("/api/families/ids?search=english")) as { ids: number[] };
    for (const id of ids) {
      const { coversText } = FamilyDetail.parse(
        await trial.json(`/api/families/${id}?text=${encodeURIComponent("Sphinx of black quartz, judge my vow")}`),
      );
      expect([id, coversText]).toEqual([id, true]);
    }
  });
  test("what is called so comes first; other orders when asked for", async () => {
    expect((await names("search=field"))[0]).toBe("Almanac Field");
    const byName = await names("sort=name");
    expect(byName).toEqual([...byName].sort((a, b) => (a.toLowerCase() < b.toLowerCase() ? -1 : 1)));
    expect((await names("sort=newest")).toSorted()).toEqual(byName.toSorted());
    expect((await names("sort=trouble")).toSorted()).toEqual(byName.toSorted());
  });
  test("each filter's number is how many it leaves", async () => {
    for (const base of ["", "search=sh", "script=latin", "kind=text&at=placed"]) {
      const counts = FamilyCounts.parse(await trial.json(`/api/families/counts?${base}&text=abc`));
      const without = (facet: string) =>
        base
          .split("&")
          .filter((one) => !one.startsWith(`${facet}=`))
          .join("&");
      expect(counts.total).toBe((await list(base)).total);
      for (const [at, number] of Object.entries(counts.at))
        expect([at, number]).toEqual([at, (await list(`${without("at")}&at=${at}`)).total]);
      for (const [script, number] of Object.entries(counts.scripts))
        expect([script, number]).toEqual([script, (await list(`${without("script")}&script=${script}`)).total]);
      for (const [kind, number] of Object.entries(counts.kinds))
        expect([kind, number]).toEqual([kind, (await list(`${without("kind")}&kind=${kind}`)).total]);
      for (const [use, number] of Object.entries(counts.uses))
        expect([use, number]).toEqual([use, (await list(`${base}&use=${use}`)).total]);
      expect(counts.covers).toBe((await list(`${base}&covers=yes&text=abc`)).total);
    }
  });
});

describe("several families", () => {
  test("are pinned, and only those that were not are told of", async () => {
    const ids = await idsOf();
    await act({ act: "pin", ids: ids.slice(0, 1), on: true });
    const { changed, sentence } = await act({ act: "pin", ids, on: true });
    expect(changed.toSorted()).toEqual(ids.slice(1).toSorted());
    expect(sentence).toBe(`${ids.length - 1} families pinned.`);
    expect((await list("pinned=yes")).total).toBe(ids.length);
    await act({ act: "pin", ids, on: false });
    expect((await list("pinned=yes")).total).toBe(0);
  });
  test("bear tags they are found by", async () => {
    const ids = (await idsOf()).slice(0, 3);
    await act({ act: "tag", ids, tag: "  Spring Opening ", on: true });
    const again = await act({ act: "tag", ids, tag: "spring opening", on: true });
    expect(again.changed).toEqual([]);
    const counts = FamilyCounts.parse(await trial.json("/api/families/counts"));
    expect(counts.tags).toEqual([{ id: expect.any(Number), name: "Spring Opening", families: 3 }]);
    expect(await idsOf(`tag=${counts.tags[0]!.id}`)).toEqual(ids);
    expect(await idsOf("search=opening")).toEqual(ids);
    expect(FamilyDetail.parse(await trial.json(`/api/families/${ids[0]}`)).tags).toEqual([
      { id: counts.tags[0]!.id, name: "Spring Opening" },
    ]);
    await act({ act: "tag", ids: ids.slice(1), tag: "Spring Opening", on: false });
    expect(await idsOf("search=opening")).toEqual(ids.slice(0, 1));
    const refused = await trial
      .api()
      .post("/api/families/act")
      .send({ act: "tag", ids, tag: "x".repeat(41), on: true })
      .expect(400);
    expect(JSON.stringify(refused.body)).toContain("At most 40 characters");
  });
  test("are placed by one plan, and counted where they are", async () => {
    const ids = await idsOf();
    const { devices } = ChosenFamilies.parse((await trial.api().post("/api/families/chosen").send({ ids }).expect(200)).body);
    const laptop = devices.find((device) => device.name === "Workshop laptop")!;
    expect([laptop.on, laptop.off, laptop.switches]).toEqual([0, 0, true]);
    const drawn = PlanView.parse(
      (await trial.api().post("/api/plans").send({ deviceId: laptop.id, action: "place", familyIds: ids }).expect(200)).body,
    );
    const done = PlanView.parse((await trial.api().post(`/api/plans/${drawn.id}/do`).send({}).expect(200)).body);
    const copied = done.items.flatMap((item) => item.steps).filter((step) => step.op === "copy").length;
    expect([done.state, copied > ids.length]).toEqual(["done", true]);
    const after = ChosenFamilies.parse((await trial.api().post("/api/families/chosen").send({ ids }).expect(200)).body);
    expect(after.devices.find((device) => device.id === laptop.id)).toMatchObject({ on: copied, off: 0 });
    // Single files of a device are turned off and on again by name.
    const files = done.items.slice(0, 2).flatMap((item) => item.steps.map((step) => ({ folder: step.slot, fileName: step.fileName })));
    const off = await trial.api().post("/api/plans").send({ deviceId: laptop.id, action: "switch-off", files }).expect(200);
    expect(
      PlanView.parse(
        (
          await trial
            .api()
            .post(`/api/plans/${(off.body as { id: number }).id}/do`)
            .send({})
            .expect(200)
        ).body,
      ).state,
    ).toBe("done");
    const half = ChosenFamilies.parse((await trial.api().post("/api/families/chosen").send({ ids }).expect(200)).body);
    expect(half.devices.find((device) => device.id === laptop.id)).toMatchObject({ on: copied - files.length, off: files.length });
  });
  test("only the styles that were named are placed", async () => {
    const [id] = await idsOf("search=almanac");
    const { styleList } = FamilyDetail.parse(await trial.json(`/api/families/${id}`));
    const styleIds = styleList.slice(0, 3).map((style) => style.id);
    const devices = ChosenFamilies.parse(
      (
        await trial
          .api()
          .post("/api/families/chosen")
          .send({ ids: [id] })
          .expect(200)
      ).body,
    ).devices;
    const desktop = devices.find((device) => device.name === "Office desktop")!;
    const drawn = await trial
      .api()
      .post("/api/plans")
      .send({ deviceId: desktop.id, action: "place", familyIds: [id], styleIds })
      .expect(200);
    expect(
      PlanView.parse(drawn.body)
        .items.flatMap((item) => item.steps.map((step) => step.styleId))
        .toSorted(),
    ).toEqual(styleIds.toSorted());
  });
  test("are removed from the library: files stay, what was placed stays, and all of it comes back", async () => {
    const ids = await idsOf("search=almanac");
    const before = FamilyDetail.parse(await trial.json(`/api/families/${ids[0]}`));
    const total = (await list("")).total;
    const { historyId, sentence } = await act({ act: "remove", ids });
    expect(sentence).toBe("“Almanac Field” removed from the library.");
    expect((await list("")).total).toBe(total - 1);
    expect(await idsOf("search=almanac")).toEqual([]);
    const gone = await trial.api().get(`/api/families/${ids[0]}`).expect(404);
    expect(gone.body).toMatchObject({ code: "family-removed", detail: "“Almanac Field” was removed from the library." });
    // Started again, its files are still there.
    await trial.restart();
    await trial.services.renewal.settle();
    await trial.api().get(`/api/files/${before.styleList[0]!.sha256}`).expect(200);
    await undo(historyId);
    const after = FamilyDetail.parse(await trial.json(`/api/families/${ids[0]}`));
    expect(after.styleList).toEqual(before.styleList);
    expect(after.placements.map(({ deviceName, styles }) => [deviceName, styles])).toEqual(
      before.placements.map(({ deviceName, styles }) => [deviceName, styles]),
    );
    expect(await idsOf("search=almanac")).toEqual(ids);
    // Once is enough.
    expect((await trial.api().post(`/api/history/${historyId}/undo`).expect(409)).body).toMatchObject({ code: "undo-over" });
  });
  test("shelved once more after being removed, a family has what was known of it", async () => {
    const [id] = await idsOf("search=shvil%20hand");
    await act({ act: "pin", ids: [id], on: true });
    await act({ act: "remove", ids: [id] });
    const { ids } = (await trial.json("/api/parcels/shelvable")) as { ids: number[] };
    expect(ids).toHaveLength(1);
    await trial.api().post(`/api/parcels/${ids[0]}/shelve`).send({}).expect(200);
    await trial.services.renewal.settle();
    expect(FamilyDetail.parse(await trial.json(`/api/families/${id}`))).toMatchObject({ id, pinned: true });
  });
  test("a month later what was removed is gone for good, with its files' last hold", async () => {
    const ids = await idsOf("search=seedmarks");
    const { historyId } = await act({ act: "remove", ids });
    const inThirtyOneDays = Date.now() + 31 * 86_400_000;
    trial.now = () => new Date(inThirtyOneDays);
    await trial.restart();
    await trial.services.renewal.settle();
    expect((await trial.api().post(`/api/history/${historyId}/undo`).expect(409)).body).toMatchObject({ code: "undo-over" });
    expect(await idsOf("search=seedmarks")).toEqual([]);
  });
  test("nobody's families are nothing to act on", async () => {
    await trial.api().post("/api/families/act").send({ act: "remove", ids: [] }).expect(400);
    expect(
      (
        await trial
          .api()
          .post("/api/families/act")
          .send({ act: "remove", ids: [999_999] })
          .expect(409)
      ).body,
    ).toMatchObject({ code: "families-gone" });
  });
});

test("what is wanted for a job is put there and taken out in one step, and has a role that stays", async () => {
  const ids = (await idsOf()).slice(0, 3);
  const job = { name: "Leaflet", uses: ["own"], languages: ["en", "he"], words: "Walk", familyIds: [], deviceIds: [] };
  const { id } = (await trial.api().post("/api/jobs").send(job).expect(200)).body as { id: number };
  const put = async (wanted: boolean) =>
    ((await trial.api().post(`/api/jobs/${id}/families`).send({ ids, wanted }).expect(200)).body as { changed: number[] }).changed;
  expect(await put(true)).toEqual(ids);
  expect(await put(true)).toEqual([]);
  await trial.api().post(`/api/jobs/${id}/role`).send({ familyId: ids[0], role: " headline " }).expect(200);
  // Changing the job otherwise leaves roles as they are.
  await trial
    .api()
    .post(`/api/jobs/${id}`)
    .send({ ...job, name: "Leaflets", familyIds: ids })
    .expect(200);
  const { families } = JobDetail.parse(await trial.json(`/api/jobs/${id}`));
  expect(families.filter((family) => family.role !== "").map((family) => [family.id, family.role])).toEqual([[ids[0], "headline"]]);
  expect(await put(false)).toEqual(ids);
  await trial.api().post(`/api/jobs/${id}/role`).send({ familyId: ids[0], role: "headline" }).expect(404);
});

test("many cells are seen at once, counted, and taken back by one entry", async () => {
  const { cells } = (await trial.json("/api/board/cells?program=2")) as { cells: { styleId: number; programId: number }[] };
  expect(cells.length).toBeGreaterThan(3);
  const looked = (await trial.api().post("/api/board/look").send({ cells, saw: "there", who: "Ines" }).expect(200)).body as {
    sentence: string;
    historyId: number;
  };
  expect(looked.sentence).toBe(`${cells.length} styles seen in Poster Desk. Ines looked.`);
  await trial.services.renewal.settle();
  const seen = async () => {
    const { rows } = Board.parse(await trial.json("/api/board?limit=200"));
    return rows.flatMap((row) => row.cells.filter((cell) => cell.programId === 2 && cell.state === "seen"));
  };
  const now = await seen();
  expect(now.length).toBeGreaterThan(0);
  // One style of a large family does not speak for the others.
  expect(now.some((cell) => cell.listed > cell.seen && cell.seen === 1)).toBe(true);
  await undo(looked.historyId);
  expect(await seen()).toEqual([]);
});

test("changing one setting leaves the others as they are", async () => {
  const set = async (change: object) => (await trial.api().post("/api/settings").send(change).expect(200)).body as Settings;
  await set({ twinFormat: "ttf", evidenceMib: 77 });
  const after = await set({ keepEvidence: false });
  expect(after).toMatchObject({ twinFormat: "ttf", evidenceMib: 77, keepEvidence: false, practice: true });
  expect(await set({ keepEvidence: true })).toMatchObject({ twinFormat: "ttf", evidenceMib: 77, practice: true });
});
