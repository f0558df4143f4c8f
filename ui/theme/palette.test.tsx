// Contrast by WCAG 2.2, 1.4.3 and 1.4.11: text 4.5:1, marks and edges of controls 3:1.
import { dark, light, type Palette } from "./palette";

/** Relative luminance (WCAG 2.2, definition). */
function luminance(hex: string): number {
  const [r, g, b] = [1, 3, 5].map((at) => {
    const value = parseInt(hex.slice(at, at + 2), 16) / 255;
    return value <= 0.04045 ? value / 12.92 : ((value + 0.055) / 1.055) ** 2.4;
  });
  return 0.2126 * r! + 0.7152 * g! + 0.0722 * b!;
}
function contrast(a: string, b: string): number {
  const [high, low] = [luminance(a), luminance(b)].sort((x, y) => y - x);
  return (high! + 0.05) / (low! + 0.05);
}

test("black on white is 21:1 (WCAG 2.2)", () => {
  expect(contrast("#000000", "#ffffff")).toBeCloseTo(21, 5);
});

const texts: [text: keyof Palette, ground: keyof Palette][] = (["ink", "faded", "warning", "verdigris"] as const).flatMap((text) =>
  (["paper", "drawer", "tab"] as const).map((ground): [keyof Palette, keyof Palette] => [text, ground]),
);
texts.push(["onPersimmon", "persimmon"], ["onVerdigris", "verdigris"]);

describe.each([
  ["light", light],
  ["dark", dark],
])("%s", (_name, palette) => {
  test.each(texts)("%s on %s", (text, ground) => {
    expect(contrast(palette[text], palette[ground])).toBeGreaterThanOrEqual(4.5);
  });
});
