// `buvano glyphs`: what a font can draw, one glyph a line or object, and how each is reached; the best match first with `--find`. Exit code 1 when the font cannot
// be read or nothing is found.
import { readFile } from "node:fs/promises";
import { GlyphFinder, recordOf, type GlyphRecord } from "../core/glyphs/glyphs.ts";
import { reachOf } from "../core/glyphs/reach.ts";
import { signLists } from "../core/symbols/lists.ts";
import { attempt } from "../core/problem.ts";
import { Face } from "../core/sfnt/face.ts";
import { openContainer } from "../core/sfnt/container.ts";
import { unwrapWebFont } from "../core/sfnt/unwrap.ts";
import { isWoff2, loadWoff2 } from "../core/sfnt/woff2.ts";

const UNREADABLE = { code: "font-unreadable", message: "This font file cannot be read.", next: "Give a whole font file." };

function line({ glyph, name, codepoint, character, unicodeName, reachedBy }: GlyphRecord): string {
  const ways = reachedBy.map(({ feature, value, input, language }) => {
    const setting = feature === "" ? "by itself" : `${feature}${value > 1 ? `=${value}` : ""}`;
    return `${setting} on ${input}${language === undefined ? "" : ` in ${language}`}`;
  });
  return [String(glyph), codepoint ?? "-", character ?? "", unicodeName ?? name, ways.join("; ")].join("\t");
}

export async function glyphs(args: { font: string; face: number; find: string | undefined; json: boolean }): Promise<number> {
  let bytes: Uint8Array;
  try {
    bytes = await readFile(args.font);
  } catch {
    process.stderr.write(`${args.font}: It cannot be opened. Check its name and that you may read it.\n`);
    return 1;
  }
  const unpack = isWoff2(bytes) ? await loadWoff2() : undefined;
  const read = attempt(() => {
    const face = new Face(openContainer(bytes, unpack), args.face);
    return reachOf(face, face.file.container === "woff" ? unwrapWebFont(bytes).bytes : face.file.bytes);
  }, UNREADABLE);
  if (!read.ok) {
    process.stderr.write(`${args.font}: ${read.problem.message} ${read.problem.next}\n`);
    return 1;
  }
  const language = Intl.DateTimeFormat().resolvedOptions().locale.split("-")[0]!;
  const languages = [...new Set(["en", language])];
  const lists = await signLists(languages);
  const found = args.find === undefined ? read.value : new GlyphFinder(read.value, lists, languages).find(args.find);
  const records = found.map((one) => recordOf(one, lists, languages));
  if (args.json) process.stdout.write(`${JSON.stringify(records, null, 2)}\n`);
  else for (const record of records) process.stdout.write(`${line(record)}\n`);
  if (records.length === 0) process.stderr.write(`No glyph of this font is called “${args.find}”.\n`);
  return records.length === 0 ? 1 : 0;
}
