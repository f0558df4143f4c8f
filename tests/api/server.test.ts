// The server over HTTP: what it refuses, what it keeps when killed, and that answers fit the contract.
import { execFileSync } from "node:child_process";
import { mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { afterEach, beforeEach, describe, expect, test } from "@jest/globals";
import { zipSync } from "fflate";
import { ParcelDetail } from "../../contract/parcels.ts";
import { ProblemDocument } from "../../contract/problem.ts";
import { download, Trial } from "./trial.ts";

const build = join(process.cwd(), "build");
const DAY_MS = 86_400_000;

let trial: Trial;
beforeEach(async () => {
  trial = new Trial();
  await trial.start();
});
afterEach(() => trial.end());

describe("bringing things in", () => {
  test("a parcel's fonts, papers, previews and junk are told apart", async () => {
    const parcel = await trial.bring("fernhollow-text-family.zip");
    expect(parcel.state).toBe("ready");
    expect(parcel.counts).toEqual({ font: 5, paper: 2, preview: 1, junk: 2 });
    expect(parcel.drawers.map((drawer) => [drawer.family, drawer.styles.map((style) => style.style)])).toEqual([
      ["Fernhollow Text", ["Regular", "Italic", "Bold", "Bold Italic"]],
      ["Fernhollow Text Variable", ["Regular"]],
    ]);
  });
  test("a broken font beside whole ones: the whole ones still work", async () => {
    const parcel = await trial.bring("fernhollow-broken-download.zip");
    expect(parcel.entries.filter((entry) => entry.problem).map((entry) => entry.problem!.code)).toEqual(["font-truncated"]);
    const shelved = await trial.api().post(`/api/parcels/${parcel.id}/shelve`).send({}).expect(200);
    expect(shelved.body).toMatchObject({ shelved: 1 });
  });
  test("loose fonts dropped together are one parcel", async () => {
    const sent = trial.api().post("/api/parcels");
    for (const name of ["WrenSmall-Regular.ttf", "ClayNarrow-Regular.ttf"]) sent.attach("file", join(build, "demo", "built-in", name));
    expect((await sent.expect(200)).body).toMatchObject({ name: "2 loose files" });
    await trial.services.parcels.whenIdle();
    expect(await trial.json("/api/parcels")).toMatchObject({ total: 1, parcels: [{ state: "ready", families: 2, styles: 2 }] });
  });
  const whole = readFileSync(download("trellis-fair.zip"));
  test.each<[string, string, Uint8Array, string]>([
    ["text", "note.zip", new TextEncoder().encode("Just a note."), "not-an-archive"],
    ["an archive without fonts", "x.zip", zipSync({ "readme.txt": new Uint8Array(9) }), "parcel-no-fonts"],
    ["an empty archive", "x.zip", zipSync({}), "parcel-no-fonts"],
    ["a cut archive", "x.zip", whole.subarray(0, 20), "archive-truncated"],
    ["an empty file", "x.zip", new Uint8Array(), "not-an-archive"],
  ])("%s gets a sentence and can be removed without a trace", async (_what, name, bytes, code) => {
    const parcel = await trial.bring({ name, bytes });
    expect(parcel).toMatchObject({
      state: "failed",
      problem: { code, message: expect.stringMatching(/\.$/), next: expect.stringMatching(/\.$/) },
    });
    await trial.api().post(`/api/parcels/${parcel.id}/remove`).expect(200);
    expect(await trial.json("/api/parcels")).toEqual({ total: 0, parcels: [] });
    await trial.api().post(`/api/parcels/${parcel.id}/bring-back`).expect(200);
    expect(await trial.json("/api/parcels")).toMatchObject({ total: 1 });
    await trial.api().post(`/api/parcels/${parcel.id}/remove`).expect(200);
    await trial.services.parcels.tidy(new Date(Date.now() + DAY_MS).toISOString());
    expect(trial.filesLeft()).toEqual({ incoming: 0, unfinished: 0 });
    await trial.api().post(`/api/parcels/${parcel.id}/bring-back`).expect(404);
  });
  test("an upload without a file is refused and leaves nothing", async () => {
    const refused = await trial.api().post("/api/parcels").field("a", "b").expect(400);
    expect(ProblemDocument.parse(refused.body).code).toBe("upload-empty");
    await trial.api().post("/api/parcels").set("content-type", "multipart/form-data").send("rubbish").expect(400);
    expect(trial.filesLeft().incoming).toBe(0);
  });
  test("shelving what was shelved adds nothing, and shelving too early is refused", async () => {
    const parcel = await trial.bring("trellis-fair.zip");
    expect((await trial.api().post(`/api/parcels/${parcel.id}/shelve`).send({})).body).toMatchObject({ shelved: 1 });
    expect((await trial.api().post(`/api/parcels/${parcel.id}/shelve`).send({})).body).toMatchObject({ shelved: 0 });
    trial.parts.parcels.setState(parcel.id, "waiting");
    expect((await trial.api().post(`/api/parcels/${parcel.id}/shelve`).send({}).expect(409)).body).toMatchObject({
      code: "parcel-not-ready",
    });
    trial.parts.parcels.setState(parcel.id, "ready");
  });
});

test("a stop in the middle of unpacking: after the restart the parcel is whole, and half-written files are gone", async () => {
  const parcel = await trial.bring("trellis-fair.zip");
  trial.parts.parcels.setState(parcel.id, "unpacking");
  trial.parts.db.prepare("DELETE FROM parcel_entries").run();
  writeFileSync(join(trial.dataDir, "files", "unfinished", "half"), "half a font");
  writeFileSync(join(trial.dataDir, "incoming", "orphan"), "an upload that broke off");
  await trial.restart();
  await trial.services.parcels.whenIdle();
  expect(await trial.json(`/api/parcels/${parcel.id}`)).toMatchObject({ state: "ready", styles: 1 });
  expect(trial.filesLeft()).toEqual({ incoming: 1, unfinished: 0 });
});

describe("devices", () => {
  test("a plan changes nothing until it is carried out, once, and can be taken back", async () => {
    const parcel = await trial.bring("Seedbox-Layered.zip");
    const { familyIds } = (await trial.api().post(`/api/parcels/${parcel.id}/shelve`).send({})).body as { familyIds: number[] };
    const folder = join(trial.dataDir, "practice", "workshop-laptop", "me");
    const plan = (await trial.api().post("/api/plans").send({ deviceId: 1, action: "place", familyIds }).expect(200)).body as {
      id: number;
    };
    expect(plan).toMatchObject({ state: "drawn", fontsBefore: 0, fontsAfter: 2 });
    expect(readdirSync(folder)).toEqual([]);
    expect((await trial.api().post(`/api/plans/${plan.id}/do`).expect(200)).body).toMatchObject({ state: "done", fontsAfter: 2 });
    expect(readdirSync(folder).sort()).toEqual(["SeedboxBlock-Regular.ttf", "SeedboxBlockShade-Regular.ttf"]);
    expect((await trial.api().post(`/api/plans/${plan.id}/do`).expect(409)).body).toMatchObject({ code: "plan-state" });
    expect((await trial.api().post(`/api/plans/${plan.id}/undo`).expect(200)).body).toMatchObject({ state: "undone", fontsAfter: 0 });
    expect(readdirSync(folder)).toEqual([]);
  });
  test("a folder that cannot be written to: the step says so, and the rest can be carried out later", async () => {
    const parcel = await trial.bring("trellis-fair.zip");
    const { familyIds } = (await trial.api().post(`/api/parcels/${parcel.id}/shelve`).send({})).body as { familyIds: number[] };
    const plan = (await trial.api().post("/api/plans").send({ deviceId: 1, action: "place", familyIds })).body as { id: number };
    const folder = join(trial.dataDir, "practice", "workshop-laptop", "me");
    // A folder in the file's place stops the rename, whoever runs the test.
    mkdirSync(join(folder, "TrellisFair-Regular.ttf"));
    const failed = await trial.api().post(`/api/plans/${plan.id}/do`).expect(200);
    expect(failed.body).toMatchObject({
      state: "failed",
      items: [{ steps: [{ state: "failed", problem: { message: expect.stringMatching(/\.$/) } }] }],
    });
    rmSync(join(folder, "TrellisFair-Regular.ttf"), { recursive: true });
    expect((await trial.api().post(`/api/plans/${plan.id}/do`).expect(200)).body).toMatchObject({ state: "done" });
  });
  test("a closed program neither draws nor exports", async () => {
    expect((await trial.api().post("/api/practice/1/draw").send({ font: "x", text: "y", sizePt: 12 }).expect(409)).body).toMatchObject({
      code: "program-closed",
    });
  });
});

describe("what it refuses", () => {
  test.each([
    ["another host name", { host: "evil.example" }, 403, "other-origin"],
    ["another origin", { origin: "http://evil.example" }, 403, "other-origin"],
  ])("%s", async (_what, headers, status, code) => {
    const refused = await trial
      .api()
      .get("/api/parcels")
      .set(headers as Record<string, string>);
    expect([refused.status, refused.body.code, refused.headers["content-type"]]).toEqual([
      status,
      code,
      expect.stringContaining("application/problem+json"),
    ]);
  });
  test("a form sent from another site's page", async () => {
    await trial.api().post("/api/parcels/1/shelve").set("sec-fetch-site", "cross-site").expect(403);
    // Not even to look, to build something, or from another port; pages of this one, and what was typed, may.
    for (const site of ["cross-site", "same-site"]) {
      await trial.api().get("/api/families").set("sec-fetch-site", site).expect(403);
      await trial.api().get("/api/kit?families=1").set({ "sec-fetch-site": site, "sec-fetch-mode": "navigate" }).expect(403);
    }
    for (const site of ["same-origin", "none"]) await trial.api().get("/api/families").set("sec-fetch-site", site).expect(200);
  });
  test.each<["get" | "post", string, number]>([
    ["get", "/api/parcels/999", 404],
    ["get", "/api/parcels/abc", 404],
    ["get", "/api/files/..%2f..%2flibrary.db", 404],
    ["get", `/api/files/${"0".repeat(64)}`, 404],
    ["get", "/api/nowhere", 404],
    ["get", "/api/families?at=nowhere", 400],
    ["post", "/api/plans", 400],
    ["post", "/api/practice/999/open", 404],
  ])("%s %s", async (method, path, status) => {
    const refused = await trial.api()[method](path);
    expect(refused.status).toBe(status);
    expect(ProblemDocument.parse(refused.body).detail).toMatch(/\.$/);
  });
  test("every answer carries strict headers", async () => {
    const { headers } = await trial.api().get("/api/parcels");
    expect(headers["content-security-policy"]).toContain("default-src 'none'");
    expect(headers["content-security-policy"]).toContain("script-src 'self';");
    expect(headers["x-content-type-options"]).toBe("nosniff");
  });
  test("evidence that is no evidence, in words", async () => {
    const parcel = await trial.bring("trellis-fair.zip");
    await trial.api().post(`/api/parcels/${parcel.id}/shelve`).send({});
    const refused = await trial.api().post("/api/cells/1/1/evidence").attach("file", Buffer.from("hello"), "x.pdf").expect(422);
    expect(refused.body).toMatchObject({ code: "not-a-pdf", next: "Export a PDF from the program and give that." });
    expect(trial.filesLeft().incoming).toBe(1);
  });
});

describe("what a parcel knows of its styles", () => {
  const styles = (parcel: ParcelDetail) => parcel.drawers.flatMap((drawer) => drawer.styles);
  test("of twins one is taken, the one chosen for all parcels; the other can be taken by name", async () => {
    const parcel = await trial.bring("garden-note.zip");
    const paths = (one: ParcelDetail) =>
      styles(one)
        .filter((style) => style.twin === "")
        .map((style) => style.path);
    expect([parcel.styles, parcel.shelvableStyles, parcel.hasTwins, paths(parcel)]).toEqual([2, 1, true, ["OTF/GardenNote.otf"]]);
    await trial.api().post("/api/settings").send({ twinFormat: "ttf" }).expect(200);
    const again = ParcelDetail.parse(await trial.json(`/api/parcels/${parcel.id}`));
    expect(paths(again)).toEqual(["TTF/GardenNote.ttf"]);
    expect((await trial.api().post(`/api/parcels/${parcel.id}/shelve`).send({})).body).toMatchObject({ shelved: 1, left: 1 });
    const otf = styles(again).find((style) => style.twin !== "")!;
    const named = await trial
      .api()
      .post(`/api/parcels/${parcel.id}/shelve`)
      .send({ faces: [{ sha256: otf.sha256, face: otf.face }] });
    expect(named.body).toMatchObject({ shelved: 1 });
    await trial.api().post("/api/settings").send({ twinFormat: "svg" }).expect(400);
  });
  test("a face and its shade are known to belong together", async () => {
    const parcel = await trial.bring("Seedbox-Layered.zip");
    expect(parcel.drawers.map((drawer) => drawer.notes.join())).toEqual([
      expect.stringContaining("Seedbox Block Shade"),
      expect.stringContaining("over Seedbox Block,"),
    ]);
  });
  test("what the library has already under the same name is said before shelving", async () => {
    const first = await trial.bring("garden-note.zip");
    await trial.api().post(`/api/parcels/${first.id}/shelve`).send({});
    const again = await trial.bring("garden-note.zip");
    const known = new Map(styles(again).map((style) => [style.path, [style.shelved, style.known]]));
    expect(known.get("OTF/GardenNote.otf")).toEqual([true, ""]);
    expect(known.get("TTF/GardenNote.ttf")).toEqual([
      false,
      "You have this style already, in the other format. The difference: TrueType outlines instead of CFF.",
    ]);
  });
  test("an archive inside an archive is opened; a locked one asks, and opens with its password", async () => {
    const inner = zipSync({ "Trellis Fair.ttf": readFileSync(join(build, "demo", "built-in", "WrenSmall-Regular.ttf")) });
    const parcel = await trial.bring({ name: "outer.zip", bytes: zipSync({ "fonts/inner.zip": inner, "readme.txt": new Uint8Array(3) }) });
    expect(parcel.entries.map((entry) => [entry.path, entry.kind])).toEqual([
      ["fonts/inner.zip", "archive"],
      ["fonts/inner.zip/Trellis Fair.ttf", "font"],
      ["readme.txt", "paper"],
    ]);
    const locked = join(trial.dataDir, "locked.zip");
    execFileSync("zip", ["-qjP", "fennel", locked, join(build, "demo", "built-in", "WrenSmall-Regular.ttf")]);
    const asked = await trial.bring({ name: "locked.zip", bytes: readFileSync(locked) });
    expect(asked.problem?.code).toBe("archive-password");
    const retry = async (password: string) => {
      await trial.api().post(`/api/parcels/${asked.id}/retry`).send({ password }).expect(200);
      await trial.services.parcels.whenIdle();
      return ParcelDetail.parse(await trial.json(`/api/parcels/${asked.id}`));
    };
    expect((await retry("dill")).problem?.code).toBe("archive-password-wrong");
    expect(await retry("fennel")).toMatchObject({ state: "ready", styles: 1 });
    expect(readFileSync(join(trial.dataDir, "library.db")).includes("fennel")).toBe(false);
  });
  test("of several archives dropped together one that is locked is named, and takes nothing of the others along", async () => {
    const locked = join(trial.dataDir, "locked.zip");
    execFileSync("zip", ["-qjP", "fennel", locked, join(build, "demo", "built-in", "WrenSmall-Regular.ttf")]);
    const plain = (name: string) =>
      Buffer.from(zipSync({ [name]: readFileSync(join(build, "demo", "built-in", "WrenSmall-Regular.ttf")) }));
    const bring = async (files: Record<string, Buffer>) => {
      let call = trial.api().post("/api/parcels");
      for (const [name, bytes] of Object.entries(files)) call = call.attach("file", bytes, name);
      const { id } = (await call.expect(200)).body as { id: number };
      await trial.services.parcels.whenIdle();
      return ParcelDetail.parse(await trial.json(`/api/parcels/${id}`));
    };
    const three = await bring({ "a.zip": plain("a.ttf"), "locked.zip": readFileSync(locked), "c.zip": plain("c.ttf") });
    expect(three).toMatchObject({ state: "ready", styles: 1 });
    expect(three.entries.find(({ path }) => path === "locked.zip")!.problem).toMatchObject({
      code: "archive-password",
      next: "Drop this archive by itself and type its password; the others are here.",
    });
    const none = await bring({ "locked.zip": readFileSync(locked), "broken.zip": Buffer.from("PK\x03\x04 nothing") });
    expect([none.state, none.problem?.message]).toEqual(["failed", expect.stringMatching(/^(locked|broken)\.zip: /)]);
  });
});

test("a paper is read where it lies; what is no paper is not served as one", async () => {
  const parcel = await trial.bring("tendril_script_free.zip");
  const paper = parcel.entries.find((entry) => entry.kind === "paper")!;
  expect(await trial.json(`/api/papers/${paper.sha256}`)).toMatchObject({
    path: "please read.txt",
    parcelName: parcel.name,
    text: expect.stringContaining("free for personal use only"),
  });
  const font = parcel.entries.find((entry) => entry.kind === "font")!;
  await trial.api().get(`/api/papers/${font.sha256}`).expect(404);
  await trial.api().get("/api/papers/nonsense").expect(404);
});
