// The bench at real size: setting a line while typing, proofs, the first glyphs of a very large font, signs by word, the list of every style scrolled on a slow phone.
import { readFileSync } from "node:fs";
import { join } from "node:path";
import type { Driver } from "selenium-webdriver/chrome.js";
import { openDrawFace } from "../../core/bench/draw-face.ts";
import { drawLine } from "../../core/bench/drawing.ts";
import { makeProof, type AskedCandidate } from "../../core/bench/proof-of.ts";
import { inspectFont } from "../../core/inspect.ts";
import { PHONE } from "../e2e/browser.ts";
import { corpusFonts } from "./corpus.ts";
import { unpackedPackages } from "./downloads.ts";
import { p95 } from "./running.ts";
import { looking, scroll } from "./scrolling.ts";
import { fillShelf, giveFiles } from "./shelf.ts";

const middle = (values: readonly number[]): number => [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)]!;
const SIXTY = "Wild fennel, tall and yellow along the seed walk since spring";
const FONTS = [
  "opentype/ebgaramond/EBGaramond12-Regular.otf",
  "truetype/lato/Lato-Regular.ttf",
  "opentype/cabin/Cabin-Regular.otf",
  "truetype/dejavu/DejaVuSans.ttf",
]
  .map((path) => `/usr/share/fonts/${path}`)
  .filter((path) => {
    try {
      return readFileSync(path).length > 0;
    } catch {
      return false;
    }
  });

/** A line of sixty letters set and drawn anew after each letter that is typed. */
async function typing(print: (line: string) => void): Promise<void> {
  for (const path of FONTS.slice(0, 2)) {
    const face = openDrawFace(Uint8Array.from(readFileSync(path)), 0)!;
    const layer = { sha256: "", face: 0, features: { liga: 1 }, axes: {}, letters: "all" as const };
    const times: number[] = [];
    for (let round = 0; round < 5; round++)
      for (let length = 1; length <= SIXTY.length; length++) {
        const begun = performance.now();
        await drawLine(
          { text: SIXTY.slice(0, length), letterSpacing: 0, lineSpacing: 1000, direction: "auto", layers: [layer] },
          async () => face,
        );
        times.push(performance.now() - begun);
      }
    print(
      `a line typed to ${SIXTY.length} letters in ${path.split("/").at(-1)}: set and drawn in ${middle(times).toFixed(2)} ms, p95 ${p95(times).toFixed(2)} ms`,
    );
  }
}

async function proofs(print: (line: string) => void): Promise<void> {
  const candidates = FONTS.map((path, i): AskedCandidate => ({
    text: SIXTY,
    size: { of: "em", value: 36, unit: "pt" },
    letterSpacing: 0,
    lineSpacing: 1000,
    direction: "auto",
    captions: [path],
    layers: [
      { sha256: String(i), face: 0, features: {}, axes: {}, colour: "#1d1a16", dx: 0, dy: 0, letters: "all", made: { kind: "none" } },
    ],
  }));
  for (const kind of ["pdf", "png", "html"] as const) {
    const begun = performance.now();
    const file = await makeProof({ kind, paper: "a4", title: "Poster", ground: "#ffffff", candidates }, (sha256) => ({
      name: `Font${sha256}`,
      outlinesOnly: false,
      bytes: async () => Uint8Array.from(readFileSync(FONTS[Number(sha256)]!)),
    }));
    print(
      `proof of ${candidates.length} candidates as ${kind}: ${(performance.now() - begun).toFixed(0)} ms, ${Math.round(file.length / 1024)} kB`,
    );
  }
}

export async function benchWords(workerDir: string, print: (line: string) => void): Promise<void> {
  await typing(print);
  await proofs(print);
  const trees = unpackedPackages(join(workerDir, "..", "corpus", "papers"), ["fonts-unifont", "fonts-materialdesignicons-webfont"]);
  await looking(workerDir, undefined, PHONE, async ({ parts, services, address }, browser) => {
    const many = 20_000;
    const fonts = corpusFonts();
    fillShelf(parts, fonts, many);
    giveFiles(parts, fonts, many);
    await services.renewal.settle();

    const glyphsDrawn = () =>
      browser.waitUntil(
        "glyphs are drawn",
        async () =>
          ((await browser.driver.executeScript("return document.querySelectorAll('[data-testid=glyphs] svg path').length")) as number) > 6,
        60_000,
      );
    // A font of tens of thousands of glyphs, from the tap to the first drawn.
    const large = readFileSync(join(trees.get("fonts-unifont")!, "usr/share/fonts/opentype/unifont/unifont.otf"));
    const form = new FormData();
    form.append("file", new Blob([Uint8Array.from(large)]), "large.otf");
    const { id } = (await (await fetch(`${address}/api/parcels`, { method: "POST", body: form })).json()) as { id: number };
    await services.parcels.whenIdle();
    const shelved = await fetch(`${address}/api/parcels/${id}/shelve`, {
      method: "POST",
      headers: { "content-type": "application/json" },
      body: "{}",
    });
    const record = inspectFont(Uint8Array.from(large), "large");
    const { glyphs } = record.ok ? record.value[0]! : { glyphs: 0 };
    const { familyIds } = (await shelved.json()) as { familyIds: number[] };
    const styleId = parts.library.briefsOf(familyIds[0]!)[0]!.id;
    // As much as a tap can be told of by itself: the page is loaded anew, its code out of the browser's store.
    const opened = async (path: string): Promise<number> => {
      const begun = performance.now();
      await browser.open(`${address}${path}`);
      await glyphsDrawn();
      return performance.now() - begun;
    };
    await opened("/bench/glyphs/1");
    const [small, big] = [await opened("/bench/glyphs/1"), await opened(`/bench/glyphs/${styleId}`)];
    print(`the characters of a small font, page and all: ${small.toFixed(0)} ms; of one of ${glyphs} glyphs: ${big.toFixed(0)} ms`);

    // Signs by word, with the names of a thousand symbol fonts.
    const icons = JSON.parse(
      JSON.stringify(
        [
          ...readFileSync(
            join(
              trees.get("fonts-materialdesignicons-webfont")!,
              "usr/share/fonts-materialdesignicons-webfont/css/materialdesignicons.css",
            ),
            "utf8",
          ).matchAll(/\.mdi-([\w-]+):before\s*\{\s*content:\s*"\\([0-9A-F]+)"/gi),
        ].map(([, name, hex]) => ({ code: parseInt(hex!, 16), words: name!.replaceAll("-", " ") })),
      ),
    ) as { code: number; words: string }[];
    const faces = parts.db.prepare("SELECT sha256, face FROM styles ORDER BY id LIMIT 1000").all() as { sha256: string; face: number }[];
    parts.db.transaction(() => {
      const put = parts.db.prepare("INSERT INTO sign_words (words, sha256, face, code) VALUES (?, ?, ?, ?)");
      for (const { sha256, face } of faces) for (const { code, words } of icons) put.run(words, sha256, face, code);
    })();
    const times: number[] = [];
    for (const words of ["watering can", "flower", "arrow left", "umbrella", "ac", "home", "sun", "map marker", "scissors", "leaf"]) {
      const begun = performance.now();
      parts.bench.signsNamed(words.split(" "), 40);
      times.push(performance.now() - begun);
    }
    print(
      `signs by word among ${faces.length * icons.length} names of ${faces.length} styles: ${middle(times).toFixed(1)} ms, at most ${Math.max(...times).toFixed(1)} ms`,
    );
    await fetch(`${address}/api/library`).catch(() => {});
    const whole: number[] = [];
    for (const words of ["heart", "umbrella", "star", "hebrew alef", "water"]) {
      const begun = performance.now();
      // A connection that was kept may have been closed meanwhile.
      await fetch(`${address}/api/draws/signs?find=${words}`, { headers: { connection: "close" } }).then((response) => response.text());
      whole.push(performance.now() - begun);
    }
    print(
      `the whole question, with Unicode's names and the characters of ${many} styles: ${middle(whole).toFixed(0)} ms, the first time ${whole[0]!.toFixed(0)} ms`,
    );

    await (browser.driver as Driver).sendDevToolsCommand("Emulation.setCPUThrottlingRate", { rate: 4 });
    await browser.open(`${address}/bench/pick`);
    await browser.find("style-row");
    const high = (await browser.driver.executeScript(
      "return document.querySelector('[data-testid=style-row]').getBoundingClientRect().height",
    )) as number;
    for (const rows of [null, 30, 60, 90]) {
      await browser.driver.executeScript(
        `window.__drawn = 0; window.__seeing?.disconnect();
         window.__seeing = new MutationObserver((changes) => {
           for (const { addedNodes } of changes) for (const node of addedNodes) if (node.querySelector?.("path") || node.tagName === "path") window.__drawn++;
         });
         window.__seeing.observe(document.querySelector("[data-testid=pick]"), { childList: true, subtree: true });`,
      );
      const pace = rows === null ? "as by a thumb" : `${rows} rows a second`;
      await scroll(browser, `the list of every style (${many}), 4 times slower, ${pace}`, print, rows === null ? null : rows * (high + 8));
      const drawn = (await browser.driver.executeScript("return window.__drawn")) as number;
      print(`${drawn} words were drawn meanwhile, ${(drawn / 6).toFixed(0)} a second`);
    }
    await browser.open(`${address}/bench/glyphs/${styleId}`);
    await glyphsDrawn();
    await scroll(browser, `${glyphs} glyphs, 4 times slower`, print);
  });
}
