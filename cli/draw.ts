// `buvano draw`: words in a font as SVG, PNG or PDF of true size. Exit code 1 when the font cannot be read.
import { svgToPng } from "../core/bench/picture.ts";
import { placeLine, type ProofFace, type ProofLayer, type ProofPage } from "../core/bench/proof.ts";
import { proofSvg, writeProofPdf } from "../core/bench/proof-files.ts";
import { embeddedFont } from "../core/bench/proof-of.ts";
import { setText } from "../core/bench/setting.ts";
import { missingWords } from "../core/bench/compare.ts";
import { MOST_TEXT } from "../core/bench/line.ts";
import { writeWhole } from "../core/disk/whole.ts";
import { openFont, said, settings } from "./font.ts";

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

export async function draw(args: DrawArgs): Promise<number> {
  const ending = /\.(svg|png|pdf)$/i.exec(args.to)?.[1]?.toLowerCase();
  if (!ending) return said({ message: "The drawing has no kind.", next: "Let its name end in .svg, .png or .pdf." });
  if (args.text.trim() === "") return said({ message: "There are no words to draw.", next: "Give some with --text." });
  if ([...args.text].length > MOST_TEXT) return said({ message: `The words are more than ${MOST_TEXT} characters.`, next: "Give fewer." });
  if (!(args.sizeMm > 0 && args.sizeMm <= LARGEST_MM))
    return said({ message: "The size is out of bounds.", next: `Give more than 0 and at most ${LARGEST_MM} mm.` });
  const [features, axes] = [settings(args.features, /^\d+$/), settings(args.axes, /^-?\d/)];
  if (!features || !axes) return said({ message: "The features or axes cannot be read.", next: "Write them as smcp,ss01=2 and wght=600." });
  const font = await openFont(args.font, args.face, axes);
  if (!font.ok) return said(font.problem);
  const { bytes, face, name, bits } = font.value;
  const outlinesOnly = bits.level === "restricted" || bits.noSubsetting || bits.bitmapOnly;
  if (outlinesOnly && ending === "pdf")
    process.stderr.write("Drawn as outlines: the font does not allow itself to be put into documents.\n");
  const proofFace: ProofFace = { key: "font", draw: face, name: name, outlinesOnly };
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
  const about = { title: args.text.slice(0, 200), subject: `${name}, ${args.sizeMm} mm` };
  const svg = () => proofSvg(page, about.title, about.subject);
  const file =
    ending === "svg"
      ? new TextEncoder().encode(svg())
      : ending === "png"
        ? await svgToPng(svg(), DPI)
        : await writeProofPdf([page], () => embeddedFont(bytes, args.face, axes, face, name), about);
  await writeWhole(args.to, file);
  return 0;
}
