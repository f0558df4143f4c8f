// Gives an openly licensed font a name of the demo's own, as its licence asks of changed copies. Copyright and licence
// notices stay in the font as they are.
import { assembleSfnt } from "../../core/sfnt/assemble.ts";
import { openContainer, tableBytes, type Woff2Unpacker } from "../../core/sfnt/container.ts";
import { Face } from "../../core/sfnt/face.ts";
import { NAME } from "../../core/sfnt/name.ts";
import { loadWoff2 } from "../../core/sfnt/woff2.ts";
import { nameTable, type FontNames } from "./names.ts";

/** Unpacks a web font, renames it and returns an installable file. Axis and instance names are kept. */
export async function renamed(packed: Uint8Array, names: Omit<FontNames, "copyright" | "licence">): Promise<Uint8Array> {
  return renamedTables(packed, names, await loadWoff2());
}

/** The same for any font file; what `names` leaves out is taken from the file. */
export function renamedTables(
  bytes: Uint8Array,
  names: Omit<FontNames, "copyright" | "licence"> & Partial<FontNames>,
  unpackWoff2?: Woff2Unpacker,
): Uint8Array {
  const file = openContainer(bytes, unpackWoff2);
  const face = new Face(file, 0);
  const tables = new Map<string, Uint8Array>(
    face.directory.tables.map((record) => [record.tag, Uint8Array.from(tableBytes(file, record))]),
  );
  const kept = (face.names?.records ?? [])
    .filter((record) => record.id >= 256 && record.platform === 3)
    .map((record) => [record.id, record.text] as const);
  const copyright = face.names?.get(NAME.copyright) ?? "";
  const licence = face.names?.get(NAME.licence) ?? "";
  tables.set("name", nameTable({ copyright, licence, ...names }, kept));
  tables.delete("DSIG"); // the old signature no longer fits
  const os2 = tables.get("OS/2");
  if (os2) {
    // Webfont services split families by script without marking styles; the four-style names and flags must agree.
    const view = new DataView(os2.buffer, os2.byteOffset);
    const style = (names.legacyStyle ?? names.style).toLowerCase();
    const bits = (style.includes("italic") ? 1 : 0) | (style.includes("bold") ? 0x20 : 0);
    view.setUint16(62, (view.getUint16(62) & ~0x61) | (bits || 0x40));
    const head = tables.get("head")!;
    new DataView(head.buffer, head.byteOffset).setUint16(44, (style.includes("bold") ? 1 : 0) | (style.includes("italic") ? 2 : 0));
  }
  return assembleSfnt(face.directory.flavour, tables);
}
