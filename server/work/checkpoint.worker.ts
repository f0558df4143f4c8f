// Runs in a worker thread: writes what was committed back into the database's file, which waits for the disk, while the server goes on.
import Database from "better-sqlite3";
import { serve } from "./serve.ts";

let database: { path: string; db: Database.Database } | undefined;

serve<{ library: string }, void>(({ library }) => {
  if (database?.path !== library) database = { path: library, db: new Database(library) };
  // SQLite, "PRAGMA wal_checkpoint": PASSIVE does as much as it can without waiting for, or blocking, anybody.
  database.db.pragma("wal_checkpoint(PASSIVE)");
  return Promise.resolve();
});
