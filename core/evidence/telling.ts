// The words fonts are told apart by.

/** Letters in which substitutes differ most, for fonts with Latin letters. */
export const TELLING_WORDS = "Hamburgefonstiv RQ&g 0369 ?";
