// What an entry of a download is, by its name and first bytes, and why.

export const ENTRY_KINDS = ["font", "web font", "paper", "preview", "design source", "archive", "junk"] as const;
export type EntryKind = (typeof ENTRY_KINDS)[number];
export interface Sorted {
  kind: EntryKind;
  reason: string;
}

const endings: readonly (readonly [kind: EntryKind, ending: RegExp, reason: string])[] = [
  ["font", /\.(ttf|otf|ttc|otc)$/i, "An installable font file."],
  ["font", /\.(pfb|pfa|pfm|afm|dfont)$/i, "A font in an old format."],
  ["web font", /\.(woff2?|eot)$/i, "A font packed for web pages."],
  ["paper", /\.(txt|md|markdown|rtf|html?|pdf|docx?|odt)$/i, "Text that came with the fonts."],
  ["preview", /\.(png|jpe?g|gif|webp|bmp|tiff?|svg|avif)$/i, "A picture."],
  [
    "design source",
    /\.(ai|eps|psd|indd|ufo|sfd|vfb|glyphs|designspace|plist|fea|xcf|cdr)$/i,
    "A drawing or font source for other programs.",
  ],
  ["archive", /\.(zip|7z|rar|tar|tgz|tbz2?|txz|gz|bz2|xz)$/i, "An archive inside the archive."],
];

const papersByName = /(^|\/)(licen[cs]e|licence|copying|copyright|ofl|readme|read me|fontlog|authors|contributors|eula|info)[^/]*$/i;
const junkByName = /(^|\/)(__MACOSX\/|\._|\.DS_Store$|Thumbs\.db$|desktop\.ini$|\.git\/)/i;
const shortcuts = /\.(url|webloc|lnk|website|desktop)$/i;

/** Whether a name is a font's, web fonts included. */
export const isFontName = (name: string): boolean => /\.(ttf|otf|ttc|otc|woff2?)$/i.test(name);

/** First bytes that tell a kind whatever the name says. `head` may be shorter than any of them. */
function byBytes(head: Uint8Array): Sorted | undefined {
  const start = new TextDecoder("latin1").decode(head.subarray(0, 8));
  if (/^(\0\x01\0\0|OTTO|true|ttcf)/.test(start)) return { kind: "font", reason: "Its first bytes are a font's." };
  if (/^wOF[F2]/.test(start)) return { kind: "web font", reason: "Its first bytes are a web font's." };
  if (start.startsWith("PK\x03\x04")) return undefined; // office documents are zips too, so the name decides
  if (/^(\x89PNG|\xff\xd8\xff|GIF8)/.test(start)) return { kind: "preview", reason: "Its first bytes are a picture's." };
  return undefined;
}

/** Sorts one entry. `head` is its first bytes, empty when unknown. Source files of the operating system are junk. */
export function sortEntry(path: string, head: Uint8Array): Sorted {
  if (junkByName.test(path)) return { kind: "junk", reason: "Left behind by an operating system." };
  const bytes = byBytes(head);
  // A drawing that declares glyphs is a font in SVG (SVG 1.1, "Fonts"), not a picture.
  if (/\.svg$/i.test(path) && /<font[\s>]/i.test(new TextDecoder("latin1").decode(head.subarray(0, 16_384))))
    return { kind: "font", reason: "A font in an old format." };
  const named = endings.find(([, ending]) => ending.test(path));
  if (bytes && (!named || (named[0] !== bytes.kind && !(named[0] === "preview" && bytes.kind === "preview")))) return bytes;
  if (named) return { kind: named[0], reason: named[2] };
  if (papersByName.test(path)) return { kind: "paper", reason: "Named like a licence or readme." };
  if (shortcuts.test(path)) return { kind: "junk", reason: "A link to a web page." };
  return { kind: "junk", reason: "Nothing fonts need." };
}
