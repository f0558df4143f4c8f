// The command line: `buvano inspect …`, `buvano evidence …`. Results go to standard output, words to standard error.
// Each command is loaded when it is asked for: together they take a second.
import { ProblemError } from "../core/problem.ts";

const usage = `buvano inspect [--json] PATH…            what each font file holds
buvano unpack ARCHIVE --to DIR [--json]  take an archive apart into DIR
buvano bring PATH… --data DIR [--json]   take archives, fonts and folders into the library in DIR
buvano backup TO --data DIR [--json]     the library in DIR as a zip in TO; what earlier ones there hold is not held twice
buvano restore FROM --data DIR [--json]  a library back from a backup, or the newest in a folder, into an empty DIR
buvano clear PATH… [--json]              what fonts in archives and folders may be used for, by their papers
buvano glyphs FONT [--face N] [--find WORD] [--json]
                                         what a font can draw, and how each glyph is reached
buvano dump FONT [TABLE] [--face N]      the tables of a font, or what is read of one, field by field
buvano draw --font FONT --text T [--face N] [--features f,…] [--axes wght=600,…] --size-mm S --to OUT.svg|.png|.pdf
                                         words in a font, in true size
buvano cut --font FONT --text T --height-mm H [--face N] [--features f,…] [--axes wght=600,…] [--join] [--contour-mm D] [--mirror]
           --to OUT.svg|.dxf|.pdf [--json]
                                         words as a machine cuts them, joined and checked, in true size
buvano evidence FILE --font FONT [--words TEXT] [--json]
                                         what a file shows of a font: drawn, asked for, or neither
buvano needs FILE… [--data DIR] [--device NAME] [--json]
                                         the fonts documents use, and where each is in the library in DIR
buvano match PICTURE --data DIR [--words TEXT] [--frame "x,y x,y x,y x,y"] [--job NAME] [--json]
                                         which fonts of the library in DIR a picture of lettering may show
buvano alike FAMILY --data DIR [--json]  what looks like a family of the library in DIR`;

/** Words that are paths, and those that follow an option's name. */
function parted(words: readonly string[], names: readonly string[]): { paths: string[]; options: Map<string, string> } {
  const options = new Map<string, string>();
  const paths: string[] = [];
  for (let i = 0; i < words.length; i++) {
    const word = words[i]!;
    if (names.includes(word) && words[i + 1] !== undefined) options.set(word, words[++i]!);
    else paths.push(word);
  }
  return { paths, options };
}

/** Characters of words to look for: a line or two, as the application takes them. */
const MOST_WORDS = 2000;
/** Of anything else that is given, paths and texts to be drawn among them. */
const MOST_GIVEN = 10_000;

/** Says that a word given is longer than is taken; undefined when none is. */
function tooLong(args: readonly string[]): string | undefined {
  const at = args.findIndex((word, i) => word.length > (args[i - 1] === "--words" ? MOST_WORDS : MOST_GIVEN));
  if (at < 0) return undefined;
  const words = args[at - 1] === "--words";
  const [name, most] = words ? ["words", MOST_WORDS] : ["what is given", MOST_GIVEN];
  return `This is longer than is taken (limit “${name}”: ${most.toLocaleString("en")} characters). Give ${words ? "the words of one line" : "a shorter one"}.`;
}

async function main(args: string[]): Promise<number> {
  const long = tooLong(args);
  if (long !== undefined) {
    process.stderr.write(`${long}\n`);
    return 1;
  }
  const [command, ...rest] = args;
  const json = rest.includes("--json");
  const words = rest.filter((word) => word !== "--json");
  if (command === "inspect" && words.length > 0) return (await import("./inspect.ts")).inspect(words, json);
  if (command === "clear" && words.length > 0) return (await import("./clear.ts")).clear(words, json);
  if (command === "unpack") {
    const to = words.indexOf("--to");
    const [archive] = words;
    const dir = words[to + 1];
    if (to === 1 && words.length === 3 && archive && dir) return (await import("./unpack.ts")).unpack(archive, dir, json);
  }
  if (command === "bring") {
    const at = words.indexOf("--data");
    const dir = words[at + 1];
    const paths = words.filter((_, i) => i !== at && i !== at + 1);
    if (at >= 0 && dir && paths.length > 0) return (await import("./bring.ts")).bring(paths, dir, json);
  }
  if (command === "backup" || command === "restore") {
    const { paths, options } = parted(words, ["--data"]);
    const [place] = paths;
    const dataDir = options.get("--data");
    if (place && paths.length === 1 && dataDir) {
      const { backup, restoreTo } = await import("./backup.ts");
      return command === "backup" ? backup(place, dataDir, json) : restoreTo(place, dataDir, json);
    }
  }
  if (command === "match") {
    const { paths, options } = parted(words, ["--data", "--words", "--frame", "--job"]);
    const [picture] = paths;
    const dataDir = options.get("--data");
    if (picture && paths.length === 1 && dataDir)
      return (await import("./match.ts")).match({
        picture,
        dataDir,
        words: options.get("--words") ?? "",
        frame: options.get("--frame"),
        job: options.get("--job"),
        json,
      });
  }
  if (command === "alike") {
    const { paths, options } = parted(words, ["--data"]);
    const dataDir = options.get("--data");
    if (paths.length > 0 && dataDir) return (await import("./match.ts")).alike({ family: paths.join(" "), dataDir, json });
  }
  if (command === "evidence") {
    const { paths, options } = parted(words, ["--font", "--words"]);
    const font = options.get("--font");
    if (paths.length === 1 && font !== undefined)
      return (await import("./evidence.ts")).evidence({ file: paths[0]!, font, words: options.get("--words") ?? "", json });
  }
  if (command === "glyphs") {
    const { paths, options } = parted(words, ["--face", "--find"]);
    const face = Number(options.get("--face") ?? 0);
    if (paths.length === 1 && Number.isInteger(face) && face >= 0)
      return (await import("./glyphs.ts")).glyphs({ font: paths[0]!, face, find: options.get("--find"), json });
  }
  if (command === "dump") {
    const { paths, options } = parted(words, ["--face"]);
    const face = Number(options.get("--face") ?? 0);
    const [font, tag] = paths;
    if (font !== undefined && paths.length <= 2 && Number.isInteger(face) && face >= 0)
      return (await import("./dump.ts")).dump(font, tag, face);
  }
  if (command === "draw") {
    const { paths, options } = parted(words, ["--font", "--face", "--text", "--features", "--axes", "--size-mm", "--to"]);
    const [font, text, to] = ["--font", "--text", "--to"].map((name) => options.get(name));
    const [face, sizeMm] = [Number(options.get("--face") ?? 0), Number(options.get("--size-mm"))];
    if (paths.length === 0 && font !== undefined && text !== undefined && to !== undefined && Number.isInteger(face) && face >= 0)
      return (await import("./draw.ts")).draw({
        font,
        face,
        text,
        to,
        sizeMm,
        features: options.get("--features") ?? "",
        axes: options.get("--axes") ?? "",
      });
  }
  if (command === "cut") {
    const flags = ["--join", "--mirror"];
    const { paths, options } = parted(
      words.filter((word, i) => !flags.includes(word) || words[i - 1] === "--text"),
      ["--font", "--face", "--text", "--features", "--axes", "--height-mm", "--contour-mm", "--to"],
    );
    const [font, text, to] = ["--font", "--text", "--to"].map((name) => options.get(name));
    const [face, heightMm] = [Number(options.get("--face") ?? 0), Number(options.get("--height-mm"))];
    if (paths.length === 0 && font !== undefined && text !== undefined && to !== undefined && Number.isInteger(face) && face >= 0)
      return (await import("./cut.ts")).cut({
        font,
        face,
        text,
        to,
        heightMm,
        json,
        join: words.includes("--join"),
        mirror: words.includes("--mirror"),
        features: options.get("--features") ?? "",
        axes: options.get("--axes") ?? "",
        contourMm: Number(options.get("--contour-mm") ?? 0),
      });
  }
  if (command === "needs") {
    const { paths, options } = parted(words, ["--data", "--device"]);
    if (paths.length > 0)
      return (await import("./needs.ts")).needs({ files: paths, dataDir: options.get("--data"), device: options.get("--device"), json });
  }
  process.stderr.write(`${usage}\n`);
  return 2;
}

// A reader that has seen enough (`… | head`) closes the pipe; that is no fault.
process.stdout.on("error", (error: NodeJS.ErrnoException) => process.exit(error.code === "EPIPE" ? 0 : 1));

process.exitCode = await main(process.argv.slice(2)).catch((error: unknown) => {
  // What a library cannot be opened for is said, wherever it is asked for.
  if (!(error instanceof ProblemError)) throw error;
  process.stderr.write(`${error.problem.message} ${error.problem.next}\n`);
  return 1;
});
