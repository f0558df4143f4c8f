// What every kind of archive looks like from outside.
import type { Readable } from "node:stream";

export interface ArchiveEntry {
  /** As stored, decoded; not yet safe. */
  name: string;
  folder: boolean;
  encrypted: boolean;
  /** What the archive says it unpacks to; undefined when it does not say. Never trusted. */
  claimedBytes: number | undefined;
  /** Bytes it takes in the archive; undefined when entries are packed together. */
  packedBytes: number | undefined;
  /** CRC-32 of the contents, where the format stores one. */
  crc32: number | undefined;
  open(): Promise<Readable>;
}

export interface ArchiveReader {
  format: string;
  /** Number of entries when the format says so beforehand. */
  count: number | undefined;
  entries(): AsyncIterable<ArchiveEntry>;
  close(): void | Promise<void>;
}
