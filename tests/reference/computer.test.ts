// This computer with a private home: what is placed is what fontconfig lists, matches, and what a real browser embeds; off and removed, it
// is gone. Kit scripts run there too.
import { execFileSync } from "node:child_process";
import { createHash } from "node:crypto";
import { copyFileSync, existsSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { basename, join } from "node:path";
import { afterEach, beforeEach, describe, expect, test } from "@jest/globals";
import { makeKit } from "../../core/placing/kit.ts";
import { computerHost, computerPlace } from "../../server/hosts/computer.ts";
import type { Host } from "../../server/hosts/host.ts";
import { pdffonts } from "./chromium.ts";

const builtIn = join(process.cwd(), "build", "demo", "built-in");
const wren = join(builtIn, "WrenSmall-Regular.ttf");
const ivy = join(builtIn, "IvyLean-Italic.ttf");

let home: string;
let env: NodeJS.ProcessEnv;
let host: Host;
beforeEach(() => {
  home = mkdtempSync(join(tmpdir(), "buvano-computer-"));
  const { PATH } = process.env;
  env = { NODE_ENV: "test", PATH, HOME: home };
  host = computerHost(computerPlace("linux", env, home, join(home, "data"), async (command, args) => run(command, args)));
});
afterEach(() => rmSync(home, { recursive: true, force: true }));

const run = (command: string, args: readonly string[]): string => execFileSync(command, [...args], { env, encoding: "utf8" });
const folder = (): string => join(home, ".local", "share", "fonts");
/** Files of the private home that fontconfig lists, with the names it gives them. */
const listed = (): string[] =>
  run("fc-list", ["--format", "%{file}|%{family}|%{style}\n"])
    .split("\n")
    .filter((line) => line.startsWith(home))
    .map((line) => line.slice(folder().length + 1))
    .sort();
const matched = (family: string): string => run("fc-match", ["--format", "%{file}", family]);
async function place(...fonts: string[]): Promise<void> {
  for (const font of fonts) await host.place("me", basename(font), readFileSync(font));
  await host.settle();
}
const mine = async () => (await host.observe()).filter((font) => font.folder === "me");

describe("this computer", () => {
  test("lists what is placed, under its names, and nothing of it after it is taken off", async () => {
    await place(wren, ivy);
    expect(listed()).toEqual(["IvyLean-Italic.ttf|Ivy Lean|Italic", "WrenSmall-Regular.ttf|Wren Small|Regular"]);
    expect(matched("Wren Small")).toBe(join(folder(), "WrenSmall-Regular.ttf"));
    expect((await mine()).map(({ fileName, on, visible }) => [fileName, on, visible])).toEqual([
      ["IvyLean-Italic.ttf", true, true],
      ["WrenSmall-Regular.ttf", true, true],
    ]);
    await host.remove("me", "WrenSmall-Regular.ttf");
    await host.settle();
    expect(listed()).toEqual(["IvyLean-Italic.ttf|Ivy Lean|Italic"]);
    expect(matched("Wren Small")).not.toContain("Wren");
  });
  test("switched off, a font stays in its place and no program is offered it; switched on, it is back", async () => {
    await place(wren, ivy);
    await host.setOn("me", "WrenSmall-Regular.ttf", false);
    await host.settle();
    expect(listed()).toEqual(["IvyLean-Italic.ttf|Ivy Lean|Italic"]);
    expect(existsSync(join(folder(), "WrenSmall-Regular.ttf"))).toBe(true);
    expect((await mine()).map(({ on, visible }) => [on, visible])).toEqual([
      [true, true],
      [false, false],
    ]);
    await host.setOn("me", "WrenSmall-Regular.ttf", true);
    await host.settle();
    expect(listed()).toHaveLength(2);
    // Nothing of Buvano's own is left in the user's configuration.
    expect(readdirSync(join(home, ".config", "fontconfig", "conf.d"))).toEqual([]);
  });
  test("a name with marks that mean something in a rule switches that file off and no other", async () => {
    for (const name of ["a[1]*.ttf", "a1x.ttf", "b&<c>.ttf"]) {
      mkdirSync(folder(), { recursive: true });
      copyFileSync(wren, join(folder(), name));
    }
    await host.settle();
    await host.setOn("me", "a[1]*.ttf", false);
    await host.setOn("me", "b&<c>.ttf", false);
    expect(listed()).toEqual(["a1x.ttf|Wren Small|Regular"]);
  });
  test("a browser under that home embeds it while it is there, and another font once it is gone", async () => {
    const print = (): string[] => {
      const page = join(home, "page.html");
      const pdf = join(home, "page.pdf");
      writeFileSync(page, `<!doctype html><meta charset="utf-8"><p style="font: 32px 'Wren Small'">Wild fennel</p>`);
      const flags = [
        "--headless",
        "--no-sandbox",
        "--disable-gpu",
        "--disable-background-networking",
        "--disable-component-update",
        "--disable-sync",
      ];
      const target = [`--user-data-dir=${home}/profile`, "--no-pdf-header-footer", `--print-to-pdf=${pdf}`, `file://${page}`];
      execFileSync("/usr/bin/chromium", [...flags, ...target], { env, stdio: "ignore", timeout: 60_000 });
      return pdffonts(pdf).map((font) => font.name);
    };
    await place(wren);
    expect(print()).toEqual(["WrenSmall-Regular"]);
    await host.remove("me", "WrenSmall-Regular.ttf");
    await host.settle();
    const after = print();
    expect(after).toHaveLength(1);
    expect(after).not.toContain("WrenSmall-Regular");
  }, 120_000);
  test("nothing half-written is ever listed, and what a kill left is swept", async () => {
    await place(wren);
    writeFileSync(join(folder(), ".buvano-1.part"), readFileSync(ivy));
    execFileSync("touch", ["-d", "2020-01-01", join(folder(), ".buvano-1.part")]);
    run("fc-cache", [folder()]);
    expect(listed()).toHaveLength(1);
    expect(await mine()).toHaveLength(1);
    expect(readdirSync(folder())).toEqual(["WrenSmall-Regular.ttf"]);
  });
  test("a file name cannot lead out of the folder", async () => {
    await expect(host.place("me", "../x.ttf", readFileSync(wren)).then(() => "placed")).rejects.toThrow("Outside");
  });
});

describe("a kit's scripts", () => {
  const digest = (bytes: Uint8Array): string => createHash("sha256").update(bytes).digest("hex");
  const fonts = [wren, ivy].map((path) => {
    const bytes = readFileSync(path);
    const [family = "", style = ""] = basename(path, ".ttf").split("-");
    const menu = { id: path, family, style, legacyFamily: family, legacyStyle: style, fullName: `${family} ${style}` };
    const more = { postScriptName: "", container: "sfnt", otherNames: [], instances: [], variable: false, latin: true };
    const kind = { outlines: "ttf" as const, symbols: false, colour: false, refusedByBrowsers: "" };
    return { fileName: basename(path), sha256: digest(bytes), path, menus: [{ ...menu, ...more, ...kind }] };
  });
  function unpackKit(): string {
    const kit = join(home, "kit of fonts");
    for (const [path, piece] of makeKit({ title: "Fonts", day: "2026-03-01", fonts, papers: [], profiles: [], left: [] })) {
      mkdirSync(join(kit, path, ".."), { recursive: true });
      if ("text" in piece) writeFileSync(join(kit, path), piece.text);
      else copyFileSync(fonts.find((font) => font.sha256 === piece.sha256)!.path, join(kit, path));
    }
    return kit;
  }
  test("install and remove exactly its fonts, say the counts, and leave everything else alone", () => {
    const kit = unpackKit();
    mkdirSync(folder(), { recursive: true });
    copyFileSync(ivy, join(folder(), "WrenSmall-Regular.ttf"));
    const said = run("sh", [join(kit, "install.sh")]);
    expect(said).toContain("WrenSmall-Regular.ttf: another file of this name is there; it was left alone.");
    expect(said).toContain("1 fonts before, now 2. 0 were there already, 1 left alone.");
    expect(listed()).toHaveLength(2);
    expect(run("sh", [join(kit, "install.sh")])).toContain("2 fonts before, now 2. 1 were there already, 1 left alone.");
    expect(run("sh", [join(kit, "remove.sh")])).toContain("1 fonts taken off.");
    expect(readdirSync(folder())).toEqual(["WrenSmall-Regular.ttf"]);
    expect(digest(readFileSync(join(folder(), "WrenSmall-Regular.ttf")))).toBe(digest(readFileSync(ivy)));
  });
  test("refuse a damaged kit and change nothing", () => {
    const kit = unpackKit();
    writeFileSync(join(kit, "Fonts", "IvyLean-Italic.ttf"), "cut off");
    expect(() => execFileSync("sh", [join(kit, "install.sh")], { env, stdio: "pipe" })).toThrow("damaged or missing");
    expect(existsSync(folder())).toBe(false);
  });
  test("are plain shell to another shell's own reader too", () => {
    const kit = unpackKit();
    for (const name of ["install.sh", "remove.sh"]) execFileSync("bash", ["-n", join(kit, name)], { env });
  });
});
