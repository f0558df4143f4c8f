// How a paper is taken apart before anything in it counts: passages, questions, stanzas, kinds, languages, scopes.
import { describe, expect, test } from "@jest/globals";
import { weigh } from "./clearance.ts";
import { licencesOf, readCopyrightFile, stanzasFor } from "./copyright-format.ts";
import { isRead, languagesOf, languageWords, translated } from "./foreign.ts";
import { gather, leftOutKey, searchedName, type ReadText } from "./gather.ts";
import { licenceByShortName, licencesNamed, mentioned } from "./licence-names.ts";
import { knownLicence } from "./licences.ts";
import { kindOfPaper, type Look, type PaperKind } from "./paper-kinds.ts";
import { papersFor } from "./papers.ts";
import { aroundOf, passagesOf } from "./passages.ts";
import { asStatement } from "./questions.ts";
import { readFont, readPaper } from "./read.ts";
import { asideOf, speaksOfFiles } from "./speech.ts";
import { LicenceRecogniser } from "./spdx.ts";
import { USES, type Answer, type Use } from "./uses.ts";
import { headlineWords } from "./words.ts";

const nobody = new LicenceRecogniser([]);
const parts = (text: string) =>
  passagesOf(text).map(({ text, part, question }) => [part, text, ...(question === undefined ? [] : [question])]);

describe("passages", () => {
  test("carry their line, and what stands around them", () => {
    const [first, second] = passagesOf("Furrow\n\nThank you for it. Free for any use.\nEnjoy it.").slice(1);
    expect([first!.line, second!.line]).toEqual([3, 3]);
    expect(aroundOf(second!)).toEqual({ before: "Thank you for it.", after: "Enjoy it." });
  });
  test("mail that is quoted is nobody's statement, nor are lines of a program", () => {
    expect(parts("> May I sell it?\n> I will not sell it.")).toEqual([
      ["quoted", "May I sell it?"],
      ["quoted", "I will not sell it."],
    ]);
    expect(parts("From: a@example.org\nTo: b@example.org\nDate: today\n\nNot for sale.").map(([part]) => part)).toContain("quoted");
    expect(parts("$ make web fonts")).toEqual([["code", "$ make web fonts"]]);
  });
  test("entries of changes are told from numbered clauses", () => {
    expect(parts("1.2 (2019): web fonts no longer included")[0]![0]).toBe("change");
    expect(parts("v2.0\n- not for the web")[0]![0]).toBe("change");
    expect(parts("2019-03-02 Wren\n  * removed the web fonts")[0]![0]).toBe("change");
    expect(parts("2.1 You may use it in videos.")[0]![0]).toBe("said");
  });
  test("answers belong to their questions: under a heading, after a mark, or with yes and no", () => {
    expect(parts("Q: May I sell it?\nA: No.")).toEqual([
      ["question", "Q: May I sell it?"],
      ["answer", "A: No.", "May I sell it?"],
    ]);
    expect(parts("## Can I use it on the web?\n\nYes. It works well.").at(-1)).toEqual([
      "answer",
      "It works well.",
      "Can I use it on the web?",
    ]);
    expect(parts("Do you like it? It is free for personal use.")).toEqual([
      ["question", "Do you like it?"],
      ["answer", "It is free for personal use.", "Do you like it?"],
    ]);
    expect(parts("Is it old? Drawn in spring. Free for any use.").map(([part]) => part)).toEqual(["question", "said", "said"]);
  });
});

test.each<[string, string, string | undefined]>([
  ["May I use it commercially?", "Yes.", "You may use it commercially."],
  ["Can we sell prints?", "No, never.", "You may not sell prints."],
  ["Can I use it in films?", "Yes, with credit.", "You may use it in films, with credit."],
  ["Is commercial use allowed?", "No.", "commercial use is not allowed."],
  ["Is it free for commercial use?", "Yes!", "It is free for commercial use."],
  ["Do I need a licence for paid work?", "No.", "You do not need a licence for paid work."],
  ["Do you want to sell it?", "Buy a licence.", "If you want to sell it, buy a licence."],
  ["Commercial use?", "Sure!", "Commercial use is allowed."],
  ["Commercial use?", "Contact me.", "For commercial use, contact me."],
  ["Can I change it?", "Yes.", undefined],
  ["Why is it not free?", "No reason.", undefined],
  ["Will you sell it?", "No.", undefined],
])("%s %s", (question, answer, statement) => expect(asStatement(question, answer)?.replace(/\s+/g, " ")).toBe(statement));

test.each<[string, string | undefined]>([
  ["you may not use it commercially.", undefined],
  ["i do not allow commercial use.", undefined],
  ["i never sold anything.", "story"],
  ["it was never free for commercial work.", "story"],
  ["this document may not be sold.", "documents"],
  ["the scripts are not for commercial use.", "other-things"],
  ["derived fonts may not be sold.", "derivatives"],
  ["install it for everybody first.", "instruction"],
  ["the font files may not be sold.", "files"],
])("speech: %s", (sentence, aside) => expect(asideOf(sentence)).toBe(aside));
test("what is said of the font files is told", () => {
  expect(speaksOfFiles("the font may not be sold by itself.")).toBe(true);
  expect(speaksOfFiles("you may sell what you make.")).toBe(false);
});

// "Machine-readable debian/copyright file", version 1.0.
describe("Debian's copyright file", () => {
  const text = `Format: https://www.debian.org/doc/packaging-manuals/copyright-format/1.0/
Upstream-Name: furrow

Files: *
Copyright: 2026 Wren Larch
License: GPL-3+
 Do not sell it.

Files: Furrow-*.sfd bold/*
Copyright: 2026 Wren Larch
License: OFL-1.1 or MIT

Files: debian/*
Copyright: 2026 somebody
License: no-money
 Not for commercial use.

License: OFL-1.1
 The open licence.
`;
  const file = readCopyrightFile(text)!;
  test("is read by its stanzas", () => {
    expect(file.stanzas.map(({ files, licence, line }) => [files, licence, line])).toEqual([
      [["*"], "GPL-3+", 6],
      [["Furrow-*.sfd", "bold/*"], "OFL-1.1 or MIT", 11],
      [["debian/*"], "no-money", 15],
    ]);
    expect(file.texts.get("ofl-1.1")!.text).toBe("The open licence.");
    expect(readCopyrightFile("License: MIT")).toBeUndefined();
  });
  test("the last stanza that speaks of a font counts, by what it was made from, too", () => {
    const files = file.stanzas.map((stanza) => stanza.files);
    const chosen = (path: string) => [...stanzasFor(files, [path])];
    expect(chosen("truetype/Furrow-Bold.ttf")).toEqual([1]);
    expect(chosen("x/bold/Meadow.otf")).toEqual([1]);
    expect(chosen("truetype/Meadow.otf")).toEqual([0]);
    expect([...stanzasFor([["Other.ttf"]], ["Furrow.ttf"])]).toEqual([]);
    expect([...stanzasFor([["a/?urrow*"]], ["x/Furrow.ttf", "a/Furrow.ttf"])]).toEqual([0]);
  });
  test("names of licences: or is a choice, and joins", () => {
    const licences = (named: string) =>
      licencesOf(
        named,
        () => "",
        () => undefined,
      );
    expect(licences("OFL-1.1 or Expat")).toEqual(["OFL-1.1 OR MIT"]);
    expect(licences("GPL-2+ and CC-BY-3.0")).toEqual(["GPL-2.0-or-later", "CC-BY-3.0"]);
    expect(licences("GPL-3+ with font exception, or OFL-1.1")).toEqual(["GPL-3.0-or-later WITH Font-exception-2.0 OR OFL-1.1"]);
    expect(licenceByShortName("no-money", "")).toBeUndefined();
  });
  test("what it says of other files is left aside with that reason", () => {
    const read = gather([{ facts: readPaper(text, nobody), paper: { path: "copyright", sha256: "c" } }], {
      names: ["Meadow"],
      paths: ["truetype/Meadow.otf"],
    });
    const licences = read.statements.filter((one) => one.licence);
    expect(licences.map(({ licence, aside }) => [licence, aside])).toEqual([
      ["GPL-3.0-or-later", undefined],
      ["OFL-1.1 OR MIT", "other-files"],
    ]);
    expect(JSON.stringify(read)).not.toContain("Not for commercial use");
    expect(read.papers[0]!.kind).toBe("note");
  });
});

describe("licences by name", () => {
  test.each<[string, string[]]>([
    ["This Font Software is licensed under the SIL Open Font License, Version 1.1.", ["OFL-1.1"]],
    ["Dual licensed under MIT and OFL.", ["MIT OR OFL-1.1"]],
    ["Licensed under either the GPL version 3 or the OFL.", ["GPL-3.0-only OR OFL-1.1"]],
    ["GPL version 2 or (at your option) any later version, with font exception", ["GPL-2.0-or-later WITH Font-exception-2.0"]],
    ["released under CC BY-SA 3.0", ["CC-BY-SA-3.0"]],
    ["http://scripts.sil.org/OFL", ["OFL-1.1"]],
    ["The Debian packaging is licensed under the GPL.", []],
    ["The pictures are licensed under CC BY 3.0 and the font is under the OFL.", ["OFL-1.1"]],
    ["It is no longer under the GPL.", []],
    ["Is it under the GPL?", []],
    ["We thank everybody who worked on the GPL for all they have done for free software in so many years.", []],
  ])("%s", (sentence, ids) => expect(mentioned(sentence).map((one) => one.id)).toEqual(ids));
  test("stand where they are named", () => {
    expect(licencesNamed("LGPL 2.1 and GPL").map(({ id, at }) => [id, at])).toEqual([
      ["LGPL-2.1-only", 0],
      ["GPL-1.0-or-later", 13],
    ]);
  });
  test("of a choice the wider answers count; what all leave open stays open", () => {
    const choice = knownLicence("GPL-3.0-only OR OFL-1.1")!;
    expect([choice.answers.document, choice.open]).toEqual(["yes", []]);
    expect(knownLicence("GPL-3.0-only OR LGPL-3.0-only")!.open).toEqual(["document", "web"]);
    expect(knownLicence("CC-BY-NC-4.0 OR OFL-1.1")!.answers.sold).toBe("yes");
  });
});

const look = (change: Partial<Look>): Look => ({
  questions: 0,
  sentences: 10,
  changes: 0,
  quoted: 0,
  licenceShare: 0,
  copyrightFile: false,
  full: false,
  ...change,
});
test.each<[string, Partial<Look>, PaperKind]>([
  ["OFL.txt", {}, "licence"],
  ["doc/Lizenz.txt", {}, "licence"],
  ["a.txt", { licenceShare: 0.9 }, "licence"],
  ["copyright", { copyrightFile: true }, "note"],
  ["NOTICE", {}, "note"],
  ["licence note.txt", {}, "note"],
  ["terms.pdf", {}, "terms"],
  ["READ ME.txt", {}, "readme"],
  ["OFL-FAQ.txt", {}, "answers"],
  ["a.txt", { questions: 5 }, "answers"],
  ["FONTLOG.txt", {}, "log"],
  ["a.txt", { changes: 8 }, "log"],
  ["specimen.pdf", {}, "manual"],
  ["documentation/a.pdf", {}, "manual"],
  ["package.json", {}, "packaging"],
  ["a.txt", { quoted: 8 }, "mail"],
  ["a.txt", {}, "other"],
])("kind of %s %j", (path, change, kind) => expect(kindOfPaper(path, look(change))).toBe(kind));

describe("languages", () => {
  test("are told, and named when they are not read", () => {
    expect(languagesOf("Diese Schrift ist kostenlos für private Zwecke, und jede andere Nutzung ist verboten.")).toEqual(["deu"]);
    expect(languagesOf("This font is free for personal use, and it is not for sale in any form whatever you may think.")).toEqual(["eng"]);
    expect(languagesOf("Yes.")).toEqual([]);
    expect([isRead("deu"), isRead("pol"), languageWords("pol")]).toEqual([true, false, "Polish"]);
    const polish = "Czcionka jest darmowa do użytku prywatnego, a użycie komercyjne wymaga licencji od autora.";
    const { papers } = gather([{ facts: readPaper(polish, nobody), paper: { path: "czytaj.txt", sha256: "p" } }], { names: [] });
    expect(papers[0]!.unread).toBe("It is written in Polish, and was not read.");
  });
  test("are put into English word for word; what is not known stays", () => {
    expect(translated("Nur für den privaten Gebrauch.")).toMatchObject({ language: "de", english: "only for personal use." });
    expect(translated("商用利用は禁止です。")).toMatchObject({ language: "ja" });
    expect(translated("Kostenlos für Igel")!.english).toBe("free for igel");
    expect(translated("Furrow Meadow Bramble")).toBeUndefined();
  });
});

const note = (text: string, path = "note.txt"): ReadText => ({ facts: readPaper(text, nobody), paper: { path, sha256: path } });
const OFL = "Licensed under the SIL Open Font License, Version 1.1.";
const cleared = (texts: ReadText[], fonts: Parameters<typeof gather>[1] = { names: ["Furrow"] }) =>
  weigh({ statements: gather(texts, fonts).statements, corrections: [], licences: [], today: "2026-06-01" });
const answer = (use: Use, ...given: Parameters<typeof cleared>): [Answer, boolean, (string | undefined)[]] => {
  const one = cleared(...given).uses.find((other) => other.use === use)!;
  return [one.answer, one.conflict, one.also.map(({ aside }) => aside)];
};

describe("what counts more", () => {
  test("a licence before a readme, a manual and questions; beside another licence paper the stricter holds", () => {
    expect(answer("sold", [note(OFL, "OFL.txt"), note("Not for commercial use.", "readme.txt")])).toEqual(["yes", false, ["outranked"]]);
    expect(answer("sold", [note(OFL, "OFL.txt"), note("Not for commercial use.", "FAQ.txt")])).toEqual(["yes", false, ["outranked"]]);
    expect(answer("sold", [note(OFL, "OFL.txt"), note("Not for commercial use.", "licence.txt")])).toEqual(["no", true, []]);
    expect(answer("sold", [note(`${OFL} Not for commercial use.`, "readme.txt")])).toEqual(["no", true, []]);
    expect(answer("sold", [note("Licensed under the OFL, but not for commercial use.", "licence.txt")])).toEqual(["no", true, []]);
    expect(answer("sold", [note("Licensed under the OFL, free for personal use.", "licence.txt")])).toEqual(["yes", false, []]);
  });
  test("without a licence readmes decide, what explains is better than silence, and a log says nothing", () => {
    expect(answer("sold", [note("Not for commercial use.", "readme.txt")])[0]).toBe("no");
    expect(answer("sold", [note("Free for commercial use.", "manual.txt")])[0]).toBe("yes");
    expect(answer("sold", [note("Free for commercial use.", "changelog.txt")])[0]).toBe("not-stated");
  });
  test("what a licence leaves open, bits do not answer", () => {
    const stated = { copyright: "", trademark: "", licence: "GPL version 2", licenceUrl: "", fsType: 0, os2Version: 4 };
    const clearance = cleared([{ facts: readFont(stated, nobody), key: "k" }]);
    const document = clearance.uses.find((one) => one.use === "document")!;
    expect([document.answer, document.open?.licence]).toEqual(["not-stated", "GPL-2.0-only"]);
    expect(answer("document", [{ facts: readFont({ ...stated, licence: "" }, nobody), key: "k" }])[0]).toBe("yes");
    expect(answer("document", [{ facts: readFont({ ...stated, licence: "OFL 1.1", fsType: 2 }, nobody), key: "k" }])[0]).toBe("yes");
  });
  test("credit that is asked for by itself counts for all that is permitted beside it", () => {
    expect(answer("sold", [note("Free for personal and commercial use. Credit is required.")])[0]).toBe("credit");
  });
});

describe("whom a paper speaks of", () => {
  const fonts = { names: ["Furrow"], beside: () => new Set(["furrow", "meadow round"]) };
  test("what names other families alone is left aside", () => {
    expect(answer("sold", [note("Meadow Round is not for commercial use.")], fonts)).toEqual(["not-stated", false, ["other-fonts"]]);
    expect(answer("sold", [note("Furrow and Meadow Round are not for commercial use.")], fonts)[0]).toBe("no");
    expect(answer("sold", [note("Not for commercial use.", "licence-meadow-round.txt")], fonts)[2]).toEqual(["other-fonts"]);
    expect(answer("sold", [note("Not for commercial use.", "licence-furrow.txt")], fonts)[0]).toBe("no");
    expect(answer("sold", [note("All my fonts are free for commercial use.")], fonts)[0]).toBe("yes");
    expect(searchedName("Meadow-Round  Display")).toBe("meadow round display");
  });
  test("a sentence that was left out does not count, wherever it stands in its paper", () => {
    const leftOut = new Set([leftOutKey("note.txt", "Not for commercial use.")]);
    expect(answer("sold", [note("Not for commercial use.")], { names: [], leftOut })).toEqual(["not-stated", false, ["person"]]);
    expect(answer("sold", [note("Not for commercial use.", "other.txt")], { names: [], leftOut })[0]).toBe("no");
  });
  test("the same words count once, and tell how often they stand there", () => {
    const texts = [
      note("Not for commercial use.", "readme.txt"),
      note("Not for commercial use.", "licence.txt"),
      note("Not for commercial use.", "b.txt"),
    ];
    const [sold] = cleared(texts).uses.filter((one) => one.use === "sold");
    expect(sold!.evidence.map(({ again, source }) => [again, source.kind === "paper" && source.path])).toEqual([[2, "licence.txt"]]);
  });
  test("a readme that was compressed lies where it lay", () => {
    expect(papersFor(["doc/x/a.ttf"], [{ path: "doc/x/readme.txt.gz/readme.txt" }])).toHaveLength(1);
    expect(papersFor(["a/x.ttf"], [{ path: "b/inner.zip/readme.txt" }])).toHaveLength(0);
  });
});

test.each<[string, string]>([
  [OFL, "Free for everything, also things you sell; the font files themselves may not be sold alone."],
  ["Free for any use.", "Free for everything, also things you sell."],
  ["Free for any use with attribution.", "Free for everything, also things you sell, as long as its maker is credited."],
  [
    "For personal use only.",
    "It is free for your own things. It may not be used for things you sell or work for clients. Nothing is said about other uses.",
  ],
  ["Thank you.", "Nothing that came with it says what it may be used for. Ask its maker before you use it for others."],
  [
    "Free for commercial use. Not for commercial use.",
    "Its papers contradict one another about things you sell and work for clients. The stricter one counts until you decide.",
  ],
])("what is seen first: %s", (text, words) => expect(headlineWords(cleared([note(text)]))).toBe(words));

test("a paper with more sentences than are read closely says so", () => {
  const text = Array.from({ length: 1600 }, (_, n) => `Film number ${n} is not for sale.`).join("\n\n");
  const { papers } = gather([note(text)], { names: [] });
  expect(papers[0]!.unread).toBe("It has more sentences than are read closely; its last ones were not.");
});

test("a paper that repeats itself a thousand times says it once", () => {
  const { statements } = readPaper("Not for commercial use.\n\n".repeat(1000), nobody);
  expect(statements).toHaveLength(1);
  expect(USES.filter((use) => statements[0]!.answers[use])).toEqual(["sold", "client"]);
});
