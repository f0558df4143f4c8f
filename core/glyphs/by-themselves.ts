// Which features are on unless somebody switches them off.

/**
 * What they do appears by itself (OpenType specification, "Registered features", "UI suggestion"; HarfBuzz manual, "Shaping and shape
 * plans", features that are on by default).
 */
export const BY_THEMSELVES = new Set(
  [
    "abvm blwm calt ccmp clig curs dist kern liga locl mark mkmk rclt rlig rvrn",
    "abvf abvs akhn blwf blws cfar cjct fin2 fin3 fina half haln init isol ljmo med2 medi nukt pref pres pstf psts rkrf rphf stch",
    "tjmo vjmo vatu ltra ltrm rtla rtlm",
  ]
    .join(" ")
    .split(" "),
);
