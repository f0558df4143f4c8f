// Signs found by word: in symbol fonts of Debian packages by the words of the packages' own lists (style sheets), which say which code point is
// which; in one with Unicode's symbols by the names of Unicode's emoji list (Debian's unicode-data), which are not CLDR's.
import { readFileSync } from "node:fs";
import { join } from "node:path";
import { beforeAll, expect, test } from "@jest/globals";
import { GlyphFinder } from "../../core/glyphs/glyphs.ts";
import { reachOf, type GlyphReach } from "../../core/glyphs/reach.ts";
import { signLists } from "../../core/symbols/lists.ts";
import type { SignLists } from "../../core/symbols/symbols.ts";
import { Face } from "../../core/sfnt/face.ts";
import { openContainer } from "../../core/sfnt/container.ts";
import { unpackedPackages } from "../load/downloads.ts";

const CORPUS = join(process.cwd(), "build", "corpus", "papers");
const EACH = 75;

/** Names by code point, in the order they are listed. */
type List = Map<number, string[]>;
const add = (list: List, code: number, name: string) => list.set(code, [...(list.get(code) ?? []), name]);

function styleSheet(prefix: string) {
  return (text: string): List => {
    const list: List = new Map();
    for (const [, selectors, hex] of text.matchAll(/((?:\.[\w-]+::?before[\s,]*)+)\{\s*content:\s*"\\([0-9a-f]+)"/gi))
      for (const [, name] of selectors!.matchAll(/\.([\w-]+?)::?before/g)) add(list, parseInt(hex!, 16), name!.slice(prefix.length));
    return list;
  };
}
function sassMap(text: string): List {
  const list: List = new Map();
  for (const [, name, hex] of text.matchAll(/"([\w-]+)": ([0-9a-f]{4})/g)) add(list, parseInt(hex!, 16), name!);
  return list;
}
/** emoji-test.txt: "1F600 ; fully-qualified # 😀 E1.0 grinning face". Only single characters. */
function emojiList(text: string): List {
  const list: List = new Map();
  for (const [, hex, name] of text.matchAll(/^([0-9A-F]{4,5})(?: FE0F)? +; fully-qualified +# \S+ E\d+\.\d+ (.+)$/gm))
    add(list, parseInt(hex!, 16), name!);
  return list;
}

const SHARE = "usr/share";
const CASES: { name: string; font: string; list: string; read: (text: string) => List }[] = [
  {
    name: "fonts-fork-awesome",
    font: `${SHARE}/fonts/truetype/fork-awesome/forkawesome-webfont.ttf`,
    list: `${SHARE}/fonts-fork-awesome/css/fork-awesome.css`,
    read: styleSheet("fa-"),
  },
  {
    name: "fonts-materialdesignicons-webfont",
    font: `${SHARE}/fonts/truetype/materialdesignicons-webfont/materialdesignicons-webfont.ttf`,
    list: `${SHARE}/fonts-materialdesignicons-webfont/css/materialdesignicons.css`,
    read: styleSheet("mdi-"),
  },
  {
    name: "fonts-material-design-icons-iconfont",
    font: `${SHARE}/fonts/truetype/material-design-icons-iconfont/MaterialIcons-Regular.ttf`,
    list: `${SHARE}/fonts-material-design-icons-iconfont/scss/_variables.scss`,
    read: sassMap,
  },
  {
    name: "fonts-symbola",
    font: `${SHARE}/fonts/truetype/ancient-scripts/Symbola_hint.ttf`,
    list: "/usr/share/unicode/emoji/emoji-test.txt",
    read: emojiList,
  },
];

let lists: SignLists;
let trees: Map<string, string>;
beforeAll(async () => {
  lists = await signLists(["en"]);
  trees = unpackedPackages(
    CORPUS,
    CASES.map(({ name }) => name),
  );
}, 300_000);

/** Every so many of the signs that both the list and the font have, each by its name. */
function sampled(list: List, glyphs: readonly GlyphReach[], nth: number): [code: number, name: string][] {
  const there = new Set(glyphs.flatMap(({ codePoints }) => codePoints));
  const both = [...list].filter(([code]) => there.has(code));
  const step = Math.max(1, Math.floor(both.length / EACH));
  return both.filter((_, i) => i % step === nth % step).map(([code, names]) => [code, names[0]!]);
}

/** A list may call a sign by names the font itself does not know: of one font alone fewer may be found. */
const counted: [number, number][] = [];
test.each(CASES)("$name", ({ name, font, list: listPath, read }) => {
  const tree = trees.get(name)!;
  const bytes = readFileSync(join(tree, font));
  const glyphs = reachOf(new Face(openContainer(bytes), 0), bytes);
  const list = read(readFileSync(listPath.startsWith("/") ? listPath : join(tree, listPath), "utf8"));
  const finder = new GlyphFinder(glyphs, lists, ["en"]);
  // The first sample was looked at while this was built; the second was not.
  const shares = [0, 1].map((nth) => {
    const words = sampled(list, glyphs, nth);
    const missed = words.filter(
      ([code, word]) =>
        !finder
          .find(word.replace(/[-_]/g, " "))
          .slice(0, 3)
          .some(({ codePoints }) => codePoints.includes(code)),
    );
    counted.push([words.length, missed.length]);
    process.stderr.write(
      `${name}, ${nth === 0 ? "studied" : "unseen"}: ${words.length - missed.length} of ${words.length} signs among the first three; not ${missed.map(([, word]) => word).join(", ") || "one missed"}\n`,
    );
    return [words.length >= 50, 1 - missed.length / words.length >= 0.8];
  });
  expect(shares).toEqual([
    [true, true],
    [true, true],
  ]);
});

test("all together", () => {
  const [words, missed] = counted.reduce(([a, b], [c, d]) => [a + c, b + d], [0, 0]);
  process.stderr.write(`signs by word: ${words - missed} of ${words} among the first three\n`);
  expect([words >= 200, 1 - missed / words >= 0.95]).toEqual([true, true]);
});
