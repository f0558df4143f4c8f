// The command line as others call it: one JSON object a line, in the promised shape, whatever it is given.
import { execFileSync, spawnSync } from "node:child_process";
import { createHash } from "node:crypto";
import { mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, describe, expect, test } from "@jest/globals";
import { zipSync } from "fflate";
import { drawWords } from "../tests/reference/lettering.ts";

const cli = join(process.cwd(), "build", "node", "cli.mjs");
const downloads = join(process.cwd(), "build", "demo", "downloads");
const builtIn = join(process.cwd(), "build", "demo", "built-in");
const dir = mkdtempSync(join(tmpdir(), "buvano-cli-"));
afterAll(() => rmSync(dir, { recursive: true }));

// What it leaves in the temporary folder is looked for, so it has one of its own.
const temporary = join(dir, "tmp");
mkdirSync(temporary);
process.env["TMPDIR"] = temporary;

const lines = (...args: string[]): Record<string, unknown>[] =>
  execFileSync(process.execPath, [cli, ...args], { encoding: "utf8", env: process.env })
    .trim()
    .split("\n")
    .map((line) => JSON.parse(line) as Record<string, unknown>);
const sha256 = (path: string): string => createHash("sha256").update(readFileSync(path)).digest("hex");

describe("dump", () => {
  const font = join(builtIn, "AsterPlain-Regular.ttf");
  const run = (...args: string[]) => spawnSync(process.execPath, [cli, "dump", ...args], { encoding: "utf8" });
  test("lists the tables as fontTools finds them, and their fields with its values", () => {
    const script = `import json,sys
from fontTools.ttLib import TTFont
font = TTFont(sys.argv[1])
print(json.dumps({"tags": sorted(font.reader.keys()), "unitsPerEm": font["head"].unitsPerEm, "ascender": font["hhea"].ascent, "numGlyphs": font["maxp"].numGlyphs, "usWeightClass": font["OS/2"].usWeightClass, "A": font.getGlyphID(font.getBestCmap()[65])}))`;
    const judged = JSON.parse(execFileSync("/usr/bin/python3", ["-c", script, font], { encoding: "utf8" })) as Record<string, unknown>;
    const table = (tag: string) => JSON.parse(run(font, tag).stdout) as Record<string, unknown>;
    const tables = JSON.parse(run(font).stdout) as { tag: string }[];
    expect(tables.map(({ tag }) => tag).sort()).toEqual(judged["tags"]);
    expect({
      unitsPerEm: table("head")["unitsPerEm"],
      ascender: table("hhea")["ascender"],
      numGlyphs: table("maxp")["numGlyphs"],
      usWeightClass: table("OS/2")["usWeightClass"],
    }).toEqual({
      unitsPerEm: judged["unitsPerEm"],
      ascender: judged["ascender"],
      numGlyphs: judged["numGlyphs"],
      usWeightClass: judged["usWeightClass"],
    });
    expect(table("cmap")["characters"]).toContain(`U+0041 → ${String(judged["A"])}`);
  });
  test("a table that is not there, a name of no table, and a file that is no font are answered with a sentence", () => {
    for (const [args, words] of [
      [[font, "fvar"], "no “fvar” table"],
      [[font, "constructor"], "no “constructor” table"],
      [[join(downloads, "trellis-fair.zip")], "This is not a font file"],
      [[join(dir, "none.ttf")], "cannot be opened"],
    ] as const) {
      const { status, stdout, stderr } = run(...args);
      expect([status, stdout, stderr]).toEqual([1, "", expect.stringContaining(words)]);
    }
  });
});

describe("clear", () => {
  test("says of each family what its papers allow, with the sentence, the paper and its line, and keeps nothing", () => {
    const [tendril] = lines("clear", "--json", join(downloads, "tendril_script_free.zip"));
    expect(Object.keys(tendril!)).toEqual("path family summary uses licences papers term credit".split(" "));
    const uses = tendril!["uses"] as Record<string, Record<string, unknown>>;
    expect(Object.keys(uses)).toEqual(["own", "given-away", "sold", "client", "document", "video", "web"]);
    expect(uses["sold"]).toMatchObject({ answer: "no", by: "statement", conflict: false });
    expect(Object.keys(uses["sold"]!)).toEqual(["answer", "by", "sentence", "paper", "line", "conflict"]);
    expect(tendril!["papers"]).toEqual([{ path: "please read.txt", kind: expect.any(String), language: "en", read: true }]);
    expect(readdirSync(temporary)).toEqual([]);
  });
  test("a folder, and a font with the papers beside it, are read alike; what holds no fonts is said", () => {
    const there = join(dir, "hazel");
    mkdirSync(there);
    writeFileSync(join(there, "hazel.ttf"), readFileSync(join(builtIn, "AsterPlain-Bold.ttf")));
    writeFileSync(join(there, "licence.txt"), "Not for commercial use.\n");
    const answers = (one: Record<string, unknown>) => (one["uses"] as Record<string, { answer: string }>)["sold"]!.answer;
    expect(lines("clear", "--json", there, join(there, "hazel.ttf")).map(answers)).toEqual(["no", "no"]);
    const empty = join(dir, "empty.zip");
    writeFileSync(empty, zipSync({ "a.txt": new Uint8Array(3) }));
    const { status, stdout } = spawnSync(process.execPath, [cli, "clear", "--json", empty, join(dir, "missing")], { encoding: "utf8" });
    expect(status).toBe(1);
    expect(
      stdout
        .trim()
        .split("\n")
        .map((line) => (JSON.parse(line) as { error: { code: string } }).error.code),
    ).toEqual(["no-fonts", "file-unreadable"]);
  });
});

describe("inspect", () => {
  const font = join(builtIn, "AsterPlain-Bold.ttf");
  test("gives every promised field, and no other", () => {
    const [face] = lines("inspect", "--json", font);
    expect(Object.keys(face!)).toEqual(
      (
        "path face container outlines family style legacyFamily legacyStyle fullName postScriptName version weight width italic " +
        "monospaced codepoints axes embedding verdict findings sha256"
      ).split(" "),
    );
    expect(face).toMatchObject({
      path: font,
      face: 0,
      container: "sfnt",
      family: "Aster Plain",
      style: "Bold",
      weight: 700,
      italic: false,
      verdict: "sound",
      sha256: sha256(font),
    });
  });
  test("tells of files it cannot read, and goes on", () => {
    const text = join(dir, "note.ttf");
    writeFileSync(text, "This is a note.");
    const found = lines("inspect", "--json", join(dir, "missing.ttf"), text, font);
    expect(found.map((one) => (one["error"] as { code: string } | undefined)?.code)).toEqual(["file-unreadable", "not-a-font", undefined]);
    for (const one of found.slice(0, 2)) expect(Object.keys(one)).toEqual(["path", "error"]);
  });
  test("looks through folders, and reads web fonts and variable fonts", () => {
    expect(lines("inspect", "--json", builtIn).length).toBe(readdirSync(builtIn).length);
    const web = join(process.cwd(), "node_modules", "@fontsource-variable", "petrona", "files", "petrona-latin-wght-normal.woff2");
    const [face] = lines("inspect", "--json", web);
    expect(face).toMatchObject({ container: "woff2", axes: [{ tag: "wght", min: 100, max: 900 }] });
  });
});

describe("unpack", () => {
  test("writes what it lists, with its sums", () => {
    const to = join(dir, "out");
    const found = lines("unpack", join(downloads, "trellis-fair.zip"), "--to", to, "--json");
    expect(found.map((one) => [one["path"], one["kind"]])).toEqual([
      ["Trellis Fair.ttf", "font"],
      ["license.txt", "paper"],
    ]);
    for (const one of found) expect(sha256(join(to, one["path"] as string))).toBe(one["sha256"]);
    expect(readdirSync(to).sort()).toEqual(["Trellis Fair.ttf", "license.txt"]);
  });
  test("leaves out what climbs, and leaves nothing half-written", () => {
    const archive = join(dir, "evil.zip");
    writeFileSync(archive, zipSync({ "../evil.ttf": new Uint8Array(9), "a.txt": new Uint8Array(2), "A.TXT": new Uint8Array(3) }));
    const to = join(dir, "deep", "out");
    const found = lines("unpack", archive, "--to", to, "--json");
    expect(found.map((one) => (one["problem"] as { code: string } | undefined)?.code)).toEqual(["entry-name", undefined, "entry-twice"]);
    expect([readdirSync(to), readdirSync(join(dir, "deep"))]).toEqual([["a.txt"], ["out"]]);
  });
  test("says what is wrong with an archive as a whole, and ends with 1", () => {
    const note = join(dir, "note.zip");
    writeFileSync(note, "This is a note.");
    const { status, stdout } = spawnSync(process.execPath, [cli, "unpack", note, "--to", join(dir, "none"), "--json"], {
      encoding: "utf8",
    });
    expect([status, JSON.parse(stdout)]).toEqual([
      1,
      expect.objectContaining({ path: note, problem: expect.objectContaining({ code: "not-an-archive" }) }),
    ]);
  });
});

test("match and alike say which fonts of a library a picture shows, and what is like a family", () => {
  const data = join(dir, "matched");
  lines("bring", ...["trellis-fair.zip", "fernhollow-text-family.zip"].map((name) => join(downloads, name)), "--data", data, "--json");
  execFileSync("unzip", ["-oq", join(downloads, "trellis-fair.zip"), "-d", dir]);
  const [picture] = drawWords(dir, [{ font: join(dir, "Trellis Fair.ttf"), words: "Garden path", photo: false }]);
  const asked = ["match", picture!.path, "--data", data, "--words", "Garden path", "--json"];
  const [first] = lines(...asked);
  expect(Object.keys(first!)).toEqual(["family", "style", "likeness", "verdict", "overlay"]);
  expect(first).toMatchObject({ family: "Trellis Fair", verdict: "it" });
  const frame = picture!.frame.map((corner) => corner.join(",")).join(" ");
  expect(lines(...asked, "--frame", frame)[0]).toMatchObject({ family: "Trellis Fair", verdict: "it" });
  const [like] = lines("alike", "Fernhollow", "Text", "--data", data, "--json");
  expect(like).toMatchObject({ family: "Fernhollow Text Variable", alike: "same" });
  for (const wrong of [
    [...asked, "--frame", "1,2 3"],
    [...asked, "--job", "Nobody's"],
    ["alike", "Nothing like it", "--data", data],
  ]) {
    const { status, stderr } = spawnSync(process.execPath, [cli, ...wrong], { encoding: "utf8" });
    expect([status, /^(The frame cannot be read|There is no)/m.test(stderr)]).toEqual([1, true]);
  }
}, 90_000);

test("bring takes archives, loose fonts and folders into a library, and counts them", () => {
  const data = join(dir, "library");
  const archives = readdirSync(downloads).map((name) => join(downloads, name));
  const [summary] = lines("bring", ...archives, builtIn, "--data", data, "--json");
  expect(summary).toMatchObject({ archives: archives.length + 1, refused: 0 });
  const { faces, sound, usable, problems } = summary as {
    faces: number;
    sound: number;
    usable: number;
    problems: { path: string; code: string }[];
  };
  expect(sound + usable).toBe(faces);
  expect(problems.map((one) => [one.path, one.code])).toEqual([
    [undefined, "archive-password"],
    ["FernhollowText-Regular.ttf", "font-truncated"],
  ]);
  const [again] = lines("bring", join(dir, "missing.zip"), archives[0]!, "--data", data, "--json");
  expect(again).toMatchObject({ archives: 1, families: summary!["families"], problems: [{ code: "file-unreadable" }] });
});

test("needs tells where each font of a document is in a library, and lists them without one", () => {
  const data = join(dir, "needs-library");
  lines("bring", join(downloads, "garden-note.zip"), "--data", data, "--json");
  const page = join(dir, "page.html");
  writeFileSync(page, "<p style=\"font-family:'Garden Note'\">Peas</p><p style=\"font-family:'Missing Meadow'\">Beans</p>");
  const [told] = lines("needs", page, join(dir, "missing.pdf"), "--data", data, "--json");
  const { documents, problems } = told as {
    documents: { name: string; needs: { name: string; place?: string }[] }[];
    problems: { fileName: string }[];
  };
  const fonts = documents.map(({ name, needs }) => [name, needs.map((need) => [need.name, need.place])]);
  expect(fonts).toEqual([
    [
      "page.html",
      [
        ["Missing Meadow", "nowhere"],
        ["Garden Note", "library"],
      ],
    ],
  ]);
  expect(problems.map(({ fileName }) => fileName)).toEqual(["missing.pdf"]);
  const [alone] = lines("needs", page, "--json");
  expect(alone).toMatchObject({
    documents: [
      {
        needs: [
          { name: "Missing Meadow", letters: 5 },
          { name: "Garden Note", letters: 4 },
        ],
      },
    ],
  });
  const { status, stderr } = spawnSync(process.execPath, [cli, "needs", page, "--data", data, "--device", "Attic"], { encoding: "utf8" });
  expect([status, stderr]).toEqual([1, expect.stringContaining("no device called “Attic”")]);
});

test("words and texts that are much too long are refused with the limit's name", () => {
  const font = join(builtIn, "AsterPlain-Regular.ttf");
  for (const [args, limit] of [
    [["evidence", font, "--font", font, "--words", "a".repeat(120_000)], "limit “words”: 2,000"],
    [["alike", "a".repeat(120_000), "--data", dir], "limit “what is given”: 10,000"],
  ] as const) {
    const { status, stderr } = spawnSync(process.execPath, [cli, ...args], { encoding: "utf8" });
    expect([status, stderr]).toEqual([1, expect.stringContaining(limit)]);
  }
});

test("anything else shows how it is used, and ends with 2", () => {
  for (const args of [[], ["inspect"], ["unpack", "x"], ["bring", "x"], ["needs"], ["dance"]]) {
    const { status, stderr } = spawnSync(process.execPath, [cli, ...args], { encoding: "utf8" });
    expect([status, stderr]).toEqual([2, expect.stringContaining("buvano inspect")]);
  }
});
