// Fonts of the library, fetched and kept open in a worker of the browser.
import { openDrawFace, type DrawFace } from "../../core/bench/draw-face.ts";
import type { FaceFinder } from "../../core/bench/drawing.ts";

/** Fonts kept open: files by their bytes, faces by their places on the axes. */
const MOST_BYTES = 160 * 1024 * 1024;
const MOST_FACES = 120;
/** The shaping library gives memory back only when the browser finds the time; after so much was opened, another worker takes over. */
const MOST_OPENED = 400 * 1024 * 1024;
let opened = 0;
export const isFull = (): boolean => opened > MOST_OPENED;

interface HeldFile {
  bytes: Promise<Uint8Array | undefined>;
  size: number;
}
const files = new Map<string, HeldFile>();
const faces = new Map<string, DrawFace | undefined>();

async function fetched(sha256: string): Promise<Uint8Array | undefined> {
  const response = await fetch(`/api/files/${sha256}`).catch(() => undefined);
  return response?.ok ? new Uint8Array(await response.arrayBuffer()) : undefined;
}
export function fileOf(sha256: string): Promise<Uint8Array | undefined> {
  const held = files.get(sha256) ?? { bytes: fetched(sha256), size: 0 };
  // The one used last goes last.
  files.delete(sha256);
  files.set(sha256, held);
  void held.bytes.then((bytes) => {
    held.size = bytes?.length ?? 0;
    // What cannot be had is asked for anew another time.
    if (!bytes && files.get(sha256) === held) files.delete(sha256);
    let sum = 0;
    for (const one of files.values()) sum += one.size;
    for (const [key, one] of files) {
      if (sum <= MOST_BYTES || files.size <= 1) break;
      sum -= one.size;
      files.delete(key);
    }
  });
  return held.bytes;
}

export const find: FaceFinder = async ({ sha256, face: index, axes }) => {
  const key = `${sha256}#${index}${JSON.stringify(axes)}`;
  if (!faces.has(key)) {
    const bytes = await fileOf(sha256);
    if (!bytes) return undefined;
    faces.set(key, openDrawFace(bytes, index, axes));
    opened += bytes.length;
  }
  const face = faces.get(key);
  faces.delete(key);
  faces.set(key, face);
  if (faces.size > MOST_FACES) faces.delete(faces.keys().next().value!);
  return face;
};
