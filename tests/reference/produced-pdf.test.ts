// What PDFs of other hands show drawn: producers and rewriters set one line in a font, with only that font, only a sibling, or only a stand-in
// to be found. Which is drawn follows from which is there.
import { execFileSync } from "node:child_process";
import { createWriteStream, readFileSync, writeFileSync } from "node:fs";
import { basename, join } from "node:path";
import { afterAll, beforeAll, describe, expect, test } from "@jest/globals";
import { jsPDF } from "jspdf";
import PDFDocument from "pdfkit";
import { drawPdf } from "../../core/evidence/drawing/document.ts";
import { WantedFont } from "../../core/evidence/drawing/programs.ts";
import { judgePdf } from "../../core/evidence/judge-pdf.ts";
import { needsOf } from "../../core/evidence/needs.ts";
import { readEvidence } from "../../core/evidence/read.ts";
import { inspectFont } from "../../core/inspect.ts";
import { makeHome, pdffonts, type Home } from "./chromium.ts";

const WORDS = "Wild fennel 4.50";
const LATO = "/usr/share/fonts/truetype/lato/Lato";
const LIBERTINE = "/usr/share/fonts/opentype/linux-libertine/LinLibertine";
const STAND_IN = "/usr/share/fonts/truetype/culmus/MiriamMonoCLM-Book.ttf";
/** Each wanted font and a sibling of it. */
const FONTS = [
  [`${LATO}-Regular.ttf`, `${LATO}-Bold.ttf`],
  [`${LATO}-BoldItalic.ttf`, `${LATO}-Italic.ttf`],
  [`${LIBERTINE}_R.otf`, `${LIBERTINE}_RB.otf`],
] as const;
const bytesOf = (path: string) => new Uint8Array(readFileSync(path));
const recordOf = (path: string) => {
  const inspected = inspectFont(bytesOf(path), "font");
  if (!inspected.ok) throw new Error(inspected.problem.message);
  return inspected.value[0]!;
};

/** Writes all that producers make of the words in one font into the home; their names. */
async function produce(home: Home, path: string, there: string): Promise<string[]> {
  const { family, weight, italic } = recordOf(path);
  const at = (name: string) => join(home.path, `${name}.pdf`);
  const options = { env: home.env, stdio: "ignore" as const, cwd: home.path };
  const made = ["cairo", "weasyprint", "rsvg", "pango", "xetex", "pdfkit"];
  execFileSync(
    "/usr/bin/python3",
    [join(process.cwd(), "tests/reference/make_pdfs.py"), home.path, there, family, String(weight), italic ? "italic" : "normal", WORDS],
    options,
  );
  const style = `font-family:'${family}';font-weight:${weight};font-style:${italic ? "italic" : "normal"};font-size:24px`;
  writeFileSync(
    join(home.path, "a.svg"),
    `<svg xmlns="http://www.w3.org/2000/svg" width="400" height="100"><text x="20" y="60" style="${style}">${WORDS}</text></svg>`,
  );
  execFileSync("rsvg-convert", ["-f", "pdf", "-o", at("rsvg"), "a.svg"], options);
  execFileSync(
    "pango-view",
    ["-q", `--font=${family} ${italic ? "Italic " : ""}${weight >= 600 ? "Bold " : ""}24`, `--text=${WORDS}`, "-o", at("pango")],
    options,
  );
  writeFileSync(join(home.path, "xetex.tex"), `\\nopagenumbers\\font\\f="[${there}]" at 24pt \\f ${WORDS} \\bye`);
  execFileSync("xetex", ["-interaction=batchmode", "xetex.tex"], { ...options, env: { ...home.env, FONTCONFIG_FILE: "" } });
  await new Promise<void>((resolve, reject) => {
    const document = new PDFDocument();
    document.pipe(createWriteStream(at("pdfkit")).on("finish", resolve).on("error", reject));
    document.font(there).fontSize(24).text(WORDS).end();
  });
  if (there.endsWith(".ttf")) {
    const document = new jsPDF();
    document.addFileToVFS("a.ttf", Buffer.from(bytesOf(there)).toString("base64"));
    document.addFont("a.ttf", "wanted", "normal");
    document.setFont("wanted").setFontSize(24).text(WORDS, 20, 40);
    writeFileSync(at("jspdf"), Buffer.from(document.output("arraybuffer")));
    made.push("reportlab", "jspdf");
  }
  // Rewritten by others: streams packed, fonts written anew, pages drawn again.
  const [from, gs] = [at("cairo"), ["-q", "-dNOPAUSE", "-dBATCH"]];
  execFileSync("qpdf", ["--object-streams=generate", from, at("qpdf")], options);
  execFileSync("qpdf", ["--qdf", from, at("qdf")], options);
  execFileSync("mutool", ["clean", "-gggz", from, at("mutool")], options);
  execFileSync("gs", [...gs, "-sDEVICE=pdfwrite", "-o", at("gs"), from], options);
  execFileSync("gs", [...gs, "-sDEVICE=ps2write", "-o", "again.ps", from], options);
  execFileSync("gs", [...gs, "-sDEVICE=pdfwrite", "-o", at("gs-ps"), "again.ps"], options);
  execFileSync("pdftocairo", ["-pdf", from, at("pdftocairo")], options);
  return [...made, "qpdf", "qdf", "mutool", "gs", "gs-ps", "pdftocairo"];
}

async function judged(bytes: Uint8Array, path: string) {
  const drawn = await drawPdf(bytes);
  if (!drawn.ok) throw new Error(drawn.problem.message);
  return judgePdf(drawn.value, recordOf(path), new WantedFont({ bytes: bytesOf(path), face: 0 }), WORDS);
}

/** The state, with its reason where it is not the one that is due. */
const told = ({ state, reason }: { state: string; reason: string }, due: string): string => (state === due ? state : `${state}: ${reason}`);

for (const [path, sibling] of FONTS) {
  describe.each([
    ["itself", path, "seen"],
    ["a sibling", sibling, "swapped"],
    ["a stand-in", STAND_IN, "swapped"],
  ])(`${basename(path)}, %s being there`, (_what, there, answer) => {
    let home: Home;
    let names: string[];
    beforeAll(async () => {
      home = makeHome([there], there);
      names = await produce(home, path, there);
    }, 120_000);
    afterAll(() => home?.done());
    test("is told in every producer's file", async () => {
      const found: [string, string][] = [];
      for (const name of names) found.push([name, told(await judged(bytesOf(join(home.path, `${name}.pdf`)), path), answer)]);
      // On its way through PostScript a font with PostScript outlines becomes paths.
      const outlined = (name: string) => name === "gs-ps" && there.endsWith(".otf");
      const due = found.filter(([name]) => !outlined(name));
      expect(due).toEqual(due.map(([name]) => [name, answer]));
      for (const [name, state] of found) if (outlined(name)) expect(state).toMatch(/^cannot-tell/);
    });
    test("needs one font, one of those pdffonts finds", async () => {
      for (const name of names) {
        const path = join(home.path, `${name}.pdf`);
        const read = await readEvidence(path, bytesOf(path));
        if (!read.ok) throw new Error(read.problem.message);
        // pdffonts gives Type 3 fonts no name, names some after their encoding too (ISO 32000-1, 9.7.6), and lists what no word is set in.
        const judge = pdffonts(path).map((one) => (one.name === "[none]" ? "" : one.name.replace(/-Identity-H$/, "")));
        const needs = needsOf(read.value);
        if (name === "gs-ps" && needs.length === 0) continue;
        expect([name, needs.length, judge.includes(needs[0]!.name)]).toEqual([name, 1, true]);
        expect(needs[0]).toMatchObject({ letters: [...WORDS].filter((one) => one !== " ").length, carried: true, pages: [1] });
      }
    });
    test("is not told once letters are outlines", async () => {
      execFileSync("gs", ["-q", "-dNOPAUSE", "-dBATCH", "-sDEVICE=pdfwrite", "-dNoOutputFonts", "-o", "outlines.pdf", "cairo.pdf"], {
        cwd: home.path,
        env: home.env,
        stdio: "ignore",
      });
      expect((await judged(bytesOf(join(home.path, "outlines.pdf")), path)).state).toBe("cannot-tell");
    });
  });
}
