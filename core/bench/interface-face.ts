// The face of small print in proofs: the interface's own, which ships with the application.
import { readFile } from "node:fs/promises";
import { createRequire } from "node:module";
import { unwrapWebFont } from "../sfnt/unwrap.ts";
import { openDrawFace } from "./draw-face.ts";
import type { ProofFace } from "./proof.ts";

export async function printFace(): Promise<{ face: ProofFace; bytes: Uint8Array }> {
  const path = createRequire(import.meta.url).resolve(
    "@fontsource/atkinson-hyperlegible/files/atkinson-hyperlegible-latin-400-normal.woff",
  );
  const { bytes } = unwrapWebFont(Uint8Array.from(await readFile(path)));
  const draw = openDrawFace(bytes, 0);
  if (!draw) throw new Error("The interface's own font cannot be opened.");
  return { bytes, face: { key: "print", draw, name: "SmallPrint", outlinesOnly: false } };
}
