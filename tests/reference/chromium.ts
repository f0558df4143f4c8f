// Chromium as a program that is really there: it prints a page to PDF, with only the fonts a private HOME holds.
import { execFileSync } from "node:child_process";
import { copyFileSync, mkdirSync, mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { basename, join } from "node:path";

/** Prints `words` set in `family` (and `css`), the given font files being in the user's font folder. Returns the PDF's path. */
export function printPage(family: string, words: string, fonts: string[], css = ""): { pdf: string; done: () => void } {
  const home = mkdtempSync(join(tmpdir(), "buvano-home-"));
  const folder = join(home, ".local", "share", "fonts");
  mkdirSync(folder, { recursive: true });
  for (const font of fonts) copyFileSync(font, join(folder, basename(font)));
  // Only the private folder and one stand-in; the machine's other fonts must not help.
  const config = join(home, "fonts.conf");
  writeFileSync(
    config,
    `<?xml version="1.0"?><!DOCTYPE fontconfig SYSTEM "fonts.dtd"><fontconfig><dir>${folder}</dir><dir>/usr/share/fonts/truetype/dejavu</dir><cachedir>${home}/cache</cachedir></fontconfig>`,
  );
  const page = join(home, "page.html");
  writeFileSync(page, `<!doctype html><meta charset="utf-8"><p style="font: 32px '${family}'; ${css}">${words}</p>`);
  const pdf = join(home, "page.pdf");
  const flags = [
    "--headless",
    "--no-sandbox",
    "--disable-gpu",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
  ];
  execFileSync(
    "/usr/bin/chromium",
    [...flags, `--user-data-dir=${home}/profile`, "--no-pdf-header-footer", `--print-to-pdf=${pdf}`, `file://${page}`],
    {
      env: { ...process.env, HOME: home, XDG_DATA_HOME: join(home, ".local", "share"), FONTCONFIG_FILE: config },
      stdio: "ignore",
      timeout: 60_000,
    },
  );
  return { pdf, done: () => rmSync(home, { recursive: true, force: true }) };
}

/** Font names as pdffonts of poppler-utils gives them, without subset tags. */
export function pdffonts(pdf: string): { name: string; embedded: boolean }[] {
  const lines = execFileSync("pdffonts", [pdf], { encoding: "utf8" }).trim().split("\n").slice(2);
  return lines.map((line) => {
    const [name = ""] = line.split(/\s+/);
    const [embedded] = line.slice(-28).match(/yes|no/) ?? [];
    return { name: name.replace(/^[A-Z]{6}\+/, ""), embedded: embedded === "yes" };
  });
}
