// Web fonts unpacked here against woff2_decompress (the reference decoder) and, for WOFF 1.0, against fontTools: the same
// tables, byte for byte.
import { execFileSync } from "node:child_process";
import { copyFileSync, mkdtempSync, readFileSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, expect, test } from "@jest/globals";
import { inspectFont } from "../../core/inspect.ts";
import { openContainer, tableBytes } from "../../core/sfnt/container.ts";
import { loadWoff2 } from "../../core/sfnt/woff2.ts";

const dir = mkdtempSync(join(tmpdir(), "buvano-webfonts-"));
afterAll(() => rmSync(dir, { recursive: true }));
const packed = (family: string, name: string): string => join(process.cwd(), "node_modules", family, "files", name);

const NAMES: [family: string, name: string][] = [
  ["@fontsource/petrona", "petrona-latin-400-normal"],
  ["@fontsource/petrona", "petrona-latin-700-italic"],
  ["@fontsource/frank-ruhl-libre", "frank-ruhl-libre-hebrew-400-normal"],
  ["@fontsource/bricolage-grotesque", "bricolage-grotesque-latin-700-normal"],
];

async function tables(bytes: Uint8Array): Promise<Map<string, string>> {
  const file = openContainer(bytes, await loadWoff2());
  return new Map(file.faces[0]!.tables.map((record) => [record.tag, Buffer.from(tableBytes(file, record)).toString("base64")]));
}

test.each([...NAMES, ["@fontsource-variable/petrona", "petrona-latin-wght-normal"] as [string, string]])(
  "%s/%s.woff2",
  async (family, name) => {
    const copy = join(dir, `${name}.woff2`);
    copyFileSync(packed(family, `${name}.woff2`), copy);
    execFileSync("woff2_decompress", [copy], { stdio: "ignore" });
    expect(await tables(readFileSync(copy))).toEqual(await tables(readFileSync(join(dir, `${name}.ttf`))));
  },
);

test.each(NAMES)("%s/%s.woff", async (family, name) => {
  const plain = join(dir, `${name}-plain.ttf`);
  const woff = packed(family, `${name}.woff`);
  // Lazily opened tables are copied as they are; only the order and head's adjustment may differ.
  const script =
    "import sys;from fontTools.ttLib import TTFont;f=TTFont(sys.argv[1],lazy=True,recalcTimestamp=False,recalcBBoxes=False);f.flavor=None;f.save(sys.argv[2],reorderTables=None)";
  execFileSync("/usr/bin/python3", ["-c", script, woff, plain], { stdio: "ignore" });
  const mine = await tables(readFileSync(woff));
  const judge = await tables(readFileSync(plain));
  for (const found of [mine, judge]) {
    const head = Buffer.from(found.get("head")!, "base64");
    head.writeUInt32BE(0, 8);
    found.set("head", head.toString("base64"));
  }
  expect(mine).toEqual(judge);
});

test.each(NAMES)("%s/%s: both web formats are found sound and to be the same face", async (family, name) => {
  const [one, two] = await Promise.all(
    ["woff", "woff2"].map(async (ending) => inspectFont(readFileSync(packed(family, `${name}.${ending}`)), name, await loadWoff2())),
  );
  if (!one?.ok || !two?.ok) throw new Error("A web font cannot be read.");
  expect([one.value[0]!.verdict, two.value[0]!.verdict]).not.toContain("refused");
  expect(one.value[0]!.ranges).toEqual(two.value[0]!.ranges);
  expect(one.value[0]!.advances).toEqual(two.value[0]!.advances);
});
