// `buvano draw`: words in a font as SVG, PNG or PDF of true size. Exit code 1 when the font cannot be read.
import { readFile } from "node:fs/promises";
import { openDrawFace } from "../core/bench/draw-face.ts";
import { svgToPng } from "../core/bench/picture.ts";
import { placeLine, type ProofFace, type ProofLayer, type ProofPage } from "../core/bench/proof.ts";
import { proofSvg, writeProofPdf } from "../core/bench/proof-files.ts";
import { embeddedFont } from "../core/bench/proof-of.ts";
import { setText } from "../core/bench/setting.ts";
import { missingWords } from "../core/bench/compare.ts";
import { MOST_TEXT } from "../core/bench/line.ts";
import { readEmbedding } from "../core/clearance/embedding.ts";
import { writeWhole } from "../core/disk/whole.ts";
import { attempt, type Problem } from "../core/problem.ts";
import { openContainer } from "../core/sfnt/container.ts";
import { Face } from "../core/sfnt/face.ts";
import { unwrapWebFont } from "../core/sfnt/unwrap.ts";
import { isWoff2, loadWoff2 } from "../core/sfnt/woff2.ts";

const DPI = 300;
const LARGEST_MM = 20_000;
/** Room around the words, in ems: letters may reach beyond their own box. */
const SPARE = 0.25;

export interface DrawArgs {
  font: string;
  face: number;
  text: string;
  /** "smcp,ss01=2": tags, each with the number of an alternative. */
  features: string;
  /** "wght=600,wdth=80". */
  axes: string;
  sizeMm: number;
  to: string;
}

/** "a=1,b" as numbers by tag; undefined when it is no such list. */
function settings(text: string, least: RegExp): Record<string, number> | undefined {
  const found: Record<string, number> = {};
  for (const part of text.split(",").filter(Boolean)) {
    const [, tag, value] = /^([\x21-\x7e]{1,4}?)(?:=(-?[\d.]+))?$/.exec(part.trim()) ?? [];
    if (tag === undefined || !least.test(value ?? "1")) return undefined;
    found[tag.padEnd(4)] = Number(value ?? 1);
  }
  return found;
}

const said = (problem: Pick<Problem, "message" | "next">): number => {
  process.stderr.write(`${problem.message} ${problem.next}\n`);
  return 1;
};

export async function draw(args: DrawArgs): Promise<number> {
  const ending = /\.(svg|png|pdf)$/i.exec(args.to)?.[1]?.toLowerCase();
  if (!ending) return said({ message: "The drawing has no kind.", next: "Let its name end in .svg, .png or .pdf." });
  if (args.text.trim() === "") return said({ message: "There are no words to draw.", next: "Give some with --text." });
  if ([...args.text].length > MOST_TEXT) return said({ message: `The words are more than ${MOST_TEXT} characters.`, next: "Give fewer." });
  if (!(args.sizeMm > 0 && args.sizeMm <= LARGEST_MM))
    return said({ message: "The size is out of bounds.", next: `Give more than 0 and at most ${LARGEST_MM} mm.` });
  const [features, axes] = [settings(args.features, /^\d+$/), settings(args.axes, /^-?\d/)];
  if (!features || !axes) return said({ message: "The features or axes cannot be read.", next: "Write them as smcp,ss01=2 and wght=600." });
  let bytes: Uint8Array;
  try {
    bytes = Uint8Array.from(await readFile(args.font));
  } catch {
    return said({ message: `${args.font} cannot be opened.`, next: "Check its name and that you may read it." });
  }
  const unpack = isWoff2(bytes) ? await loadWoff2() : undefined;
  const opened = attempt(
    () => {
      const { container } = openContainer(bytes, unpack);
      if (container === "woff" || container === "woff2") bytes = unwrapWebFont(bytes, unpack).bytes;
      const face = new Face(openContainer(bytes), args.face);
      return { name: face.names?.get(6) ?? "Font", bits: readEmbedding(face.os2?.fsType ?? 0, face.os2?.version ?? 4) };
    },
    { code: "font-unreadable", message: "This font file cannot be read.", next: "Give a whole font file." },
  );
  if (!opened.ok) return said(opened.problem);
  const face = openDrawFace(bytes, args.face, axes);
  if (!face) return said({ message: "This font has no glyphs to draw with.", next: "Give another font." });
  const { bits } = opened.value;
  const outlinesOnly = bits.level === "restricted" || bits.noSubsetting || bits.bitmapOnly;
  if (outlinesOnly && ending === "pdf")
    process.stderr.write("Drawn as outlines: the font does not allow itself to be put into documents.\n");
  const proofFace: ProofFace = { key: "font", draw: face, name: opened.value.name, outlinesOnly };
  const layer: ProofLayer = { face: proofFace, features, colour: "#000000", dx: 0, dy: 0, letters: "all", made: { kind: "none" } };
  const set = setText(args.text, face, { features });
  if (set.missing.length > 0) process.stderr.write(`${missingWords(set.missing)}; it is left out.\n`);
  const unitMm = args.sizeMm / face.upem;
  const spare = SPARE * args.sizeMm;
  const page: ProofPage = {
    widthMm: set.width * unitMm + 2 * spare,
    heightMm: set.height * unitMm + 2 * spare,
    items: placeLine(set, layer, proofFace, args.sizeMm, spare, spare + Math.max(face.ascent, 0) * unitMm),
  };
  const about = { title: args.text.slice(0, 200), subject: `${opened.value.name}, ${args.sizeMm} mm` };
  const svg = () => proofSvg(page, about.title, about.subject);
  const file =
    ending === "svg"
      ? new TextEncoder().encode(svg())
      : ending === "png"
        ? await svgToPng(svg(), DPI)
        : await writeProofPdf([page], () => embeddedFont(bytes, args.face, axes, face, opened.value.name), about);
  await writeWhole(args.to, file);
  return 0;
}
