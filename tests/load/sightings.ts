// The board at size, and evidence of many pages.
import { execFileSync } from "node:child_process";
import { readFileSync } from "node:fs";
import { PDFDocument, StandardFonts } from "pdf-lib";
import { readPicture } from "../../core/evidence/image.ts";
import { drawPdf } from "../../core/evidence/drawing/document.ts";
import { judgePicture } from "../../core/evidence/picture.ts";
import { inspectFont } from "../../core/inspect.ts";
import { linesOf, Menu, orderOf, type MenuFont } from "../../core/menu/menu.ts";
import type { MenuTraits } from "../../core/menu/traits.ts";
import { cellState } from "../../core/menu/state.ts";
import { USUAL_TRAITS } from "../../contract/programs.ts";
import { briefOf, menuFont } from "../../core/family/brief.ts";
import { FORTY } from "../reference/forty.ts";
import { corpusFonts } from "./corpus.ts";

const FAMILIES = 100;
const PROGRAMS = 30;
const PAGES = 300;
const RUNS = 7;

/** Every cell's state, place, neighbours and shortest text, for programs of every kind over all fonts of the corpus. */
function board(fonts: readonly MenuFont[]): number {
  const kinds = Object.values(USUAL_TRAITS);
  const programs = Array.from({ length: PROGRAMS }, (_, i): MenuTraits => kinds[i % kinds.length]!);
  const shown = [...new Map(fonts.map((font) => [font.family, font])).values()].slice(0, FAMILIES);
  const start = performance.now();
  const order = orderOf(programs.flatMap((traits) => fonts.flatMap((font) => linesOf(font, traits).map((line) => line.label))));
  let placed = 0;
  for (const [i, traits] of programs.entries()) {
    const menu = new Menu(fonts, traits, order);
    for (const font of shown) {
      const place = menu.place(font);
      const { state } = cellState({
        program: "A",
        device: "B",
        readsWhen: "start",
        elsewhere: 0,
        sighting: undefined,
        openedAt: i,
        readable: [{ on: true, visible: true, since: 10 }],
      });
      if (place && state) placed++;
    }
  }
  const took = performance.now() - start;
  if (placed < (FAMILIES * PROGRAMS) / 2) throw new Error(`Only ${placed} cells have a place.`);
  return took;
}

async function longPdf(): Promise<Uint8Array> {
  const document = await PDFDocument.create();
  const fonts = [await document.embedFont(StandardFonts.Helvetica), await document.embedFont(StandardFonts.TimesRoman)];
  for (let i = 0; i < PAGES; i++) document.addPage().drawText(`Page ${i + 1}`, { x: 50, y: 700, font: fonts[i % 2]! });
  return document.save();
}

/** Screens of forty fonts, each told among the forty, decoding included. */
function pictures(print: (line: string) => void): void {
  const words = "Wild fennel 4.50";
  const candidates = FORTY.map((path) => ({ id: path, name: path, face: 0, bytes: new Uint8Array(readFileSync(path)) }));
  const times: number[] = [];
  let right = 0;
  for (const { id } of candidates) {
    const screen = execFileSync("hb-view", ["--output-format=png", "--font-size=72", "--margin=60", id, words]);
    const start = performance.now();
    const read = readPicture(screen);
    const judged = read.ok && judgePicture(read.value.light, read.value.width, read.value.height, words, candidates);
    times.push(performance.now() - start);
    if (judged && judged.ok && judged.value.shown?.id === id) right++;
  }
  const [first = 0] = times;
  print(
    `a screen told among ${candidates.length} fonts: ${(times.reduce((a, b) => a + b) / times.length).toFixed(0)} ms, ${Math.max(...times).toFixed(0)} ms at most, ${first.toFixed(0)} ms the first time; ${right} of ${times.length} right`,
  );
}

export async function benchSightings(print: (line: string) => void): Promise<void> {
  const fonts = corpusFonts().flatMap((path): MenuFont[] => {
    const result = inspectFont(readFileSync(path), "font");
    return result.ok ? result.value.map((record) => menuFont(briefOf(record), path, record.face)) : [];
  });
  const times = Array.from({ length: RUNS }, () => board(fonts));
  print(`board of ${FAMILIES} families × ${PROGRAMS} programs over ${fonts.length} fonts: ${Math.min(...times).toFixed(0)} ms`);
  pictures(print);
  const pdf = await longPdf();
  const start = performance.now();
  const read = await drawPdf(pdf);
  if (!read.ok || read.value.pages !== PAGES) throw new Error("The PDF was not read.");
  print(`PDF of ${PAGES} pages read: ${(performance.now() - start).toFixed(0)} ms`);
}
