// Every health check finds what it is for, and only that: a whole font is taken apart in one respect at a time.
// ots-sanitize is asked about the same bytes: what it refuses is never called sound.
import { spawnSync } from "node:child_process";
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, describe, expect, test } from "@jest/globals";
import { inspectFont, type Inspection } from "../../core/inspect.ts";
import { assembleSfnt } from "../../core/sfnt/assemble.ts";
import { openContainer, tableBytes } from "../../core/sfnt/container.ts";

const dir = mkdtempSync(join(tmpdir(), "buvano-health-"));
afterAll(() => rmSync(dir, { recursive: true }));

const TRUETYPE = join(process.cwd(), "build", "demo", "built-in", "AsterPlain-Regular.ttf");
const BOLD = join(process.cwd(), "build", "demo", "built-in", "AsterPlain-Bold.ttf");
const CFF = "/usr/share/fonts/opentype/cabin/Cabin-Regular.otf";

type Tables = Map<string, Uint8Array>;
function tablesOf(path: string): { flavour: string; tables: Tables } {
  const file = openContainer(readFileSync(path));
  const face = file.faces[0]!;
  return { flavour: face.flavour, tables: new Map(face.tables.map((record) => [record.tag, Uint8Array.from(tableBytes(file, record))])) };
}
/** The font with one thing changed, whole in every other respect: its sums are computed anew. */
function changed(path: string, change: (tables: Tables, at: (tag: string) => DataView) => void): Uint8Array {
  const { flavour, tables } = tablesOf(path);
  change(tables, (tag) => new DataView(tables.get(tag)!.buffer));
  return assembleSfnt(flavour, tables);
}
function inspected(bytes: Uint8Array): Inspection {
  const result = inspectFont(bytes, "changed");
  if (!result.ok) throw new Error(result.problem.message);
  return result.value[0]!;
}
const codes = (bytes: Uint8Array): string[] => inspected(bytes).findings.map((finding) => finding.code);
function otsRefuses(bytes: Uint8Array): boolean {
  const path = join(dir, "font");
  writeFileSync(path, bytes);
  return spawnSync("ots-sanitize", [path, "/dev/null"], { stdio: "ignore" }).status !== 0;
}

test.each([TRUETYPE, CFF])("%s is sound, and stays so when put together again", (path) => {
  expect(inspected(readFileSync(path))).toMatchObject({ verdict: "sound", findings: [] });
  const again = changed(path, () => {});
  expect(inspected(again)).toMatchObject({ verdict: "sound", findings: [] });
  expect(otsRefuses(again)).toBe(false);
});

// Offsets are those of the OpenType specification's tables.
const faults: [code: string, verdict: string, path: string, change: (tables: Tables, at: (tag: string) => DataView) => void][] = [
  ["table-missing", "refused", TRUETYPE, (tables) => tables.delete("cmap")],
  ["table-missing", "refused", TRUETYPE, (tables) => tables.delete("hmtx")],
  ["outlines-missing", "refused", CFF, (tables) => tables.delete("CFF ")],
  ["os2-missing", "usable", TRUETYPE, (tables) => tables.delete("OS/2")],
  ["post-missing", "usable", TRUETYPE, (tables) => tables.delete("post")],
  ["head-magic", "refused", TRUETYPE, (_, at) => at("head").setUint32(12, 1)],
  ["units-per-em", "refused", TRUETYPE, (_, at) => at("head").setUint16(18, 8)],
  ["loca-format", "refused", TRUETYPE, (_, at) => at("head").setInt16(50, 7)],
  ["glyph-count", "refused", TRUETYPE, (_, at) => at("maxp").setUint16(4, 0)],
  ["metrics-count", "refused", TRUETYPE, (_, at) => at("hhea").setUint16(34, 9999)],
  ["metrics-count", "refused", TRUETYPE, (tables) => tables.set("hmtx", tables.get("hmtx")!.slice(0, 40))],
  ["glyph-mismatch", "refused", CFF, (_, at) => at("maxp").setUint16(4, at("maxp").getUint16(4) - 1)],
  ["loca", "refused", TRUETYPE, (_, at) => at("loca").setUint32(8, 0xfffff0)],
  ["loca", "refused", TRUETYPE, (tables) => tables.set("loca", tables.get("loca")!.slice(0, 40))],
  ["loca", "refused", TRUETYPE, (tables) => tables.delete("loca")],
  ["cmap-unreadable", "refused", TRUETYPE, (_, at) => at("cmap").setUint16(4, 9)],
  ["browser-refused", "usable", TRUETYPE, (_, at) => wrongSearchRange(at("cmap"))],
  ["cmap-wild", "usable", CFF, (_, at) => wildGlyph(at("cmap"))],
  ["style-flags", "usable", TRUETYPE, (_, at) => at("OS/2").setUint16(62, 0x41)],
  ["style-flags-differ", "usable", TRUETYPE, (_, at) => at("head").setUint16(44, 1)],
  ["weight-range", "usable", TRUETYPE, (_, at) => at("OS/2").setUint16(4, 1200)],
  ["metrics-line", "usable", TRUETYPE, (_, at) => at("hhea").setInt16(4, -900)],
  ["metrics-clip", "sound", TRUETYPE, (_, at) => at("OS/2").setUint16(74, 100)],
  ["embedding-restricted", "sound", TRUETYPE, (_, at) => at("OS/2").setUint16(8, 2)],
  ["embedding-limited", "sound", TRUETYPE, (_, at) => at("OS/2").setUint16(8, 0x100)],
  ["advance-zero", "usable", TRUETYPE, (_, at) => zeroAdvances(at("hmtx"))],
  ["advance-negative", "usable", TRUETYPE, (_, at) => at("hmtx").setUint16(0, 0xfffa)],
  ["names-missing", "refused", TRUETYPE, (tables) => tables.delete("name")],
  ["weight-words", "sound", BOLD, (_, at) => at("OS/2").setUint16(4, 300)],
  [
    "outline-damaged",
    "usable",
    TRUETYPE,
    (tables) =>
      tables.set(
        "glyf",
        tables.get("glyf")!.map((byte, i) => (i % 2 ? 0x7f : byte)),
      ),
  ],
  ["colour-only", "sound", TRUETYPE, (tables) => tables.set("COLR", new Uint8Array(14))],
  ["notdef-empty", "sound", TRUETYPE, (_, at) => at("loca").setUint32(4, 0)],
  ["name-outside", "usable", TRUETYPE, (_, at) => at("name").setUint16(6 + 8, 60000)],
  ["name-postscript", "usable", TRUETYPE, (tables, at) => postScriptName(tables, at("name"))],
];

/** Points the last segments of every format 4 subtable at glyphs that are not there. */
function wildGlyph(cmap: DataView): void {
  for (let i = 0; i < cmap.getUint16(2); i++) {
    const at = cmap.getUint32(4 + 8 * i + 4);
    if (cmap.getUint16(at) !== 4) continue;
    const segments = cmap.getUint16(at + 6) / 2;
    for (let segment = 0; segment < segments - 1; segment++) {
      const offset = at + 16 + 2 * segments * 3 + 2 * segment;
      if (cmap.getUint16(offset) === 0) cmap.setUint16(at + 16 + 2 * segments * 2 + 2 * segment, 60000);
    }
  }
}
/** Doubles searchRange of every format 4 subtable. */
function wrongSearchRange(cmap: DataView): void {
  for (let i = 0; i < cmap.getUint16(2); i++) {
    const at = cmap.getUint32(4 + 8 * i + 4);
    if (cmap.getUint16(at) === 4) cmap.setUint16(at + 8, 2 * cmap.getUint16(at + 8));
  }
}
function zeroAdvances(hmtx: DataView): void {
  for (let at = 0; at + 4 <= hmtx.byteLength; at += 4) hmtx.setUint16(at, 0);
}
/** Puts a bracket, which is not allowed there, at the start of the PostScript name (name ID 6). */
function postScriptName(tables: Tables, name: DataView): void {
  const storage = name.getUint16(4);
  for (let i = 0; i < name.getUint16(2); i++) {
    const at = 6 + 12 * i;
    if (name.getUint16(at + 6) === 6) tables.get("name")![storage + name.getUint16(at + 10) + 1] = "(".charCodeAt(0);
  }
}

describe.each(faults)("%s (%s)", (code, verdict, path, change) => {
  const bytes = changed(path, change);
  test("is found, and said with its meaning, its remedy and its source", () => {
    const face = inspected(bytes);
    const finding = face.findings.find((one) => one.code === code);
    expect([face.findings.map((one) => one.code), finding !== undefined]).toEqual([expect.arrayContaining([code]), true]);
    for (const words of [finding!.message, finding!.meaning, finding!.next]) expect(words).toMatch(/^\S.*\.$/);
    expect(finding!.standard).toMatch(/^OpenType specification, \S/);
    expect(face.verdict).toBe(verdict);
  });
  test("is not called sound where ots-sanitize refuses", () => {
    expect([otsRefuses(bytes), inspected(bytes).verdict]).not.toEqual([true, "sound"]);
  });
});

describe("the container", () => {
  const whole = readFileSync(TRUETYPE);
  const directory = (bytes: Uint8Array) => new DataView(bytes.buffer, bytes.byteOffset);
  test("a table that reaches past the end", () => {
    const cut = Uint8Array.from(whole.subarray(0, whole.length - 10));
    expect(codes(cut)).toContain("table-outside");
    expect(otsRefuses(cut)).toBe(true);
  });
  test("two tables that overlap, one listed twice, a name of strange bytes", () => {
    const overlapping = Uint8Array.from(whole);
    directory(overlapping).setUint32(12 + 16 + 8, directory(overlapping).getUint32(12 + 8));
    expect(codes(overlapping)).toContain("table-overlap");
    const twice = Uint8Array.from(whole);
    twice.copyWithin(12 + 16, 12, 12 + 4);
    expect(codes(twice)).toContain("table-twice");
    const strange = Uint8Array.from(whole);
    strange[12] = 3;
    expect(codes(strange)).toContain("table-tag");
  });
  test("a flipped bit is seen by its sum", () => {
    const flipped = Uint8Array.from(whole);
    const glyf = tablesOf(TRUETYPE);
    expect(glyf.tables.has("glyf")).toBe(true);
    const record = openContainer(flipped).faces[0]!.tables.find((one) => one.tag === "glyf")!;
    flipped[record.offset + record.length - 3] = flipped[record.offset + record.length - 3]! ^ 1;
    expect(inspected(flipped)).toMatchObject({ verdict: "usable", findings: [{ code: "checksum" }] });
  });
});
