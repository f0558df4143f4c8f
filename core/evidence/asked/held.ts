// Fonts that documents carry, unpacked: the obfuscations of office documents and books, web fonts, subtitles' letters.
import { createHash } from "node:crypto";

/** Office Open XML (ISO/IEC 29500-1, 17.8.1): the first 32 bytes are mixed with the key's, from its end. */
export function unmixOffice(bytes: Uint8Array, key: string): Uint8Array | null {
  const hex = key.replace(/[{}-]/g, "");
  if (!/^[0-9a-f]{32}$/i.test(hex) || bytes.length < 32) return null;
  const own = [...Buffer.from(hex, "hex")].reverse();
  const plain = bytes.slice();
  for (let i = 0; i < 32; i++) plain[i]! ^= own[i % 16]!;
  return plain;
}

/**
 * Embedded OpenType (W3C member submission of 2008, section 3): the font lies behind a header of little-endian numbers, as it is or with
 * each byte mixed with 0x50. What is compressed, or no such file, is given back as it came.
 */
export function eotFont(bytes: Uint8Array): Uint8Array {
  if (bytes.length < 36) return bytes;
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const [whole, size, flags, magic] = [
    view.getUint32(0, true),
    view.getUint32(4, true),
    view.getUint32(12, true),
    view.getUint16(34, true),
  ];
  if (magic !== 0x504c || whole !== bytes.length || size > bytes.length - 36 || (flags & EOT_COMPRESSED) !== 0) return bytes;
  const font = bytes.slice(bytes.length - size);
  return (flags & EOT_MIXED) === 0 ? font : font.map((byte) => byte ^ 0x50);
}
const EOT_COMPRESSED = 0x4;
const EOT_MIXED = 0x10000000;

/** EPUB 3, "Font Obfuscation": the first 1040 bytes are mixed with the sum of the book's identifier. */
export function unmixBook(bytes: Uint8Array, identifier: string): Uint8Array {
  const key = createHash("sha1")
    .update(identifier.replace(/[\x20\x09\x0d\x0a]/g, ""))
    .digest();
  const plain = bytes.slice();
  for (let i = 0; i < Math.min(1040, plain.length); i++) plain[i]! ^= key[i % 20]!;
  return plain;
}

/** A data address's bytes (RFC 2397); null for any other. */
export function dataBytes(address: string): Uint8Array | null {
  const found = /^data:[^,]{0,200}?(;base64)?,/i.exec(address);
  if (!found) return null;
  const body = address.slice(found[0].length);
  try {
    return new Uint8Array(found[1] ? Buffer.from(decodeURIComponent(body), "base64") : Buffer.from(decodeURIComponent(body), "latin1"));
  } catch {
    return null;
  }
}

/** Subtitles' fonts: four characters carry three bytes, each 33 more than its six bits; from memory. */
export function subtitleBytes(lines: readonly string[]): Uint8Array {
  const codes = lines.flatMap((line) => [...line.trim()].map((one) => one.charCodeAt(0) - 33));
  const bytes: number[] = [];
  for (let at = 0; at < codes.length; at += 4) {
    const group = codes.slice(at, at + 4);
    const bits = group.reduce((sum, code, i) => sum | ((code & 63) << (18 - 6 * i)), 0);
    for (let i = 0; i < group.length - 1; i++) bytes.push((bits >> (16 - 8 * i)) & 255);
  }
  return Uint8Array.from(bytes);
}
