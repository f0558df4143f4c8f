// Pictures as light: PNG and JPEG, decoded by well-known packages.
import jpeg from "jpeg-js";
import { PNG } from "pngjs";
import { fail, ok, type Result } from "../problem.ts";

export interface Light {
  width: number;
  height: number;
  /** 0 to 1, row by row from the top. */
  light: Float32Array;
}

const MOST_PIXELS = 40_000_000;
const MOST_MEMORY_MB = 512;
const AGAIN = "Take the picture again and save it as PNG or JPEG.";

/** Width and height as a PNG's header states them (W3C PNG, "IHDR"), before anything is unpacked. */
function pngPixels(bytes: Uint8Array): number {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  return bytes.length < 24 ? 0 : view.getUint32(16) * view.getUint32(20);
}

/** Decodes a picture. Problems: "picture-kind", "picture-damaged", "picture-large". */
export function readPicture(bytes: Uint8Array): Result<Light> {
  const png = bytes[0] === 0x89 && bytes[1] === 0x50;
  if (!png && !(bytes[0] === 0xff && bytes[1] === 0xd8)) return fail("picture-kind", "This is no PNG or JPEG picture.", AGAIN);
  if (png && pngPixels(bytes) > MOST_PIXELS) return fail("picture-large", "This picture is too large.", "Cut out the part with the words.");
  try {
    const { width, height, data } = png
      ? PNG.sync.read(Buffer.from(bytes))
      : jpeg.decode(bytes, { useTArray: true, maxResolutionInMP: MOST_PIXELS / 1e6, maxMemoryUsageInMB: MOST_MEMORY_MB });
    // Luma as of Rec. 601; what is transparent shows white paper.
    const light = Float32Array.from({ length: width * height }, (_, i) => {
      const [r, g, b, a] = [data[i * 4]!, data[i * 4 + 1]!, data[i * 4 + 2]!, data[i * 4 + 3]! / 255];
      return ((0.299 * r + 0.587 * g + 0.114 * b) / 255) * a + (1 - a);
    });
    return ok({ width, height, light });
  } catch {
    return fail("picture-damaged", "This picture is damaged and cannot be read.", AGAIN);
  }
}
