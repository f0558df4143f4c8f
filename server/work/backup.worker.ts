// Runs in a process of its own: makes a backup of a library that is being used.
import { backUp, type BackupMade } from "../backup/backup.ts";
import { serve } from "./serve.ts";

export interface BackupTask {
  dataDir: string;
  /** The folder backups go to. */
  place: string;
  /** ISO 8601. */
  at: string;
}
/** How far it is, in files. */
export interface BackupTold {
  done: number;
  of: number;
}

/** Told no more often: what is heard is shown. */
const TELL_EVERY_MS = 200;

serve<BackupTask, BackupMade, BackupTold>(({ dataDir, place, at }, tell) => {
  let told = 0;
  return backUp(dataDir, place, new Date(at), (done, of) => {
    if (done < of && performance.now() - told < TELL_EVERY_MS) return;
    told = performance.now();
    tell({ done, of });
  });
});
