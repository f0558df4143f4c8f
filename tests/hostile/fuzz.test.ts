// A thousand damaged files of each kind (a fifth of them in `npm test`) through the running server: none stops it, keeps others waiting, meets a fault
// nobody foresaw, or leaves anything behind. What fails is kept in build/reports/fuzz.
import { execFileSync } from "node:child_process";
import { mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { crc32 } from "node:zlib";
import { afterAll, beforeAll, expect, test } from "@jest/globals";
import { unzipSync, zipSync } from "fflate";
import jpeg from "jpeg-js";
import { PNG } from "pngjs";
import { plainLine, SheetDetail } from "../../contract/bench.ts";
import { DeviceDetail, DeviceSummary } from "../../contract/devices.ts";
import { FamilyDetail } from "../../contract/families.ts";
import { ParcelPage, ShelveResult, type ParcelSummary } from "../../contract/parcels.ts";
import { contoursFromPath } from "../../core/cutting/outlines/machine.ts";
import { USUAL_CUT } from "../../core/cutting/settings.ts";
import { sheetSvg } from "../../core/cutting/sheets/sheet-svg.ts";
import { makeProbe } from "../../core/evidence/probe.ts";
import { TestServer } from "../e2e/server.ts";
import { computedMs, ownThreadMs, within } from "./effort.ts";
import { hostileEvidence, wholeFont } from "./inputs.ts";
import { post } from "./watch.ts";
import { mutated } from "./mutation.ts";
import { damagedCopy } from "./sanitizer.ts";
import { amount, numbersFrom, runSeed } from "../amount.ts";

const EACH = amount(1000);
/** Fonts and papers come in parcels of so many; others are sent so many at once. */
const TOGETHER = 25;
const AT_ONCE = 4;
const LONGEST_MS = 10_000;
const LONGEST_WAIT_MS = 1000;

const seed = runSeed();
const kept = join(process.cwd(), "build", "reports", "fuzz");
mkdirSync(kept, { recursive: true });
process.stderr.write(`FUZZ_SEED=${seed}\n`);

const text = (words: string): Uint8Array => new TextEncoder().encode(words);
const DOWNLOADS = join(process.cwd(), "build", "demo", "downloads");
const FACES = [
  ...["AsterPlain-Regular", "IvyLean-Italic"].map((name) => join(process.cwd(), "build", "demo", "built-in", `${name}.ttf`)),
  "/usr/share/fonts/opentype/cabin/Cabin-Regular.otf",
  "/usr/share/fonts/truetype/culmus/ShofarRegular.ttf",
  ...["woff", "woff2"].map((ending) =>
    join(process.cwd(), "node_modules", "@fontsource", "petrona", "files", `petrona-latin-400-normal.${ending}`),
  ),
].map((path) => Uint8Array.from(readFileSync(path)));

let server: TestServer;
let pid = 0;
let cell = "";
const api = async (path: string, body?: object): Promise<unknown> =>
  (
    await fetch(
      `${server.address}/api${path}`,
      body && { method: "POST", headers: { "content-type": "application/json" }, body: JSON.stringify(body) },
    )
  ).json();

interface Input {
  fileName: string;
  bytes: Uint8Array;
}
async function send(path: string, files: readonly Input[]): Promise<{ status: number; code: string; id: number }> {
  const { status, body } = await post(`${server.address}/api${path}`, files, 60_000);
  const { code = "", id = 0 } = body as { code?: string; id?: number };
  return { status, code, id };
}

beforeAll(async () => {
  server = await TestServer.start();
  pid = server.pid;
  const { id } = await send("/parcels", [{ fileName: "whole.ttf", bytes: wholeFont() }]);
  await settled(id);
  const { familyIds } = ShelveResult.parse(await api(`/parcels/${id}/shelve`, {}));
  cell = `/cells/${FamilyDetail.parse(await api(`/families/${familyIds[0]}`)).styleList[0]!.id}/1`;
}, 60_000);
afterAll(() => server?.stop());

async function settled(id: number): Promise<ParcelSummary> {
  for (const until = Date.now() + 60_000; Date.now() < until;) {
    const one = ParcelPage.parse(await api("/parcels?limit=100")).parcels.find((parcel) => parcel.id === id);
    if (one && (one.state === "failed" || (one.state === "ready" && one.beingRead === 0))) return one;
    await new Promise((resolve) => setTimeout(resolve, 15));
  }
  throw new Error(`Parcel ${id} never came to an end.`);
}

/** What went wrong with some files sent together; undefined when all is as it should be. */
async function wrong(path: string, files: readonly Input[], onTaken: () => void): Promise<string | undefined> {
  const [begun, computed] = [performance.now(), computedMs(pid)];
  try {
    const { status, code, id } = await send(path, files);
    if (status >= 500 || code === "fault") return `${status} ${code}`;
    if (status === 200 && path !== "/parcels") onTaken();
    if (path === "/parcels" && status === 200) {
      const { state, problem } = await settled(id);
      if (state === "ready") onTaken();
      if (state === "failed" && ["unpack-failed", "unpack-interrupted", "unpack-overran", "unpack-memory"].includes(problem!.code))
        return problem!.code;
    }
  } catch (error) {
    return String(error);
  }
  const ms = Math.min(performance.now() - begun, computedMs(pid) - computed);
  return !within(ms, LONGEST_MS) ? `took ${Math.round(ms)} ms` : undefined;
}

/** Sends them all, and asks for something light beside it. */
async function attack(kind: string, path: string, count: number, make: (random: () => number) => Input[], atOnce = AT_ONCE): Promise<void> {
  const random = numbersFrom(seed);
  const before = server.complaints.length;
  const failures: string[] = [];
  let [next, taken, longest, done] = [0, 0, 0, false];
  const beside = (async () => {
    while (!done) {
      const [begun, computed] = [performance.now(), ownThreadMs(pid)];
      await api("/library").catch(() => undefined);
      longest = Math.max(longest, Math.min(performance.now() - begun, ownThreadMs(pid) - computed));
      await new Promise((resolve) => setTimeout(resolve, 20));
    }
  })();
  const one = async () => {
    while (next < count && failures.length < 5) {
      const i = next++;
      const files = make(random);
      const why = await wrong(path, files, () => taken++);
      if (why === undefined) continue;
      failures.push(`${kind} ${i}: ${why}`);
      for (const [j, { fileName, bytes }] of files.entries()) writeFileSync(join(kept, `${seed}-${kind}-${i}-${j}-${fileName}`), bytes);
    }
  };
  await Promise.all(Array.from({ length: atOnce }, one));
  done = true;
  await beside;
  const alive = server.running && server.pid === pid;
  process.stderr.write(`${kind}: ${next} requests, ${taken} of them taken in, others waited ${Math.round(longest)} ms at most\n`);
  // Damage that is all refused at the first byte would try nothing behind it.
  expect([kind, taken > next / 20]).toEqual([kind, true]);
  expect([seed, failures, alive, within(longest, LONGEST_WAIT_MS), server.complaints.slice(before)]).toEqual([seed, [], true, true, ""]);
}

const numbered = (files: readonly Input[]): Input[] => files.map(({ fileName, bytes }, i) => ({ fileName: `${i}-${fileName}`, bytes }));

test("fonts", async () => {
  const one = (random: () => number): Input => {
    const whole = FACES[Math.floor(random() * FACES.length)]!;
    const sfnt = FACES.slice(0, 4);
    const bytes = random() < 0.5 ? damagedCopy(sfnt[Math.floor(random() * sfnt.length)]!, random) : mutated([whole], random);
    return { fileName: ["a.ttf", "a.otf", "a.woff", "a.woff2", "a.ttc"][Math.floor(random() * 5)]!, bytes };
  };
  await attack("fonts", "/parcels", EACH / TOGETHER, (random) => numbered(Array.from({ length: TOGETHER }, () => one(random))));
}, 400_000);

test("papers", async () => {
  const style = {
    menuName: "Aster",
    bold: false,
    italic: true,
    fullName: "Aster Italic",
    words: "Free for personal use only.",
    rightToLeft: false,
  };
  const docx = unzipSync(makeProbe("docx", "Licence", [style]));
  const odt = unzipSync(makeProbe("odt", "Licence", [style]));
  const licence = readFileSync(join(process.cwd(), "node_modules", "zod", "LICENSE"));
  const seeds: [string, Uint8Array[]][] = [
    ["read me.txt", [licence, text("This font is free for personal use. For commercial use buy a licence at the maker's.\n".repeat(40))]],
    ["licence.html", [makeProbe("html", "Licence", [style])]],
    ["licence.rtf", [makeProbe("rtf", "Licence", [style])]],
    ["licence.pdf", [readFileSync(pdf())]],
    ["licence.docx", [makeProbe("docx", "Licence", [style])]],
    ["licence.odt", [makeProbe("odt", "Licence", [style])]],
  ];
  const one = (random: () => number): Input => {
    const [fileName, whole] = seeds[Math.floor(random() * seeds.length)]!;
    const inside = fileName.endsWith("docx") ? docx : fileName.endsWith("odt") ? odt : undefined;
    if (!inside || random() < 0.3) return { fileName, bytes: mutated(whole, random) };
    return {
      fileName,
      bytes: zipSync(Object.fromEntries(Object.entries(inside).map(([name, bytes]) => [name, mutated([bytes], random)]))),
    };
  };
  const make = (random: () => number): Input[] => {
    const papers = numbered(Array.from({ length: TOGETHER }, () => one(random)));
    const all = Object.fromEntries([["font.ttf", wholeFont()], ...papers.map(({ fileName, bytes }) => [fileName, bytes] as const)]);
    return [{ fileName: "papers.zip", bytes: zipSync(all, { level: 1 }) }];
  };
  // Texts are read one after the other: parcels at once would be charged with each other's.
  await attack("papers", "/parcels", EACH / TOGETHER, make, 1);
}, 400_000);

const dir = mkdtempSync(join(tmpdir(), "buvano-fuzz-server-"));
afterAll(() => rmSync(dir, { recursive: true }));

/** A PDF of another program's making, with text, fonts and streams. */
function pdf(): string {
  const at = join(dir, "some.pdf");
  writeFileSync(join(dir, "some.svg"), makeProbe("svg", "Licence: free for personal use only", []));
  execFileSync("rsvg-convert", ["-f", "pdf", "-o", at, join(dir, "some.svg")]);
  return at;
}

test("archives", async () => {
  mkdirSync(join(dir, "src", "deep"), { recursive: true });
  writeFileSync(join(dir, "src", "font.ttf"), wholeFont());
  writeFileSync(join(dir, "src", "deep", "read me.txt"), "Free for any use.\n".repeat(200));
  const made = (name: string, command: string, ...args: string[]): [string, Uint8Array] => {
    execFileSync(command, [...args, join(dir, name), "font.ttf", "deep"], { cwd: join(dir, "src"), stdio: "ignore" });
    return [name, readFileSync(join(dir, name))];
  };
  const piped = (name: string, command: string): [string, Uint8Array] => [
    name,
    execFileSync(command, ["-c", join(dir, "src", "font.ttf")]),
  ];
  const seeds = [
    made("a.zip", "zip", "-qr"),
    made("b.zip", "7z", "a", "-tzip", "-mm=Deflate64"),
    made("a.tar", "bsdtar", "-cf"),
    made("a.tar.gz", "bsdtar", "-czf"),
    made("a.tar.bz2", "bsdtar", "-cjf"),
    made("a.tar.xz", "bsdtar", "-cJf"),
    made("a.7z", "7z", "a"),
    piped("font.ttf.gz", "gzip"),
    piped("font.ttf.bz2", "bzip2"),
    piped("font.ttf.xz", "xz"),
    ...["trellis-fair.zip", "cellar-key-locked.zip", "fernhollow-broken-download.zip"].map((name): [string, Uint8Array] => [
      name,
      readFileSync(join(DOWNLOADS, name)),
    ]),
  ];
  await attack("archives", "/parcels", EACH, (random) => {
    const [fileName, whole] = seeds[Math.floor(random() * seeds.length)]!;
    return [{ fileName, bytes: mutated([whole], random) }];
  });
}, 900_000);

test("evidence", async () => {
  const styles = [false, true].map((bold) => ({
    menuName: "Aster Plain",
    bold,
    italic: false,
    fullName: "Aster Plain",
    words: "Words in it",
    rightToLeft: bold,
  }));
  const seeds = [
    ...(["odt", "docx", "svg", "html", "ass", "rtf"] as const).map((kind) => [`a.${kind}`, makeProbe(kind, "Probe", styles)] as const),
    ...hostileEvidence()
      .filter(({ fileName }) => fileName === "urls.css")
      .map(({ fileName }) => [fileName, text("@font-face{font-family:'A';src:url(a.woff)} body{font:bold 12px 'A',serif}")] as const),
    ["a.pdf", readFileSync(pdf())] as const,
  ];
  await attack("evidence", `${cell}/evidence`, EACH, (random) => {
    const [fileName, whole] = seeds[Math.floor(random() * seeds.length)]!;
    if (!/odt|docx/.test(fileName) || random() < 0.3) return [{ fileName, bytes: mutated([whole], random) }];
    const parts = Object.entries(unzipSync(whole)).map(
      ([name, bytes]) => [name, random() < 0.6 ? mutated([bytes], random) : bytes] as const,
    );
    return [{ fileName, bytes: zipSync(Object.fromEntries(parts)) }];
  });
}, 400_000);

/** A damaged PNG whose chunks' sums fit again (PNG, third edition, section 5.3), so that it is read further than to the first of them. */
function withItsSums(png: Uint8Array): Uint8Array {
  const view = new DataView(png.buffer, png.byteOffset, png.length);
  for (let at = 8; at + 12 <= png.length;) {
    const length = Math.min(view.getUint32(at), png.length - at - 12);
    view.setUint32(at, length);
    view.setUint32(at + 8 + length, crc32(png.subarray(at + 4, at + 8 + length)));
    at += 12 + length;
  }
  return png;
}

test("pictures", async () => {
  const [width, height] = [160, 60];
  const data = Buffer.alloc(width * height * 4, 255);
  for (let y = 10; y < 50; y++) for (let x = 10; x < 150; x++) if (x % 20 < 6) data.fill(0, (y * width + x) * 4, (y * width + x) * 4 + 3);
  const picture = new PNG({ width, height });
  data.copy(picture.data);
  const seeds: [string, Uint8Array][] = [
    ["a.png", PNG.sync.write(picture)],
    ["a.jpg", jpeg.encode({ width, height, data }).data],
  ];
  await attack("pictures", `${cell}/picture?words=hamburg`, EACH, (random) => {
    const [fileName, whole] = seeds[Math.floor(random() * seeds.length)]!;
    const bytes = mutated([whole], random);
    return [{ fileName, bytes: fileName.endsWith("png") && random() < 0.7 ? withItsSums(bytes) : bytes }];
  });
}, 400_000);

test("files of cuts", async () => {
  const devices = DeviceSummary.array().parse(await api("/devices"));
  const programs = await Promise.all(devices.map(async ({ id }) => DeviceDetail.parse(await api(`/devices/${id}`)).programs));
  const desk = programs.flat().find(({ kind }) => kind === "cutting")!;
  await api(`/practice/${desk.id}/open`, {});
  const { id } = SheetDetail.parse(await api("/bench/sheets", { name: "Fuzz" }));
  const style = { sha256: "0".repeat(64), face: 0, family: "Aster Plain", style: "Regular" };
  const source = { line: plainLine("a", "Words", style), settings: USUAL_CUT };
  const contours = contoursFromPath("M0 0L40 0C60 0 60 30 40 30L0 30ZM10 10Q20 5 30 10L30 20L10 20Z", 1)!;
  const whole = text(sheetSvg(60, 30, [{ name: "Letters", colour: "#1d1a16", contours }], { title: "Words", description: "", source }));
  await attack("files of cuts, as a machine reads them", `/practice/${desk.id}/machine-file`, EACH / 2, (random) => [
    { fileName: "a.svg", bytes: mutated([whole], random) },
  ]);
  // Half of them keep what they say of themselves: they are read further than to that.
  const after = new TextDecoder().decode(whole).indexOf("</metadata>");
  await attack("files of cuts, opened again", `/bench/sheets/${id}/open-cut`, EACH / 5, (random) => {
    const bytes =
      random() < 0.5 ? mutated([whole], random) : Buffer.concat([whole.subarray(0, after), mutated([whole.subarray(after)], random)]);
    return [{ fileName: "a.svg", bytes }];
  });
  // The worst that could be thought of: lines without end, numbers without end, all of it crossing all of it.
  const path = (d: string) => text(`<svg viewBox="0 0 100 100" width="100mm" height="100mm"><path d="${d}"/></svg>`);
  const zigzag = Array.from({ length: 60_000 }, (_, i) => `${i % 2 === 0 ? 0 : 90_000} ${(i * 7919) % 90_000}`).join("L");
  for (const bytes of [
    path("M0 0".repeat(200_000)),
    path(`M${zigzag}Z`),
    path("M1e999 0L1e308 -1e308Z"),
    path(`M${"9".repeat(1_000_000)} 0L1 1Z`),
  ]) {
    const { status, code } = await send(`/practice/${desk.id}/machine-file`, [{ fileName: "a.svg", bytes }]);
    expect([status, code === "fault", server.running]).toEqual([422, false, true]);
  }
}, 400_000);
