// Names inside archives are hostile until read: decoding, and making them safe to write below one folder.
import { ok, fail, type Result } from "../problem.ts";

/** The upper half of code page 437, the zip format's default (PKWARE APPNOTE, appendix D; table from memory). */
const CP437 =
  "ÇüéâäàåçêëèïîìÄÅÉæÆôöòûùÿÖÜ¢£¥₧ƒáíóúñÑªº¿⌐¬½¼¡«»░▒▓│┤╡╢╖╕╣║╗╝╜╛┐└┴┬├─┼╞╟╚╔╩╦╠═╬╧╨╤╥╙╘╒╓╫╪┘┌█▄▌▐▀αßΓπΣσµτΦΘΩδ∞φε∩≡±≥≤⌠⌡÷≈°∙·√ⁿ²■\u00a0";

/** Decodes a name: UTF-8 when flagged or when the bytes are valid UTF-8, else code page 437. Composed (NFC) form. */
export function decodeName(bytes: Uint8Array, flaggedUtf8: boolean): string {
  try {
    return new TextDecoder("utf-8", { fatal: !flaggedUtf8 }).decode(bytes).normalize("NFC");
  } catch {
    let name = "";
    for (const byte of bytes) name += byte < 0x80 ? String.fromCharCode(byte) : CP437.charAt(byte - 0x80);
    return name;
  }
}

const CLIMBS = (name: string) =>
  fail(
    "entry-name",
    `The name “${name}” leads out of the folder it is unpacked to.`,
    "It was left out; the rest is here. Ask where the archive comes from.",
  );

/**
 * A name as a relative path with forward slashes, or the problem with it: absolute names, drive letters, names
 * that climb, control characters. A trailing slash (a folder) is kept.
 */
export function safeName(name: string): Result<string> {
  const path = name.replace(/\\/g, "/");
  if (/^([a-zA-Z]:|\/)/.test(path)) return CLIMBS(name);
  const parts = path.split("/").filter((part) => part !== "" && part !== ".");
  if (parts.length === 0 || parts.includes("..")) return CLIMBS(name);
  if (/[\u0000-\u001f\u007f]/.test(path)) {
    return fail("entry-name", "A name holds control characters, as no file should.", "It was left out; the rest is here.");
  }
  if (parts.some((part) => part.length > 200) || path.length > 1000) {
    return fail("entry-name", "A name is longer than file systems take.", "It was left out; the rest is here.");
  }
  return ok(parts.join("/") + (path.endsWith("/") ? "/" : ""));
}
