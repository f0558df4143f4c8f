// Colours of a bench sheet, and whether ink can be read on its ground.

/** "#rgb" or "#rrggbb", as typed; undefined when it is no colour. */
export function colourOf(text: string): string | undefined {
  const typed = text.trim().toLowerCase().replace(/^#?/, "#");
  if (/^#[0-9a-f]{6}$/.test(typed)) return typed;
  return /^#[0-9a-f]{3}$/.test(typed) ? `#${[...typed.slice(1)].map((digit) => digit + digit).join("")}` : undefined;
}

/** Relative luminance (WCAG 2.2, "relative luminance"), 0 to 1. */
function luminance(colour: string): number {
  const [red, green, blue] = [1, 3, 5].map((at) => {
    const part = parseInt(colour.slice(at, at + 2), 16) / 255;
    return part <= 0.04045 ? part / 12.92 : ((part + 0.055) / 1.055) ** 2.4;
  }) as [number, number, number];
  return 0.2126 * red + 0.7152 * green + 0.0722 * blue;
}

/** Contrast ratio (WCAG 2.2, "contrast ratio"), 1 to 21. */
export function contrast(ink: string, ground: string): number {
  const [one, other] = [luminance(ink), luminance(ground)];
  return (Math.max(one, other) + 0.05) / (Math.min(one, other) + 0.05);
}

/** Large text (18 pt and more) needs 3 : 1, other text 4.5 : 1 (WCAG 2.2, success criterion 1.4.3). */
const LARGE_MM = (18 * 25.4) / 72;
export function contrastWords(ink: string, ground: string, emMm: number): string {
  const ratio = contrast(ink, ground);
  const needed = emMm >= LARGE_MM ? 3 : 4.5;
  const shown = `${ratio.toFixed(1)} : 1`;
  if (ratio < 1.1) return `Contrast ${shown}. The letters cannot be seen on this ground.`;
  return ratio < needed ? `Contrast ${shown}, hard to read at this size; ${needed} : 1 is needed.` : `Contrast ${shown}.`;
}
