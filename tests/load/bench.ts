// `npm run bench`: figures as ratios against the named tools, measured in one run on the same files; `npm run bench PART` prints one alone.
import { execFileSync } from "node:child_process";
import { join } from "node:path";
import { fileURLToPath, URL } from "node:url";
import { benchArrival } from "./arrival.ts";
import { benchBringing } from "./bringing.ts";
import { benchBrowsers } from "./browsers.ts";
import { corpusFonts, corpusZips } from "./corpus.ts";
import { benchDevices } from "./devices.ts";
import { realDownloads } from "./downloads.ts";
import { benchFirstScreen } from "./first-screen.ts";
import { benchLibrary } from "./library.ts";
import { benchLoop } from "./loop.ts";
import { benchBoardScrolling, benchScrolling } from "./scrolling.ts";
import { benchSightings } from "./sightings.ts";
import { benchTouch } from "./touch.ts";

const here = fileURLToPath(new URL(".", import.meta.url));
const print = (line: string) => process.stdout.write(`${line}\n`);
const downloads = join(here, "..", "bench-downloads");
const corpus = join(here, "..", "bench-corpus");

/** Lays compressed copies beside built files, as the build does. */
const compress = (folder: string): void =>
  void execFileSync(process.execPath, [
    "-e",
    `import("${join(here, "..", "..", "scripts", "build.mjs")}").then((b) => b.compressUnder(${JSON.stringify(folder)}))`,
  ]);

const parts: Record<string, () => Promise<unknown>> = {
  bringing: () => benchBringing(here, downloads, print),
  library: () => benchLibrary(here, print),
  hands: async () => (await import("./hands.ts")).benchHands(here, print),
  loop: () => {
    const { zips, fonts } = realDownloads(downloads);
    return benchLoop(here, zips, fonts, print);
  },
  browsers: async () => benchBrowsers(realDownloads(downloads).fonts, print),
  touch: () => benchTouch(here, print),
  "first-screen": () => benchFirstScreen(here, compress, print),
  arrival: () =>
    benchArrival(
      here,
      corpusZips(corpus),
      corpusFonts().find((path) => path.endsWith(".ttf"))!,
      print,
    ),
  sightings: async () => {
    await benchSightings(print);
    await benchBoardScrolling(here, print);
  },
  devices: () => benchDevices(here, print),
  scrolling: () => benchScrolling(here, print),
  words: async () => (await import("./words.ts")).benchWords(here, print),
  match: async () => (await import("./matching.ts")).benchMatching(downloads, print),
  cuts: async () => (await import("./cuts.ts")).benchCuts(realDownloads(downloads).fonts, print),
  papers: async () => (await import("./papers.ts")).benchPapers(join(here, "..", "corpus", "papers"), print),
  pictures: async () => (await import("./pictures.ts")).benchPictures(print),
};
const named = process.argv.slice(2).filter((word) => word in parts);
for (const name of named.length > 0 ? named : Object.keys(parts)) await parts[name]!();
process.exit(0);
