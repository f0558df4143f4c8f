// Names inside archives are hostile until read: decoding, and making them safe to write below one folder.
import { crc32 } from "node:zlib";
import { ok, fail, type Result } from "../problem.ts";
import { guessEncoding, type NameEncoding } from "./name-encoding.ts";

/** Undefined when the bytes are no UTF-8. */
function asUtf8(bytes: Uint8Array): string | undefined {
  try {
    return new TextDecoder("utf-8", { fatal: true }).decode(bytes);
  } catch {
    return undefined;
  }
}

/** Info-ZIP's Unicode Path field (PKWARE APPNOTE 4.6.9): the name in UTF-8, and a sum of the one it stands for. */
const UNICODE_PATH = 0x7075;
/** A name an archive gives beside its own, in UTF-8; undefined when there is none, or it belongs to another name. `extra`: the entry's extra fields. */
function unicodePath(name: Uint8Array, extra: Uint8Array): string | undefined {
  const view = new DataView(extra.buffer, extra.byteOffset, extra.byteLength);
  for (let at = 0; at + 4 <= extra.length;) {
    const [id, length] = [view.getUint16(at, true), view.getUint16(at + 2, true)];
    const end = at + 4 + length;
    if (end > extra.length) return undefined;
    if (id === UNICODE_PATH && length > 5 && extra[at + 4] === 1 && view.getUint32(at + 5, true) === crc32(name))
      return asUtf8(extra.subarray(at + 9, end));
    at = end;
  }
  return undefined;
}

/** A name as an archive stores it. */
export interface StoredName {
  bytes: Uint8Array;
  /** It says of itself that it is UTF-8. */
  utf8: boolean;
  extra: Uint8Array;
}
export interface DecodedName {
  name: string;
  /** The encoding that was guessed, as people call it; empty when nothing had to be guessed. */
  guessed: string;
}

/** What tells how a name is written, but for guessing. */
function told({ bytes, utf8, extra }: StoredName): string | undefined {
  if (utf8) return new TextDecoder("utf-8").decode(bytes);
  return unicodePath(bytes, extra) ?? asUtf8(bytes);
}
/** Whether nothing tells how a name is written, so that it has to be guessed. */
export const needsGuess = (name: StoredName): boolean => told(name) === undefined;

/** Decodes a name: as UTF-8 where it is that, else in the encoding that was guessed for all names of its archive. Composed (NFC) form. */
export function decodeName(name: StoredName, ofAll?: NameEncoding): DecodedName {
  const known = told(name);
  if (known !== undefined) return { name: known.normalize("NFC"), guessed: "" };
  const encoding = ofAll ?? guessEncoding([name.bytes]);
  const text = encoding.decode(name.bytes) ?? new TextDecoder("latin1").decode(name.bytes);
  return { name: text.normalize("NFC"), guessed: encoding.words };
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
