import { describe, expect, test } from "@jest/globals";
import { diagnose, type DiagnosisFacts } from "./diagnose.ts";
import { asTaken, findingSteps, linesOf, Menu, orderOf, refusal, type MenuFont } from "./menu.ts";
import { PLAIN_LIST, type MenuTraits } from "./traits.ts";
import { againstSeeing, cellState, type CellFacts } from "./state.ts";

const font = (family: string, style: string, legacyFamily = family, legacyStyle = style): MenuFont => ({
  id: `${family}/${style}`,
  family,
  style,
  legacyFamily,
  legacyStyle,
  fullName: style === "Regular" ? family : `${family} ${style}`,
  postScriptName: `${family}-${style}`.replace(/ /g, ""),
  container: "sfnt",
  otherNames: [],
  instances: [],
  variable: false,
  outlines: "ttf",
  latin: /[A-Za-z]/.test(family),
  symbols: false,
  colour: false,
  refusedByBrowsers: "",
});
const traits = (more: Partial<MenuTraits> = {}): MenuTraits => ({ ...PLAIN_LIST, ...more });
const fonts = [
  font("Zinnia", "Regular"),
  font("éclair", "Regular"),
  font("Furrow", "Light", "Furrow Light", "Regular"),
  font("Furrow", "Bold Italic", "Furrow", "Bold Italic"),
  font("Furrow", "Regular"),
  font("fern 2", "Regular"),
  font("Fern", "Regular"),
  font("שביל", "Regular"),
];

describe("font lists", () => {
  const entries = (more: Partial<MenuTraits> = {}) => new Menu(fonts, traits(more)).entries;
  const place = (one: MenuFont, more: Partial<MenuTraits> = {}) => new Menu(fonts, traits(more)).place(one)!;
  test("are in Unicode's order, not in code points' (hand-worked)", () => {
    expect(entries()).toEqual(["éclair", "Fern", "fern 2", "Furrow", "Zinnia", "שביל"]);
    expect(entries({ lists: "four-style" })).toEqual(["éclair", "Fern", "fern 2", "Furrow", "Furrow Light", "Zinnia", "שביל"]);
    expect(entries({ lists: "full-names" })).toContain("Furrow Bold Italic");
    expect(entries({ lists: "postscript-names" })).toContain("Furrow-BoldItalic");
    // An order worked out for many lists gives the same.
    const order = orderOf(["Quince", ...fonts.flatMap((one) => linesOf(one, traits()).map((line) => line.label))]);
    expect(new Menu(fonts, traits(), order).entries).toEqual(entries());
  });
  test("place a style under its kind of name, with its neighbours", () => {
    const light = fonts[2]!;
    expect(place(light)).toEqual({
      menuName: "Furrow",
      within: "Light",
      before: ["Fern", "fern 2"],
      after: ["Zinnia", "שביל"],
      type: "Fu",
      standsBehind: "",
      clashes: [],
    });
    const fourStyle = { lists: "four-style" } as const;
    expect(place(light, fourStyle)).toMatchObject({ menuName: "Furrow Light", within: "", before: ["fern 2", "Furrow"] });
    expect(place(fonts[3]!, fourStyle)).toMatchObject({ menuName: "Furrow", within: "Bold and Italic" });
    expect(place(fonts[3]!, { lists: "full-names" }).within).toBe("");
    expect(new Menu(fonts, traits()).stylesOf("Furrow")).toEqual(["Bold Italic", "Light", "Regular"]);
  });
  test("need the shortest text that leaves one entry, from the beginning or anywhere", () => {
    expect(place(fonts[0]!).type).toBe("Z");
    // "Fern" begins "fern 2" too, so only the whole name will do.
    expect(place(fonts[6]!).type).toBe("Fern");
    expect(place(fonts[5]!).type).toBe("fern 2");
    expect(place(fonts[5]!, { search: "anywhere" }).type).toBe("2");
    expect(place(fonts[4]!, { search: "anywhere" }).type).toBe("u");
  });
  test("show a Medium that shares its button behind the Regular, and fonts that claim one place", () => {
    const medium = { ...font("Furrow", "Medium", "Furrow", "Medium"), id: "medium" };
    const again = { ...fonts[4]!, id: "again", fullName: "Furrow (2)" };
    const menu = new Menu([...fonts, medium, again], traits({ lists: "four-style" }));
    expect(menu.place(medium)!.standsBehind).toBe("Furrow");
    expect(menu.place(fonts[4]!)).toMatchObject({ standsBehind: "", clashes: ["Furrow (2)"] });
  });
  test("go by a program's language, and by what it takes", () => {
    const hebrew = { ...font("Shvil Text", "Regular"), otherNames: [{ language: "he", family: "שביל טקסט" }] };
    expect(linesOf(hebrew, traits({ language: "he" }))).toEqual([{ label: "שביל טקסט", style: "Regular" }]);
    expect(linesOf(hebrew, traits({ language: "fr" }))).toEqual([{ label: "Shvil Text", style: "Regular" }]);
    const variable = { ...font("Meadow", "Regular"), variable: true, instances: ["Light", "Black"] };
    expect(linesOf(variable, traits({ variable: "instances" })).map((line) => line.style)).toEqual(["Light", "Black"]);
    expect(linesOf(variable, traits({ variable: "instances", lists: "full-names" })).map((line) => line.label)).toEqual([
      "Meadow Light",
      "Meadow Black",
    ]);
    expect(linesOf(variable, traits())).toEqual([{ label: "Meadow", style: "Regular" }]);
    expect(refusal(variable, traits({ variable: "none" }))).toMatch(/variable/);
    expect(refusal({ ...variable, variable: false, container: "collection" }, traits({ collections: false }))).toMatch(/collections/);
    expect(refusal({ ...variable, container: "woff2" }, traits())).toMatch(/web/);
    expect(refusal(variable, traits())).toBe("");
    expect(refusal({ ...variable, outlines: "otf" }, traits({ formats: ["ttf"] }))).toBe("It takes no .otf files.");
    expect(refusal({ ...variable, colour: true }, traits({ colour: false }))).toMatch(/coloured/);
    const refused = { ...variable, refusedByBrowsers: "Browsers refuse it: it holds nothing that they draw." };
    expect([refusal(refused, traits()), refusal(refused, traits({ strict: true }))]).toEqual(["", refused.refusedByBrowsers]);
    expect(refusal({ ...variable, symbols: true }, traits({ symbols: false }))).toMatch(/symbols/);
  });
  test("go by their language's rules: Swedish has Å, Ä and Ö after Z (CLDR; from memory), other languages beside A and O", () => {
    const named = ["Zinnia", "Äng", "Alm", "Öland", "Ocean", "Åker"].map((family) => font(family, "Regular"));
    expect(new Menu(named, traits({ language: "sv" })).entries).toEqual(["Alm", "Ocean", "Zinnia", "Åker", "Äng", "Öland"]);
    expect(new Menu(named, traits()).entries).toEqual(["Åker", "Alm", "Äng", "Ocean", "Öland", "Zinnia"]);
    expect(new Menu(named, traits({ language: "no language!" })).entries).toEqual(new Menu(named, traits()).entries);
  });
  test("keep other scripts among the rest, or after all Latin ones, each part in Unicode's order (hand-worked)", () => {
    const greek = font("Άνθος", "Regular");
    const [among, after] = (["among", "after"] as const).map((otherScripts) => new Menu([greek, ...fonts], traits({ otherScripts })));
    expect(among!.entries).toEqual(["éclair", "Fern", "fern 2", "Furrow", "Zinnia", "Άνθος", "שביל"]);
    // A Hebrew face with a Latin name stands at its letter, or after all faces that have the alphabet.
    const named = { ...font("Berry Hebrew", "Regular"), latin: false };
    expect(new Menu([named, ...fonts], traits()).place(named)!.before).toEqual([]);
    const last = new Menu([named, greek, ...fonts], traits({ otherScripts: "after" }));
    expect(last.entries.slice(4)).toEqual(["Zinnia", "Berry Hebrew", "Άνθος", "שביל"]);
    expect(last.place(named)!.before).toEqual(["Furrow", "Zinnia"]);
    expect(after!.entries.at(-1)).toBe("שביל");
  });
  test("steps name the program and come in order", () => {
    const at = place(fonts[3]!, { lists: "four-style" });
    expect(findingSteps("Letter Desk", at, { lists: "four-style", readsWhen: "start" }, true)).toEqual([
      "Close Letter Desk completely and open it again.",
      "Open the font list and type “Furrow”.",
      "Choose “Furrow”.",
      "Turn on Bold and Italic.",
    ]);
    expect(findingSteps("Slide Desk", at, { lists: "families", readsWhen: "document" }, true)[0]).toContain("the document");
  });
});

describe("not there: the true reason comes first", () => {
  const menu = new Menu(fonts, traits({ lists: "four-style" }));
  const light = menu.place(fonts[2]!)!;
  const copy = { readable: true, folder: "your own font folder", on: true, visible: true, since: 100 };
  const facts: DiagnosisFacts = {
    program: "Letter Desk",
    device: "Workshop laptop",
    family: "Furrow",
    fullName: "Furrow",
    reads: ["your own font folder"],
    readsWhen: "start",
    keeps: true,
    copies: [copy],
    openedAt: 200,
    refusal: "",
    damaged: false,
    lapsed: false,
    onlyScripts: [],
    filedAfter: false,
    missedAt: undefined,
    place: menu.place(fonts[4]!),
  };
  test.each<[string, Partial<DiagnosisFacts>, string]>([
    ["it was never placed", { copies: [] }, "not-placed"],
    ["it is turned off", { copies: [{ ...copy, on: false, visible: false }] }, "off"],
    [
      "it lies in a folder the program does not read",
      { copies: [{ ...copy, readable: false, folder: "the font folder for everyone" }] },
      "other-folder",
    ],
    ["the program has a store of its own", { readsWhen: "by-hand", copies: [{ ...copy, readable: false }] }, "own-store"],
    ["the program takes no such file", { refusal: "It takes no collections." }, "format"],
    ["the file is damaged", { damaged: true, openedAt: 50 }, "damaged"],
    ["its licence has ended", { lapsed: true, copies: [{ ...copy, on: false }] }, "lapsed"],
    ["the device was not told", { copies: [{ ...copy, visible: false }], openedAt: 50 }, "not-taken-up"],
    ["the program was open all the while", { openedAt: 50 }, "not-reopened"],
    ["nobody knows when the program was opened", { openedAt: undefined }, "not-reopened"],
    ["it is filed under another name", { place: { ...light, menuName: "Light Furrow" } }, "other-name"],
    ["it shares a button", { place: { ...facts.place!, standsBehind: "Furrow" } }, "stands-behind"],
    ["another file has its name", { place: { ...facts.place!, clashes: ["Furrow (2)"] } }, "shadowed"],
    ["it draws another script only", { onlyScripts: ["hebrew"] }, "other-script"],
    ["it stands after all Latin ones", { onlyScripts: ["hebrew"], filedAfter: true }, "filed-after"],
    ["the document was open all the while", { readsWhen: "document", openedAt: 50 }, "not-reopened"],
    ["it was looked for too soon", { missedAt: 50 }, "looked-too-soon"],
  ])("%s", (_what, change, code) => {
    const [first] = diagnose({ ...facts, ...change });
    expect(first?.code).toBe(code);
    for (const words of [first!.reason, first!.because, first!.test, first!.fix]) expect(words).toMatch(/\.$/);
  });
  test("a program that forgets is given the file each time", () => {
    const change: Partial<DiagnosisFacts> = { readsWhen: "by-hand", copies: [], place: undefined };
    const fix = (keeps: boolean) => diagnose({ ...facts, ...change, keeps })[0]!.fix;
    expect([fix(true), fix(false)]).toEqual([expect.stringContaining("have it kept"), expect.stringContaining("each time")]);
  });
  test.each<["deleted" | "overwritten" | "turned off", { on: boolean }[], string]>([
    ["deleted", [], "place"],
    ["overwritten", [], "place"],
    ["turned off", [{ on: false }], "switch-on"],
  ])("a file %s by somebody else is the first thing to suspect, unless another copy is on", (how, kept, act) => {
    const behind = { how, fileName: "Long Shore.ttf", at: 60 };
    const copies = kept.map((copy) => ({ ...facts.copies[0]!, ...copy }));
    expect(diagnose({ ...facts, behind, copies })[0]).toMatchObject({
      code: "behind-back",
      act,
      reason: `Long Shore.ttf was ${how} on ${facts.device}, and not by Buvano.`,
    });
    expect(diagnose({ ...facts, behind }).map(({ code }) => code)).not.toContain("behind-back");
  });
  test("with nothing to suspect it says nothing", () => expect(diagnose(facts)).toEqual([]));
});

describe("a cell", () => {
  type Sighting = NonNullable<CellFacts["sighting"]>;
  const shown = (result: Sighting["result"], at: number, instead: string[], more: Partial<Sighting> = {}): Sighting => ({
    result,
    at,
    instead,
    means: "file",
    who: "",
    doubted: false,
    ...more,
  });
  const facts: CellFacts = {
    program: "Letter Desk",
    device: "Workshop laptop",
    readsWhen: "start",
    readable: [{ on: true, visible: true, since: 100 }],
    elsewhere: 0,
    sighting: undefined,
    openedAt: undefined,
  };
  test.each<[string, Partial<CellFacts>, string]>([
    ["was never placed", { readable: [] }, "not-here"],
    ["lies in a folder the program does not read", { readable: [], elsewhere: 1 }, "not-here"],
    ["is turned off", { readable: [{ on: false, visible: false, since: 1 }] }, "off"],
    ["is not in the device's font cache", { readable: [{ on: true, visible: false, since: 1 }] }, "due"],
    ["is in a program that reads no folder", { readable: [], elsewhere: 1, readsWhen: "by-hand" }, "load-by-hand"],
    ["was loaded by hand and kept", { readsWhen: "by-hand" }, "due"],
    ["was placed while the program was open", { openedAt: 50 }, "reopen"],
    ["was placed and nobody knows when the program started", {}, "reopen"],
    ["was placed before the program started", { openedAt: 150 }, "due"],
    ["is in a program that notices by itself", { readsWhen: "always" }, "due"],
    ["was seen after placing", { sighting: shown("seen", 200, []) }, "seen"],
    ["was seen, then placed again", { sighting: shown("seen", 50, []), openedAt: 20 }, "reopen"],
    ["was swapped after placing", { sighting: shown("swapped", 200, ["Aster"]) }, "swapped"],
    ["was missed after placing", { sighting: shown("not-there", 200, []), openedAt: 150 }, "due"],
    ["was seen, then placed again, and the program opened since", { sighting: shown("seen", 50, []), openedAt: 150 }, "due"],
    ["was seen, and the program updated since", { sighting: shown("seen", 160, []), openedAt: 200, updatedAt: 200 }, "due"],
    ["was placed while its document was open", { readsWhen: "document", openedAt: 50 }, "reopen"],
    ["was there before its document was opened", { readsWhen: "document", openedAt: 150 }, "due"],
    ["was seen, and another file of its name came since", { sighting: shown("seen", 160, []), openedAt: 150, rivalSince: 200 }, "due"],
    ["was seen after another file of its name came", { sighting: shown("seen", 260, []), openedAt: 150, rivalSince: 200 }, "seen"],
    [
      "was loaded by hand and seen there",
      { readable: [], readsWhen: "by-hand", storeUnknown: true, sighting: shown("seen", 9, []) },
      "seen",
    ],
    [
      "was loaded by hand into a program that forgets, and seen there",
      {
        readable: [],
        readsWhen: "by-hand",
        storeUnknown: true,
        keeps: false,
        openedAt: 5,
        sighting: shown("seen", 9, []),
      },
      "seen",
    ],
    [
      "was loaded by hand into a program that was closed since and forgets",
      {
        readable: [],
        readsWhen: "by-hand",
        storeUnknown: true,
        keeps: false,
        openedAt: 12,
        sighting: shown("seen", 9, []),
      },
      "load-by-hand",
    ],
    [
      "was loaded by hand into a program that was updated since",
      { readable: [], readsWhen: "by-hand", storeUnknown: true, updatedAt: 12, sighting: shown("seen", 9, []) },
      "due",
    ],
    ["was swapped and is not there", { readable: [], sighting: shown("swapped", 9, ["Aster"]) }, "swapped"],
    ["was seen and taken off since", { readable: [], sighting: shown("seen", 9, []) }, "not-here"],
  ])("of a style that %s", (_what, change, state) => {
    const cell = cellState({ ...facts, ...change });
    expect(cell.state).toBe(state);
    expect(cell.reason).toMatch(/\.$/);
  });
  test.each([
    [shown("seen", 200, []), "Evidence shows Letter Desk drawing it."],
    [shown("seen", 200, [], { means: "eye" }), "You saw it in Letter Desk."],
    [shown("seen", 200, [], { means: "eye", who: "Mara" }), "Mara saw it in Letter Desk."],
    [shown("swapped", 200, [], { means: "eye" }), "You saw other letters in Letter Desk instead."],
    [shown("seen", 200, [], { means: "device" }), "Workshop laptop drew it in Letter Desk with its own copy."],
  ])("says by what it is known", (sighting, reason) => expect(cellState({ ...facts, openedAt: 150, sighting }).reason).toBe(reason));
  test("a word against what the device knew counts for nothing", () => {
    const sighting = shown("seen", 200, [], { means: "eye", doubted: true });
    expect(cellState({ ...facts, sighting }).state).toBe("reopen");
    expect(cellState({ ...facts, openedAt: 300, sighting }).state).toBe("due");
  });
  test.each<[string, Partial<CellFacts>, RegExp | ""]>([
    ["a program that was not reopened", {}, /not been reopened/],
    ["a program that was", { openedAt: 150 }, ""],
    ["a copy that is turned off", { readable: [{ on: false, visible: false, since: 1 }] }, /turned off/],
    [
      "a copy the device has not noticed",
      { readsWhen: "always", readable: [{ on: true, visible: false, since: 1 }] },
      /not looked through/,
    ],
    ["no copy", { readable: [] }, /not on Workshop laptop/],
    [
      "no copy in a folder, where files are loaded by hand and nobody can know",
      { readable: [], readsWhen: "by-hand", storeUnknown: true },
      "",
    ],
  ])("what speaks against seeing it with %s", (_what, change, against) => {
    const { sighting: _, ...known } = { ...facts, ...change };
    if (against === "") expect(againstSeeing(known)).toBe("");
    else expect(againstSeeing(known)).toMatch(against);
  });
});

test("a font a program refuses, for whatever reason, has a place as it would be taken", () => {
  const strict = traits({ strict: true, formats: ["otf"], symbols: false, colour: false, variable: "none", collections: false });
  const all = { ...font("Furrow", "Bold"), container: "woff2", variable: true, colour: true, symbols: true, refusedByBrowsers: "No." };
  for (const one of [all, { ...font("Furrow", "Bold"), refusedByBrowsers: "Browsers refuse it." }]) {
    expect(new Menu([one], strict).place(one)).toBeUndefined();
    const taken = asTaken(one, strict);
    expect(new Menu([taken], strict).place(taken)).toMatchObject({ menuName: "Furrow", within: "Bold" });
  }
});
