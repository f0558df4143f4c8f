// Files of the library that are gone: said on Today, on the family and by a plan; found again on a device, in a download that is kept, or in one brought
// again.
import { rmSync } from "node:fs";
import { afterEach, beforeEach, expect, test } from "@jest/globals";
import { FamilyDetail } from "../../contract/families.ts";
import { PlanView } from "../../contract/placing.ts";
import { Today } from "../../contract/today.ts";
import { Trial } from "./trial.ts";

let trial: Trial;
/** Trellis Fair on the shelf, its file deleted. */
let familyId: number;
let hash: string;
beforeEach(async () => {
  trial = new Trial();
  await trial.start();
  [familyId] = (await trial.shelve(await trial.bring("trellis-fair.zip"))) as [number];
  hash = trial.parts.library.stylesOf(familyId)[0]!.sha256;
});
afterEach(() => trial.end());

const post = async (path: string, body: object = {}) => (await trial.api().post(`/api${path}`).send(body).expect(200)).body as unknown;
const today = async () => Today.parse(await trial.json("/api/today")).missing;
const family = async () => FamilyDetail.parse(await trial.json(`/api/families/${familyId}`)).missing;
const gone = async () => {
  rmSync(trial.parts.files.path(hash));
  await trial.services.missing.check();
};
const find = async () => ((await post("/library/missing/find")) as { sentence: string }).sentence;
const place = async (deviceId: number) => {
  const plan = PlanView.parse(await post("/plans", { deviceId, action: "place", familyIds: [familyId] }));
  return PlanView.parse(await post(`/plans/${plan.id}/do`));
};

test("nothing is said while everything is there", async () => {
  await trial.services.missing.check();
  expect([await today(), await family()]).toEqual(["", ""]);
});

test("what is gone is said, placing says it, and it is found in the download that is kept", async () => {
  await gone();
  expect(await today()).toBe("The files of 1 style are gone from the library: Trellis Fair.");
  expect(await family()).toMatch(/^The files of 1 style are gone from the library \(Trellis Fair/);
  const failed = await place(1);
  expect(failed.items[0]!.steps[0]!.problem).toMatchObject({ code: "step-missing", message: "Its file is gone from the library." });
  expect(await find()).toBe("1 file found again.");
  expect([await today(), await family(), (await place(2)).state]).toEqual(["", "", "done"]);
});

test("where the download is gone as well it is taken from a device that holds it", async () => {
  await place(1);
  rmSync(trial.parts.incoming, { recursive: true });
  await gone();
  expect(await find()).toBe("1 file found again.");
  expect(await today()).toBe("");
});

test("where it is nowhere that is said, and bringing the download again is enough", async () => {
  rmSync(trial.parts.incoming, { recursive: true });
  await gone();
  expect(await find()).toBe("0 files found again. 1 file could not be found: bring its download again.");
  await trial.restart();
  await trial.services.begun;
  expect(await today()).not.toBe("");
  await trial.bring("trellis-fair.zip");
  await trial.services.missing.again();
  expect(await today()).toBe("");
});
