// The archives a visitor of Fernhollow Seed Walk finds in the downloads folder, with papers, previews and junk.
import { zipSync, type Zippable } from "fflate";
import {
  blockPair,
  connectedScript,
  handwriting,
  hebrewHand,
  hebrewText,
  hollowCapitals,
  largeFamily,
  lockedFace,
  seasonal,
  symbolPair,
  textFamily,
  webOnly,
} from "./fonts.ts";
import { preview } from "./preview.ts";
import { lockedZip } from "./writing/locked.ts";

const text = (words: string): Uint8Array => new TextEncoder().encode(words);
/** Archives are the same bytes each time: their entries carry one fixed time. */
const zip = (files: Zippable): Uint8Array => zipSync(files, { mtime: new Date(2026, 1, 1, 12, 0, 0), level: 6 });

/** All archives by file name. */
export async function makeArchives(): Promise<Map<string, Uint8Array>> {
  const archives = new Map<string, Uint8Array>();

  const fernhollow = await textFamily();
  archives.set(
    "fernhollow-text-family.zip",
    zip({
      ...Object.fromEntries([...fernhollow.files].map(([name, bytes]) => [`Fernhollow Text/${name}`, bytes])),
      "Fernhollow Text/OFL.txt": fernhollow.licence,
      "Fernhollow Text/READ ME.txt": text(
        "Four styles for setting the trail's leaflets, and one variable font.\nInstall either the four files or the variable one.\n",
      ),
      "Fernhollow Text/preview.svg": text(preview("Fernhollow Text")),
      "__MACOSX/Fernhollow Text/._OFL.txt": text("\0\x05\x16\x07"),
      "Fernhollow Text/.DS_Store": text("\0\0\0\x01Bud1"),
    }),
  );

  archives.set(
    "tendril_script_free.zip",
    zip({
      "tendril.ttf": await connectedScript(),
      "please read.txt": text(
        "Thank you for downloading Tendril Script!\n\nThis version is free for personal use only.\nIf you sell what you make with it, please buy the commercial licence: 18.00 EUR for one seat.\nWrite to the seed desk at Fernhollow Seed Walk.\n",
      ),
      "tendril preview.svg": text(preview("Tendril Script")),
    }),
  );

  const block = await blockPair();
  archives.set(
    "Seedbox-Layered.zip",
    zip({
      "Seedbox Block.ttf": block.face,
      "Seedbox Block Shade.ttf": block.shade,
      "How to layer.txt": text(
        "Lay the Shade under the Block, in another colour. Both have the same widths.\nFree for any use, personal and commercial.\n",
      ),
    }),
  );

  const shvil = await hebrewText();
  archives.set(
    "shvil-hebrew.zip",
    zip({ "Shvil/ShvilText-Regular.ttf": shvil.file, "Shvil/ShvilHand-Regular.ttf": await hebrewHand(), "Shvil/OFL.txt": shvil.licence }),
  );

  archives.set(
    "trellis-fair.zip",
    zip({
      "Trellis Fair.ttf": await hollowCapitals(),
      "license.txt": text("Free for personal and commercial use. A credit line is welcome.\n"),
    }),
  );

  const marks = await symbolPair();
  archives.set(
    "seedmarks.zip",
    zip({
      "Seedmarks One.ttf": marks.one,
      "Seedmarks Two.ttf": marks.two,
      "codes.txt": text("One: U+E100 to U+E103. Two: U+E200 to U+E204.\n"),
    }),
  );

  const note = await handwriting();
  archives.set(
    "garden-note.zip",
    zip({
      "OTF/GardenNote.otf": note.otf,
      "TTF/GardenNote.ttf": note.ttf,
      "read me first.txt": text("Take the .otf or the .ttf, not both.\nFree for any use.\n"),
    }),
  );

  const almanac = await largeFamily();
  archives.set(
    "Almanac Field (complete).zip",
    zip({
      ...Object.fromEntries([...almanac].map(([name, bytes]) => [`Almanac Field/desktop/${name}`, bytes])),
      "Almanac Field/License agreement.txt": text(
        "ALMANAC FIELD\n\nYou may use these fonts for personal and commercial work, for clients too, if you credit Fernhollow Seed Walk.\nYou may not give the font files to others.\n",
      ),
      "Almanac Field/specimen.svg": text(preview("Almanac Field")),
    }),
  );

  archives.set(
    "winter-pack.zip",
    zip({
      "Frostbloom-Regular.ttf": await seasonal(),
      "terms.txt": text(
        "Frostbloom belongs to the winter pack.\nThe licence lasts 180 days from the day you place the font; after that, take it off or renew it.\nWhile it lasts, use it for personal and commercial projects.\n",
      ),
    }),
  );

  archives.set(
    "hedgerow-web.zip",
    zip({
      "fonts/hedgerow-signal.woff2": await webOnly(),
      "fonts/stylesheet.css": text("@font-face { font-family: 'Hedgerow Signal'; src: url('hedgerow-signal.woff2'); }\n"),
      "LICENSE.txt": text("Free for any use, on web pages and anywhere else.\n"),
    }),
  );

  const inner = zip({
    "Garden Note/GardenNote.otf": (await handwriting()).otf,
    "Garden Note/licence.txt": text("Free for any use.\n"),
    "__MACOSX/Garden Note/._GardenNote.otf": text("\0\x05\x16\x07"),
  });
  archives.set(
    "trail-bundle.zip",
    zip({
      "bundle/garden-note.zip": inner,
      "bundle/seedmarks.zip": archives.get("seedmarks.zip")!,
      "bundle/preview.svg": text(preview("Two small downloads")),
      "bundle/Thumbs.db": text("\xd0\xcf"),
      "bundle/visit us.url": text("[InternetShortcut]\n"),
    }),
  );

  archives.set(
    "cellar-key-locked.zip",
    await lockedZip({ "CellarKey.ttf": await lockedFace(), "read me.txt": text("Free for personal use.\n") }, "fennel"),
  );

  const whole = fernhollow.files.get("FernhollowText-Regular.ttf")!;
  archives.set(
    "fernhollow-broken-download.zip",
    zip({
      "FernhollowText-Regular.ttf": whole.subarray(0, Math.floor(whole.length * 0.6)),
      "FernhollowText-Bold.ttf": fernhollow.files.get("FernhollowText-Bold.ttf")!,
    }),
  );
  return archives;
}
