// Whether the families of a job set its languages and draw its words together: one for each, if need be.
import { listWords } from "../words/words.ts";

export interface Member {
  name: string;
  /** Languages of the job it sets, by name. */
  sets: readonly string[];
  /** Characters of the job's words it lacks. */
  lacks: readonly string[];
  /** It holds signs and no letters: languages do not concern it. */
  signs: boolean;
}
export interface Drawing {
  good: boolean;
  /** A sentence without its full stop. */
  words: string;
}

/** So many characters are named. */
const NAMED = 12;
const named = (characters: readonly string[]): string =>
  characters.slice(0, NAMED).join(" ") + (characters.length > NAMED ? ` and ${characters.length - NAMED} more` : "");

/** For each language of the job the families that set it, by name; none where it is not met. */
export const whoSets = (languages: readonly string[], members: readonly Member[]): { language: string; families: string[] }[] =>
  languages.map((language) => ({ language, families: members.filter(({ sets }) => sets.includes(language)).map(({ name }) => name) }));

/** How one family does its part. What it lacks and another of the job has is no fault. */
export function partOf(member: Member, members: readonly Member[], languages: readonly string[]): Drawing {
  const { sets, lacks } = member;
  if (member.signs) return { good: true, words: "Signs: no language or word concerns it" };
  const others = members.filter((other) => other !== member && !other.signs);
  const byOthers = (character: string) => others.filter((other) => !other.lacks.includes(character));
  const uncovered = lacks.filter((character) => byOthers(character).length === 0);
  if (languages.length > 0 && sets.length === 0)
    return { good: false, words: `Sets none of the job's languages (${listWords(languages)})` };
  const set = languages.length === 0 ? "" : `Sets ${listWords(sets)}`;
  if (uncovered.length > 0) {
    const nobody = others.length > 0 ? ", and so does every other family of the job" : "";
    return { good: false, words: [set, `Lacks ${named(uncovered)}${nobody}`].filter(Boolean).join(". ") };
  }
  if (lacks.length > 0) {
    const helpers = others.filter((other) => lacks.some((character) => !other.lacks.includes(character))).map(({ name }) => name);
    return { good: true, words: [set, `The other words are set in ${listWords(helpers)}`].filter(Boolean).join(". ") };
  }
  return {
    good: true,
    words: sets.length === languages.length ? "Every character and language" : `${set}, and every character of the words`,
  };
}
