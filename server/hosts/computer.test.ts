// The two desktop families without fontconfig: what they do to files, and which commands they give to a runner that is handed in.
import { mkdtempSync, readdirSync, readFileSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterEach, beforeEach, describe, expect, test } from "@jest/globals";
import { computerHost, computerPlace, type Runner } from "./computer.ts";
import type { Host } from "./host.ts";

const bytes = new TextEncoder().encode("font");
let home: string;
let ran: string[];
beforeEach(() => {
  home = mkdtempSync(join(tmpdir(), "buvano-host-"));
  ran = [];
});
afterEach(() => rmSync(home, { recursive: true }));

function make(platform: NodeJS.Platform, answers: Runner = async () => "", env = {}): { host: Host; fonts: string } {
  const place = computerPlace(platform, env, home, join(home, "data"), async (command, args) => {
    ran.push([command, ...args].join(" "));
    return answers(command, args);
  });
  return { host: computerHost(place), fonts: place.fonts };
}
const seen = async (host: Host) => (await host.observe()).map(({ fileName, on, visible }) => [fileName, on, visible]);

describe("a system that watches the user folder", () => {
  test("runs no command; a font that is off waits elsewhere and can be removed there", async () => {
    const { host, fonts } = make("darwin");
    expect(await seen(host)).toEqual([]);
    await host.place("me", "a.ttf", bytes);
    await host.place("me", "b.otf", bytes);
    await host.setOn("me", "a.ttf", false);
    expect(readdirSync(fonts)).toEqual(["b.otf"]);
    expect(await seen(host)).toEqual([
      ["b.otf", true, true],
      ["a.ttf", false, false],
    ]);
    await host.setOn("me", "a.ttf", true);
    expect(await seen(host)).toHaveLength(2);
    await host.setOn("me", "b.otf", false);
    await host.remove("me", "b.otf");
    await host.settle();
    expect([await seen(host), ran]).toEqual([[["a.ttf", true, true]], []]);
    await expect(host.remove("me", "never.ttf")).rejects.toMatchObject({ code: "ENOENT" });
  });
});

describe("a system where fonts are registered", () => {
  test("registers what is placed, unregisters what is off or removed, and knows which is which", async () => {
    const registered = new Set<string>();
    const { host, fonts } = make("win32", async (_command, [what, , , name = ""]) => {
      if (what === "add") registered.add(name);
      if (what === "delete") registered.delete(name);
      return [...registered].map((one) => `    ${one}    REG_SZ    x`).join("\r\n");
    });
    await host.place("me", "Furrow-Bold.ttf", bytes);
    expect(ran[0]).toMatch(/^reg add HKCU\\.*\\Fonts \/v Furrow-Bold \(TrueType\) \/t REG_SZ \/d .*Furrow-Bold\.ttf \/f$/);
    expect(await seen(host)).toEqual([["Furrow-Bold.ttf", true, true]]);
    await host.setOn("me", "Furrow-Bold.ttf", false);
    expect(ran.at(-1)).toMatch(/^reg delete HKCU\\.*\\Fonts \/v Furrow-Bold \(TrueType\) \/f$/);
    expect([await seen(host), readdirSync(fonts)]).toEqual([[["Furrow-Bold.ttf", false, false]], ["Furrow-Bold.ttf"]]);
    await host.setOn("me", "Furrow-Bold.ttf", true);
    await host.remove("me", "Furrow-Bold.ttf");
    expect([registered.size, readdirSync(fonts)]).toEqual([0, []]);
  });
});

describe("a system with fontconfig", () => {
  test("goes by its own folders when they are named (XDG base directory specification)", () => {
    const place = computerPlace("linux", { XDG_DATA_HOME: "/d", XDG_CONFIG_HOME: "/c" }, home, "/data", async () => "");
    expect([place.fonts, place.rules]).toEqual(["/d/fonts", "/c/fontconfig/conf.d"]);
  });
  test("a font that is there and that fontconfig does not list is not visible", async () => {
    const { host, fonts } = make("linux", async (command) => (command === "fc-list" ? "/usr/share/fonts/none.ttf\n" : ""));
    await host.place("me", "a.ttf", bytes);
    await host.settle();
    expect(await seen(host)).toEqual([["a.ttf", true, false]]);
    expect(ran[0]).toBe(`fc-cache ${fonts}`);
    await host.setOn("me", "a.ttf", false);
    expect(readFileSync(join(home, ".config", "fontconfig", "conf.d", "60-buvano-off.conf"), "utf8")).toContain(
      `<string>${fonts}/a.ttf</string>`,
    );
    await host.place("me", "a.ttf", bytes);
    expect(await seen(host)).toEqual([["a.ttf", true, false]]);
  });
  test("says how much room there is, before its folder even exists", async () => {
    expect(await make("linux").host.freeBytes()).toBeGreaterThan(0);
  });
});
