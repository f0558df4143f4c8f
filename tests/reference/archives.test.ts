// Archives made by zip, 7z, bsdtar and Python in every variant people meet, entry by entry against bsdtar (libarchive).
import { execFileSync, spawnSync } from "node:child_process";
import { createHash } from "node:crypto";
import { copyFileSync, existsSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { basename, join } from "node:path";
import { crc32 } from "node:zlib";
import { afterAll, describe, expect, test } from "@jest/globals";
import { DEFAULT_LIMITS, type Limits } from "../../core/archive/limits.ts";
import { unpackArchive, type UnpackedEntry } from "../../core/archive/unpack.ts";
import { ProblemError } from "../../core/problem.ts";

const dir = mkdtempSync(join(tmpdir(), "buvano-archives-"));
const src = join(dir, "src");
mkdirSync(join(src, "Cabin", "empty folder"), { recursive: true });
for (const name of ["Cabin-Regular.otf", "Cabin-Bold.otf"])
  copyFileSync(`/usr/share/fonts/opentype/cabin/${name}`, join(src, "Cabin", name));
writeFileSync(join(src, "Cabin", "Lizenz für Bücher.txt"), "Frei für alle.\n");
writeFileSync(join(src, "Cabin", "empty.txt"), "");
afterAll(() => rmSync(dir, { recursive: true, force: true }));

const make = (command: string, args: string[], cwd = src): void => void execFileSync(command, args, { cwd, stdio: "ignore" });
const python = (code: string): void => void execFileSync("python3", ["-c", code], { cwd: src });

async function unpack(
  path: string,
  more: { password?: string; limits?: Partial<Limits>; nested?: boolean } = {},
): Promise<UnpackedEntry[]> {
  const store = mkdtempSync(join(dir, "store-"));
  const entries = await unpackArchive(path, basename(path), {
    limits: { ...DEFAULT_LIMITS, ...more.limits },
    staging: join(dir, "staging"),
    password: more.password,
    sink: async (_entry, content) => {
      const chunks: Uint8Array[] = [];
      for await (const chunk of content) chunks.push(chunk);
      const whole = Buffer.concat(chunks);
      const sha256 = createHash("sha256").update(whole).digest("hex");
      if (!more.nested) return { sha256 };
      writeFileSync(join(store, sha256), whole);
      return { sha256, path: join(store, sha256) };
    },
  });
  expect(existsSync(join(dir, "staging")) ? readdirSync(join(dir, "staging")) : []).toEqual([]);
  return entries;
}
const listing = (entries: readonly UnpackedEntry[]): string[] =>
  entries.map((entry) => `${entry.path} ${entry.bytes} ${entry.sha256}`).sort();

/** The same listing by bsdtar, from what it unpacks. */
function judged(path: string): string[] {
  const out = mkdtempSync(join(dir, "judge-"));
  // libarchive does not unpack deflate64; Info-ZIP does.
  if (path.endsWith("deflate64.zip")) execFileSync("unzip", ["-q", path, "-d", out]);
  else execFileSync("bsdtar", ["-xf", path, "-C", out], { env: { ...process.env, LC_ALL: "C.UTF-8" } });
  const files = execFileSync("find", [".", "-type", "f"], { cwd: out, encoding: "utf8" }).split("\n").filter(Boolean);
  return files
    .map((file) => {
      const bytes = readFileSync(join(out, file));
      return `${file.slice(2).normalize("NFC")} ${bytes.length} ${createHash("sha256").update(bytes).digest("hex")}`;
    })
    .sort();
}

/** A rar of version 5 with stored files, written by its published technical note: no free tool writes rar. */
function storedRar5(files: Record<string, Buffer>): Buffer {
  const vint = (value: number): number[] => (value < 128 ? [value] : [(value & 127) | 128, ...vint(Math.floor(value / 128))]);
  const u32 = (value: number): number[] => [value & 255, (value >>> 8) & 255, (value >>> 16) & 255, value >>> 24];
  const header = (body: number[]): number[] => {
    const sized = [...vint(body.length), ...body];
    return [...u32(crc32(Buffer.from(sized))), ...sized];
  };
  const parts: Uint8Array[] = [Buffer.from("Rar!\x1a\x07\x01\x00", "latin1"), Buffer.from(header([1, 0, 0]))];
  for (const [name, data] of Object.entries(files)) {
    const utf8 = [...Buffer.from(name)];
    // File header: type 2, flag "data area", data size; file flags "CRC32", size, attributes, sum, method 0, Unix, name.
    parts.push(
      Buffer.from(
        header([2, 2, ...vint(data.length), 4, ...vint(data.length), ...vint(0o644), ...u32(crc32(data)), 0, 1, utf8.length, ...utf8]),
      ),
      data,
    );
  }
  return Buffer.concat([...parts, Buffer.from(header([5, 0, 0]))]);
}

/** A rar of version 4 with stored files, laid out from memory of its published technical note; bsdtar judges it. */
function storedRar4(files: Record<string, Buffer>): Buffer {
  const block = (type: number, flags: number, body: Buffer): Buffer => {
    const header = Buffer.alloc(7 + body.length);
    header[2] = type;
    header.writeUInt16LE(flags, 3);
    header.writeUInt16LE(header.length, 5);
    body.copy(header, 7);
    // HEAD_CRC: the low half of the CRC-32 of everything after it.
    header.writeUInt16LE(crc32(header.subarray(2)) & 0xffff, 0);
    return header;
  };
  const parts = [Buffer.from("Rar!\x1a\x07\x00", "latin1"), block(0x73, 0, Buffer.alloc(6))];
  for (const [name, data] of Object.entries(files)) {
    // PACK_SIZE, UNP_SIZE, HOST_OS 3 (Unix), FILE_CRC, FTIME, UNP_VER 2.0, METHOD 0x30 (stored), NAME_SIZE, ATTR, FILE_NAME.
    const body = Buffer.alloc(25 + name.length);
    body.writeUInt32LE(data.length, 0);
    body.writeUInt32LE(data.length, 4);
    body[8] = 3;
    body.writeUInt32LE(crc32(data), 9);
    body.writeUInt32LE(0x5a216000, 13);
    body[17] = 20;
    body[18] = 0x30;
    body.writeUInt16LE(name.length, 19);
    body.writeUInt32LE(0o100644, 21);
    body.write(name, 25, "latin1");
    parts.push(block(0x74, 0x8000, body), data);
  }
  return Buffer.concat([...parts, block(0x7b, 0x4000, Buffer.alloc(0))]);
}

const at = (name: string): string => join(dir, name);
/** A tar packed piece by piece. */
function inPieces(path: string, packer: string): void {
  make("sh", [
    "-c",
    `tar -cf in.tar Cabin && split -b 100000 in.tar piece. && for one in piece.*; do ${packer} -c $one; done > ${path}; rm in.tar piece.*`,
  ]);
}
/** A tar by GNU tar that leaves the holes of a file out. */
function withHoles(path: string, args: readonly string[]): void {
  const holed = join(src, "holed.otf");
  copyFileSync(join(src, "Cabin", "Cabin-Bold.otf"), holed);
  make("truncate", ["-s", "2M", holed]);
  make("dd", [`if=${join(src, "Cabin", "Cabin-Regular.otf")}`, `of=${holed}`, "bs=64k", "seek=16", "conv=notrunc"]);
  make("tar", [...args, "-S", "-cf", path, "holed.otf", "Cabin/empty.txt"]);
  rmSync(holed);
}
const variants: [name: string, make: (path: string) => void][] = [
  ["stored.zip", (path) => make("zip", ["-qr0", path, "Cabin"])],
  ["deflated.zip", (path) => make("zip", ["-qr9", path, "Cabin"])],
  ["streamed.zip", (path) => make("sh", ["-c", `zip -qr - Cabin | cat > ${path}`])],
  ["deflate64.zip", (path) => make("7z", ["a", "-tzip", "-mm=Deflate64", path, "Cabin"])],
  ["bzip2.zip", (path) => make("7z", ["a", "-tzip", "-mm=BZip2", path, "Cabin"])],
  ["lzma.zip", (path) => make("7z", ["a", "-tzip", "-mm=LZMA", path, "Cabin"])],
  [
    "python.zip",
    (path) =>
      python(
        `import zipfile,os\nz=zipfile.ZipFile(${JSON.stringify(path)},"w",zipfile.ZIP_DEFLATED)\n[z.write("Cabin/"+n) for n in sorted(os.listdir("Cabin")) if os.path.isfile("Cabin/"+n)]\nz.close()`,
      ),
  ],
  [
    "zip64.zip",
    (path) =>
      python(
        `import zipfile\nz=zipfile.ZipFile(${JSON.stringify(path)},"w")\nf=z.open("Cabin-Regular.otf","w",force_zip64=True)\nf.write(open("Cabin/Cabin-Regular.otf","rb").read())\nf.close()\nz.close()`,
      ),
  ],
  ["plain.tar", (path) => make("bsdtar", ["-cf", path, "Cabin"])],
  ["old.tar", (path) => make("bsdtar", ["--format=v7", "-cf", path, "Cabin/Cabin-Bold.otf"])],
  ["gnu.tar", (path) => make("bsdtar", ["--format=gnutar", "-cf", path, "Cabin"])],
  ["x.tar.gz", (path) => make("bsdtar", ["-czf", path, "Cabin"])],
  ["x.tar.bz2", (path) => make("bsdtar", ["-cjf", path, "Cabin"])],
  ["x.tar.xz", (path) => make("bsdtar", ["-cJf", path, "Cabin"])],
  ["solid.7z", (path) => make("7z", ["a", "-ms=on", path, "Cabin"])],
  ["ppmd.7z", (path) => make("7z", ["a", "-ms=off", "-m0=PPMd", path, "Cabin"])],
  // As parallel compressors write: members one after another.
  ["parallel.tar.gz", (path) => inPieces(path, "gzip")],
  ["parallel.tar.bz2", (path) => inPieces(path, "bzip2")],
  ["parallel.tar.xz", (path) => inPieces(path, "xz")],
  // With a program before it, which unpacks it where it runs; and filled up behind, as some servers do.
  [
    "runs.zip",
    (path) =>
      make("sh", ["-c", `zip -qr in.zip Cabin && (printf '#!/bin/sh\n'; head -c 90000 /dev/zero; cat in.zip) > ${path}; rm in.zip`]),
  ],
  ["padded.zip", (path) => make("sh", ["-c", `zip -qr in.zip Cabin && (cat in.zip; head -c 70000 /dev/zero) > ${path}; rm in.zip`])],
  ["holes.gnu.tar", (path) => withHoles(path, ["--format=gnu"])],
  ["holes-0.1.tar", (path) => withHoles(path, ["--format=pax", "--sparse-version=0.1"])],
  ["holes-1.0.tar", (path) => withHoles(path, ["--format=pax", "--sparse-version=1.0"])],
  [
    "linked.tar",
    (path) => make("sh", ["-c", `ln -f Cabin/Cabin-Bold.otf Twin.otf && tar -cf ${path} Cabin/Cabin-Bold.otf Twin.otf; rm Twin.otf`]),
  ],
  [
    "stored4.rar",
    (path) =>
      writeFileSync(
        path,
        storedRar4({ "Cabin/Cabin-Bold.otf": readFileSync(join(src, "Cabin", "Cabin-Bold.otf")), "read me.txt": Buffer.from("Frei") }),
      ),
  ],
  [
    "stored5.rar",
    (path) =>
      writeFileSync(
        path,
        storedRar5({ "Cabin/Cabin-Bold.otf": readFileSync(join(src, "Cabin", "Cabin-Bold.otf")), "für.txt": Buffer.from("Frei") }),
      ),
  ],
];

describe.each(variants)("%s", (name, write) => {
  test("the same entries, sizes and contents as bsdtar's", async () => {
    write(at(name));
    const entries = await unpack(at(name));
    expect(entries.map((entry) => entry.problem)).toEqual(entries.map(() => undefined));
    expect(listing(entries)).toEqual(judged(at(name)));
  });
});

test("a zip without its list of contents is read by its entries, and says so", async () => {
  make("zip", ["-qr", at("whole.zip"), "Cabin"]);
  const whole = readFileSync(at("whole.zip"));
  writeFileSync(at("listless.zip"), whole.subarray(0, whole.indexOf("PK\x01\x02", 0, "latin1")));
  const entries = await unpack(at("listless.zip"));
  const [rest, told] = [entries.filter((entry) => entry.problem === undefined), entries.filter((entry) => entry.problem !== undefined)];
  expect(listing(rest)).toEqual(judged(at("whole.zip")));
  expect(told.map((entry) => entry.problem!.code)).toEqual(["archive-rebuilt"]);
});

test("a 7z some of whose entries are locked gives the others", async () => {
  make("7z", ["a", at("mixed.7z"), "Cabin/Cabin-Bold.otf"]);
  make("7z", ["a", "-psecret", at("mixed.7z"), "Cabin/Cabin-Regular.otf"]);
  const entries = await unpack(at("mixed.7z"));
  expect(entries.map((entry) => [basename(entry.path), entry.bytes, entry.problem?.code])).toEqual([
    ["Cabin-Bold.otf", readFileSync(join(src, "Cabin", "Cabin-Bold.otf")).length, undefined],
    ["Cabin-Regular.otf", expect.any(Number), "entry-locked"],
  ]);
});

test.each([[["-ms=on"]], [["-ms=off"]]])("a 7z with an entry larger than the limit gives the others (%j)", async (args) => {
  const name = `large${args[0]}.7z`;
  writeFileSync(join(src, "Cabin", "lar*ge [1].bin"), Buffer.alloc(3_000_000, 7));
  make("7z", ["a", ...args, at(name), "Cabin"]);
  const entries = await unpack(at(name), { limits: { entryBytes: 1_000_000 } });
  rmSync(join(src, "Cabin", "lar*ge [1].bin"));
  const [large, rest] = [entries.filter(({ problem }) => problem), entries.filter(({ problem }) => !problem)];
  expect(large.map(({ path, problem }) => [basename(path), problem!.code])).toEqual([["lar*ge [1].bin", "entry-bytes-limit"]]);
  expect(listing(rest)).toEqual(judged(at(name)).filter((line) => !line.includes("lar*ge")));
});

test("a 7z sees nothing of what lies beside it", async () => {
  make("7z", ["a", at("lonely.7z"), "Cabin/empty.txt", "Cabin/Cabin-Bold.otf"]);
  mkdirSync(join(dir, "alone"));
  copyFileSync(at("lonely.7z"), join(dir, "alone", "lonely.7z"));
  writeFileSync(join(dir, "alone", "lonely.7z.001"), "another's");
  writeFileSync(join(dir, "alone", "neighbour.ttf"), "another's");
  expect(listing(await unpack(join(dir, "alone", "lonely.7z")))).toEqual(judged(at("lonely.7z")));
});

describe("passwords", () => {
  const secret = "grass 26";
  const kinds: [name: string, args: string[]][] = [
    ["traditional.zip", ["-tzip", "-mem=ZipCrypto"]],
    ["aes.zip", ["-tzip", "-mem=AES256"]],
    ["locked.7z", []],
    ["locked-names.7z", ["-mhe=on"]],
  ];
  test.each(kinds)("%s: asked for, refused when wrong, opened when right", async (name, args) => {
    make("7z", ["a", ...args, `-p${secret}`, at(name), "Cabin/Cabin-Regular.otf", "Cabin/Cabin-Bold.otf"]);
    const code = (password?: string) =>
      unpack(at(name), { password }).then(
        () => "opened",
        (error: unknown) => (error instanceof ProblemError ? error.problem.code : String(error)),
      );
    expect(await code()).toBe("archive-password");
    expect(await code("wrong")).toBe("archive-password-wrong");
    const entries = await unpack(at(name), { password: secret });
    const hashes = ["Cabin-Bold.otf", "Cabin-Regular.otf"].map((file) =>
      createHash("sha256")
        .update(readFileSync(join(src, "Cabin", file)))
        .digest("hex"),
    );
    expect(entries.map((entry) => entry.sha256).sort()).toEqual(hashes.sort());
  });
});

test("names in code page 437 and in decomposed Unicode are read as people wrote them", async () => {
  python(
    `import zipfile\nz=zipfile.ZipFile(${JSON.stringify(at("names.zip"))},"w")\nz.writestr("Bu\\u0308cher.txt","x")\nz.writestr("Gaerten.txt","y")\nz.close()\nb=open(${JSON.stringify(at("names.zip"))},"rb").read().replace(b"Gaerten",b"G\\x84rten ")\nopen(${JSON.stringify(at("names.zip"))},"wb").write(b)`,
  );
  expect((await unpack(at("names.zip"))).map((entry) => entry.path)).toEqual(["Bücher.txt", "Gärten .txt"]);
});

describe("archives inside archives", () => {
  const nest = (levels: number): string => {
    let inner = at("level-0.zip");
    make("zip", ["-qj", inner, "Cabin/Cabin-Bold.otf"]);
    for (let level = 1; level < levels; level++) {
      const outer = at(`level-${level}-of-${levels}.${level % 2 ? "tar" : "zip"}`);
      if (level % 2) make("bsdtar", ["-cf", outer, "-C", dir, basename(inner)]);
      else make("zip", ["-qj", outer, inner]);
      inner = outer;
    }
    return inner;
  };
  test("three deep are opened, the fourth says why not", async () => {
    const three = await unpack(nest(3), { nested: true });
    expect(three.filter((entry) => entry.kind === "font").map((entry) => entry.path)).toEqual([
      "level-1-of-3.tar/level-0.zip/Cabin-Bold.otf",
    ]);
    const four = await unpack(nest(4), { nested: true });
    expect(four.filter((entry) => entry.kind === "font")).toEqual([]);
    expect(four.map((entry) => entry.problem?.code).filter(Boolean)).toEqual(["archive-depth-limit"]);
  });
  test("limits count what inner archives hold", async () => {
    await expect(unpack(nest(3), { nested: true, limits: { totalBytes: 60_000 } })).rejects.toThrow(/unpacks to more than/);
  });
});

describe("damage", () => {
  test.each(["x.tar.gz", "x.tar.bz2", "x.tar.xz", "plain.tar", "solid.7z", "deflated.zip"])(
    "%s cut in half: refused or told entry by entry, never quietly short",
    async (name) => {
      variants.find(([variant]) => variant === name)![1](at(name));
      const whole = readFileSync(at(name));
      const cut = at(`cut-${name}`);
      writeFileSync(cut, whole.subarray(0, whole.length / 2));
      const outcome = await unpack(cut).then(
        (entries) => entries.some((entry) => entry.problem),
        (error: unknown) => error instanceof ProblemError && /^archive-(truncated|damaged)$/.test(error.problem.code),
      );
      expect(outcome).toBe(true);
    },
  );
  test.each(["bomb.bz2", "bomb.xz", "bomb.gz", "bomb.7z"])("%s: no more is unpacked than the limit", async (name) => {
    const zeros = at("zeros");
    writeFileSync(zeros, Buffer.alloc(30_000_000));
    if (name.endsWith("7z")) make("7z", ["a", at(name), zeros]);
    else make("7z", ["a", { bz2: "-tbzip2", xz: "-txz", gz: "-tgzip" }[name.split(".")[1]!]!, at(name), zeros]);
    await expect(unpack(at(name), { limits: { totalBytes: 5_000_000, ratio: 1e9 } })).rejects.toThrow(/unpacks to more than/);
  });
  test("a tar that climbs and links: nothing outside, nothing followed", async () => {
    python(
      `import tarfile,io\nt=tarfile.open(${JSON.stringify(at("evil.tar"))},"w")\ni=tarfile.TarInfo("../../evil.ttf");i.size=4;t.addfile(i,io.BytesIO(b"evil"))\nl=tarfile.TarInfo("link.ttf");l.type=tarfile.SYMTYPE;l.linkname="/etc/passwd";t.addfile(l)\ng=tarfile.TarInfo("good.txt");g.size=2;t.addfile(g,io.BytesIO(b"ok"))\nt.close()`,
    );
    expect((await unpack(at("evil.tar"))).map((entry) => entry.problem?.code)).toEqual(["entry-name", "entry-kind", undefined]);
  });
  test("a 7z with a link in it: the link is not followed", async () => {
    spawnSync("ln", ["-sf", "/etc/passwd", join(src, "link.ttf")]);
    make("7z", ["a", "-snl", at("link.7z"), "link.ttf", "Cabin/empty.txt"]);
    rmSync(join(src, "link.ttf"));
    const entries = await unpack(at("link.7z"));
    expect(entries.find((entry) => entry.path === "link.ttf")).not.toMatchObject({ bytes: readFileSync("/etc/passwd").length });
  });
});
