// How much an archive may unpack to before it is taken for a trap.
import { ProblemError } from "../problem.ts";
import { sizeWords } from "../words/words.ts";

export interface Limits {
  /** Most entries in one archive, folders included. */
  entries: number;
  /** Most bytes all entries may unpack to. */
  totalBytes: number;
  /** Most bytes one entry may unpack to. */
  entryBytes: number;
  /** Most unpacked bytes for one packed byte: of an entry once it passes `ratioFromBytes`, of all together once they pass `allFromBytes`. */
  ratio: number;
  ratioFromBytes: number;
  allFromBytes: number;
  /** How deep archives inside archives are followed; 1 is the parcel's own archive. */
  depth: number;
}

const MIB = 1024 * 1024;
export const DEFAULT_LIMITS: Limits = {
  entries: 20_000,
  totalBytes: 4096 * MIB,
  entryBytes: 1024 * MIB,
  ratio: 200,
  ratioFromBytes: 16 * MIB,
  allFromBytes: 64 * MIB,
  depth: 3,
};

/** Limits as a person sets them, in whole MiB. */
export const limitsFrom = (set: { entries: number; totalMib: number; entryMib: number; ratio: number; depth: number }): Limits => ({
  ...DEFAULT_LIMITS,
  entries: set.entries,
  totalBytes: set.totalMib * MIB,
  entryBytes: set.entryMib * MIB,
  ratio: set.ratio,
  depth: set.depth,
});

export const tooManyEntries = (limit: number) =>
  new ProblemError(
    "archive-entries-limit",
    `The archive lists more than ${limit} entries, the most that is unpacked.`,
    "Unpack the part you need yourself and drop that, or raise the limit “Entries” in the settings.",
  );
const tooManyBytes = (limit: number) =>
  new ProblemError(
    "archive-bytes-limit",
    `The archive unpacks to more than ${sizeWords(limit)}, the most that is taken.`,
    "Unpack the part you need yourself and drop that, or raise the limit “Unpacked in all” in the settings.",
  );
const tooDense = (ratio: number) =>
  new ProblemError(
    "archive-ratio-limit",
    `The archive unpacks to more than ${ratio} times its size, as traps do.`,
    "Check where it comes from. The limit is “Maximum expansion” in the settings.",
  );

/** How much everything that arrived together may still unpack to, archives inside archives included. */
export class Room {
  private readonly limits: Limits;
  private readonly most: number;
  bytes = 0;
  /** `packedBytes` arrived. */
  constructor(limits: Limits, packedBytes: number) {
    this.limits = limits;
    this.most = Math.min(limits.totalBytes, Math.max(limits.allFromBytes, limits.ratio * packedBytes));
  }
  get left(): number {
    return Math.max(0, this.most - this.bytes);
  }
  /** Takes so many more; throws when that is too much. */
  take(bytes: number): void {
    this.bytes += bytes;
    if (this.bytes > this.most) throw this.exceeded();
  }
  exceeded(): ProblemError {
    return this.most < this.limits.totalBytes ? tooDense(this.limits.ratio) : tooManyBytes(this.limits.totalBytes);
  }
}

export const entryTooLarge = (limit: number) =>
  new ProblemError(
    "entry-bytes-limit",
    `This entry unpacks to more than ${sizeWords(limit)}, the most one entry may.`,
    "It was left out; the rest is here. The limit is “One entry” in the settings.",
  );
export const entryTooDense = (ratio: number) =>
  new ProblemError(
    "entry-ratio-limit",
    `This entry unpacks to more than ${ratio} times its packed size, as traps do.`,
    "It was left out; the rest is here. The limit is “Maximum expansion” in the settings.",
  );
