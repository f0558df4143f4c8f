// Every sentence of the interface: whole, in the right number, in the words that were agreed on, and said somewhere.
import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";

type Sentences = Record<string, string | ((...facts: unknown[]) => string)>;
const here = __dirname;
const ui = join(here, "..");
const rooms = readdirSync(here, { recursive: true, encoding: "utf8" }).filter((name) => name.endsWith(".ts"));
const sentencesOf = (room: string): Sentences => jest.requireActual<{ SAY: Sentences }>(join(here, room)).SAY;

/** Stands for any fact: a number that is one, a word, a list of one, something with such parts. */
const ONE: unknown = new Proxy(() => "1", {
  get: (_, part) =>
    part === Symbol.toPrimitive
      ? (wanted: string) => (wanted === "number" ? 1 : "1")
      : part === "length"
        ? 1
        : part === "toFixed" || part === "toString"
          ? () => "1"
          : ONE,
});
const said = (sentence: Sentences[string]): string =>
  typeof sentence === "string" ? sentence : sentence(...Array.from({ length: sentence.length }, () => ONE));
const all = rooms.flatMap((room) => Object.entries(sentencesOf(room)).map(([key, sentence]) => ({ room, key, words: said(sentence) })));

test("there are hundreds of them, a room for each screen", () => {
  expect(rooms.length).toBeGreaterThan(25);
  expect(all.length).toBeGreaterThan(1000);
});
test("each is whole: no part of a sentence that waits for another, nothing missing in it", () => {
  const broken = all.filter(
    ({ words }) =>
      words !== words.trim() || words === "" || /^[,;]|^\.(?!otf|ttf)| {2}|undefined|NaN|\[object|[,;:] ?\.$|\.\.$/.test(words),
  );
  expect(broken).toEqual([]);
});
test("several sentences in a row end like sentences", () => {
  // What is named, and what only a person wrote, may end as it likes.
  const open = all.filter(({ words }) => /[a-z]\. [A-Z]/.test(words) && !/([.?!:…”)]|: 1)$/.test(words));
  expect(open.map(({ room, key, words }) => [room, key, words])).toEqual([]);
});
test("one of a thing is said as one", () => {
  const plural =
    /\b1 (families|styles|files|fonts|parcels|papers|lines|pages|pieces|copies|sheets|cells|letters|glyphs|programs|devices|duplicates|changes|steps|overlaps|bridges|colours|profiles|characters|months|days|rows|signs|outlines)\b/;
  // "1 of 1 families" would be wrong as well: its noun is the whole's.
  expect(all.filter(({ words }) => plural.test(words)).map(({ room, key, words }) => [room, key, words])).toEqual([]);
});
test("words that were given up are said nowhere", () => {
  const given = [
    "with your own eyes",
    "Who looks",
    "Nothing speaks against",
    "Give an exported",
    "Stuck at",
    "surprises",
    "Send it away",
    "Tidy",
    "Switched on",
    "Switch it",
    "goes tomorrow",
    "to unwrap",
    "The likest",
    "recommended ones",
    "Times its packed",
    "all the same",
    "off the list",
    "taken up",
  ];
  const heard = all.filter(({ words }) => given.some((word) => words.toLowerCase().includes(word.toLowerCase())));
  expect(heard).toEqual([]);
});
test("each is said somewhere", () => {
  const files = (readdirSync(ui, { recursive: true }) as string[])
    .filter((path) => /\.tsx?$/.test(path) && !path.startsWith("sentences"))
    .map((path) => readFileSync(join(ui, path), "utf8"));
  const pages = (readdirSync(join(ui, "..", "app"), { recursive: true }) as string[])
    .filter((path) => path.endsWith(".tsx"))
    .map((path) => readFileSync(join(ui, "..", "app", path), "utf8"));
  const unsaid = rooms.flatMap((room) => {
    const heard = new Set(
      [...files, ...pages]
        .filter((text) => text.includes(`sentences/${room}"`))
        .flatMap((text) => [...text.matchAll(/SAY\.(\w+)/g)].map(([, key]) => key)),
    );
    return Object.keys(sentencesOf(room))
      .filter((key) => !heard.has(key))
      .map((key) => `${room}: ${key}`);
  });
  expect(unsaid).toEqual([]);
});
