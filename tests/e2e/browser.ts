// A real browser at a phone's or a desk's size, driven by selenium-webdriver.
import { mkdtemp, rm, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { Builder, By, until, type WebDriver, type WebElement } from "selenium-webdriver";
import { Command, Name } from "selenium-webdriver/lib/command.js";
import { Options, ServiceBuilder } from "selenium-webdriver/chrome.js";

export const PHONE = { width: 390, height: 844 };
export const WIDE = { width: 1280, height: 800 };
/** How long a page may take for anything; only what fails waits so long. */
const WAIT_MS = 60_000;

export class Browser {
  readonly driver: WebDriver;
  readonly downloads: string;
  private readonly profile: string;
  private readonly size: { width: number; height: number };
  private constructor(driver: WebDriver, profile: string, downloads: string, size: { width: number; height: number }) {
    this.driver = driver;
    this.size = size;
    this.profile = profile;
    this.downloads = downloads;
  }

  /** Starts Chromium; `dark` prefers the dark scheme, `home` is the account whose fonts it sees. */
  static async start(size: { width: number; height: number }, dark = false, home?: string): Promise<Browser> {
    const profile = await mkdtemp(join(tmpdir(), "buvano-browser-"));
    const downloads = await mkdtemp(join(tmpdir(), "buvano-downloads-"));
    const options = new Options();
    options.setChromeBinaryPath("/usr/bin/chromium");
    const flags = [
      "headless",
      "no-sandbox",
      "disable-gpu",
      "disable-background-networking",
      "disable-component-update",
      "disable-sync",
      "no-first-run",
    ];
    options.addArguments(...flags, `user-data-dir=${profile}`, "force-prefers-reduced-motion", "hide-scrollbars");
    if (dark) options.addArguments("force-dark-mode");
    options.setUserPreferences({ "download.default_directory": downloads, "download.prompt_for_download": false });
    const service = new ServiceBuilder("/usr/bin/chromedriver");
    if (home !== undefined) {
      const { XDG_DATA_HOME: _data, XDG_CONFIG_HOME: _config, ...env } = process.env as Record<string, string>;
      service.setEnvironment({ ...env, HOME: home });
    }
    const driver = await new Builder().forBrowser("chrome").setChromeOptions(options).setChromeService(service).build();
    const browser = new Browser(driver, profile, downloads, size);
    await browser.resize(size);
    return browser;
  }

  /** A window cannot be as narrow as a phone, so the page's own size is set. */
  private async resize(size: { width: number; height: number }): Promise<void> {
    const devTools = this.driver as unknown as { sendDevToolsCommand(command: string, parameters: object): Promise<void> };
    await devTools.sendDevToolsCommand("Emulation.setDeviceMetricsOverride", { ...size, deviceScaleFactor: 1, mobile: false });
  }
  /** Does something while the page is so tall that all of it is in view. */
  async tall<T>(work: () => Promise<T>): Promise<T> {
    await this.resize({ width: this.size.width, height: 4000 });
    try {
      return await work();
    } finally {
      await this.resize(this.size);
    }
  }

  async quit(): Promise<void> {
    await this.driver.quit();
    await rm(this.profile, { recursive: true, force: true });
    await rm(this.downloads, { recursive: true, force: true });
  }

  open(url: string): Promise<void> {
    return this.driver.get(url);
  }
  /** The first visible element with a test id, waited for. */
  async find(testId: string): Promise<WebElement> {
    return this.located(By.css(`[data-testid="${testId}"]`), testId);
  }
  async text(words: string): Promise<WebElement> {
    // The innermost element that holds the words, however many pieces of text they are.
    const holds = `contains(normalize-space(.), ${JSON.stringify(words)})`;
    return this.located(By.xpath(`//body//*[${holds}][not(*[${holds}])][not(self::script)]`), words);
  }
  private async located(by: By, what: string): Promise<WebElement> {
    const end = Date.now() + WAIT_MS;
    for (;;) {
      for (const element of await this.driver.findElements(by)) {
        try {
          if (await element.isDisplayed()) return element;
        } catch {
          // It was replaced while being looked at; look again.
        }
      }
      if (Date.now() > end) throw new Error(`“${what}” did not appear. The page reads: ${await this.words()}`);
      await this.driver.sleep(50);
    }
  }
  all(testId: string): Promise<WebElement[]> {
    return this.driver.findElements(By.css(`[data-testid="${testId}"]`));
  }
  /** Clicks as a person would: scrolled into view, on what is on top. Looks again when the page replaced it meanwhile. */
  /** Chooses one device of the form of placing, and no other. */
  async onDevice(name: string): Promise<void> {
    await this.find(`device-${name}`);
    for (const box of await this.driver.findElements(By.css('[data-testid^="device-"][role="checkbox"]'))) {
      const [wanted, on] = [
        (await box.getAttribute("data-testid")) === `device-${name}`,
        (await box.getAttribute("aria-checked")) === "true",
      ];
      if (wanted !== on) await this.press(() => Promise.resolve(box));
    }
  }
  async click(testId: string): Promise<void> {
    await this.press(() => this.find(testId));
  }
  async clickText(words: string): Promise<void> {
    await this.press(() => this.text(words));
  }
  private async press(find: () => Promise<WebElement>): Promise<void> {
    const end = Date.now() + WAIT_MS;
    for (;;) {
      try {
        const element = await find();
        await this.driver.executeScript("arguments[0].scrollIntoView({block: 'center'})", element);
        await element.click();
        return;
      } catch (error) {
        const name = (error as Error).name;
        if (Date.now() > end || !/StaleElement|ClickIntercepted|NotInteractable/.test(name)) throw error;
        await this.driver.sleep(50);
      }
    }
  }
  /** Drags from one place of the window to another with a finger or the mouse (W3C WebDriver, "Pointer input source"). */
  async drag([ax, ay]: readonly [number, number], [bx, by]: readonly [number, number], pointerType: "touch" | "mouse"): Promise<void> {
    const move = (x: number, y: number, duration: number) => ({
      type: "pointerMove",
      x: Math.round(x),
      y: Math.round(y),
      duration,
      origin: "viewport",
    });
    const actions = [
      move(ax, ay, 0),
      { type: "pointerDown", button: 0 },
      move((ax + bx) / 2, (ay + by) / 2, 60),
      move(bx, by, 60),
      { type: "pointerUp", button: 0 },
    ];
    const pointer = { type: "pointer", id: `${pointerType} pointer`, parameters: { pointerType }, actions };
    await this.driver.execute(new Command(Name.ACTIONS).setParameter("actions", [pointer]));
    await this.driver.execute(new Command(Name.CLEAR_ACTIONS));
  }
  async type(testId: string, words: string): Promise<void> {
    const element = await this.find(testId);
    await element.sendKeys("\uE009a\uE000\uE017", words);
  }
  /** Types a day (YYYY-MM-DD) into the platform's picker as it is typed where months stand first. */
  async typeDay(testId: string, day: string): Promise<void> {
    const element = await this.find(testId);
    const [year = "", month = "", date = ""] = day.split("-");
    await this.driver.executeScript("arguments[0].blur()", element);
    await element.sendKeys(month, date, year);
  }
  /** The test id of what has the focus, or of what it lies in. */
  focused(): Promise<string> {
    return this.driver.executeScript("return document.activeElement?.closest('[data-testid]')?.dataset.testid ?? ''");
  }
  /** Chooses an entry of a list by its words. */
  async choose(testId: string, words: string): Promise<void> {
    const list = await this.find(testId);
    await list.findElement(By.xpath(`./option[normalize-space(.)=${JSON.stringify(words)}]`)).click();
  }
  /** Gives a file to the file input with a label, or the page's only one, as picking it would. */
  async give(path: string, label?: string): Promise<void> {
    const named = label === undefined ? "" : `[aria-label="${label}"]`;
    const inputs = await this.driver.wait(until.elementsLocated(By.css(`input[type="file"]${named}`)), WAIT_MS);
    await inputs[inputs.length - 1]!.sendKeys(path);
  }
  async waitUntil(what: string, test: () => Promise<boolean>, ms = WAIT_MS): Promise<void> {
    const end = Date.now() + ms;
    while (!(await test().catch(() => false))) {
      if (Date.now() > end) throw new Error(`It never came to: ${what}. The page reads: ${await this.words()}`);
      await this.driver.sleep(50);
    }
  }
  async words(): Promise<string> {
    return (await this.driver.executeScript("return document.body.innerText")) as string;
  }
  async shot(path: string): Promise<void> {
    // Fonts and pictures first, so that nothing is caught half-drawn.
    await this.driver.executeAsyncScript(
      "const done = arguments[0]; document.fonts.ready.then(() => requestAnimationFrame(() => setTimeout(done, 250)))",
    );
    await writeFile(path, Buffer.from(await this.driver.takeScreenshot(), "base64"));
  }
}
