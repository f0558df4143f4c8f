// Opens the library's database and brings its schema up to date, one numbered migration after another.
import Database from "better-sqlite3";
import { ProblemError } from "../../core/problem.ts";
import { openingProblem } from "./opening.ts";
import first from "./migrations/001-first.sql";
import settings from "./migrations/002-settings.sql";
import clearance from "./migrations/004-clearance.sql";
import devices from "./migrations/005-devices.sql";
import evidence from "./migrations/010-evidence.sql";
import sightings from "./migrations/006-sightings.sql";
import deviceEvidence from "./migrations/007-device-evidence.sql";
import keptFacts from "./migrations/008-kept-facts.sql";
import attempts from "./migrations/009-attempts.sql";
import needs from "./migrations/011-needs.sql";
import leftOut from "./migrations/012-left-out.sql";
import bench from "./migrations/013-bench.sql";
import cuts from "./migrations/014-cuts.sql";
import matches from "./migrations/015-matches.sql";
import hands from "./migrations/016-hands.sql";
import watchedFolders from "./migrations/017-watched-folders.sql";
import programsMarkLess from "./migrations/018-programs-mark-less.sql";
import externalChanges from "./migrations/019-external-changes.sql";
import doubtedSightings from "./migrations/020-doubted-sightings.sql";
import joins from "./migrations/021-joins.sql";
import foundAt from "./migrations/022-found-at.sql";
import undone from "./migrations/023-undone.sql";
import parcelsInFull from "./migrations/003-parcels-in-full.sql";

export type Db = Database.Database;

/** In order; a released migration is never edited. */
const migrations: readonly string[] = [
  first,
  settings,
  parcelsInFull,
  clearance,
  devices,
  sightings,
  deviceEvidence,
  keptFacts,
  attempts,
  evidence,
  needs,
  leftOut,
  bench,
  cuts,
  matches,
  hands,
  watchedFolders,
  programsMarkLess,
  externalChanges,
  doubtedSightings,
  joins,
  foundAt,
  undone,
];

/** So long a statement waits for another program that writes to the library: it holds everything up meanwhile. */
const WAIT_MS = 60;

/** Prepares each statement once: the same few are run thousands of times. A text is plucked everywhere or nowhere. */
function keepPrepared(db: Db): void {
  const prepare = db.prepare.bind(db);
  const kept = new Map<string, ReturnType<typeof prepare>>();
  db.prepare = ((sql: string) => {
    let statement = kept.get(sql);
    if (!statement) kept.set(sql, (statement = prepare(sql)));
    return statement;
  }) as typeof db.prepare;
}

/** A table every library has had since the first. */
const OURS = "parcel_entries";
/** Refuses what is no library of this program's, or of a later one, before anything in it is touched. Returns its version. */
function versionOf(db: Db, path: string): number {
  const version = db.pragma("user_version", { simple: true }) as number;
  if (version > migrations.length)
    throw new ProblemError(
      "library-newer",
      `The library in ${path} was written by a newer Buvano.`,
      "Start that one, or choose another data folder with BUVANO_DATA. Nothing was changed.",
    );
  const tables = db.prepare("SELECT name FROM sqlite_schema WHERE type = 'table'").pluck().all() as string[];
  if (tables.length > 0 && (version < 1 || !tables.includes(OURS)))
    throw new ProblemError(
      "library-foreign",
      `${path} belongs to another program.`,
      "Move it away, or choose another data folder with BUVANO_DATA. Nothing was changed.",
    );
  return version;
}

/**
 * Opens (and makes) the database file. Throws a `ProblemError` for one that is damaged, foreign, newer or cannot be written. What it keeps of
 * faces may be made by an older program: `renewBriefs`.
 */
export function openDatabase(path: string): Db {
  let db: Db | undefined;
  try {
    db = new Database(path, { timeout: WAIT_MS });
    const version = versionOf(db, path);
    db.pragma("journal_mode = WAL");
    db.pragma("synchronous = FULL");
    // Pages are written back in larger lots: rows of views are renewed again and again.
    db.pragma("wal_autocheckpoint = 4000");
    db.pragma("foreign_keys = ON");
    keepPrepared(db);
    const opened = db;
    for (let next = version; next < migrations.length; next++) {
      opened.transaction(() => {
        opened.exec(migrations[next]!);
        opened.pragma(`user_version = ${next + 1}`);
      })();
    }
    return opened;
  } catch (error) {
    db?.close();
    throw openingProblem(error, path) ?? error;
  }
}

/**
 * Runs `work` in a transaction whose last commits may be lost with the power, never torn: for what can be computed again. The marks that
 * lead to it are lost with it or kept with it.
 */
export function derived<T>(db: Db, work: () => T): T {
  // Within a larger transaction it is committed as that one is.
  if (db.inTransaction) return db.transaction(work)();
  db.pragma("synchronous = NORMAL");
  try {
    return db.transaction(work)();
  } finally {
    db.pragma("synchronous = FULL");
  }
}
