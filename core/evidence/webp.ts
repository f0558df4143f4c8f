// WebP pictures, by libwebp compiled for every machine.
import { readFile } from "node:fs/promises";
import { createRequire } from "node:module";
import makeDecoder from "@jsquash/webp/codec/dec/webp_dec.js";

interface Pixels {
  width: number;
  height: number;
  /** Red, green, blue and opacity of each, row by row from the top. */
  data: Uint8ClampedArray;
}
/** Decodes a picture; undefined when it is damaged. */
export type WebpDecoder = (bytes: Uint8Array) => Pixels | undefined;

/** "RIFF", a size, "WEBP" (RFC 9649, 2.3). */
export const isWebp = (bytes: Uint8Array): boolean =>
  bytes.length > 16 && /^RIFF[^]{4}WEBP/.test(new TextDecoder("latin1").decode(bytes.subarray(0, 12)));

/** What decoders hand pictures over as in browsers; elsewhere it is not there. */
class PlainPixels implements Pixels {
  readonly data: Uint8ClampedArray;
  readonly width: number;
  readonly height: number;
  constructor(data: Uint8ClampedArray, width: number, height: number) {
    this.data = data;
    this.width = width;
    this.height = height;
  }
}

let loading: Promise<WebpDecoder> | undefined;
/** The decoder, loaded when first wanted. */
export function loadWebp(): Promise<WebpDecoder> {
  loading ??= (async () => {
    (globalThis as { ImageData?: unknown }).ImageData ??= PlainPixels;
    const wasmBinary = await readFile(createRequire(import.meta.url).resolve("@jsquash/webp/codec/dec/webp_dec.wasm"));
    const module = await makeDecoder({ noInitialRun: true, wasmBinary: Uint8Array.from(wasmBinary).buffer });
    return (bytes) => module.decode(Uint8Array.from(bytes).buffer) ?? undefined;
  })();
  return loading;
}
