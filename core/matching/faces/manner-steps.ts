// Manner in steps a person chooses from, and the values each stands for. Where one step ends and the next begins was chosen by eye, on faces of
// Debian packages; there is no outside measure of it.
import type { Manner } from "./manner.ts";

export interface MannerScale {
  of: keyof Manner;
  /** What is asked, in a word or two. */
  label: string;
  /** A step's word, from the least to the most. */
  words: readonly string[];
  /** Where one step ends and the next begins; one less than the steps. */
  bounds: readonly number[];
}

export const MANNER_SCALES: readonly MannerScale[] = [
  { of: "weight", label: "Weight", words: ["Hairline", "Light", "Regular", "Bold", "Heavy"], bounds: [0.06, 0.11, 0.155, 0.21] },
  { of: "width", label: "Width", words: ["Narrow", "Rather narrow", "Usual", "Rather wide", "Wide"], bounds: [0.68, 0.78, 0.9, 1] },
  { of: "contrast", label: "Thick and thin", words: ["All one", "A little", "Clear", "Strong", "Extreme"], bounds: [1.2, 1.6, 2.4, 4] },
  { of: "slant", label: "Slant", words: ["Upright", "A little", "Italic", "Steep"], bounds: [3, 9, 16] },
  {
    of: "roundness",
    label: "Angular or round",
    words: ["Angular", "Rather angular", "Mixed", "Rather round", "Round"],
    bounds: [0.35, 0.55, 0.72, 0.82],
  },
  { of: "serif", label: "Serifs", words: ["None", "Small", "Clear", "Large"], bounds: [1.15, 1.7, 2.6] },
  { of: "joined", label: "Joined letters", words: ["Apart", "Some", "Joined"], bounds: [0.2, 0.6] },
  {
    of: "smallHeight",
    label: "Small letters",
    words: ["Low", "Rather low", "Usual", "Rather high", "High"],
    bounds: [0.6, 0.66, 0.71, 0.76],
  },
];

/** The steps chosen, as an address has them: "weight:3,slant:0". */
export const MANNER_PATTERN = /^[a-zA-Z]{4,12}:[0-4](?:,[a-zA-Z]{4,12}:[0-4]){0,7}$/;
export interface MannerBound {
  of: keyof Manner;
  from: number;
  to: number;
}
/** What lies between the bounds of each chosen step; of slant, to either side. What is no scale is passed over. */
export function mannerBounds(chosen: string): MannerBound[] {
  return chosen.split(",").flatMap((part): MannerBound[] => {
    const [of, step] = part.split(":");
    const scale = MANNER_SCALES.find((one) => one.of === of);
    const at = Number(step);
    if (!scale || !(at < scale.words.length)) return [];
    return [{ of: scale.of, from: scale.bounds[at - 1] ?? -1e9, to: scale.bounds[at] ?? 1e9 }];
  });
}
/** The step a value lies in. */
export const stepOf = (scale: MannerScale, value: number): number => scale.bounds.filter((bound) => value >= bound).length;
