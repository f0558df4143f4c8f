// Pictures of fonts that have near relatives, by five renderers of other hands: Pillow, ImageMagick (both by FreeType), Cairo, librsvg and
// Chromium. Each is judged with the true font among the candidates, without it, and for another font that it stands in for. The limits
// of core/evidence/picture.ts were found with other words, on other fonts but for three of these forty (Lato Italic, Linux Libertine, Linux Biolinum Italic).
import { execFileSync } from "node:child_process";
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { basename, dirname, join } from "node:path";
import { PNG } from "pngjs";
import { readPicture } from "../../core/evidence/image.ts";
import { judgePicture, type Candidate } from "../../core/evidence/picture.ts";
import { corpusFonts } from "../load/corpus.ts";
import { inspectFont } from "../../core/inspect.ts";
import { makeHome, pictureOf } from "./chromium.ts";

const WORDS = "Garden path 27";
const SIZE = 72;
export const RENDERERS = ["pillow", "magick", "cairo", "rsvg", "chromium"] as const;
const folders = ["truetype/lato", "opentype/cabin", "truetype/dejavu", "opentype/ebgaramond", "opentype/linux-libertine"];
const all = corpusFonts()
  .filter((path) => folders.some((folder) => dirname(path) === join("/usr/share/fonts", folder)))
  // Strokes of a pixel have no inside to measure.
  .filter((path) => /\.(ttf|otf)$/.test(path) && !/Hairline|Thin|Initials|LinLibertine_(DR|RZ)|_K\.|Keyb/.test(path))
  .sort();
export const RELATIVES: readonly string[] = all.filter((_, i) => i % 4 !== 0).slice(0, 40);
const candidates = new Map<string, Candidate>(
  all.map((path) => [path, { id: path, name: basename(path), bytes: new Uint8Array(readFileSync(path)), face: 0 }]),
);
const record = (path: string) => {
  const inspected = inspectFont(readFileSync(path), "font");
  if (!inspected.ok) throw new Error(inspected.problem.message);
  return inspected.value[0]!;
};

/** Fonts of its folder, nearest by name first: its family. */
const kin = (font: string): string[] => {
  const shared = (other: string) => [...basename(other)].findIndex((one, i) => basename(font)[i] !== one);
  return all.filter((one) => one !== font && one.startsWith(font.slice(0, font.lastIndexOf("/")))).sort((a, b) => shared(b) - shared(a));
};

/** What was told of a picture. */
export interface Told {
  /** The true font is there; it is not; another font is wanted, and this one stands in for it. */
  kind: "there" | "absent" | "stands in";
  renderer: string;
  font: string;
  /** What it is said to show; undefined when it cannot be told. */
  shown: string | undefined;
  /** The best candidate, and how alike it is. */
  likest: string | undefined;
  score: number;
}

/** Draws these fonts by every renderer, then judges each of the pictures in three ways. */
export function judgeRelatives(fonts: readonly string[]): Told[] {
  const dir = mkdtempSync(join(tmpdir(), "buvano-relatives-"));
  try {
    drawAll(fonts, dir);
    return RENDERERS.flatMap((renderer) => fonts.flatMap((font, i) => judged(join(dir, `${i}-${renderer}.png`), font, renderer)));
  } finally {
    rmSync(dir, { recursive: true });
  }
}

function drawAll(fonts: readonly string[], dir: string): void {
  execFileSync("/usr/bin/python3", [join(process.cwd(), "tests/reference/draw_pictures.py"), dir, WORDS, String(SIZE), ...fonts]);
  for (const [i, font] of fonts.entries()) {
    const home = makeHome([font], font);
    const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="900" height="160"><rect width="900" height="160" fill="white"/><text x="30" y="100" style="font-family:'${record(font).family}';font-size:${SIZE}px;font-weight:${record(font).weight};font-style:${record(font).italic ? "italic" : "normal"}">${WORDS}</text></svg>`;
    writeFileSync(join(home.path, "a.svg"), svg);
    execFileSync("rsvg-convert", ["-o", join(dir, `${i}-rsvg.png`), join(home.path, "a.svg")], { env: home.env });
    home.done();
  }
  const HIGH = 160;
  const faces = fonts.map((font, i) => `@font-face{font-family:F${i};src:url(file://${font})}`).join("");
  const lines = fonts.map(
    (_, i) => `<div style="position:absolute;left:30px;top:${i * HIGH}px;font:${SIZE}px/${HIGH}px F${i};white-space:nowrap">${WORDS}</div>`,
  );
  const page = join(dir, "page.html");
  writeFileSync(page, `<!doctype html><meta charset="utf-8"><style>body{margin:0;background:#fff}${faces}</style>${lines.join("")}`);
  const whole = PNG.sync.read(pictureOf(page, dir, 900, fonts.length * HIGH));
  for (const i of fonts.keys()) {
    const part = new PNG({ width: whole.width, height: HIGH });
    PNG.bitblt(whole, part, 0, i * HIGH, whole.width, HIGH, 0, 0);
    writeFileSync(join(dir, `${i}-chromium.png`), PNG.sync.write(part));
  }
}

function judged(path: string, font: string, renderer: string): Told[] {
  const read = readPicture(readFileSync(path));
  if (!read.ok) throw new Error(read.problem.message);
  const { light, width, height } = read.value;
  const told = (kind: Told["kind"], among: readonly string[]): Told => {
    const judgement = judgePicture(
      light,
      width,
      height,
      WORDS,
      among.map((one) => candidates.get(one)!),
    );
    const [best] = judgement.ok ? judgement.value.scores : [];
    const shown = judgement.ok ? judgement.value.shown?.id : undefined;
    return { kind, renderer, font, shown, likest: best?.id, score: best?.score ?? 0 };
  };
  const i = RELATIVES.indexOf(font);
  const relatives = kin(font).slice(0, 6);
  const others = all.filter((_, k) => k % 12 === i % 12).filter((one) => one !== font && !relatives.includes(one));
  return [told("there", [font, ...relatives, ...others]), told("absent", [...relatives, ...others]), told("stands in", [...others, font])];
}

/** Whether what was told is so: of a font that is not there nothing can be told. */
export const isRight = ({ kind, shown, font }: Told): boolean => (kind === "absent" ? shown === undefined : shown === font);
export const isWrong = ({ kind, shown, font }: Told): boolean => shown !== undefined && (kind === "absent" || shown !== font);
