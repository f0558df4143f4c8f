// Debian packages the checks use: judges, a real browser, and fonts no one here made.

export const BROWSER = ["chromium", "chromium-driver"];

/** Font packages that serve as a corpus: some 420 to 470 fonts, by the release. */
export const FONTS = [
  "fonts-noto-core",
  "fonts-ebgaramond",
  "fonts-linuxlibertine",
  "fonts-cabin",
  "fonts-lato",
  "fonts-cantarell",
  "fonts-dejavu",
  "fonts-hosny-amiri",
  "fonts-lobster",
  "fonts-comfortaa",
  "fonts-fantasque-sans",
  "fonts-fork-awesome",
  "culmus",
];

/** Those packages that hold the files themselves: what checks look at, and nothing else that is installed. */
export const CORPUS = [...FONTS.filter((name) => name !== "fonts-dejavu"), "fonts-dejavu-core", "fonts-dejavu-extra"];

/** Font packages of which single files are cases of their own. */
export const CASES = ["fonts-courier-prime", "fonts-kaushanscript"];

/** Whose rules fontconfig goes by in checks. */
export const RULES = ["fontconfig-config"];

/** Tools of other hands that judge the same files. */
export const JUDGES = [
  "fontconfig",
  "fonttools",
  "opentype-sanitizer",
  "libharfbuzz-bin",
  "libarchive-tools",
  "unzip",
  "zip",
  "p7zip-full",
  "poppler-utils",
  "woff2",
  "libplist-utils",
  "python3-odf",
  "python3-docx",
  "python3-openpyxl",
  "python3-ebooklib",
  "librsvg2-bin",
  "pango1.0-tools",
  "unicode-data",
  "bzip2",
  "xz-utils",
  // Producers and rewriters of PDFs and pictures.
  "python3-reportlab",
  "weasyprint",
  "python3-cairo",
  "ghostscript",
  "qpdf",
  "mupdf-tools",
  "texlive-xetex",
  "imagemagick",
  "python3-pil",
  "python3-numpy",
  "python3-ezdxf",
  "python3-shapely",
];
