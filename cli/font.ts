// What commands that draw with a font share: opening it, reading lists of settings, saying what is wrong.
import { readFile } from "node:fs/promises";
import { openDrawFace, type DrawFace } from "../core/bench/draw-face.ts";
import { readEmbedding } from "../core/clearance/embedding.ts";
import { attempt, fail, ok, type Problem, type Result } from "../core/problem.ts";
import { openContainer } from "../core/sfnt/container.ts";
import { Face } from "../core/sfnt/face.ts";
import { unwrapWebFont } from "../core/sfnt/unwrap.ts";
import { isWoff2, loadWoff2 } from "../core/sfnt/woff2.ts";

/** "a=1,b" as numbers by tag; undefined when it is no such list. */
export function settings(text: string, least: RegExp): Record<string, number> | undefined {
  const found: Record<string, number> = {};
  for (const part of text.split(",").filter(Boolean)) {
    const [, tag, value] = /^([\x21-\x7e]{1,4}?)(?:=(-?[\d.]+))?$/.exec(part.trim()) ?? [];
    if (tag === undefined || !least.test(value ?? "1")) return undefined;
    found[tag.padEnd(4)] = Number(value ?? 1);
  }
  return found;
}

export const said = (problem: Pick<Problem, "message" | "next">): number => {
  process.stderr.write(`${problem.message} ${problem.next}\n`);
  return 1;
};

export interface OpenedFont {
  /** As it can be installed: web fonts are unwrapped. */
  bytes: Uint8Array;
  face: DrawFace;
  /** PostScript name. */
  name: string;
  /** Family and style as programs show them. */
  family: string;
  style: string;
  bits: ReturnType<typeof readEmbedding>;
}

/** Opens a font file to draw with. */
export async function openFont(path: string, index: number, axes: Readonly<Record<string, number>>): Promise<Result<OpenedFont>> {
  let bytes: Uint8Array;
  try {
    bytes = Uint8Array.from(await readFile(path));
  } catch {
    return fail("font-missing", `${path} cannot be opened.`, "Check its name and that you may read it.");
  }
  const unpack = isWoff2(bytes) ? await loadWoff2() : undefined;
  const opened = attempt(
    () => {
      const { container } = openContainer(bytes, unpack);
      if (container === "woff" || container === "woff2") bytes = unwrapWebFont(bytes, unpack).bytes;
      const { names, os2 } = new Face(openContainer(bytes), index);
      return {
        name: names?.get(6) ?? "Font",
        family: names?.get(16) ?? names?.get(1) ?? "Font",
        style: names?.get(17) ?? names?.get(2) ?? "",
        bits: readEmbedding(os2?.fsType ?? 0, os2?.version ?? 4),
      };
    },
    { code: "font-unreadable", message: "This font file cannot be read.", next: "Give a whole font file." },
  );
  if (!opened.ok) return opened;
  const face = openDrawFace(bytes, index, axes);
  if (!face) return fail("font-empty", "This font has no glyphs to draw with.", "Give another font.");
  return ok({ ...opened.value, bytes, face });
}
