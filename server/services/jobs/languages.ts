// Languages a job can be in, with their letters from Unicode CLDR, read when first wanted.
import { createRequire } from "node:module";
import type { Language } from "../../../contract/jobs.ts";
import { exemplarCharacters } from "../../../core/coverage/languages.ts";
import { folded } from "../../../core/finding/words.ts";

const TAGS = (
  "af sq ar hy az eu be bn bs bg ca zh-Hans zh-Hant hr cs da nl en et fil fi fr gl ka de el gu he hi hu is id ga it ja kn kk ko lv lt mk ms ml mt mr " +
  "nb fa pl pt pa ro ru sr sk sl es sw sv ta te th tr uk ur uz vi cy yi zu"
).split(" ");

const names = new Intl.DisplayNames("en", { type: "language" });
export const languageName = (tag: string): string => names.of(tag) ?? tag;

export const LANGUAGES: readonly Language[] = TAGS.map((tag) => ({ tag, name: languageName(tag) })).sort((a, b) =>
  a.name < b.name ? -1 : 1,
);

const byName = new Map(LANGUAGES.map(({ tag, name }) => [folded(name), tag]));
/** The language of a name, in any case; undefined when none is called so. */
export const languageNamed = (name: string): string | undefined => byName.get(folded(name));

const kept = new Map<string, number[]>();
/** Code points of a language's letters; empty for a language CLDR's package does not hold. */
export function lettersOf(tag: string): number[] {
  let letters = kept.get(tag);
  if (!letters) {
    letters = TAGS.includes(tag) ? exemplarCharacters(exemplars(tag)) : [];
    kept.set(tag, letters);
  }
  return letters;
}

function exemplars(tag: string): string {
  const file = createRequire(import.meta.url)(`cldr-misc-full/main/${tag}/characters.json`) as {
    main: Record<string, { characters: { exemplarCharacters: string } }>;
  };
  return file.main[tag]!.characters.exemplarCharacters;
}
