// The words comparisons end in, for contract and screens: nothing here computes.

export const ALIKENESS = ["same", "near", "manner"] as const;
/** "same": renamed, or cut again after it. "near": a near relative. "manner": in the same manner. */
export type Alikeness = (typeof ALIKENESS)[number];

/** "it": this is it. "relative": a near relative. "manner": in the same manner. "unlike": nothing like it. "open": it cannot be told. */
export const VERDICTS = ["it", "relative", "manner", "unlike", "open"] as const;
export type Verdict = (typeof VERDICTS)[number];
export const VERDICT_WORDS: Record<Verdict, string> = {
  it: "This is it",
  relative: "Near relative",
  manner: "Same manner",
  unlike: "Nothing like it",
  open: "Cannot tell",
};
