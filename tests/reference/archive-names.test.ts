// Names in zips that do not say how they are written, made by Python's codecs; and those that say it by Info-ZIP's field, made by Info-ZIP's rules.
import { execFileSync } from "node:child_process";
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, describe, expect, test } from "@jest/globals";
import { DEFAULT_LIMITS } from "../../core/archive/limits.ts";
import { unpackArchive, type UnpackedEntry } from "../../core/archive/unpack.ts";

const dir = mkdtempSync(join(tmpdir(), "buvano-names-"));
afterAll(() => rmSync(dir, { recursive: true }));

/** A zip of empty files whose names are written in an encoding, with no flag; `field`: and in Info-ZIP's Unicode Path field, as PKWARE's APPNOTE 4.6.9 lays it out. */
const WRITE = `
import json, struct, sys, zlib
names, encoding, field, path = json.loads(sys.stdin.read())
local, central = b"", b""
for name in names:
    raw = name.encode(encoding)
    extra = b""
    if field:
        utf8 = (field + name if field != "plain" else name).encode("utf-8")
        extra = struct.pack("<HHBI", 0x7075, 5 + len(utf8), 1, zlib.crc32(raw if field == "plain" else b"another")) + utf8
    head = struct.pack("<HHHHHIIIHH", 20, 0, 0, 0, 0x5821, zlib.crc32(b"x"), 1, 1, len(raw), len(extra))
    central += b"PK\\x01\\x02" + struct.pack("<H", 20) + head + struct.pack("<HHHII", 0, 0, 0, 0, len(local)) + raw + extra
    local += b"PK\\x03\\x04" + head + raw + extra + b"x"
open(path, "wb").write(local + central + b"PK\\x05\\x06" + struct.pack("<HHHHIIH", 0, 0, len(names), len(names), len(central), len(local), 0))
`;
let made = 0;
async function read(names: readonly string[], encoding: string, field = ""): Promise<UnpackedEntry[]> {
  const path = join(dir, `${++made}.zip`);
  execFileSync("python3", ["-c", WRITE], { input: JSON.stringify([names, encoding, field, path]) });
  return unpackArchive(path, "names.zip", {
    limits: DEFAULT_LIMITS,
    staging: join(dir, "staging"),
    sink: async (_entry, content) => {
      for await (const chunk of content) void chunk;
      return { sha256: "aa" };
    },
  });
}

const JAPANESE = ["フォント.ttf", "しろくま体/利用規約.txt", "源柔ゴシック-太字.otf", "はじめにお読みください.txt"];
const CHINESE = ["思源黑体.otf", "字体说明.txt", "方正书宋简体.ttf", "授权书/使用说明.pdf"];
const TAIWAN = ["明體.ttf", "字型說明.txt", "標楷體.ttf", "授權條款.txt"];
const KOREAN = ["나눔고딕.ttf", "글꼴 안내.txt", "나눔명조 굵게.otf"];
const RUSSIAN = ["Шрифт.ttf", "Лицензия.txt", "Читай меня.txt", "Курсив/Полужирный.otf"];
const HEBREW = ["גופן.ttf", "רישיון שימוש.txt", "שביל כתב יד.otf", "קרא אותי.txt"];
const WESTERN = ["Schöne Grüße.ttf", "Déjà lu.otf", "Façade légère.ttf", "Año nuevo.otf"];
const GERMAN = ["Schöne Grüße.ttf", "Überschrift.otf", "Lizenzgebühr.txt"];
const GREEK = ["Γραμματοσειρά.ttf", "Άδεια χρήσης.txt"];
const CZECH = ["Příliš žluťoučký.ttf", "Licenční smlouva.txt", "Tučné písmo.otf"];

describe("what does not say how it is written is read by its letters, and says what was guessed", () => {
  test.each([
    ["shift_jis", JAPANESE, "Japanese (Shift JIS)"],
    ["gbk", CHINESE, "Chinese (GBK)"],
    ["big5", TAIWAN, "Chinese (Big5)"],
    ["euc_kr", KOREAN, "Korean (EUC-KR)"],
    ["cp1251", RUSSIAN, "Cyrillic (Windows-1251)"],
    ["cp866", RUSSIAN, "Cyrillic (code page 866)"],
    ["cp1255", HEBREW, "Hebrew (Windows-1255)"],
    ["cp862", HEBREW, "Hebrew (code page 862)"],
    ["cp1252", WESTERN, "Western European (Windows-1252)"],
    ["cp437", GERMAN, "code page 437"],
    ["cp850", GERMAN, "code page 437"],
    ["cp1253", GREEK, "Greek (Windows-1253)"],
    ["cp1250", CZECH, "Central European (Windows-1250)"],
  ])("%s", async (encoding, names, words) => {
    // Together, and what is long enough to be judged by itself: a few accents alone are letters in several encodings.
    const alone = /^cp(125[02]|437|85)/.test(encoding)
      ? []
      : names.filter((name) => name.replace(/\.\w+$/, "").replace(/[^\p{L}]/gu, "").length >= 6);
    for (const some of [names, ...alone.map((name) => [name])]) {
      const entries = await read(some, encoding);
      expect(entries.map(({ path }) => path)).toEqual(some.map((name) => name.normalize("NFC")));
      for (const { reason } of entries) expect(reason).toContain(`read as ${words}.`);
    }
  });
});

test("a name that stands beside it in UTF-8 is taken, and nothing is guessed", async () => {
  const [entry] = await read(["フォント.ttf"], "shift_jis", "plain");
  expect([entry!.path, entry!.reason.includes("read as")]).toEqual(["フォント.ttf", false]);
});
test("one that belongs to another name is not", async () => {
  const [entry] = await read(["フォント.ttf"], "shift_jis", "falsch ");
  expect(entry!.path).toBe("フォント.ttf");
});
test("plain names and UTF-8 without a flag stay as they are", async () => {
  for (const names of [["Readme.txt", "Furrow-Bold.ttf"], ["Überschrift.ttf"]])
    expect((await read(names, "utf-8")).map(({ path, reason }) => [path, reason.includes("read as")])).toEqual(
      names.map((name) => [name, false]),
    );
});
