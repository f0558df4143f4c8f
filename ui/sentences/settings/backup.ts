// Every sentence of backups, to be read aloud and changed in one place.
import { count } from "../../../core/words/words.ts";

export const SAY = {
  backup: "Backup",
  oneFileWithAllOfIt:
    "Everything in this library goes into one file: fonts, papers, licences, jobs, and what was seen. You can go on working meanwhile.",
  folderForBackups: "Folder for backups, on the computer Buvano runs on",
  bestOnAnotherDisk: "A disk you can take away is best. Later backups there hold only what is new.",
  backUpNow: "Back up now",
  lastBackup: (day: string, name: string, size: string, files: number, added: number) =>
    `Last backup: ${day}. ${name}, ${size}; ${count(files, "file")}, ${added} of them new. What is new was read back and is whole.`,
  noBackupYet: "There is no backup yet.",
  itComesBackBy: "It comes back, on this computer or another, with: buvano restore FOLDER --data NEW-FOLDER",
  remindMe: "Remind me of a backup",
  afterAWeek: "After a week",
  afterAMonth: "After a month",
  afterThreeMonths: "After three months",
  never: "Never",
  downloadsAsTheyArrived: (parcels: number, size: string) =>
    `The original downloads of ${count(parcels, "parcel")} are kept, too: ${size}. Their fonts and papers stay without them.`,
  letThemGo: "Let the originals go",
  originalsAreLetGo: (size: string) => `${size} of original downloads are let go; they are deleted after a day.`,
  lookingForTheLastBackup: "Looking for the last backup",
} as const;
