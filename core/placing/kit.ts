// A kit to carry to a machine without a connection: fonts, papers, profiles, a checklist to print, plain scripts, checksums.
import { escaped as html } from "../words/markup.ts";
import { Menu, type MenuFont } from "../menu/menu.ts";
import { PLAIN_LIST, type MenuTraits } from "../menu/traits.ts";

export interface KitFont {
  fileName: string;
  sha256: string;
  /** Of each face in it. */
  menus: readonly MenuFont[];
}
/** A file of the kit: one of the library by its sum, one that lies somewhere, or a text. */
export type KitPiece = { sha256: string } | { sha256: string; at: string } | { text: string };
export interface KitInput {
  /** What the kit is for, in a few words. */
  title: string;
  /** The day it is made, as people write it. */
  day: string;
  fonts: readonly KitFont[];
  papers: readonly { path: string; sha256: string }[];
  /** `at` is where the profile lies until it is packed. */
  profiles: readonly { fileName: string; subject: string; sha256: string; at: string }[];
  /** Styles left out, with the reason. */
  left: readonly { name: string; reason: string }[];
}

/** Menu names in the three ways programs list fonts. */
function kitMenuNames(menu: MenuFont): { families: string; fourStyle: string; fullName: string } {
  const named = (lists: MenuTraits["lists"]): string => {
    const place = new Menu([menu], { ...PLAIN_LIST, lists }).place(menu);
    return place ? [place.menuName, place.within].filter(Boolean).join(", ") : menu.fullName;
  };
  return { families: named("families"), fourStyle: named("four-style"), fullName: named("full-names") };
}

function checklist({ title, day, fonts, profiles, left }: KitInput): string {
  const rows = fonts.flatMap(({ fileName, menus }) =>
    menus.map((menu) => {
      const names = kitMenuNames(menu);
      const cells = [fileName, names.families, names.fourStyle, names.fullName].map((text) => `<td dir="auto">${html(text)}</td>`).join("");
      return `<tr>${cells}<td class="box"></td><td class="box"></td></tr>`;
    }),
  );
  const list = (items: readonly string[]) => `<ul>${items.map((item) => `<li>${html(item)}</li>`).join("")}</ul>`;
  return `<!doctype html>
<html lang="en">
<meta charset="utf-8">
<title>${html(title)}</title>
<style>
  body { font: 12pt/1.4 sans-serif; margin: 2cm auto; max-width: 24cm; padding: 0 1em; }
  table { border-collapse: collapse; width: 100%; }
  th, td { border: 1px solid #555; padding: 4px 6px; text-align: left; overflow-wrap: anywhere; }
  .box { width: 3em; }
  @media print { body { margin: 0; } tr { break-inside: avoid; } }
</style>
<h1>${html(title)}</h1>
<p>Made on ${html(day)}. Every file's checksum stands in SHA256SUMS.</p>
<h2>On a computer</h2>
<ol>
  <li>Unpack the kit.</li>
  <li>Run <code>sh install.sh</code>, or open <code>install.cmd</code>. Either checks what it can, copies the files into your own font folder, overwrites nothing, and says how many fonts there were before and are now.</li>
  <li>Close your programs completely and open them again.</li>
  <li>Look for each name below, and tick it when it is there.</li>
</ol>
<p>To take the fonts off again, run <code>sh remove.sh</code> or <code>remove.cmd</code>.</p>
<h2>Names to look for</h2>
<table>
  <tr><th>File</th><th>In lists of families with styles</th><th>In lists with bold and italic buttons</th><th>In lists of full names</th><th>In&nbsp;place</th><th>Seen</th></tr>
  ${rows.join("\n  ")}
</table>
${profiles.length > 0 ? `<h2>On a tablet</h2>\n<p>Send the profile to the tablet, allow it, then install it in the tablet's settings with its passcode.</p>\n${list(profiles.map((profile) => profile.fileName))}` : ""}
${left.length > 0 ? `<h2>Left out</h2>\n${list(left.map(({ name, reason }) => `${name}: ${reason}`))}` : ""}
</html>
`;
}

const INSTALL_SH = `#!/bin/sh
# Copies this kit's fonts into your own font folder. Files that are there already are left alone.
set -eu
cd "$(dirname "$0")"
case "$(uname -s)" in
  Darwin) target="$HOME/Library/Fonts" ;;
  *) target="\${XDG_DATA_HOME:-$HOME/.local/share}/fonts" ;;
esac
if command -v sha256sum >/dev/null 2>&1; then sum="sha256sum"; else sum="shasum -a 256"; fi
if ! $sum -c SHA256SUMS >/dev/null 2>&1; then
  echo "Some files of this kit are damaged or missing. Copy the kit again; nothing was changed." >&2
  exit 1
fi
mkdir -p "$target"
fonts() { find "$target" -type f \\( -name '*.ttf' -o -name '*.otf' -o -name '*.ttc' -o -name '*.otc' \\) | wc -l | tr -d ' '; }
before=$(fonts)
there=0
other=0
for font in Fonts/*; do
  name=\${font##*/}
  if [ -e "$target/$name" ]; then
    if cmp -s "$font" "$target/$name"; then there=$((there + 1)); else
      other=$((other + 1))
      echo "$name: another file of this name is there; it was left alone."
    fi
    continue
  fi
  cp "$font" "$target/.kit-$$.part"
  mv "$target/.kit-$$.part" "$target/$name"
done
if command -v fc-cache >/dev/null 2>&1; then fc-cache "$target"; fi
echo "$before fonts before, now $(fonts). $there were there already, $other left alone."
`;
const REMOVE_SH = `#!/bin/sh
# Takes this kit's fonts out of your own font folder again: only files that are the kit's own, byte by byte.
set -eu
cd "$(dirname "$0")"
case "$(uname -s)" in
  Darwin) target="$HOME/Library/Fonts" ;;
  *) target="\${XDG_DATA_HOME:-$HOME/.local/share}/fonts" ;;
esac
gone=0
for font in Fonts/*; do
  name=\${font##*/}
  if [ -e "$target/$name" ] && cmp -s "$font" "$target/$name"; then
    rm "$target/$name"
    gone=$((gone + 1))
  fi
done
if command -v fc-cache >/dev/null 2>&1 && [ -d "$target" ]; then fc-cache "$target"; fi
echo "$gone fonts taken off."
`;
/** For systems where a font in the user folder is registered too; folder and key from memory. */
const CMD_HEAD = `@echo off
setlocal
cd /d "%~dp0"
set "target=%LOCALAPPDATA%\\Microsoft\\Windows\\Fonts"
set "key=HKCU\\Software\\Microsoft\\Windows NT\\CurrentVersion\\Fonts"
`;
const INSTALL_CMD = `${CMD_HEAD}if not exist "%target%" mkdir "%target%"
for %%F in (Fonts\\*) do (
  if exist "%target%\\%%~nxF" (
    echo %%~nxF is there already; it was left alone.
  ) else (
    copy /b "%%F" "%target%\\%%~nxF" >nul && reg add "%key%" /v "%%~nF (TrueType)" /t REG_SZ /d "%target%\\%%~nxF" /f >nul
  )
)
echo Done. Close your programs completely and open them again.
pause
`;
const REMOVE_CMD = `${CMD_HEAD}for %%F in (Fonts\\*) do (
  fc /b "%%F" "%target%\\%%~nxF" >nul 2>&1 && (
    reg delete "%key%" /v "%%~nF (TrueType)" /f >nul 2>&1
    del "%target%\\%%~nxF"
  )
)
echo Done.
pause
`;
const crlf = (text: string): string => text.replaceAll("\n", "\r\n");

/** The kit's files by their paths in it. */
export function makeKit(input: KitInput): Map<string, KitPiece> {
  const carried = new Map<string, { sha256: string; at?: string }>();
  for (const { fileName, sha256 } of input.fonts) carried.set(`Fonts/${fileName}`, { sha256 });
  for (const { path, sha256 } of input.papers) carried.set(`Papers/${path}`, { sha256 });
  for (const { fileName, sha256, at } of input.profiles) carried.set(`Tablet/${fileName}`, { sha256, at });
  const hashes = [...carried].map(([path, { sha256 }]) => `${sha256}  ${path}`);
  return new Map<string, KitPiece>([
    ...(carried as Map<string, KitPiece>),
    ["SHA256SUMS", { text: hashes.join("\n") + "\n" }],
    ["Checklist.html", { text: checklist(input) }],
    ["install.sh", { text: INSTALL_SH }],
    ["remove.sh", { text: REMOVE_SH }],
    ["install.cmd", { text: crlf(INSTALL_CMD) }],
    ["remove.cmd", { text: crlf(REMOVE_CMD) }],
  ]);
}
