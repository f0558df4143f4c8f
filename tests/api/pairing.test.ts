// Pairing, attacked: forged, replayed, old and guessed codes; other hosts and origins; other devices' work; revoked tokens.
import { createServer, request as ask } from "node:http";
import type { AddressInfo } from "node:net";
import { afterEach, beforeEach, describe, expect, test } from "@jest/globals";
import { unzipSync } from "fflate";
import { MyDevice, PairingView } from "../../contract/pairing.ts";
import { PlanView } from "../../contract/placing.ts";
import { DeviceDetail } from "../../contract/devices.ts";
import { FamilyDetail, FamilyPage } from "../../contract/families.ts";
import { Board } from "../../contract/sightings.ts";
import { readProfile } from "../../practice/profiles.ts";
import { makeNetworkApp, ServerListener } from "../../server/network.ts";
import { CODE_MS, CODE_TRIES, PAIRED_MS } from "../../server/services/pairing/pairing.ts";
import { Trial } from "./trial.ts";

let trial: Trial;
let listener: ServerListener;
let port: number;
let clockMs: number;
/** Starts the server with a listener at a port. */
async function begin(at: number): Promise<void> {
  listener = new ServerListener(at, (hosts) => makeNetworkApp(undefined, trial.services, hosts));
  await trial.start(listener);
}
beforeEach(async () => {
  trial = new Trial();
  clockMs = 0;
  trial.now = () => new Date(Date.now() + clockMs);
  await begin(0);
});
afterEach(async () => {
  await listener.close();
  await trial.end();
});

const post = async (path: string, body: object = {}) => (await trial.api().post(`/api${path}`).send(body).expect(200)).body as unknown;
const view = async () => PairingView.parse(await trial.json("/api/pairing"));
async function open(): Promise<void> {
  const { addresses } = PairingView.parse(await post("/pairing/network", { open: true }));
  port = Number(new URL(addresses[0]!).port);
}
const invite = async (): Promise<string> => PairingView.parse(await post("/pairing/invite")).code!;

interface Answer {
  status: number;
  body: unknown;
  cookie: string;
  raw: Buffer;
}
/** A request as a device on the network sends it, with whatever headers it likes. */
function from(
  path: string,
  {
    method = "GET",
    body,
    headers = {},
    localAddress,
  }: { method?: string; body?: object; headers?: Record<string, string>; localAddress?: string } = {},
): Promise<Answer> {
  return new Promise((resolve, reject) => {
    const sent = body === undefined ? undefined : JSON.stringify(body);
    const type: Record<string, string> = sent === undefined ? {} : { "content-type": "application/json" };
    const call = ask(
      { host: "127.0.0.1", port, path, method, headers: { ...type, ...headers }, ...(localAddress ? { localAddress } : {}) },
      (response) => {
        const parts: Buffer[] = [];
        response.on("data", (part: Buffer) => parts.push(part));
        response.on("end", () => {
          const raw = Buffer.concat(parts);
          const json = /json/.test(response.headers["content-type"] ?? "") ? (JSON.parse(raw.toString()) as unknown) : undefined;
          resolve({ status: response.statusCode!, body: json, raw, cookie: (response.headers["set-cookie"]?.[0] ?? "").split(";")[0]! });
        });
      },
    );
    call.on("error", reject);
    call.end(sent);
  });
}
const pair = (code: string, more = {}, localAddress = "127.0.0.1") =>
  from("/api/pair", { method: "POST", body: { code, name: "Shed tablet", kind: "tablet", ...more }, localAddress });
async function paired(name: string, kind = "laptop"): Promise<{ cookie: string; id: number }> {
  const { cookie } = await pair(await invite(), { name, kind });
  return { cookie, id: (await view()).devices.find((device) => device.name === name)!.id };
}
const mine = async (cookie: string) => MyDevice.parse((await from("/api/mine", { headers: { cookie } })).body);
async function want(deviceId: number, archive: string): Promise<PlanView> {
  const familyIds = await trial.shelve(await trial.bring(archive));
  const plan = PlanView.parse(await post("/plans", { deviceId, action: "place", familyIds }));
  return PlanView.parse(await post(`/plans/${plan.id}/do`));
}

describe("listening on the network", () => {
  test("is shut by default, opens on request, and shuts again", async () => {
    expect(await view()).toMatchObject({ network: false, addresses: [], code: null });
    await trial.api().post("/api/pairing/invite").send({}).expect(409);
    await open();
    expect((await from("/api/mine")).status).toBe(401);
    await post("/pairing/network", { open: false });
    await expect(from("/api/mine")).rejects.toThrow();
  });
  test("says so when its port is taken, and stays shut", async () => {
    const other = createServer().listen(0, "0.0.0.0");
    await new Promise((resolve) => other.once("listening", resolve));
    await trial.services.close();
    await begin((other.address() as AddressInfo).port);
    expect(await post("/pairing/network", { open: true })).toMatchObject({ network: false, problem: { code: "network-port" } });
    other.close();
  });
  test.each([
    "/api/families",
    "/api/devices",
    "/api/parcels",
    "/api/settings",
    "/api/pairing",
    "/api/plans/1",
    "/api/events",
    "/api/today",
  ])("does not lead to %s, not even for a paired device", async (path) => {
    await open();
    const { cookie } = await paired("Shed laptop");
    expect((await from(path, { headers: { cookie } })).status).toBe(404);
  });
  test("refuses other host names and pages of other origins", async () => {
    await open();
    const code = await invite();
    const refused = async (headers: Record<string, string>) =>
      (await from("/api/pair", { method: "POST", headers, body: { code, name: "X", kind: "tablet" } })).status;
    expect(await refused({ host: "evil.example" })).toBe(403);
    expect(await refused({ origin: "http://evil.example" })).toBe(403);
    expect(await refused({ "sec-fetch-site": "cross-site" })).toBe(403);
    expect((await view()).code).toBe(code);
  });
});

describe("a code", () => {
  test("lets one device in, once", async () => {
    await open();
    const code = await invite();
    expect((await pair(code)).status).toBe(200);
    const again = await pair(code);
    expect([again.status, again.body]).toEqual([403, expect.objectContaining({ code: "pairing-code" })]);
    expect((await view()).devices).toHaveLength(1);
  });
  test("used twice at the same moment lets one in", async () => {
    await open();
    const code = await invite();
    const answers = await Promise.all([pair(code), pair(code), pair(code)]);
    expect(answers.map((one) => one.status).sort()).toEqual([200, 403, 403]);
  });
  test("is worth nothing after its time, and when a newer one is shown", async () => {
    await open();
    const old = await invite();
    clockMs = CODE_MS + 1;
    expect((await pair(old)).status).toBe(403);
    const [first, second] = [await invite(), await invite()];
    if (first !== second) expect((await pair(first)).status).toBe(403);
    expect((await pair(second)).status).toBe(200);
  });
  test("cannot be guessed: whoever was wrong a few times is shut out, and nobody else", async () => {
    await open();
    const code = await invite();
    const wrong = (n: number) => String((Number(code) + n) % 1_000_000).padStart(6, "0");
    for (let n = 1; n <= CODE_TRIES; n++) expect((await pair(wrong(n))).status).toBe(403);
    expect((await pair(code)).status).toBe(429);
    expect((await pair(code, {}, "127.0.0.2")).status).toBe(200);
    expect((await pair(await invite())).status).toBe(429);
    clockMs = 11 * 60_000;
    expect((await pair(await invite())).status).toBe(200);
  });
  test("one invitation outlives many hands that mistype it, not all of them", async () => {
    await open();
    const code = await invite();
    const wrong = (n: number) => String((Number(code) + n) % 1_000_000).padStart(6, "0");
    for (let n = 1; n <= 40; n++) expect((await pair(wrong(n), {}, `127.0.1.${n}`)).status).toBe(403);
    expect((await pair(code, {}, "127.0.0.3")).status).toBe(403);
    expect((await view()).code).toBeNull();
  });
  test("without an invitation nobody is shut out", async () => {
    await open();
    for (let n = 0; n < 30; n++) expect((await pair("000000")).status).toBe(403);
    expect((await pair(await invite())).status).toBe(200);
  });
  test.each([
    ["without a name", { name: " " }],
    ["with a name that is too long", { name: "x".repeat(61) }],
    ["of an unknown kind", { kind: "toaster" }],
  ])("%s is not used up", async (_how, more) => {
    await open();
    const code = await invite();
    expect((await pair(code, more)).status).toBe(400);
    expect((await pair(code)).status).toBe(200);
  });
});

describe("a paired device", () => {
  test("is known by its token alone; a forged or revoked one is refused", async () => {
    await open();
    const { cookie, id } = await paired("Shed laptop");
    expect(cookie).toMatch(/^buvano_device_[0-9a-f]{8}=[\w-]{43}$/);
    expect((await mine(cookie)).name).toBe("Shed laptop");
    for (const forged of ["", `${cookie.split("=")[0]}=`, `${cookie}x`, `${cookie.split("=")[0]}=${"A".repeat(43)}`])
      expect((await from("/api/mine", { headers: { cookie: forged } })).status).toBe(401);
    await post(`/pairing/${id}/revoke`);
    expect((await from("/api/mine", { headers: { cookie } })).status).toBe(401);
    await trial.api().get(`/api/devices/${id}`).expect(404);
    // Unpairing is taken back: what the device holds counts again, until it is unpaired once more.
    await post(`/pairing/${id}/restore`);
    expect((await mine(cookie)).name).toBe("Shed laptop");
    await trial.api().get(`/api/devices/${id}`).expect(200);
    await trial.api().post(`/api/pairing/${id}/restore`).send({}).expect(404);
    await post(`/pairing/${id}/revoke`);
    expect((await from("/api/mine", { headers: { cookie } })).status).toBe(401);
    const undoable = (await trial.json("/api/history/undoable")) as { id: number; sentence: string }[];
    const entry = undoable.find((one) => one.sentence === "Shed laptop was unpaired.")!;
    await trial.api().post(`/api/history/${entry.id}/undo`).expect(200);
    expect((await from("/api/mine", { headers: { cookie } })).status).toBe(200);
  });
  test("that is used stays paired; one that is not used for long has to be paired again", async () => {
    await open();
    const { cookie } = await paired("Shed laptop");
    const status = async () => (await from("/api/mine", { headers: { cookie } })).status;
    clockMs = 0.9 * PAIRED_MS;
    expect(await status()).toBe(200);
    clockMs = 1.8 * PAIRED_MS;
    expect(await status()).toBe(200);
    clockMs = 2.9 * PAIRED_MS;
    expect(await status()).toBe(401);
  });
  test("stays paired over a restart", async () => {
    await open();
    const { cookie } = await paired("Shed laptop");
    await listener.close();
    await trial.services.close();
    await begin(0);
    await open();
    expect((await mine(cookie)).name).toBe("Shed laptop");
  });
  test("sees what is wanted on it, fetches that and nothing else, and answers for itself; only then is it placed", async () => {
    await open();
    const [one, other] = [await paired("Shed laptop"), await paired("Hut laptop")];
    const plan = await want(one.id, "Seedbox-Layered.zip");
    expect(plan).toMatchObject({
      state: "handed",
      needsPasscode: false,
      byHand: expect.arrayContaining([expect.stringContaining("Shed laptop")]),
    });
    const { styles } = await mine(one.cookie);
    expect(styles.map((style) => [style.name, style.answer])).toEqual([
      ["Seedbox Block", "unasked"],
      ["Seedbox Block Shade", "unasked"],
    ]);
    const { sha256 } = styles[0]!;
    const file = await from(`/api/files/${sha256}`, { headers: { cookie: one.cookie } });
    expect(Buffer.compare(file.raw, Buffer.from(await trial.parts.files.read(sha256)))).toBe(0);
    expect((await from(`/api/files/${sha256}`, { headers: { cookie: other.cookie } })).status).toBe(404);
    expect((await mine(other.cookie)).styles).toEqual([]);
    // All of it in one file; for a device that wants nothing there is none.
    const all = await from("/api/mine/all", { headers: { cookie: one.cookie } });
    expect(Object.keys(unzipSync(Uint8Array.from(all.raw))).toSorted()).toEqual(styles.map((style) => style.fileName).toSorted());
    expect((await from("/api/mine/all", { headers: { cookie: other.cookie } })).status).toBe(409);
    expect((await from("/api/mine/all")).status).toBe(401);
    // Until it is carried out, the device and the family say what waits there.
    expect(DeviceDetail.parse(await trial.json(`/api/devices/${one.id}`)).waiting).toEqual(["Seedbox Block", "Seedbox Block Shade"]);
    const waitingFamily = FamilyDetail.parse(await trial.json(`/api/families/${plan.families[0]!.id}`));
    expect(waitingFamily.waiting).toEqual([{ deviceId: one.id, deviceName: "Shed laptop", styles: 1 }]);
    const answer = (cookie: string, answers: object[]) =>
      from("/api/mine/answers", { method: "POST", body: { answers }, headers: { cookie } });
    // Another device's word for it counts nothing.
    await answer(other.cookie, [{ sha256, answer: "there" }]);
    const device = async (id: number) => DeviceDetail.parse(await trial.json(`/api/devices/${id}`));
    expect([(await device(one.id)).placedFonts, (await device(other.id)).placedFonts]).toEqual([0, 0]);
    // The network is lost half-way: one answer arrived, the other comes later.
    await answer(one.cookie, [{ sha256, answer: "there" }]);
    expect([(await device(one.id)).placedFonts, PlanView.parse(await trial.json(`/api/plans/${plan.id}`)).state]).toEqual([1, "handed"]);
    await answer(one.cookie, [{ sha256: styles[1]!.sha256, answer: "there" }]);
    const done = PlanView.parse(await trial.json(`/api/plans/${plan.id}`));
    expect([done.state, done.fontsAfter]).toEqual(["done", 2]);
    expect(DeviceDetail.parse(await trial.json(`/api/devices/${one.id}`)).waiting).toEqual([]);
    // What it found out for itself is evidence for the browser it found it in; asked again, it tells nothing new.
    const stateThere = async () => {
      const { programs, rows } = Board.parse(await trial.json("/api/board?by=styles"));
      const browser = programs.find((program) => program.deviceId === one.id)!;
      const row = rows.find((row) => row.name === styles[0]!.name)!;
      const { sightings } = FamilyDetail.parse(await trial.json(`/api/families/${row.familyId}`));
      const told = sightings.filter((sighting) => sighting.means === "device" && sighting.styleId === row.styleId);
      return [browser.name, row.cells.find((cell) => cell.programId === browser.id)!.state, told.map((sighting) => sighting.result)];
    };
    expect(await stateThere()).toEqual(["Its own browser", "seen", ["seen"]]);
    await answer(one.cookie, [{ sha256, answer: "there" }]);
    expect(await stateThere()).toEqual(["Its own browser", "seen", ["seen"]]);
    // Looked at later and gone: it says so, and the device no longer has it.
    await answer(one.cookie, [{ sha256, answer: "not-there" }]);
    expect(await stateThere()).toEqual(["Its own browser", "not-here", ["not-there", "seen"]]);
    expect((await device(one.id)).placedFonts).toBe(1);
    expect((await answer(one.cookie, [{ sha256: "x", answer: "there" }])).status).toBe(400);
  });
  test("that is a tablet fetches everything in one profile, and later that profile without what was taken off", async () => {
    await open();
    const { cookie, id } = await paired("Shed tablet", "tablet");
    await want(id, "Seedbox-Layered.zip");
    await want(id, "trellis-fair.zip");
    const { profiles, steps } = await mine(cookie);
    expect(profiles).toEqual([{ subject: "Fonts from Buvano", name: "Fonts from Buvano, 3 styles", styles: 3 }]);
    expect(steps.join(" ")).toContain("Install it");
    const fetched = async () => (await from("/api/mine/profile?subject=Fonts%20from%20Buvano", { headers: { cookie } })).raw;
    expect(
      readProfile(await fetched())!
        .fonts.map(({ name }) => name)
        .sort(),
    ).toEqual(["Seedbox Block", "Seedbox Block Shade", "Trellis Fair"]);
    expect((await from("/api/mine/profile?subject=Other", { headers: { cookie } })).status).toBe(404);
    expect((await from("/api/mine/profile?subject=Fonts%20from%20Buvano")).status).toBe(401);
    const answers = (await mine(cookie)).styles.map(({ sha256 }) => ({ sha256, answer: "there" }));
    await from("/api/mine/answers", { method: "POST", body: { answers }, headers: { cookie } });
    expect((await mine(cookie)).profiles).toEqual([]);
    const { families } = FamilyPage.parse(await trial.json("/api/families"));
    const familyIds = families.filter(({ name }) => name === "Seedbox Block").map((family) => family.id);
    const removal = PlanView.parse(await post("/plans", { deviceId: id, action: "remove", familyIds }));
    await post(`/plans/${removal.id}/do`);
    expect(
      readProfile(await fetched())!
        .fonts.map(({ name }) => name)
        .sort(),
    ).toEqual(["Seedbox Block Shade", "Trellis Fair"]);
  });
});
