// Pictures as light: PNG, JPEG and WebP, decoded by well-known packages once their headers were held against what may be decoded.
import { inflateSync } from "node:zlib";
import { imageSize } from "image-size";
import jpeg from "jpeg-js";
import { PNG } from "pngjs";
import { fail, ok, type Result } from "../problem.ts";
import { isWebp, type WebpDecoder } from "./webp.ts";

export interface Light {
  width: number;
  height: number;
  /** 0 to 1, row by row from the top. */
  light: Float32Array;
}

/** Photos of most telephones have 12 million; beyond that every further one costs and tells nothing. */
export const MOST_PIXELS = 16_000_000;
/** A side, in pixels: what a JPEG can have; rows cost by their number, however short they are. */
const MOST_SIDE = 65_535;
const MOST_MEMORY_MB = 220;
/** A progressive JPEG is drawn scan by scan; real ones have ten. */
const MOST_SCANS = 64;
const AGAIN = "Take the picture again and save it as PNG or JPEG.";

const tooLarge = () =>
  fail(
    "picture-large",
    `This picture is larger than ${MOST_PIXELS / 1e6} million pixels (limit “Picture”).`,
    "Cut out the part with the words, or save it smaller.",
  );
const tooLong = () =>
  fail(
    "picture-large",
    `This picture is longer than ${MOST_SIDE.toLocaleString("en")} pixels (limit “Side of a picture”).`,
    "Cut out the part with the words.",
  );
const damaged = () => fail("picture-damaged", "This picture is damaged and cannot be read.", AGAIN);

/** Samples a pixel has, by colour type (W3C PNG, "IHDR"). */
const SAMPLES: Record<number, number> = { 0: 1, 2: 3, 3: 1, 4: 2, 6: 4 };
/** The seven passes of an interlaced picture: first pixel and step, across and down (W3C PNG, "Interlacing"). */
const PASSES = [
  [0, 8, 0, 8],
  [4, 8, 0, 8],
  [0, 4, 4, 8],
  [2, 4, 0, 4],
  [0, 2, 2, 4],
  [1, 2, 0, 2],
  [0, 1, 1, 2],
] as const;

/** What is wrong with a PNG before it is decoded: its one header must fit what its data unpack to. */
function pngTrouble(bytes: Uint8Array): Result<never> | undefined {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  let header: { width: number; height: number; bits: number; interlaced: boolean } | undefined;
  const data: Uint8Array[] = [];
  for (let at = 8; at + 8 <= bytes.length;) {
    const length = view.getUint32(at);
    const type = new TextDecoder("latin1").decode(bytes.subarray(at + 4, at + 8));
    const body = bytes.subarray(at + 8, at + 8 + length);
    if (body.length < length || (type === "IHDR") !== (at === 8)) return damaged();
    if (type === "IHDR") {
      const samples = SAMPLES[body[9] ?? 255];
      if (length !== 13 || samples === undefined) return damaged();
      header = { width: view.getUint32(16), height: view.getUint32(20), bits: samples * body[8]!, interlaced: body[12] === 1 };
    }
    if (type === "IDAT") data.push(body);
    if (type === "IEND") break;
    at += 12 + length;
  }
  if (!header || data.length === 0) return damaged();
  const { width, height, bits, interlaced } = header;
  if (Math.max(width, height) > MOST_SIDE) return tooLong();
  if (width * height > MOST_PIXELS || (width * height * bits) / 8 > 8 * MOST_PIXELS) return tooLarge();
  const rows = (w: number, h: number) => (w === 0 ? 0 : h * (1 + Math.ceil((w * bits) / 8)));
  const steps = (size: number, first: number, step: number) => Math.max(0, Math.ceil((size - first) / step));
  const expected = interlaced
    ? PASSES.reduce((sum, [x, dx, y, dy]) => sum + rows(steps(width, x, dx), steps(height, y, dy)), 0)
    : rows(width, height);
  try {
    if (inflateSync(Buffer.concat(data), { maxOutputLength: expected + 1024 }).length < expected) return damaged();
  } catch {
    return damaged();
  }
  return undefined;
}

/** What is wrong with a JPEG before it is decoded: how often it is drawn over (ITU-T T.81, "SOS"). */
function jpegTrouble(bytes: Uint8Array): Result<never> | undefined {
  let scans = 0;
  for (let at = bytes.indexOf(0xff); at >= 0 && at + 1 < bytes.length; at = bytes.indexOf(0xff, at + 1))
    if (bytes[at + 1] === 0xda) scans++;
  return scans > MOST_SCANS ? damaged() : undefined;
}

/** What is wrong with a WebP before it is decoded. */
function webpTrouble(bytes: Uint8Array): Result<never> | undefined {
  try {
    const { width, height } = imageSize(bytes);
    return width * height > MOST_PIXELS ? tooLarge() : undefined;
  } catch {
    return damaged();
  }
}

/** How a camera was held (Exif 2.32, "Orientation"): 1 to 8; 1 when the picture does not say. */
function heldAs(bytes: Uint8Array): number {
  try {
    return imageSize(bytes).orientation ?? 1;
  } catch {
    return 1;
  }
}
/** Where the pixel at (x, y) of an upright picture lies in one of `width` by `height` that was taken so. */
const UPRIGHT: Record<number, (x: number, y: number, width: number, height: number) => [number, number]> = {
  2: (x, y, width) => [width - 1 - x, y],
  3: (x, y, width, height) => [width - 1 - x, height - 1 - y],
  4: (x, y, _width, height) => [x, height - 1 - y],
  5: (x, y) => [y, x],
  6: (x, y, _width, height) => [y, height - 1 - x],
  7: (x, y, width, height) => [width - 1 - y, height - 1 - x],
  8: (x, y, width) => [width - 1 - y, x],
};
function upright(picture: Light, held: number): Light {
  const from = UPRIGHT[held];
  if (!from) return picture;
  const lying = held >= 5;
  const [width, height] = lying ? [picture.height, picture.width] : [picture.width, picture.height];
  const light = new Float32Array(width * height);
  for (let y = 0, at = 0; y < height; y++) {
    for (let x = 0; x < width; x++, at++) {
      const [px, py] = from(x, y, picture.width, picture.height);
      light[at] = picture.light[py * picture.width + px]!;
    }
  }
  return { width, height, light };
}

/** Pictures that telephones save and nothing here can decode (ISO/IEC 23008-12, the brands of its file type box). */
const isHeic = (bytes: Uint8Array): boolean =>
  /^[^]{4}ftyp(hei|hev|mif1|msf1|avi)/.test(new TextDecoder("latin1").decode(bytes.subarray(0, 12)));

/** Pixels as red, green, blue and how opaque they are, 0 to 255 each, row by row from the top. */
export interface Colours {
  width: number;
  height: number;
  data: Uint8Array | Uint8ClampedArray;
}

/** Decodes a picture as it was taken, and says how the camera was held. */
function decodedPicture(bytes: Uint8Array, webp: WebpDecoder | undefined): Result<Colours & { held: number }> {
  const png = bytes[0] === 0x89 && bytes[1] === 0x50;
  const jpg = bytes[0] === 0xff && bytes[1] === 0xd8;
  if (isHeic(bytes))
    return fail(
      "picture-kind",
      "This is a HEIC or AVIF picture, which cannot be read here.",
      "Save it as JPEG or PNG, or take a screenshot of it.",
    );
  const decodeWebp = isWebp(bytes) ? webp : undefined;
  if (!png && !jpg && !decodeWebp) return fail("picture-kind", "This is no PNG, JPEG or WebP picture.", AGAIN);
  const trouble = png ? pngTrouble(bytes) : jpg ? jpegTrouble(bytes) : webpTrouble(bytes);
  if (trouble) return trouble;
  let decoded: Colours | undefined;
  try {
    decoded = png
      ? PNG.sync.read(Buffer.from(bytes))
      : jpg
        ? jpeg.decode(bytes, { useTArray: true, maxResolutionInMP: MOST_PIXELS / 1e6, maxMemoryUsageInMB: MOST_MEMORY_MB })
        : decodeWebp!(bytes);
  } catch (error) {
    return /maxResolutionInMP|maxMemoryUsageInMB/.test(String(error)) ? tooLarge() : damaged();
  }
  if (!decoded) return damaged();
  const { width, height, data } = decoded;
  return ok({ width, height, data, held: jpg ? heldAs(bytes) : 1 });
}

/** Decodes a picture, upright; of WebP, where its decoder is given. Problems: "picture-kind", "picture-damaged", "picture-large". */
export function readPicture(bytes: Uint8Array, webp?: WebpDecoder): Result<Light> {
  const decoded = decodedPicture(bytes, webp);
  if (!decoded.ok) return decoded;
  const { width, height, data, held } = decoded.value;
  const light = new Float32Array(width * height);
  // Luma as of Rec. 601; what is transparent shows white paper.
  for (let i = 0, at = 0; i < light.length; i++, at += 4) {
    const a = data[at + 3]! / 255;
    light[i] = ((0.299 * data[at]! + 0.587 * data[at + 1]! + 0.114 * data[at + 2]!) / 255) * a + (1 - a);
  }
  return ok(upright({ width, height, light }, held));
}

/** Decodes a picture in colour, upright, on white paper. Problems as of `readPicture`. */
export function readColours(bytes: Uint8Array, webp?: WebpDecoder): Result<Colours> {
  const decoded = decodedPicture(bytes, webp);
  if (!decoded.ok) return decoded;
  const { width, height, data, held } = decoded.value;
  for (let at = 0; at < data.length; at += 4) {
    const a = data[at + 3]! / 255;
    if (a === 1) continue;
    for (let c = 0; c < 3; c++) data[at + c] = Math.round(data[at + c]! * a + 255 * (1 - a));
    data[at + 3] = 255;
  }
  const from = UPRIGHT[held];
  if (!from) return ok({ width, height, data });
  const [w, h] = held >= 5 ? [height, width] : [width, height];
  const turned = new Uint8Array(data.length);
  for (let y = 0, at = 0; y < h; y++) {
    for (let x = 0; x < w; x++, at += 4) {
      const [px, py] = from(x, y, width, height);
      for (let c = 0; c < 4; c++) turned[at + c] = data[(py * width + px) * 4 + c]!;
    }
  }
  return ok({ width: w, height: h, data: turned });
}
