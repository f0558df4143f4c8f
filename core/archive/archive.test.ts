import { createHash } from "node:crypto";
import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { gzipSync } from "node:zlib";
import { afterAll, describe, expect, test } from "@jest/globals";
import { zipSync } from "fflate";
import { ProblemError } from "../problem.ts";
import { sortEntry } from "./kinds.ts";
import { DEFAULT_LIMITS, type Limits } from "./limits.ts";
import { decodeName, safeName } from "./names.ts";
import { unpackArchive, type Sink, type UnpackedEntry } from "./unpack.ts";

const dir = mkdtempSync(join(tmpdir(), "buvano-archive-"));
afterAll(() => rmSync(dir, { recursive: true }));

const text = (words: string): Uint8Array => new TextEncoder().encode(words);

async function unpack(
  bytes: Uint8Array,
  limits: Partial<Limits> = {},
): Promise<{ entries: UnpackedEntry[]; written: Map<string, Buffer> }> {
  const path = join(dir, `${createHash("sha1").update(bytes).digest("hex")}.zip`);
  writeFileSync(path, bytes);
  const written = new Map<string, Buffer>();
  const sink: Sink = async (entry, content) => {
    const chunks: Uint8Array[] = [];
    for await (const chunk of content) chunks.push(chunk);
    const whole = Buffer.concat(chunks);
    written.set(entry.path, whole);
    return { sha256: createHash("sha256").update(whole).digest("hex") };
  };
  return {
    entries: await unpackArchive(path, "x.zip", { limits: { ...DEFAULT_LIMITS, ...limits }, sink, staging: join(dir, "staging") }),
    written,
  };
}
const problemOf = async (work: Promise<unknown>): Promise<string> =>
  work.then(
    () => "none",
    (error: unknown) => (error instanceof ProblemError ? error.problem.code : String(error)),
  );

test("a single file that is compressed by itself is that file, by its own name", async () => {
  const font = Buffer.from("not much of a font ".repeat(50));
  const path = join(dir, "Furrow-Regular.ttf.gz");
  writeFileSync(path, gzipSync(font));
  const written = new Map<string, Buffer>();
  const sink: Sink = async (entry, content) => {
    const chunks: Uint8Array[] = [];
    for await (const chunk of content) chunks.push(chunk);
    written.set(entry.path, Buffer.concat(chunks));
    return { sha256: "" };
  };
  const entries = await unpackArchive(path, "Furrow-Regular.ttf.gz", { limits: DEFAULT_LIMITS, sink, staging: join(dir, "staging-gz") });
  expect(entries.map((entry) => [entry.path, entry.problem])).toEqual([["Furrow-Regular.ttf", undefined]]);
  expect(written.get("Furrow-Regular.ttf")).toEqual(font);
});

describe("names", () => {
  test.each(["../up.ttf", "a/../../up.ttf", "/etc/passwd", "C:\\windows\\x.ttf", "..\\x.ttf", "", ".", "a\u0000b"])(
    "%j is not written",
    (name) => {
      expect(safeName(name).ok).toBe(false);
    },
  );
  test.each([
    ["a/b.ttf", "a/b.ttf"],
    ["a\\b.ttf", "a/b.ttf"],
    ["./a//b.ttf", "a/b.ttf"],
    ["a..b/..c.ttf", "a..b/..c.ttf"],
    ["folder/", "folder/"],
  ])("%j is written as %j", (name, path) => {
    expect(safeName(name)).toEqual({ ok: true, value: path });
  });
  test("are read as UTF-8 where they are, composed, and as code page 437 otherwise", () => {
    const read = (bytes: Uint8Array, utf8: boolean) => decodeName({ bytes, utf8, extra: new Uint8Array() });
    expect(read(text("a\u0308.ttf"), true)).toEqual({ name: "ä.ttf", guessed: "" });
    expect(read(text("ä.ttf"), false)).toEqual({ name: "ä.ttf", guessed: "" });
    expect(read(Uint8Array.of(0x6b, 0x84, 0x73, 0x65, 0x2e), false)).toEqual({ name: "käse.", guessed: "code page 437" });
  });
});

test.each([
  ["Sprig-Bold.OTF", "font"],
  ["web/Sprig.woff2", "web font"],
  ["OFL.txt", "paper"],
  ["LICENSE", "paper"],
  ["preview.png", "preview"],
  ["source/Sprig.sfd", "design source"],
  ["more.zip", "archive"],
  ["__MACOSX/._Sprig.ttf", "junk"],
  [".DS_Store", "junk"],
  ["visit us.url", "junk"],
])("%s is sorted as %s", (path, kind) => {
  const sorted = sortEntry(path, new Uint8Array());
  expect(sorted.kind).toBe(kind);
  expect(sorted.reason).not.toBe("");
});
test("first bytes win over a wrong ending", () => {
  expect(sortEntry("readme", text("OTTO...."))).toMatchObject({ kind: "font" });
  expect(sortEntry("Sprig.ttf", text("wOF2....")).kind).toBe("web font");
  expect(sortEntry("old.svg", text(`<svg><defs><font id="a"><glyph/></font></defs></svg>`)).kind).toBe("font");
  expect(sortEntry("picture.svg", text("<svg><path/></svg>")).kind).toBe("preview");
});

describe("unpacking", () => {
  const font = text("OTTO not really a font");
  test("hands every entry on, whole and sorted", async () => {
    const { entries, written } = await unpack(
      zipSync({ "a/Sprig.otf": font, "a/readme.txt": [text("hello"), { level: 0 }], "empty/": new Uint8Array() }),
    );
    expect(entries.map((entry) => [entry.path, entry.kind, entry.bytes])).toEqual([
      ["a/Sprig.otf", "font", font.length],
      ["a/readme.txt", "paper", 5],
    ]);
    expect(entries[0]!.sha256).toBe(createHash("sha256").update(font).digest("hex"));
    expect(written.get("a/readme.txt")!.toString()).toBe("hello");
  });

  test("a climbing name is left out, the rest stays", async () => {
    const { entries, written } = await unpack(zipSync({ "../../evil.ttf": font, "good.otf": font }));
    expect(entries.map((entry) => entry.problem?.code)).toEqual(["entry-name", undefined]);
    expect([...written.keys()]).toEqual(["good.otf"]);
  });

  test("a wrong sum, a wrong size and damaged data stay with their entry", async () => {
    const good = zipSync({ "a.otf": [font, { level: 0 }], "b.otf": font });
    const flipped = Uint8Array.from(good);
    flipped[30 + 5] = flipped[30 + 5]! ^ 1; // first byte of a.otf's stored data
    expect((await unpack(flipped)).entries.map((entry) => entry.problem?.code)).toEqual(["entry-checksum", undefined]);
    const lying = Uint8Array.from(zipSync({ "a.otf": text("x".repeat(5000)) }));
    const central = Buffer.from(lying).indexOf("PK\x01\x02");
    lying[central + 24] = 10; // uncompressed size, APPNOTE 4.3.12
    lying[central + 25] = 0;
    expect((await unpack(lying)).entries[0]!.problem?.code).toBe("entry-size");
    const broken = Uint8Array.from(zipSync({ "a.otf": text("abcdefgh".repeat(999)) }));
    broken.fill(0xff, 36, 44);
    expect((await unpack(broken)).entries[0]!.problem?.code).toBe("entry-damaged");
  });

  test("a locked archive asks for its password", async () => {
    const locked = Uint8Array.from(zipSync({ "a.otf": font }));
    const central = Buffer.from(locked).indexOf("PK\x01\x02");
    locked[central + 8] = locked[central + 8]! | 1; // general purpose bit 0, APPNOTE 4.4.4
    locked[6] = locked[6]! | 1;
    expect(await problemOf(unpack(locked))).toBe("archive-password");
  });

  test("cut off, foreign and empty files are told apart", async () => {
    const whole = zipSync({ "a.otf": font });
    // Without its list of contents an archive is read entry by entry, and says that more may be lost.
    expect((await unpack(whole.subarray(0, whole.length - 30))).entries.map((entry) => [entry.path, entry.problem?.code])).toEqual([
      ["a.otf", undefined],
      ["x.zip", "archive-rebuilt"],
    ]);
    expect(await problemOf(unpack(whole.subarray(0, 3)))).toBe("not-an-archive");
    expect(await problemOf(unpack(text("not an archive at all")))).toBe("not-an-archive");
    expect(await problemOf(unpack(new Uint8Array()))).toBe("not-an-archive");
    expect((await unpack(zipSync({}))).entries).toEqual([]);
  });

  test("limits hold whatever an archive claims", async () => {
    const zeros = zipSync({ "zeros.bin": new Uint8Array(3_000_000), "good.otf": font });
    const dense = await unpack(zeros, { ratio: 50, ratioFromBytes: 100_000 });
    expect(dense.entries.map((entry) => entry.problem?.code)).toEqual(["entry-ratio-limit", undefined]);
    const large = await unpack(zeros, { entryBytes: 1_000_000, ratio: 1e9 });
    expect(large.entries.map((entry) => entry.problem?.code)).toEqual(["entry-bytes-limit", undefined]);
    expect(await problemOf(unpack(zeros, { totalBytes: 1_000_000, ratio: 1e9 }))).toBe("archive-bytes-limit");
    expect(await problemOf(unpack(zipSync({ a: font, b: font, c: font }), { entries: 2 }))).toBe("archive-entries-limit");
  });
});
