// Names as they may be shown, written and matched, whoever chose them: one line, no control characters, no marks that turn text around.

/** A name longer than this is cut: font lists show a tenth of it. */
const MOST_CHARACTERS = 200;

/**
 * Control characters (Unicode category Cc), line and paragraph separators, and marks that change the direction of what follows (UAX #9,
 * "Explicit Directional Embeddings, Overrides, Isolates" and "Implicit Directional Marks"). Joiners stay: names in many scripts need them.
 */
const UNSEEN = /[\p{Cc}\u2028\u2029\u200e\u200f\u061c\u202a-\u202e\u2066-\u2069\ufeff]+/gu;
const NOT_IN_PROSE = /[^\P{Cc}\n\r\t]+|[\u202a-\u202e\u2066-\u2069\ufeff]+/gu;
/** Half of a pair of surrogates by itself stands for no character. */
const HALVES = /[\ud800-\udbff](?![\udc00-\udfff])|(?<![\ud800-\udbff])[\udc00-\udfff]/g;

/** A name in one line. */
export const plainName = (name: string): string =>
  name
    .slice(0, 4 * MOST_CHARACTERS)
    .replace(HALVES, "\ufffd")
    .replace(UNSEEN, " ")
    .trim()
    .slice(0, MOST_CHARACTERS)
    .trim();

/** A longer text: its lines stay. */
export const plainProse = (text: string): string => text.replace(HALVES, "\ufffd").replace(NOT_IN_PROSE, " ").trim();
