// Licence texts: those of the SPDX licence list that concern fonts are recognised as themselves and as nothing else, alone and inside a
// longer paper; the copyright files of Debian's font packages are read as a person reads them.
import { readFileSync } from "node:fs";
import { createRequire } from "node:module";
import { describe, expect, test } from "@jest/globals";
import { baseLicence, knownLicence, textsToKnow } from "../../core/clearance/licences.ts";
import { readPaper } from "../../core/clearance/read.ts";
import { LicenceRecogniser } from "../../core/clearance/spdx.ts";

const list = createRequire(import.meta.url)("spdx-license-list/full") as Record<string, { licenseText: string }>;
const text = (id: string): string => list[id]!.licenseText;
const known = textsToKnow(list);
const recogniser = new LicenceRecogniser(known);
const read = (paper: string): string[] => [...new Set(readPaper(paper, recogniser).statements.flatMap((one) => one.licence ?? []))];

test("there are those that fonts come with", () => {
  expect(known.length).toBeGreaterThan(50);
  for (const id of ["OFL-1.0", "OFL-1.1", "Apache-2.0", "MIT", "GPL-2.0-with-font-exception", "Bitstream-Vera", "CC0-1.0", "LPPL-1.3c"])
    expect(known.map((one) => one.id)).toContain(id);
});

describe.each(known.map((one) => one.id))("%s", (id) => {
  test("alone", () => expect(recogniser.recognise(text(id)).map((one) => one.id)).toEqual([id]));
  test("in other case, spacing, quotes and bullets (SPDX specification, Annex B)", () => {
    const changed = text(id)
      .toUpperCase()
      .replace(/"/g, "”")
      .replace(/'/g, "’")
      .replace(/-/g, "–")
      .replace(/\n\n/g, "\n\n   * ")
      .replace(/ /g, "  ");
    expect(recogniser.recognise(changed).map((one) => one.id)).toEqual([id]);
  });
  test("inside a longer paper, where it stands", () => {
    const before =
      "Furrow Text\n\nThank you for downloading this font. It was drawn for the seed walk.\n\nCopyright (c) 2026 Fernhollow Seed Walk\n\n";
    const [found, ...more] = recogniser.recognise(`${before}${text(id)}\n\nChanges: version 1.1 adds figures.\n`);
    expect([found?.id, more]).toEqual([id, []]);
    expect(found!.line).toBeGreaterThan(4);
    expect(found!.line).toBeLessThan(12);
  });
  test("its beginning alone is not taken for it", () => {
    expect(recogniser.recognise(text(id).slice(0, text(id).length / 3))).toEqual([]);
  });
});

// The list gives these the same text: what stands beside it tells them apart.
test.each<[string, string, string]>([
  ["OFL-1.1-RFN", "OFL-1.1-RFN", "Copyright 2026 Fernhollow, with Reserved Font Name “Furrow”.\n\n"],
  ["OFL-1.1-no-RFN", "OFL-1.1-no-RFN", "Copyright 2026 Fernhollow, without Reserved Font Name.\n\n"],
  ["OFL-1.1", "OFL-1.1", "Copyright 2026 Fernhollow.\n\n"],
  ["OFL-1.0-RFN", "OFL-1.0-RFN", "Copyright 2026 Fernhollow, with Reserved Font Names “Furrow”.\n\n"],
  ["GPL-2.0-or-later", "GPL-2.0-or-later", "Free software under the licence below, version 2 or (at your option) any later version.\n\n"],
  ["GPL-3.0-only", "GPL-3.0-only", "Free software under the licence below.\n\n"],
])("variant %s", (_name, id, before) => {
  const base = baseLicence(id)!.id;
  expect(text(id)).toBe(text(base));
  expect(read(before + text(id))).toEqual([id]);
});

test("two licences in one paper are both found, in order", () => {
  expect(recogniser.recognise(`${text("MIT")}\n\n${"-".repeat(70)}\n\n${text("OFL-1.1")}`).map((one) => one.id)).toEqual([
    "MIT",
    "OFL-1.1",
  ]);
});

// Every other licence of the list is foreign here: none may be taken for one that is known, but for those with the very same text.
const SAME_TERMS: Record<string, string> = {
  "LGPL-3.0+": "an old name of LGPL-3.0-or-later, whose listed text differs in the spelling of addresses",
  Xnet: "the MIT text and a sentence that names a court",
};
test("no other text of the list is taken for one of them", () => {
  const plain = (id: string) =>
    text(id)
      .toLowerCase()
      .replace(/[^a-z0-9]/g, "");
  const byText = new Map(known.map(({ id }) => [plain(id), id]));
  const wrong: string[] = [];
  for (const id of Object.keys(list)) {
    if (known.some((one) => one.id === id) || id in SAME_TERMS) continue;
    for (const found of recogniser.recognise(text(id))) {
      // A longer licence that quotes a known one whole holds it.
      const holds = plain(id).includes(plain(found.id).slice(0, 400));
      if (!knownLicence(found.id)) continue;
      if (byText.get(plain(id)) !== found.id && !holds && found.found > 0.95) wrong.push(`${id} taken for ${found.id}`);
    }
  }
  expect(wrong).toEqual([]);
}, 120_000);

// Read in /usr/share/doc/*/copyright, in the order of their stanzas; licences of the packaging alone are left out.
test.each<[string, string[]]>([
  ["fonts-noto-core", ["OFL-1.1"]],
  ["fonts-ebgaramond", ["OFL-1.1", "LPPL-1.3c"]],
  ["fonts-linuxlibertine", ["GPL-2.0-or-later WITH Font-exception-2.0", "OFL-1.1-RFN"]],
  ["fonts-cabin", ["OFL-1.1-RFN"]],
  ["fonts-lato", ["OFL-1.1"]],
  ["fonts-cantarell", ["OFL-1.1", "CC0-1.0"]],
  ["fonts-dejavu-core", ["Bitstream-Vera"]],
  ["fonts-dejavu-extra", ["Bitstream-Vera"]],
  ["fonts-hosny-amiri", ["OFL-1.1"]],
  ["fonts-lobster", ["OFL-1.1-RFN"]],
  ["fonts-comfortaa", ["OFL-1.1-RFN"]],
  ["fonts-fantasque-sans", ["OFL-1.1"]],
  ["fonts-fork-awesome", ["CC-BY-3.0", "MIT", "OFL-1.1"]],
  ["culmus", ["GPL-2.0-only", "Bitstream-Charter", "GPL-2.0-only WITH Font-exception-2.0"]],
])("Debian's %s", (name, licences) => {
  expect(read(readFileSync(`/usr/share/doc/${name}/copyright`, "utf8"))).toEqual(licences);
});

test("licences named in words, and denied", () => {
  expect(read("This font is licensed under the SIL Open Font License, Version 1.1.")).toEqual(["OFL-1.1"]);
  expect(read("Licensed under CC BY-NC 4.0.")).toEqual(["CC-BY-NC-4.0"]);
  expect(read("See https://creativecommons.org/licenses/by-sa/4.0/ for the terms.")).toEqual(["CC-BY-SA-4.0"]);
  expect(read("This font is not under the Open Font License.")).toEqual([]);
});
