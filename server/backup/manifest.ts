// What a backup says of itself: which files belong to the library, by their hashes, and in which zip beside it each lies; what its rows hold.
import { z } from "zod";

export const MANIFEST = "buvano-backup.json";
export const DATABASE = "library.db";

const Hash = z.string().regex(/^[0-9a-f]{64}$/);
export const Manifest = z.object({
  format: z.literal("buvano-backup"),
  version: z.literal(1),
  at: z.iso.datetime(),
  /** The library's schema. */
  schema: z.number().int(),
  database: z.object({ sha256: Hash, bytes: z.number().int() }),
  /** A digest of every table's rows. */
  tables: z.record(z.string(), z.object({ rows: z.number().int(), sha256: Hash })),
  /** Files by their paths in the library's folder. `in`: the zip beside this one that holds it; empty when this one does. */
  files: z.array(z.object({ path: z.string(), sha256: Hash, bytes: z.number().int(), in: z.string() })),
});
export type Manifest = z.infer<typeof Manifest>;

/** Names of backups; in order of their names they are in order of time. */
export const BACKUP_NAME = /^buvano-backup-\d{4}-\d{2}-\d{2}T\d{6}(-\d+)?\.zip$/;
/** What is not finished yet. */
export const UNFINISHED = /^\.buvano-backup-.*\.part/;
export const backupName = (at: Date, number: number): string =>
  `buvano-backup-${at.toISOString().slice(0, 19).replaceAll(":", "")}${number === 0 ? "" : `-${number}`}.zip`;
