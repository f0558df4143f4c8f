// Configuration profiles, read back by two other property list readers: the same keys and types, one identifier each, the fonts' own bytes.
import { execFileSync } from "node:child_process";
import { createHash } from "node:crypto";
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, describe, expect, test } from "@jest/globals";
import { profileIdentifier, steadyUuid, writeProfile, type ProfileFont } from "../../core/placing/profile.ts";

const dir = mkdtempSync(join(tmpdir(), "buvano-profile-"));
afterAll(() => rmSync(dir, { recursive: true }));

const builtIn = join(process.cwd(), "build", "demo", "built-in");
const font = (style: string): ProfileFont => ({
  fullName: `Aster Plain ${style}`,
  postScriptName: `AsterPlain-${style}`,
  fileName: `AsterPlain-${style}.ttf`,
  bytes: readFileSync(join(builtIn, `AsterPlain-${style}.ttf`)),
});
const family = { family: "Aster Plain & “Friends” <1>", organisation: "Seed desk", library: "A1", fonts: [font("Regular"), font("Bold")] };
const path = join(dir, "a.mobileconfig");
const hash = (bytes: Uint8Array): string => createHash("sha256").update(bytes).digest("hex");

interface Read {
  PayloadIdentifier: string;
  PayloadUUID: string;
  PayloadDisplayName: string;
  PayloadRemovalDisallowed: boolean;
  PayloadVersion: number;
  PayloadContent: { PayloadIdentifier: string; PayloadUUID: string; PayloadType: string; Name: string; Font: string }[];
}
/** Python's plistlib; fonts come back as sha-256. */
function byPython(): Read {
  const script = `
import plistlib, sys, json, hashlib
d = plistlib.load(open(sys.argv[1], "rb"))
print(json.dumps(d, default=lambda b: hashlib.sha256(b).hexdigest()))`;
  return JSON.parse(execFileSync("/usr/bin/python3", ["-c", script, path], { encoding: "utf8" })) as Read;
}

describe("a profile", () => {
  test("holds what it should, by Python's plistlib", () => {
    writeFileSync(path, writeProfile(family));
    const read = byPython();
    expect(read).toMatchObject({
      PayloadRemovalDisallowed: false,
      PayloadVersion: 1,
      PayloadDisplayName: "Aster Plain & “Friends” <1>, 2 styles",
    });
    expect(read.PayloadContent.map((one) => [one.PayloadType, one.Name, one.Font])).toEqual(
      family.fonts.map((one) => ["com.apple.font", one.fileName, hash(one.bytes)]),
    );
    const names = [read.PayloadIdentifier, ...read.PayloadContent.map((one) => one.PayloadIdentifier)];
    const uuids = [read.PayloadUUID, ...read.PayloadContent.map((one) => one.PayloadUUID)];
    expect([new Set(names).size, new Set(uuids).size]).toEqual([3, 3]);
    for (const uuid of uuids) expect(uuid).toMatch(/^[0-9A-F]{8}-[0-9A-F]{4}-8[0-9A-F]{3}-[89AB][0-9A-F]{3}-[0-9A-F]{12}$/);
  });
  test("is a property list to plistutil too, with the fonts' bytes unchanged", () => {
    writeFileSync(path, writeProfile(family));
    const binary = join(dir, "a.bplist");
    execFileSync("plistutil", ["-i", path, "-o", binary, "-f", "bin"]);
    const held = readFileSync(binary);
    expect(held.subarray(0, 8).toString("latin1")).toBe("bplist00");
    for (const one of family.fonts) expect(held.includes(Buffer.from(one.bytes))).toBe(true);
  });
  test("is the same whenever it is made, and keeps its identifiers when a file is newer: it replaces and never doubles", () => {
    expect(writeProfile(family)).toBe(writeProfile(family));
    writeFileSync(path, writeProfile(family));
    const before = byPython();
    writeFileSync(path, writeProfile({ ...family, fonts: [{ ...font("Regular"), bytes: font("Bold").bytes }, font("Bold")] }));
    const after = byPython();
    const ids = (read: Read) => [
      read.PayloadIdentifier,
      read.PayloadUUID,
      ...read.PayloadContent.flatMap((one) => [one.PayloadIdentifier, one.PayloadUUID]),
    ];
    expect(ids(after)).toEqual(ids(before));
    expect(after.PayloadContent[0]!.Font).not.toBe(before.PayloadContent[0]!.Font);
  });
  test("of another library or family has other identifiers; names of any script make one", () => {
    const ids = [
      profileIdentifier("A1", "Aster Plain"),
      profileIdentifier("A2", "Aster Plain"),
      profileIdentifier("A1", "Aster"),
      profileIdentifier("A1", "שביל"),
      profileIdentifier("A1", "シード"),
    ];
    expect(new Set(ids).size).toBe(5);
    for (const id of ids) expect(id).toMatch(/^buvano(\.[a-z0-9-]+)+$/);
    expect(steadyUuid("a")).toBe(steadyUuid("a"));
  });
  test.each([
    ["families", ["思源 Sans", "方正 Sans", "Sans", "Foo", "Foo+", "Foo Bar", "Foo-Bar", "Föo"]],
    ["families of other libraries", ["שביל", "שבילים"]],
  ])("names that differ only by what an identifier cannot hold have identifiers of their own: %s", (_what, names) => {
    const ids = names.map((name) => profileIdentifier("A1", name));
    expect(new Set(ids).size).toBe(names.length);
    for (const id of ids) expect(id).toMatch(/^buvano(\.[a-z0-9-]+)+$/);
  });
  test("holds fonts whose names are alike, and even two of one name, each under an identifier of its own", () => {
    const named = (postScriptName: string, from: ProfileFont) => ({ ...from, postScriptName });
    const fonts = [named("A-B", font("Regular")), named("A_B", font("Bold")), named("A-B", font("Bold"))];
    writeFileSync(path, writeProfile({ ...family, fonts }));
    expect(new Set(byPython().PayloadContent.map(({ PayloadIdentifier }) => PayloadIdentifier)).size).toBe(3);
  });
});
