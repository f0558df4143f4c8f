// Programs that are really there, with only the fonts a private HOME holds: Chromium prints pages to PDF; others are run from the command line.
import { copyFileSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { execFileSync } from "node:child_process";
import { tmpdir } from "node:os";
import { basename, join } from "node:path";
import { Builder, type WebDriver } from "selenium-webdriver";
import { Options, ServiceBuilder } from "selenium-webdriver/chrome.js";

/** A home with some fonts in its font folder and one stand-in; the machine's other fonts must not help. */
export interface Home {
  path: string;
  env: NodeJS.ProcessEnv;
  done: () => void;
}
export function makeHome(fonts: readonly string[], standIn = "/usr/share/fonts/truetype/dejavu/DejaVuSans.ttf"): Home {
  const path = mkdtempSync(join(tmpdir(), "buvano-home-"));
  const [folder, others] = [join(path, ".local", "share", "fonts"), join(path, "others")];
  for (const dir of [folder, others]) mkdirSync(dir, { recursive: true });
  for (const font of fonts) copyFileSync(font, join(folder, basename(font)));
  copyFileSync(standIn, join(others, basename(standIn)));
  const config = join(path, "fonts.conf");
  const dirs = [folder, others].map((dir) => `<dir>${dir}</dir>`).join("");
  writeFileSync(
    config,
    `<?xml version="1.0"?><!DOCTYPE fontconfig SYSTEM "fonts.dtd"><fontconfig>${dirs}<cachedir>${path}/cache</cachedir></fontconfig>`,
  );
  const env = { ...process.env, HOME: path, XDG_DATA_HOME: join(path, ".local", "share"), FONTCONFIG_FILE: config };
  return { path, env, done: () => rmSync(path, { recursive: true, force: true }) };
}

/** Chromium with the fonts of a home. Pages are made of one paragraph, set by `css`. */
export class Printer {
  private readonly driver: WebDriver;
  private readonly page: string;
  private constructor(driver: WebDriver, page: string) {
    this.driver = driver;
    this.page = page;
  }
  static async start(home: Home): Promise<Printer> {
    const options = new Options();
    options.setChromeBinaryPath("/usr/bin/chromium");
    const flags = ["headless", "no-sandbox", "disable-gpu", "disable-background-networking", "disable-component-update", "disable-sync"];
    options.addArguments(...flags, `user-data-dir=${join(home.path, "profile")}`);
    const service = new ServiceBuilder("/usr/bin/chromedriver").setEnvironment(home.env as Record<string, string>);
    const driver = await new Builder().forBrowser("chrome").setChromeOptions(options).setChromeService(service).build();
    return new Printer(driver, join(home.path, "page.html"));
  }
  private async open(words: string, css: string): Promise<void> {
    writeFileSync(this.page, `<!doctype html><meta charset="utf-8"><body style="background:white"><p style="${css}">${words}</p>`);
    await this.driver.get(`file://${this.page}`);
  }
  async print(words: string, css: string): Promise<Uint8Array> {
    await this.open(words, css);
    const driver = this.driver as unknown as { printPage(options: object): Promise<string> };
    return new Uint8Array(Buffer.from(await driver.printPage({}), "base64"));
  }
  /** A picture of the page as it is on the screen, PNG. */
  async shot(words: string, css: string): Promise<Uint8Array> {
    await this.open(words, css);
    return new Uint8Array(Buffer.from(await this.driver.takeScreenshot(), "base64"));
  }
  async quit(): Promise<void> {
    await this.driver.quit();
  }
}

/** Font names as pdffonts of poppler-utils gives them, without subset tags. */
export function pdffonts(pdf: string): { name: string; embedded: boolean }[] {
  const lines = execFileSync("pdffonts", [pdf], { encoding: "utf8" }).trim().split("\n").slice(2);
  return lines.map((line) => {
    const [name = ""] = line.split(/\s+/);
    const [embedded] = line.slice(-28).match(/yes|no/) ?? [];
    return { name: name.replace(/^[A-Z]{6}\+/, ""), embedded: embedded === "yes" };
  });
}

/** Takes a picture of a page on disk, of the size given; its profile lies in `dir`. */
export function pictureOf(page: string, dir: string, width: number, height: number): Buffer {
  const shot = join(dir, "page.png");
  const flags = ["headless", "no-sandbox", "disable-gpu", "disable-background-networking", "disable-component-update", "disable-sync"];
  const more = ["allow-file-access-from-files", "hide-scrollbars", `user-data-dir=${join(dir, "profile")}`, "virtual-time-budget=4000"];
  const args = [...flags, ...more, `window-size=${width},${height}`, `screenshot=${shot}`].map((flag) => `--${flag}`);
  execFileSync("/usr/bin/chromium", [...args, `file://${page}`], { stdio: "ignore", timeout: 90_000 });
  return readFileSync(shot);
}
