// Kinds of files a cut can be saved as.

export const CUT_FORMATS = ["svg", "dxf", "pdf", "png"] as const;
export type CutFormat = (typeof CUT_FORMATS)[number];
/** Curves in DXF: as they are, or as chords within a tolerance. */
export const DXF_CURVES = ["splines", "polylines"] as const;
export type DxfCurves = (typeof DXF_CURVES)[number];
