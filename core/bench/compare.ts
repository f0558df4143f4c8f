// Two candidates side by side: what differs, in words.

/** What is measured of a candidate that sets the words. */
export interface Measured {
  /** Width of the widest line in millimetres at the size both are shown at. */
  widthMm: number;
  /** usWeightClass. */
  weight: number;
  missing: readonly string[];
  /** What clearance for the job says, in words; "" without a job. */
  clearance: string;
  /** What a licence cost, as people write it; "" when nothing is recorded. */
  price: string;
}

const WEIGHT_STEP = 50;
/** Within this share both count as equally wide. */
const SAME_WIDTH = 0.005;

/** Sentences about `one`, seen from `other`. */
export function differences(one: Measured, other: Measured): string[] {
  const said: string[] = [];
  if (one.widthMm > 0 && other.widthMm > 0) {
    const share = one.widthMm / other.widthMm - 1;
    if (Math.abs(share) <= SAME_WIDTH) said.push("As wide.");
    else said.push(`${Math.max(1, Math.round(Math.abs(share) * 100))} % ${share > 0 ? "wider" : "narrower"}.`);
  }
  const weight = one.weight - other.weight;
  if (Math.abs(weight) >= WEIGHT_STEP)
    said.push(
      weight > 0 ? `Bolder (weight ${one.weight} against ${other.weight}).` : `Lighter (weight ${one.weight} against ${other.weight}).`,
    );
  if (one.missing.length > 0) said.push(`${missingWords(one.missing)}.`);
  if (one.clearance !== other.clearance && one.clearance !== "") said.push(`${one.clearance}.`);
  if (one.price !== other.price && one.price !== "") said.push(`Its licence cost ${one.price}.`);
  return said;
}

const MOST_NAMED = 8;
/** What a line says of letters that another font draws. */
export function missingWords(missing: readonly string[]): string {
  if (missing.length === 0) return "";
  const named = missing.slice(0, MOST_NAMED).join(" ");
  const more = missing.length > MOST_NAMED ? " …" : "";
  return missing.length === 1 ? `1 letter from another font: ${named}` : `${missing.length} letters from another font: ${named}${more}`;
}
