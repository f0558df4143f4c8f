// Fonts and files with names nobody should have: wherever a name goes out again it is one line, of the right ending, and nothing but a name.
import { execFileSync } from "node:child_process";
import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, beforeAll, expect, test } from "@jest/globals";
import { unzipSync } from "fflate";
import { DeviceDetail } from "../../contract/devices.ts";
import { FamilyDetail } from "../../contract/families.ts";
import { JobDetail } from "../../contract/jobs.ts";
import { ParcelSummary, ShelveResult } from "../../contract/parcels.ts";
import { PlanView } from "../../contract/placing.ts";
import { TestServer } from "../e2e/server.ts";
import { namedFont } from "./inputs.ts";

/** A name inside the font, and the name its file came under. */
const FONTS: [name: string, file: string][] = [
  ["Evil\n} body { background: url(http://out.example/) } x{\n", "a.bat"],
  ["One\u0000\u0007\u001b[2J\u202Egnp.exe", "b\u202Efdp.desktop"],
  ["</style><script>alert(1)</script><b>", 'c".hta'],
  [";=1+1", "line\nbreak.ttf"],
  ["\uff1d1+1|cmd", "CON.otf"],
  ["..\\..\\up", "%2e%2e%2fup.woff"],
  ["\ud800 half", "\u{1F600}\ufeff.ttc"],
  ["\u200f\u202b\u2067", ".htaccess"],
];
/** Nothing unseen, no path, an ending fonts have, no name a system keeps for itself, short enough for every file system. */
const GOOD_NAME = /^(?!(con|prn|aux|nul|com\d|lpt\d)[-.])[^\p{Cc}\p{Cf}\p{Cs}\\/:*?"<>|]{1,110}\.(ttf|otf|ttc|otc)$/iu;

const dir = mkdtempSync(join(tmpdir(), "buvano-names-"));
let server: TestServer;
let familyIds: number[];
/** A line of its own for each question: this process blocks while others read what it got, and a kept line would be closed meanwhile. */
const ask = (path: string, body?: object): Promise<Response> => {
  const headers = { connection: "close", ...(body ? { "content-type": "application/json" } : {}) };
  return fetch(`${server.address}/api${path}`, body ? { method: "POST", headers, body: JSON.stringify(body) } : { headers });
};
const json = async (path: string, body?: object): Promise<unknown> => (await ask(path, body)).json();

beforeAll(async () => {
  server = await TestServer.start();
  const form = new FormData();
  for (const [name, file] of FONTS) form.append("file", new Blob([new Uint8Array(namedFont(name))]), file);
  const sent = await fetch(`${server.address}/api/parcels`, { method: "POST", body: form });
  const { id } = ParcelSummary.parse(await sent.json());
  while (ParcelSummary.parse(await json(`/parcels/${id}`)).state !== "ready") await new Promise((resolve) => setTimeout(resolve, 50));
  ({ familyIds } = ShelveResult.parse(await json(`/parcels/${id}/shelve`, {})));
}, 60_000);
afterAll(async () => {
  await server?.stop();
  rmSync(dir, { recursive: true });
});

test("every font was taken in, under a name of one line", async () => {
  expect(familyIds.length).toBe(FONTS.length);
  for (const id of familyIds)
    expect(FamilyDetail.parse(await json(`/families/${id}`)).name).toMatch(/^[^\p{Cc}\u202a-\u202e\u2066-\u2069]+$/u);
});

test("placed on a device, files have the ending of what they hold, are seen again, and are taken back", async () => {
  const draw = async (action: string) => PlanView.parse(await json("/plans", { deviceId: 1, action, familyIds }));
  const placed = PlanView.parse(await json(`/plans/${(await draw("place")).id}/do`, {}));
  expect([placed.state, placed.fontsAfter]).toEqual(["done", FONTS.length]);
  const { fonts } = DeviceDetail.parse(await json("/devices/1"));
  for (const { fileName } of fonts) expect(fileName).toMatch(GOOD_NAME);
  // Seen again by a look of its own, not only remembered.
  await json("/devices/1/rescan", {});
  expect(DeviceDetail.parse(await json("/devices/1")).placedFonts).toBe(FONTS.length);
  const removed = PlanView.parse(await json(`/plans/${(await draw("remove")).id}/do`, {}));
  expect([removed.state, removed.fontsAfter]).toEqual(["done", 0]);
});

test("a kit holds fonts and its own papers, and its sums fit by the system's tool", async () => {
  const kit = new Uint8Array(await (await ask(`/kit?families=${familyIds.join()}`)).arrayBuffer());
  const names = Object.keys(unzipSync(kit));
  for (const name of names)
    expect(name).toMatch(
      /^8-families-kit\/(Fonts\/[\w.-]+\.ttf|Tablet\/[\w-]+\.mobileconfig|SHA256SUMS|Checklist\.html|(install|remove)\.(sh|cmd))$/,
    );
  expect(names.filter((name) => /\.[ot]tf$/.test(name)).length).toBe(FONTS.length);
  writeFileSync(join(dir, "kit.zip"), kit);
  execFileSync("unzip", ["-q", "kit.zip", "-d", "kit"], { cwd: dir });
  // GNU coreutils.
  execFileSync("sha256sum", ["--check", "--strict", "--quiet", "SHA256SUMS"], { cwd: join(dir, "kit", "8-families-kit"), stdio: "pipe" });
});

test("a profile is well formed for each of them", async () => {
  for (const id of familyIds) {
    const answer = await ask(`/families/${id}/profile`);
    expect([id, answer.status]).toEqual([id, 200]);
    writeFileSync(join(dir, "a.mobileconfig"), Buffer.from(await answer.arrayBuffer()));
    // libplist's own reader.
    execFileSync("plistutil", ["-i", join(dir, "a.mobileconfig"), "-o", join(dir, "a.bin"), "-f", "bin"]);
  }
});

test("probe documents are well formed, and hold no element or rule a name made", async () => {
  const wellFormed = (xml: Uint8Array) => {
    writeFileSync(join(dir, "a.xml"), xml);
    // Expat, by Python.
    execFileSync("python3", ["-c", "import sys,xml.dom.minidom as m; m.parse(sys.argv[1])", join(dir, "a.xml")]);
  };
  for (const id of familyIds)
    for (const kind of ["odt", "docx", "svg", "html", "rtf", "ass", "txt"]) {
      const answer = await ask(`/programs/1/probe?family=${id}&kind=${kind}`);
      expect([id, kind, answer.status]).toEqual([id, kind, 200]);
      expect(answer.headers.get("content-disposition")).toMatch(/^attachment; filename="?[^"\r\n]+"?(; filename\*=UTF-8''[\w%.-]+)?$/);
      const bytes = new Uint8Array(await answer.arrayBuffer());
      if (kind === "svg") wellFormed(bytes);
      if (kind === "odt" || kind === "docx")
        for (const [name, part] of Object.entries(unzipSync(bytes))) if (/\.(xml|rels)$/.test(name)) wellFormed(part);
      if (kind !== "html") continue;
      // By an HTML parser of another hand: nothing but the elements a probe has, and style rules of one line each.
      writeFileSync(join(dir, "a.html"), bytes);
      const tags = execFileSync(
        "python3",
        [
          "-c",
          "import sys,html.parser as h\nclass P(h.HTMLParser):\n def handle_starttag(self,t,a): print(t,*[k for k,_ in a])\nP().feed(open(sys.argv[1],encoding='utf-8').read())",
          join(dir, "a.html"),
        ],
        { encoding: "utf8" },
      );
      expect(tags).not.toMatch(/^(script|b|img|link|iframe)\b|\bon\w+/m);
      expect(new TextDecoder().decode(bytes)).not.toMatch(/^\s*\} body/m);
    }
});

test("a table of permissions begins no cell with what table programs compute", async () => {
  const job = JobDetail.parse(
    await json("/jobs", { name: "=1+1", uses: ["own", "sold"], languages: [], words: "", familyIds, deviceIds: [] }),
  );
  writeFileSync(join(dir, "a.csv"), await (await ask(`/jobs/${job.id}/sheet.csv`)).text());
  // Python's csv, as table programs part it; then again by other separators they guess.
  const cells = execFileSync(
    "python3",
    [
      "-c",
      "import csv,sys\nfor d in ',;|\\t':\n for r in csv.reader(open(sys.argv[1],encoding='utf-8-sig',newline=''),delimiter=d):\n  print(*[c.replace(chr(10),' ') for c in r],sep=chr(10))",
      join(dir, "a.csv"),
    ],
    { encoding: "utf8" },
  );
  expect(cells.split("\n").filter((cell) => /^\s*[=+@]/.test(cell.normalize("NFKC")))).toEqual([]);
});
