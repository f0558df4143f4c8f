// Cuts a font down to the glyphs a document uses, through HarfBuzz's subsetter; glyph numbers stay the same.
import { readFile } from "node:fs/promises";
import { createRequire } from "node:module";

interface SubsetExports {
  memory: WebAssembly.Memory;
  _initialize?: () => void;
  malloc(size: number): number;
  free(pointer: number): void;
  hb_blob_create(data: number, length: number, mode: number, userData: number, destroy: number): number;
  hb_blob_destroy(blob: number): void;
  hb_blob_get_length(blob: number): number;
  hb_blob_get_data(blob: number, length: number): number;
  hb_face_create(blob: number, index: number): number;
  hb_face_destroy(face: number): void;
  hb_face_reference_blob(face: number): number;
  hb_set_add(set: number, value: number): void;
  hb_subset_input_create_or_fail(): number;
  hb_subset_input_destroy(input: number): void;
  hb_subset_input_glyph_set(input: number): number;
  hb_subset_input_set_flags(input: number, flags: number): void;
  hb_subset_input_pin_axis_location(input: number, face: number, tag: number, value: number): number;
  hb_subset_or_fail(face: number, input: number): number;
}

/** HB_MEMORY_MODE_WRITABLE and HB_SUBSET_FLAGS_RETAIN_GIDS (HarfBuzz API reference). */
const WRITABLE = 2;
const RETAIN_GIDS = 2;

let loading: Promise<SubsetExports> | undefined;
async function load(): Promise<SubsetExports> {
  const path = createRequire(import.meta.url)
    .resolve("harfbuzzjs")
    .replace(/index\.mjs$/, "harfbuzz-subset.wasm");
  const { instance } = await WebAssembly.instantiate(await readFile(path));
  const exports = instance.exports as unknown as SubsetExports;
  exports._initialize?.();
  return exports;
}

const tagNumber = (tag: string): number => [...tag].reduce((number, letter) => (number << 8) | letter.charCodeAt(0), 0) >>> 0;

/** A font file with only `glyphs` drawn; a variable font is fixed at `at`. Throws when the font cannot be cut. */
export async function subsetFont(
  bytes: Uint8Array,
  glyphs: Iterable<number>,
  at: readonly { tag: string; value: number }[] = [],
  index = 0,
): Promise<Uint8Array> {
  const hb = await (loading ??= load());
  const data = hb.malloc(bytes.length);
  new Uint8Array(hb.memory.buffer).set(bytes, data);
  const blob = hb.hb_blob_create(data, bytes.length, WRITABLE, 0, 0);
  const face = hb.hb_face_create(blob, index);
  const input = hb.hb_subset_input_create_or_fail();
  try {
    const wanted = hb.hb_subset_input_glyph_set(input);
    for (const glyph of glyphs) hb.hb_set_add(wanted, glyph);
    hb.hb_subset_input_set_flags(input, RETAIN_GIDS);
    for (const { tag, value } of at) hb.hb_subset_input_pin_axis_location(input, face, tagNumber(tag), value);
    const cut = hb.hb_subset_or_fail(face, input);
    if (cut === 0) throw new Error("The font cannot be cut down for embedding.");
    const result = hb.hb_face_reference_blob(cut);
    const start = hb.hb_blob_get_data(result, 0);
    const copy = new Uint8Array(hb.memory.buffer, start, hb.hb_blob_get_length(result)).slice();
    hb.hb_blob_destroy(result);
    hb.hb_face_destroy(cut);
    return copy;
  } finally {
    hb.hb_subset_input_destroy(input);
    hb.hb_face_destroy(face);
    hb.hb_blob_destroy(blob);
    hb.free(data);
  }
}
