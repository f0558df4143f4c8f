// What checks see of the machine: a home, a temporary folder and a font configuration of their own, so that what else is installed, or was left by
// other work, changes nothing. Fonts are the files of named Debian packages.
import { spawnSync } from "node:child_process";
import { existsSync, mkdirSync, mkdtempSync, readdirSync, realpathSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { dirname, join } from "node:path";
import { CORPUS, RULES } from "./debian.mjs";

const lines = (command, args) => (spawnSync(command, args, { encoding: "utf8" }).stdout ?? "").split("\n").filter(Boolean);

/** The version of each package that is installed. */
const versionsOf = (packages) =>
  new Map(
    lines("dpkg-query", ["-W", "-f", "${Package} ${Version} ${Status}\n", ...packages])
      .filter((line) => line.endsWith(" installed"))
      .map((line) => line.split(" ")),
  );

/** The fonts of the named packages; what is missing of them, and which versions they are. */
export function corpus() {
  const versions = versionsOf(CORPUS);
  const installed = CORPUS.filter((name) => versions.has(name));
  const files = installed.length === 0 ? [] : lines("dpkg", ["-L", ...installed]);
  return {
    versions: Object.fromEntries(installed.map((name) => [name, versions.get(name)])),
    missing: CORPUS.filter((name) => !versions.has(name)),
    fonts: [...new Set(files.filter((path) => /\.(ttf|otf|ttc)$/i.test(path) && existsSync(path)))].sort(),
  };
}

const escaped = (text) => text.replace(/[&<>]/g, (sign) => ({ "&": "&amp;", "<": "&lt;", ">": "&gt;" })[sign]);
/** Signs a pattern of file names would read otherwise (fontconfig, "acceptfont": shell patterns). */
const literal = (path) => escaped(path.replace(/[[\]*?\\]/g, "?"));

const SYSTEM = "/usr/share/fonts";

/** A configuration by which fontconfig knows those fonts, those of the account, and nothing else; its rules are those of its own package. */
function fontConfiguration(fonts, at) {
  const rules = lines("dpkg", ["-L", ...RULES]).filter((path) => /conf\.avail\/.*\.conf$/.test(path));
  const active = new Set(existsSync("/etc/fonts/conf.d") ? readdirSync("/etc/fonts/conf.d") : []);
  const included = rules.filter((path) => active.has(path.split("/").at(-1))).sort();
  // Folders are accepted like files: those the fonts lie in, and all above them.
  const accepted = new Set(fonts.flatMap((path) => [path, realpathSync(path)]));
  for (const path of [...accepted]) for (let at = dirname(path); at.startsWith(SYSTEM); at = dirname(at)) accepted.add(at);
  const globs = [...accepted].map((path) => `<glob>${literal(path)}</glob>`);
  const xml = `<?xml version="1.0"?>
<!DOCTYPE fontconfig SYSTEM "fonts.dtd">
<fontconfig>
<dir>${SYSTEM}</dir><dir prefix="xdg">fonts</dir><dir>~/.fonts</dir>
<selectfont><rejectfont><glob>${SYSTEM}/*</glob></rejectfont><acceptfont>${globs.join("")}</acceptfont></selectfont>
${included.map((path) => `<include>${escaped(path)}</include>`).join("\n")}
<cachedir prefix="xdg">fontconfig</cachedir>
</fontconfig>
`;
  writeFileSync(at, xml);
}

/** Makes all of it, and says what to put into the environment; `done` takes it away. */
export function ownMachine() {
  const run = mkdtempSync(join(realpathSync(tmpdir()), "buvano-run-"));
  const [home, temporary] = [join(run, "home"), join(run, "tmp")];
  for (const path of [home, temporary]) mkdirSync(path);
  const found = corpus();
  const configuration = join(run, "fonts.conf");
  fontConfiguration(found.fonts, configuration);
  // The account's other folders follow from its home.
  const rest = Object.entries(process.env).filter(([name]) => !/^XDG_(DATA|CONFIG|CACHE)_/.test(name));
  const env = { ...Object.fromEntries(rest), HOME: home, TMPDIR: temporary, FONTCONFIG_FILE: configuration, BUVANO_RUN: run };
  return { ...found, env, done: () => rmSync(run, { recursive: true, force: true }) };
}
