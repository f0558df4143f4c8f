// What the streams of a PDF unpack to (ISO 32000-1, 7.3.8 and 7.4.4), held against a limit before anything parses them.
import { constants, inflateSync } from "node:zlib";

/** A dictionary stands right before its stream; those of fonts and pages are far shorter. */
const DICTIONARY_BYTES = 4096;
/** Filters of one stream applied one after another; more are of no writer. */
const MOST_PASSES = 4;

/** Unpacks what there is of a deflated stream; undefined when it unpacks to more than `most` bytes. What is damaged ends where the damage is. */
function unpacked(bytes: Uint8Array, most: number): Uint8Array | undefined {
  try {
    return inflateSync(bytes, { maxOutputLength: most, finishFlush: constants.Z_SYNC_FLUSH });
  } catch (error) {
    return (error as NodeJS.ErrnoException).code === "ERR_BUFFER_TOO_LARGE" ? undefined : new Uint8Array();
  }
}

/** Of one stream, unpacked: many times what a page of a hundred thousand letters takes. */
const MOST_STREAM_BYTES = 48 * 1024 * 1024;
/** So many streams are looked at; a file of sixty pages has some hundred. */
const MOST_STREAMS = 200_000;

/**
 * Whether a stream of a PDF, pictures apart, unpacks to more than `most` bytes, or there are more of them than are looked at. Deflated
 * streams only: no other filter packs a thousand to one. `bytes` is the whole file.
 */
export function hasLargeStream(bytes: Uint8Array, most = MOST_STREAM_BYTES): boolean {
  const file = Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  let streams = 0;
  for (let at = file.indexOf("stream"); at >= 0;) {
    if (++streams > MOST_STREAMS) return true;
    const before = file.toString("latin1", Math.max(0, at - DICTIONARY_BYTES), at);
    const dictionary = before.slice(Math.max(before.lastIndexOf(" obj"), 0));
    const start = at + 6 + (file[at + 6] === 13 ? 1 : 0) + (file[at + 6] === 10 || file[at + 7] === 10 ? 1 : 0);
    const end = file.indexOf("endstream", start);
    const filters = /\/Subtype\s*\/Image\b/.test(dictionary) ? 0 : (dictionary.match(/\/(FlateDecode|Fl)\b/g)?.length ?? 0);
    let data: Uint8Array = file.subarray(start, end < 0 ? undefined : end);
    for (let pass = 0; pass < Math.min(filters, MOST_PASSES); pass++) {
      const next = unpacked(data, most);
      if (!next) return true;
      data = next;
    }
    if (end < 0) return false;
    at = file.indexOf("stream", end + 9);
  }
  return false;
}
