// SVG to PNG, by a renderer of other hands.
import { readFile } from "node:fs/promises";
import { createRequire } from "node:module";
import { initWasm, Resvg } from "@resvg/resvg-wasm";

let ready: Promise<void> | undefined;
/** Pixels no picture exceeds. */
const MOST_PIXELS = 60_000_000;

/** `dpi` for sizes in millimetres; less where the picture would be too large. Resolves to the file's bytes. */
export async function svgToPng(svg: string, dpi: number): Promise<Uint8Array> {
  ready ??= readFile(createRequire(import.meta.url).resolve("@resvg/resvg-wasm/index_bg.wasm")).then((bytes) => initWasm(bytes));
  await ready;
  // Millimetres become pixels at 96 dpi; the rest is zoom.
  const natural = new Resvg(svg, { font: { loadSystemFonts: false } });
  const pixels = natural.width * natural.height * (dpi / 96) ** 2;
  const zoom = (dpi / 96) * Math.min(1, Math.sqrt(MOST_PIXELS / Math.max(1, pixels)));
  const renderer = new Resvg(svg, { font: { loadSystemFonts: false }, fitTo: { mode: "zoom", value: zoom }, background: "#ffffff" });
  const image = renderer.render();
  const png = image.asPng();
  for (const one of [natural, renderer, image]) one.free();
  return png;
}
