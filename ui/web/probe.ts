// Finds out whether this very device has a font: draws it by its installed name, and compares that with the shipped file's own drawing.
import type { MyStyle } from "../../contract/pairing.ts";
import type { Probed } from "../data/probed.ts";

const WIDTH_PX = 900;
const HEIGHT_PX = 120;
const SIZE_PX = 64;
/** Part of the inked pixels that may differ: the same outlines are rasterised alike, other fonts never come near. */
const ALIKE = 0.02;
const WORDS = "Hamburgefonstiv 0369 &?";

const quoted = (name: string): string => `"${name.replace(/["\\]/g, "\\$&")}"`;

function draw(family: string, style: MyStyle): Uint8ClampedArray {
  const canvas = document.createElement("canvas");
  canvas.width = WIDTH_PX;
  canvas.height = HEIGHT_PX;
  const context = canvas.getContext("2d", { willReadFrequently: true })!;
  context.fillStyle = "#fff";
  context.fillRect(0, 0, WIDTH_PX, HEIGHT_PX);
  context.fillStyle = "#000";
  context.direction = style.rightToLeft ? "rtl" : "ltr";
  context.textBaseline = "middle";
  context.font = `${SIZE_PX}px ${quoted(family)}`;
  context.fillText(style.sample || WORDS, style.rightToLeft ? WIDTH_PX - 10 : 10, HEIGHT_PX / 2, WIDTH_PX - 20);
  return context.getImageData(0, 0, WIDTH_PX, HEIGHT_PX).data;
}

/** Differing darkness as a part of all ink in both pictures. */
function difference(a: Uint8ClampedArray, b: Uint8ClampedArray): number {
  let [ink, differing] = [0, 0];
  for (let i = 0; i < a.length; i += 4) {
    ink += Math.max(255 - a[i]!, 255 - b[i]!);
    differing += Math.abs(a[i]! - b[i]!);
  }
  return ink === 0 ? 1 : differing / ink;
}

async function loaded(family: string, source: string): Promise<FontFace | undefined> {
  try {
    const face = await new FontFace(family, source, { display: "block" }).load();
    (document.fonts as unknown as Set<FontFace>).add(face);
    return face;
  } catch {
    return undefined;
  }
}

/**
 * "there" only when what the device draws by that name is what the file draws; "other" when it draws something else by that name; "unknown" when it
 * knows nothing by that name, or does not let a page know.
 */
export async function probeStyle(style: MyStyle): Promise<Probed> {
  const [ours, theirs] = [`probe-file-${style.sha256.slice(0, 12)}`, `probe-here-${style.sha256.slice(0, 12)}`];
  const names = [...new Set([style.name, style.postScriptName])].filter((name) => name !== "");
  const shipped = await loaded(ours, `url(/api/files/${style.sha256})`);
  if (!shipped) return "cannot-tell";
  const local = await loaded(theirs, names.map((name) => `local(${quoted(name)})`).join(", "));
  try {
    if (!local) return "unknown";
    return difference(draw(ours, style), draw(theirs, style)) <= ALIKE ? "there" : "other";
  } finally {
    const all = document.fonts as unknown as Set<FontFace>;
    all.delete(shipped);
    if (local) all.delete(local);
  }
}
