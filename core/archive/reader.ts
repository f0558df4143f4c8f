// What every kind of archive looks like from outside.
import type { Readable } from "node:stream";
import { ProblemError, type Problem } from "../problem.ts";

export interface ArchiveEntry {
  /** As stored, decoded; not yet safe. */
  name: string;
  /** The encoding its name was guessed to be in, as people call it; empty or missing where nothing had to be guessed. */
  guessed?: string;
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
  /** What is wrong with the archive though some of it could be read; asked for once its entries were gone through. */
  incomplete?(): Problem | undefined;
  close(): void | Promise<void>;
}

/** Links are not followed to where they point: that was never in the archive. */
export const notAFile = (): ProblemError =>
  new ProblemError("entry-kind", "This is not a file but a link or a device.", "It was left out; the rest is here.");
