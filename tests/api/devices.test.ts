// Devices over HTTP: plans with choices, passcodes, faults, duplicates, looking again, adopting, tablets, kits, this computer.
import { createHash } from "node:crypto";
import { copyFileSync, existsSync, mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { afterEach, beforeEach, describe, expect, test } from "@jest/globals";
import { unzipSync } from "fflate";
import { DeviceDetail, DeviceFonts, DeviceSummary, DuplicateGroup, TabletProfiles } from "../../contract/devices.ts";
import { FamilyDetail } from "../../contract/families.ts";
import { PlanView, type PlanRequest } from "../../contract/placing.ts";
import { Diagnosis } from "../../contract/sightings.ts";
import { openContainer, tableBytes } from "../../core/sfnt/container.ts";
import { assembleSfnt } from "../../core/sfnt/assemble.ts";
import { builtInFont, Trial } from "./trial.ts";

let trial: Trial;
beforeEach(async () => {
  trial = new Trial();
  await trial.start();
});
afterEach(() => trial.end());

const post = async (path: string, body: object, status = 200): Promise<unknown> =>
  (await trial.api().post(`/api${path}`).send(body).expect(status)).body as unknown;
const device = async (id: number): Promise<DeviceDetail> => DeviceDetail.parse(await trial.json(`/api/devices/${id}`));
const summary = async (id: number) =>
  DeviceSummary.array()
    .parse(await trial.json("/api/devices"))
    .find((one) => one.id === id)!;
const draw = async (request: PlanRequest) => PlanView.parse(await post("/plans", request));
const carryOut = async (plan: PlanView, body: object = {}) => PlanView.parse(await post(`/plans/${plan.id}/do`, body));
const undo = async (plan: PlanView, body: object = {}) => PlanView.parse(await post(`/plans/${plan.id}/undo`, body));
const situations = (plan: PlanView) => plan.items.map((item) => [item.situation, item.chosen]);
const shelved = async (name: string): Promise<number[]> => trial.shelve(await trial.bring(name));
const folder = (slug = "workshop-laptop", account = "me") => join(trial.dataDir, "practice", slug, account);
const LAPTOP = 1;
const OFFICE = 2;
const TABLET = 3;

/** A font whose head.fontRevision and version string say another version; everything else is the same. */
function otherVersion(bytes: Uint8Array, revision: number): Uint8Array {
  const file = openContainer(bytes);
  const { flavour, tables } = file.faces[0]!;
  const copies = new Map(tables.map((record) => [record.tag, new Uint8Array(tableBytes(file, record))]));
  new DataView(copies.get("head")!.buffer).setInt32(4, Math.round(revision * 65536));
  return assembleSfnt(flavour, copies);
}

describe("the folder for everyone", () => {
  test("asks for the passcode once for all files; a wrong one is refused and the third shuts it, with nothing changed", async () => {
    const familyIds = await shelved("Seedbox-Layered.zip");
    const plan = await draw({ deviceId: LAPTOP, action: "place", account: "everyone", familyIds });
    expect(plan).toMatchObject({ needsPasscode: true, passcodes: { asked: 1, fontByFont: 2 }, fontsBefore: 0, fontsAfter: 2 });
    const refused = async (passcode: string | undefined, status: number) =>
      ((await post(`/plans/${plan.id}/do`, passcode === undefined ? {} : { passcode }, status)) as { code: string }).code;
    expect(await refused(undefined, 401)).toBe("passcode-needed");
    expect([await refused("0000", 401), await refused("1111", 401), await refused("2222", 429)]).toEqual([
      "passcode-wrong",
      "passcode-wrong",
      "passcode-locked",
    ]);
    expect(await refused("2580", 429)).toBe("passcode-locked");
    expect(readdirSync(folder("workshop-laptop", "everyone"))).toEqual([]);
    writeFileSync(join(trial.dataDir, "practice", "workshop-laptop", "state.json"), "{}");
    expect(await carryOut(plan, { passcode: "2580" })).toMatchObject({ state: "done", fontsAfter: 2 });
    expect(readdirSync(folder("workshop-laptop", "everyone"))).toHaveLength(2);
    expect(await undo(plan, { passcode: "2580" })).toMatchObject({ state: "undone", fontsAfter: 0 });
  });
});

describe("the fonts of a device", () => {
  test("stand by family, those with a remark first, and are found by words of family, style and file", async () => {
    const familyIds = [...(await shelved("trellis-fair.zip")), ...(await shelved("fernhollow-text-family.zip"))];
    await carryOut(await draw({ deviceId: LAPTOP, action: "place", familyIds }));
    const found = async (q: string) => DeviceFonts.parse(await trial.json(`/api/devices/${LAPTOP}/fonts?${new URLSearchParams({ q })}`));
    const { fonts, total } = await found("");
    expect(total).toBe(fonts.length);
    const heads = fonts.filter(({ first }) => first).map(({ family }) => family);
    expect(heads).toEqual([...new Set(fonts.map(({ family }) => family))]);
    const bold = await found("FERNHOLLOW bold");
    expect(bold.total).toBeGreaterThan(0);
    expect(bold.fonts.every(({ family, style }) => /fernhollow/i.test(family) && /bold/i.test(style))).toBe(true);
    expect(bold.fonts.filter(({ first }) => first)).toHaveLength(new Set(bold.fonts.map(({ family }) => family)).size);
    expect(await found("trellisfair-regular.ttf")).toMatchObject({ total: 1, fonts: [{ family: "Trellis Fair" }] });
    expect((await found("nothing of that name")).total).toBe(0);
    // What is turned off by one's own plan is no trouble.
    await carryOut(await draw({ deviceId: LAPTOP, action: "switch-off", familyIds: [familyIds[0]!] }));
    const off = (await found("trellis")).fonts;
    expect([off[0]!.on, off[0]!.remarks]).toEqual([false, []]);
    await carryOut(await draw({ deviceId: LAPTOP, action: "remove", familyIds }));
  });
  test("a plan that was taken back is said to be, in the history of its family", async () => {
    const [id] = await shelved("trellis-fair.zip");
    const plan = await draw({ deviceId: LAPTOP, action: "place", familyIds: [id!] });
    await carryOut(plan);
    const history = async () => FamilyDetail.parse(await trial.json(`/api/families/${id}`)).history.filter(({ kind }) => kind === "place");
    const before = await history();
    await undo(plan);
    expect(before.at(0)).toMatchObject({ undone: false });
    expect((await history()).find((one) => one.id === before[0]!.id)).toMatchObject({ undone: true, undo: null });
  });
});

describe("a plan", () => {
  test("recommends, lets choose otherwise, and does what was chosen", async () => {
    const familyIds = await shelved("trellis-fair.zip");
    await carryOut(await draw({ deviceId: OFFICE, action: "place", familyIds }));
    const plan = await draw({ deviceId: OFFICE, action: "place", account: "everyone", familyIds });
    // Title Desk reads the folder for everyone only, so moving is recommended.
    expect(situations(plan)).toEqual([["elsewhere", "move"]]);
    expect(plan.items[0]!.steps.map((step) => step.op)).toEqual(["copy", "remove"]);
    const key = plan.items[0]!.key;
    const left = PlanView.parse(await post(`/plans/${plan.id}/choose`, { key, choice: "leave" }));
    expect([situations(left), left.fontsAfter]).toEqual([[["elsewhere", "leave"]], 1]);
    await post(`/plans/${plan.id}/choose`, { key, choice: "switch-on" }, 409);
    await post(`/plans/${plan.id}/choose`, { key, choice: "move", all: true });
    const done = await carryOut(plan, { passcode: "4711" });
    expect([done.state, done.fontsBefore, done.fontsAfter]).toEqual(["done", 1, 1]);
    expect([readdirSync(folder("office-desktop")), readdirSync(folder("office-desktop", "everyone"))]).toEqual([
      [],
      ["TrellisFair-Regular.ttf"],
    ]);
    await undo(plan, { passcode: "4711" });
    expect([readdirSync(folder("office-desktop")), readdirSync(folder("office-desktop", "everyone"))]).toEqual([
      ["TrellisFair-Regular.ttf"],
      [],
    ]);
    const { history } = FamilyDetail.parse(await trial.json(`/api/families/${familyIds[0]}`));
    expect(history[0]!.sentence).toMatch(/^Undone: 1 file placed on Office desktop.*1 placed font before, now 1\.$/);
  });
  test("an older version found there is replaced by the newer one, kept for undo though the library never had it", async () => {
    const familyIds = await shelved("trellis-fair.zip");
    const hash = (await trial.parts.library.stylesOf(familyIds[0]!))[0]!.sha256;
    const old = otherVersion(await trial.parts.files.read(hash), 0.5);
    writeFileSync(join(folder(), "old.ttf"), old);
    const plan = await draw({ deviceId: LAPTOP, action: "place", familyIds });
    expect(situations(plan)).toEqual([["older-there", "replace"]]);
    await carryOut(plan);
    expect(readdirSync(folder())).toEqual(["TrellisFair-Regular.ttf"]);
    // A restart sweeps the store; what undo needs stays.
    await trial.restart();
    await undo(plan);
    expect(readdirSync(folder())).toEqual(["old.ttf"]);
    expect(Buffer.compare(readFileSync(join(folder(), "old.ttf")), old)).toBe(0);
    expect((await summary(LAPTOP)).trouble.outdated).toBe(1);
  });
  test("is drawn anew when the device changed meanwhile, and nothing is done until it was seen", async () => {
    const familyIds = await shelved("trellis-fair.zip");
    const [first, second] = [
      await draw({ deviceId: LAPTOP, action: "place", familyIds }),
      await draw({ deviceId: LAPTOP, action: "place", familyIds }),
    ];
    // Two people at once: one comes first, the other is told.
    const answers = await Promise.all([first, second].map((plan) => trial.api().post(`/api/plans/${plan.id}/do`).send({})));
    expect(answers.map((answer) => answer.status).sort()).toEqual([200, 409]);
    const late = answers[0]!.status === 409 ? first : second;
    expect(answers.find((answer) => answer.status === 409)!.body).toMatchObject({ code: "plan-outdated" });
    expect(situations(PlanView.parse(await trial.json(`/api/plans/${late.id}`)))).toEqual([["there", "keep"]]);
    expect(readdirSync(folder())).toHaveLength(1);
  });
  test.each([
    ["read-only", { readOnly: true }, "step-denied"],
    ["full", { full: true }, undefined],
    ["away", { away: true }, "device-away"],
  ])("on a device that is %s changes nothing, says why, and is carried out later", async (_how, state, code) => {
    const familyIds = await shelved("Seedbox-Layered.zip");
    const plan = await draw({ deviceId: LAPTOP, action: "place", familyIds });
    await post(`/devices/${LAPTOP}/practice`, state);
    if (code === "device-away") {
      expect(await post(`/plans/${plan.id}/do`, {}, 503)).toMatchObject({ code });
      expect((await summary(LAPTOP)).problem).toMatchObject({ code, next: expect.stringContaining("from the last time") });
    } else {
      const failed = await carryOut(plan);
      expect(failed.state).toBe("failed");
      for (const item of failed.items) expect(item.steps[0]!.problem!.code).toBe(code ?? "step-space");
    }
    await post(`/devices/${LAPTOP}/practice`, { readOnly: false, full: false, away: false });
    expect(readdirSync(folder())).toEqual([]);
    expect(await carryOut(plan)).toMatchObject({ state: "done", fontsAfter: 2 });
  });
  test("too little room is seen beforehand", async () => {
    const familyIds = await shelved("Seedbox-Layered.zip");
    await post(`/devices/${LAPTOP}/practice`, { full: true });
    const plan = await draw({ deviceId: LAPTOP, action: "place", familyIds });
    expect(situations(plan)).toEqual([
      ["space", "leave"],
      ["space", "leave"],
    ]);
  });
  test("a file that an open program uses stays, and goes once it is closed", async () => {
    const familyIds = await shelved("trellis-fair.zip");
    await carryOut(await draw({ deviceId: LAPTOP, action: "place", familyIds }));
    await post("/practice/1/open", {});
    await post(`/devices/${LAPTOP}/practice`, { locksOpenFonts: true });
    const plan = await draw({ deviceId: LAPTOP, action: "remove", familyIds });
    expect((await carryOut(plan)).items[0]!.steps[0]!.problem).toMatchObject({ code: "step-busy" });
    await post("/practice/1/close", {});
    expect(await carryOut(plan)).toMatchObject({ state: "done", fontsAfter: 0 });
  });
  test("interrupted half-way is picked up by looking at what is there", async () => {
    const familyIds = await shelved("Seedbox-Layered.zip");
    const plan = await draw({ deviceId: LAPTOP, action: "place", familyIds });
    // As a kill leaves it: marked as under way, one file in place, another half-written.
    const row = trial.parts.plans.get(plan.id)!;
    trial.parts.plans.update({ ...row, state: "doing" });
    const [first, second] = row.items.map((item) => item.steps[0]!);
    copyFileSync(trial.parts.files.path(first!.sha256), join(folder(), first!.fileName));
    writeFileSync(join(folder(), `${second!.fileName}.part`), "half");
    await trial.restart();
    const found = PlanView.parse(await trial.json(`/api/plans/${plan.id}`));
    expect([found.state, found.items.map((item) => item.steps[0]!.state)]).toEqual(["failed", ["done", "waiting"]]);
    expect(await carryOut(found)).toMatchObject({ state: "done", fontsAfter: 2 });
    expect(readdirSync(folder()).some((name) => name.endsWith(".part"))).toBe(false);
    expect((await device(LAPTOP)).externalChanges).toEqual([]);
  });
  test("switches all fonts of a job off, and on again by undo", async () => {
    const familyIds = [...(await shelved("trellis-fair.zip")), ...(await shelved("Seedbox-Layered.zip"))];
    await carryOut(await draw({ deviceId: LAPTOP, action: "place", familyIds }));
    const job = (await post("/jobs", { name: "Markers", uses: ["own"], languages: [], words: "", familyIds, deviceIds: [] })) as {
      id: number;
    };
    const off = await carryOut(await draw({ deviceId: LAPTOP, action: "switch-off", jobId: job.id }));
    expect([off.items.length, (await summary(LAPTOP)).trouble.off]).toEqual([3, 3]);
    await undo(off);
    expect((await summary(LAPTOP)).trouble.off).toBe(0);
    await post("/plans", { deviceId: TABLET, action: "switch-off", familyIds }, 422);
  });
  test.each([
    ["nothing", { deviceId: LAPTOP, action: "place" }, 422],
    ["a family that is gone", { deviceId: LAPTOP, action: "place", familyIds: [99] }, 404],
    ["a job that is gone", { deviceId: LAPTOP, action: "place", jobId: 99 }, 404],
    ["a device like itself", { deviceId: LAPTOP, action: "like", fromDeviceId: LAPTOP }, 422],
    ["files that are gone", { deviceId: LAPTOP, action: "tidy", files: [{ folder: "me", fileName: "x.ttf" }] }, 422],
    ["a device that is gone", { deviceId: 99, action: "place", familyIds: [1] }, 404],
  ])("of %s is refused with a sentence", async (_what, request, status) => {
    expect(await post("/plans", request, status)).toMatchObject({
      detail: expect.stringMatching(/\.$/),
      next: expect.stringMatching(/\.$/),
    });
  });
});

describe("duplicates", () => {
  test("are shown side by side with what differs when drawn; one is kept, undo brings the other back", async () => {
    copyFileSync(builtInFont("AsterPlain-Regular.ttf"), join(folder(), "one.ttf"));
    mkdirSync(folder("workshop-laptop", "everyone"), { recursive: true });
    writeFileSync(join(folder(), "two.ttf"), otherVersion(readFileSync(builtInFont("AsterPlain-Bold.ttf")), 9));
    copyFileSync(builtInFont("AsterPlain-Bold.ttf"), join(folder("workshop-laptop", "everyone"), "three.ttf"));
    const groups = DuplicateGroup.array().parse(await trial.json(`/api/devices/${LAPTOP}/duplicates`));
    expect(groups.map((group) => [group.style, group.how, group.inTheWay])).toEqual([
      ["Bold", "versions", true],
      ["Regular", "same-file", true],
    ]);
    const [bold] = groups;
    expect(bold!.files[bold!.keep]!.folder).toBe("built-in");
    expect(bold!.files.find((file) => file.fileName === "two.ttf")!.drawn).toMatch(/drawn alike/);
    expect((await summary(LAPTOP)).trouble).toMatchObject({ duplicates: 2, externalChanges: 3, unseen: 3 });
    const files = groups.flatMap((group) =>
      group.files.filter((file) => file.movable).map(({ folder: at, fileName }) => ({ folder: at, fileName })),
    );
    const off = await carryOut(await draw({ deviceId: LAPTOP, action: "tidy", tidyBy: "switch-off", files }), { passcode: "2580" });
    expect((await summary(LAPTOP)).trouble).toMatchObject({ duplicates: 0, off: 3 });
    await undo(off, { passcode: "2580" });
    const gone = await carryOut(await draw({ deviceId: LAPTOP, action: "tidy", tidyBy: "remove", files }), { passcode: "2580" });
    expect([gone.fontsBefore, gone.fontsAfter, readdirSync(folder())]).toEqual([3, 0, []]);
    await undo(gone, { passcode: "2580" });
    expect(readdirSync(folder()).sort()).toEqual(["one.ttf", "two.ttf"]);
  });
});

describe("looking again", () => {
  test("says what appeared, changed and vanished behind Buvano's back; what was found can be adopted", async () => {
    const familyIds = await shelved("Seedbox-Layered.zip");
    await carryOut(await draw({ deviceId: LAPTOP, action: "place", familyIds }));
    expect((await device(LAPTOP)).externalChanges).toEqual([]);
    const [first, second] = readdirSync(folder());
    rmSync(join(folder(), first!));
    writeFileSync(join(folder(), second!), otherVersion(readFileSync(join(folder(), second!)), 7));
    copyFileSync(builtInFont("WrenSmall-Regular.ttf"), join(folder(), "wren.ttf"));
    const found = (await post(`/devices/${LAPTOP}/rescan`, {})) as {
      before: number;
      after: number;
      found: { how: string; fileName: string }[];
    };
    expect([found.before, found.after]).toEqual([2, 2]);
    expect(found.found.map((one) => [one.how, one.fileName]).sort()).toEqual([
      ["appeared", "wren.ttf"],
      ["changed", second],
      ["vanished", first],
    ]);
    const adopted = (await post(`/devices/${LAPTOP}/adopt`, { files: [{ folder: "me", fileName: "wren.ttf" }] })) as { styles: number };
    expect(adopted.styles).toBe(1);
    const after = await device(LAPTOP);
    expect(after.externalChanges).toEqual([]);
    expect(after.fonts.find((font) => font.fileName === "wren.ttf")!.familyId).not.toBeNull();
    await post(`/devices/${LAPTOP}/adopt`, { files: [{ folder: "me", fileName: "wren.ttf" }] }, 422);
  });
});

test("a font somebody else deleted or replaced is suspected for that first, in every program of the device", async () => {
  const familyIds = await shelved("Seedbox-Layered.zip");
  await carryOut(await draw({ deviceId: LAPTOP, action: "place", familyIds }));
  const [first, second] = readdirSync(folder()).sort();
  const style = (fileName: string) =>
    trial.parts.library.styleOfFile(
      createHash("sha256")
        .update(readFileSync(join(folder(), fileName)))
        .digest("hex"),
    )!.id;
  const [gone, other] = [style(first!), style(second!)];
  const program = trial.parts.programs.all().find((one) => one.deviceId === LAPTOP)!.id;
  const firstReason = async (styleId: number) =>
    Diagnosis.parse(await trial.json(`/api/cells/${styleId}/${program}/diagnosis`)).reasons[0]!;
  const before = [await firstReason(gone), await firstReason(other)];
  rmSync(join(folder(), first!));
  writeFileSync(join(folder(), second!), otherVersion(readFileSync(join(folder(), second!)), 7));
  const after = [await firstReason(gone), await firstReason(other)];
  expect(after.map(({ code }) => code)).toEqual(["behind-back", "behind-back"]);
  expect(before.map(({ code }) => code)).not.toContain("behind-back");
  expect(after[0]!.reason).toContain("deleted");
  expect(after[1]!.reason).toContain("overwritten");
});

test("making a device like another shows the difference first, then brings it there", async () => {
  const familyIds = await shelved("Seedbox-Layered.zip");
  await carryOut(await draw({ deviceId: LAPTOP, action: "place", familyIds }));
  copyFileSync(builtInFont("WrenSmall-Regular.ttf"), join(folder("office-desktop"), "own.ttf"));
  writeFileSync(join(folder(), "found.ttf"), otherVersion(readFileSync(builtInFont("QuarryLight-Regular.ttf")), 4));
  expect(await trial.json(`/api/devices/${OFFICE}/compare/${LAPTOP}`)).toMatchObject({ onlyThere: 3, onlyHere: 1, both: 0 });
  const plan = await draw({ deviceId: OFFICE, action: "like", fromDeviceId: LAPTOP });
  expect(plan.fromName).toBe("Workshop laptop");
  // Quarry Light came with the device in an older version, which cannot be taken off.
  expect(situations(plan).sort()).toEqual([
    ["free", "place"],
    ["free", "place"],
    ["older-there", "leave"],
    ["only-here", "leave"],
  ]);
  const foreign = plan.items.find((item) => item.situation === "older-there")!;
  await post(`/plans/${plan.id}/choose`, { key: foreign.key, choice: "both" });
  // A file the library does not have is fetched from the other device.
  expect(await carryOut(plan)).toMatchObject({ state: "done", fontsBefore: 1, fontsAfter: 4 });
  expect(readdirSync(folder("office-desktop"))).toHaveLength(4);
});

describe("a tablet", () => {
  const tablet = async () => TabletProfiles.parse(await trial.json(`/api/devices/${TABLET}/profiles`));
  const act = (id: string, act: string, passcode = "1357", status = 200) =>
    post(`/devices/${TABLET}/profiles/${id}`, { act, passcode }, status);
  const install = async (id: string) => {
    await act(id, "allow");
    await act(id, "install");
  };
  test("gets several families in one profile, which is made anew when more comes or something goes", async () => {
    const seeds = await shelved("Seedbox-Layered.zip");
    const trellis = await shelved("trellis-fair.zip");
    const note = await shelved("garden-note.zip");
    const first = await draw({ deviceId: TABLET, action: "place", familyIds: [...seeds, ...trellis] });
    expect(first.passcodes).toEqual({ asked: 1, fontByFont: 3 });
    await carryOut(first);
    // More is placed before the tablet's owner came to it: what waits grows, and loses nothing.
    const second = await carryOut(await draw({ deviceId: TABLET, action: "place", familyIds: note, profiles: "together" }));
    const [waiting, ...others] = (await tablet()).profiles;
    expect([waiting!.name, others]).toEqual(["Fonts from Buvano, 4 styles", []]);
    // Taken back, the rest still waits.
    await undo(second);
    expect((await tablet()).profiles.map(({ name }) => name)).toEqual(["Fonts from Buvano, 3 styles"]);
    await install(waiting!.id);
    expect((await device(TABLET)).placedFonts).toBe(3);
    expect(PlanView.parse(await trial.json(`/api/plans/${first.id}`)).state).toBe("done");
    // One family goes: the profile comes anew without it, and takes the place of the one before.
    const removal = await draw({ deviceId: TABLET, action: "remove", familyIds: trellis });
    expect(removal.passcodes.asked).toBe(1);
    await carryOut(removal);
    expect((await tablet()).profiles.map(({ name, state }) => [name, state])).toEqual([
      ["Fonts from Buvano, 2 styles", "waiting"],
      ["Fonts from Buvano, 3 styles", "installed"],
    ]);
    await install(waiting!.id);
    expect([(await device(TABLET)).placedFonts, (await device(TABLET)).externalChanges]).toEqual([2, []]);
    expect(PlanView.parse(await trial.json(`/api/plans/${removal.id}`)).state).toBe("done");
    // Nothing left to hold: it is to be removed.
    const last = await carryOut(await draw({ deviceId: TABLET, action: "remove", familyIds: seeds }));
    expect(last.byHand).toEqual([expect.stringContaining("Choose “Fonts from Buvano” and remove it.")]);
  });
  test("gets one profile a family where that is asked for; a person allows and installs it; only then is the font there", async () => {
    const familyIds = [...(await shelved("Seedbox-Layered.zip")), ...(await shelved("trellis-fair.zip"))];
    const plan = await draw({ deviceId: TABLET, action: "place", familyIds, profiles: "family" });
    expect(plan).toMatchObject({ needsPasscode: false, passcodes: { asked: 3, fontByFont: 3 }, fontsAfter: 3 });
    expect(plan.byHand.join(" ")).toContain("“Trellis Fair, 1 style”");
    expect((await carryOut(plan)).state).toBe("handed");
    const { profiles } = await tablet();
    expect(profiles.map((profile) => profile.state)).toEqual(["waiting", "waiting", "waiting"]);
    expect((await device(TABLET)).placedFonts).toBe(0);
    await act(profiles[0]!.id, "install", "1357", 409);
    for (const { id } of profiles) {
      await act(id, "allow");
      expect(await act(id, "install", "9", 401)).toMatchObject({ code: "passcode-wrong" });
      await act(id, "install");
    }
    expect((await device(TABLET)).placedFonts).toBe(3);
    const done = PlanView.parse(await trial.json(`/api/plans/${plan.id}`));
    expect([done.state, done.fontsAfter, (await device(TABLET)).externalChanges]).toEqual(["done", 3, []]);
    await post(`/plans/${plan.id}/undo`, {}, 409);
    // Taken off at the tablet, the removal plan is done.
    const removal = await carryOut(await draw({ deviceId: TABLET, action: "remove", familyIds: familyIds.slice(-1) }));
    expect([removal.state, removal.byHand[0]]).toEqual(["handed", expect.stringContaining("remove it")]);
    await act((await tablet()).profiles.find((profile) => profile.name.startsWith("Trellis"))!.id, "remove");
    expect(PlanView.parse(await trial.json(`/api/plans/${removal.id}`)).state).toBe("done");
  });
  test("what is handed over can be taken back until it is installed", async () => {
    const familyIds = await shelved("trellis-fair.zip");
    // Another profile was allowed there already: it stays so, whatever is handed over or taken back beside it.
    const note = await shelved("garden-note.zip");
    await carryOut(await draw({ deviceId: TABLET, action: "place", familyIds: note }));
    await act((await tablet()).profiles[0]!.id, "allow");
    const beside = async () => (await tablet()).profiles.map(({ name, state }) => [name.split(",")[0], state]);
    expect(await beside()).toEqual([["Garden Note", "allowed"]]);
    const plan = await carryOut(await draw({ deviceId: TABLET, action: "place", familyIds }));
    expect(await beside()).toEqual([
      ["Trellis Fair", "waiting"],
      ["Garden Note", "allowed"],
    ]);
    expect((await undo(plan)).state).toBe("undone");
    expect(await beside()).toEqual([["Garden Note", "allowed"]]);
  });
});

test("a kit holds fonts, papers, profiles, a checklist with menu names, scripts and checksums", async () => {
  const familyIds = [...(await shelved("garden-note.zip")), ...(await shelved("fernhollow-text-family.zip"))];
  const answer = await trial
    .api()
    .get(`/api/kit?families=${familyIds.join(",")}`)
    .buffer(true)
    .parse((response, done) => {
      const parts: Buffer[] = [];
      response.on("data", (part: Buffer) => parts.push(part));
      response.on("end", () => done(null, Buffer.concat(parts)));
    })
    .expect(200);
  const files = unzipSync(answer.body as Uint8Array);
  const names = Object.keys(files).map((name) => name.replace(/^[^/]+\//, ""));
  expect(names).toEqual(expect.arrayContaining(["SHA256SUMS", "Checklist.html", "install.sh", "remove.sh", "install.cmd", "remove.cmd"]));
  // Twins: only the preferred format is carried.
  expect(names.filter((name) => name.startsWith("Fonts/GardenNote"))).toEqual(["Fonts/GardenNote-Regular.otf"]);
  expect(names.filter((name) => name.startsWith("Papers/")).length).toBeGreaterThan(0);
  expect(names.filter((name) => name.startsWith("Tablet/")).length).toBe(familyIds.length);
  const checklist = new TextDecoder().decode(Object.entries(files).find(([name]) => name.endsWith("Checklist.html"))![1]);
  expect(checklist).toContain('<td dir="auto">Fernhollow Text, Bold and Italic</td>');
  expect(checklist).toContain('<td dir="auto">Fernhollow Text Bold Italic</td>');
  await trial.api().get("/api/kit?families=1;2").expect(400);
  await trial.api().get("/api/kit?families=99").expect(404);
});

describe("a program that loads by hand", () => {
  test("takes a style of the library or a file; kept, it is there next time; refused files are said", async () => {
    const [familyId] = await shelved("trellis-fair.zip");
    const style = trial.parts.library.stylesOf(familyId!)[0]!;
    const desk = (await device(OFFICE)).programs.find((program) => program.name === "Browser Desk")!.id;
    await post(`/practice/${desk}/load-style`, { styleId: style.id }, 409);
    await post(`/practice/${desk}/open`, {});
    const cell = async () => ((await trial.json(`/api/cells/${style.id}/${desk}`)) as { state: string; listed: boolean }).state;
    expect(await cell()).toBe("load-by-hand");
    expect(JSON.stringify(await post(`/practice/${desk}/load-style`, { styleId: style.id, keep: true }))).toContain("Trellis Fair");
    expect(await cell()).toBe("due");
    const refused = await trial.api().post(`/api/practice/${desk}/load`).attach("file", Buffer.from("no font"), "x.ttf").expect(422);
    expect(refused.body).toMatchObject({ code: "program-refused" });
    await trial.api().post("/api/practice/1/load").attach("file", Buffer.from("no font"), "x.ttf").expect(409);
  });
});

test("this computer is a device only when it is wanted, and is left untouched by that", async () => {
  expect(
    DeviceSummary.array()
      .parse(await trial.json("/api/devices"))
      .map((one) => one.sort),
  ).toEqual(["practice", "practice", "practice"]);
  const fonts = join(trial.home, ".local", "share", "fonts");
  mkdirSync(fonts, { recursive: true });
  copyFileSync(builtInFont("WrenSmall-Regular.ttf"), join(fonts, "wren.ttf"));
  await post("/settings", { thisComputer: true });
  const [first] = DeviceSummary.array().parse(await trial.json("/api/devices"));
  expect(first).toMatchObject({ sort: "computer", name: "This computer", slots: ["me"], switches: true, placedFonts: 1 });
  await post("/settings", { thisComputer: false });
  expect(
    DeviceSummary.array()
      .parse(await trial.json("/api/devices"))
      .some((one) => one.sort === "computer"),
  ).toBe(false);
  expect(existsSync(join(fonts, "wren.ttf"))).toBe(true);
}, 120_000);
