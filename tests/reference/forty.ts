// Forty fonts of Debian's packages that are told apart with more and with less trouble: text faces, their siblings, and some of their own kind.
import { existsSync } from "node:fs";
import { join } from "node:path";

const named = (folder: string, ...files: string[]) => files.map((file) => join("/usr/share/fonts", folder, file));
export const FORTY = [
  ...named("truetype/lato", "Lato-Light.ttf", "Lato-Regular.ttf", "Lato-Bold.ttf", "Lato-Black.ttf", "Lato-Italic.ttf"),
  ...named("opentype/cabin", "Cabin-Regular.otf", "Cabin-Bold.otf", "Cabin-Italic.otf", "Cabin-Medium.otf"),
  ...named("truetype/dejavu", "DejaVuSans.ttf", "DejaVuSerif.ttf", "DejaVuSansMono.ttf", "DejaVuSansCondensed.ttf", "DejaVuSans-Bold.ttf"),
  ...named("truetype/noto", "NotoSans-Regular.ttf", "NotoSans-Bold.ttf", "NotoSans-Italic.ttf", "NotoSansDisplay-Regular.ttf"),
  ...named("truetype/noto", "NotoSerif-Regular.ttf", "NotoSerif-Bold.ttf", "NotoSerif-Italic.ttf", "NotoSerifDisplay-Regular.ttf"),
  ...named(
    "opentype/ebgaramond",
    "EBGaramond08-Regular.otf",
    "EBGaramond08-Italic.otf",
    "EBGaramond12-Regular.otf",
    "EBGaramond12-Italic.otf",
  ),
  ...named(
    "opentype/linux-libertine",
    "LinLibertine_R.otf",
    "LinLibertine_RB.otf",
    "LinLibertine_RI.otf",
    "LinBiolinum_R.otf",
    "LinBiolinum_RB.otf",
  ),
  ...named("opentype/cantarell", "Cantarell-Regular.otf", "Cantarell-Bold.otf", "Cantarell-Light.otf"),
  ...named("opentype/lobster", "lobster.otf"),
  ...named("truetype/comfortaa", "Comfortaa-Regular.ttf", "Comfortaa-Bold.ttf"),
  ...named("opentype/fantasque-sans/Normal/OTF", "FantasqueSansMono-Regular.otf", "FantasqueSansMono-Bold.otf"),
  ...named("opentype/fonts-hosny-amiri", "Amiri-Regular.ttf"),
].filter(existsSync);
