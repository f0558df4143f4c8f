// How a program lists fonts.

/** families: family, then its styles. four-style: legacy families with buttons. full-names, postscript-names: one flat list. */
export const LIST_KINDS = ["families", "four-style", "full-names", "postscript-names"] as const;
/** How a search box finds: names that begin with what is typed, or hold it anywhere. */
export const SEARCHES = ["beginning", "anywhere"] as const;
/** Of a variable font: its own named styles, its default style alone, or nothing. */
export const VARIABLE_AS = ["instances", "default", "none"] as const;
/** Outlines: TrueType (.ttf), PostScript (.otf). */
export const OUTLINE_FORMATS = ["ttf", "otf"] as const;
/** Fonts without Latin letters stand among the others by name, or after all of those. */
export const OTHER_SCRIPTS = ["among", "after"] as const;

export interface MenuTraits {
  lists: (typeof LIST_KINDS)[number];
  /** The language whose names it shows where a font has them, and by whose rules it sorts, as an IETF tag. */
  language: string;
  search: (typeof SEARCHES)[number];
  variable: (typeof VARIABLE_AS)[number];
  collections: boolean;
  formats: readonly (typeof OUTLINE_FORMATS)[number][];
  colour: boolean;
  symbols: boolean;
  /** It takes only what browsers take. */
  strict: boolean;
  otherScripts: (typeof OTHER_SCRIPTS)[number];
}

/** The plainest list: everything is taken, and stands by its name. */
export const PLAIN_LIST: MenuTraits = {
  lists: "families",
  language: "en",
  search: "beginning",
  variable: "default",
  collections: true,
  formats: ["ttf", "otf"],
  colour: true,
  symbols: true,
  strict: false,
  otherScripts: "among",
};
