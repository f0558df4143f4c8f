// `buvano dump`: the tables of a font, or what is read of one, as JSON. Exit code 1 when the font cannot be read, or has no such table.
import { readFile } from "node:fs/promises";
import { attempt } from "../core/problem.ts";
import { openContainer } from "../core/sfnt/container.ts";
import { directoryOf, dumpTable } from "../core/sfnt/dump.ts";
import { Face } from "../core/sfnt/face.ts";
import { isWoff2, loadWoff2 } from "../core/sfnt/woff2.ts";
import { said } from "./font.ts";

/** Bytes and numbers too large for JSON are written as text. */
const plain = (_: string, value: unknown): unknown =>
  typeof value === "bigint"
    ? value.toString()
    : ArrayBuffer.isView(value)
      ? `${value.byteLength} bytes`
      : value instanceof Map
        ? [...value]
        : value;

export async function dump(font: string, tag: string | undefined, index: number): Promise<number> {
  let bytes: Uint8Array;
  try {
    bytes = Uint8Array.from(await readFile(font));
  } catch {
    return said({ message: `${font} cannot be opened.`, next: "Check its name and that you may read it." });
  }
  const unpack = isWoff2(bytes) ? await loadWoff2() : undefined;
  const read = attempt(
    () => {
      const face = new Face(openContainer(bytes, unpack), index);
      if (tag === undefined) return directoryOf(face);
      return dumpTable(face, tag) ?? `This font has no “${tag}” table that is read here.`;
    },
    { code: "font-unreadable", message: "This font file cannot be read.", next: "Give a whole font file." },
  );
  if (!read.ok) return said(read.problem);
  if (typeof read.value === "string") return said({ message: read.value, next: "Without a tag all of its tables are listed." });
  process.stdout.write(`${JSON.stringify(read.value, plain, 2)}\n`);
  return 0;
}
