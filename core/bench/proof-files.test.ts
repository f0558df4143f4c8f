// A page of a proof as SVG: millimetres throughout, names as text and never as markup.
import { expect, test } from "@jest/globals";
import { proofSvg } from "./proof-files.ts";

test("grounds and paths stand where the page puts them, in millimetres", () => {
  const svg = proofSvg(
    {
      widthMm: 210,
      heightMm: 297,
      items: [
        { kind: "ground", x: 0, y: 0, width: 210, height: 50, colour: "#f4efe6" },
        { kind: "path", d: "M0 0L10 0L10 10Z", x: 20, y: 30, unitMm: 0.1, fill: "#1d1a16", strokeMm: 0.5 },
        { kind: "path", d: "M0 0Z", x: 0, y: 0, unitMm: 1, fill: "#000000", strokeMm: 0 },
      ],
    },
    "Market <day> & more",
    "By “Kestrel”",
  );
  expect(svg).toContain('width="210mm" height="297mm" viewBox="0 0 210 297"');
  expect(svg).toContain("<title>Market &lt;day&gt; &amp; more</title><desc>By “Kestrel”</desc>");
  expect(svg).toContain('<rect x="0" y="0" width="210" height="50" fill="#f4efe6"/>');
  // A stroke is as wide as asked for, whatever the path's own unit is.
  expect(svg).toContain('transform="translate(20 30) scale(0.1)" d="M0 0L10 0L10 10Z" fill="#1d1a16" stroke="#1d1a16" stroke-width="5"');
  expect(svg.match(/stroke-width/g)?.length).toBe(1);
});
test("a page without anything on it is a page", () => {
  expect(proofSvg({ widthMm: 10, heightMm: 20, items: [] }, "Empty")).toMatch(/^<svg [^>]*><title>Empty<\/title>\s*<\/svg>\n$/);
});
