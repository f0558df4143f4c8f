// Choices made once for all.
import { z } from "zod";

/** How much an archive may unpack to; the defaults are far above any font download. */
export const ArchiveLimits = z.object({
  entries: z.number().int().min(10).max(1_000_000),
  totalMib: z.number().int().min(1).max(65_536),
  entryMib: z.number().int().min(1).max(16_384),
  /** Unpacked bytes for one packed byte. */
  ratio: z.number().int().min(10).max(10_000),
  depth: z.number().int().min(1).max(6),
});
export type ArchiveLimits = z.infer<typeof ArchiveLimits>;
export const DEFAULT_ARCHIVE_LIMITS: ArchiveLimits = { entries: 20_000, totalMib: 4096, entryMib: 1024, ratio: 200, depth: 3 };

/** The last backup that was made. */
export const BackupMade = z.object({
  name: z.string(),
  bytes: z.number().int(),
  /** All files of the library, and those that no earlier one in its place held. */
  files: z.number().int(),
  added: z.number().int(),
  at: z.iso.datetime(),
});
export type BackupMade = z.infer<typeof BackupMade>;

const FOLDER_LENGTH = 4000;
const CHOICES = {
  /** Which file is taken when a style comes in both formats. */
  twinFormat: z.enum(["otf", "ttf"]),
  limits: ArchiveLimits,
  /** A folder on the server's machine whose new downloads become parcels; null for none. */
  watchedFolder: z.string().max(FOLDER_LENGTH).nullable(),
  /** Whether the computer Buvano runs on is one of the devices. */
  thisComputer: z.boolean(),
  /** Whether the practice devices are among the devices. */
  practice: z.boolean(),
  /** Whether devices on the network can reach Buvano, to be paired. */
  network: z.boolean(),
  /** Whether files given as evidence are kept, and how much of them: the oldest go first. */
  keepEvidence: z.boolean(),
  evidenceMib: z.number().int().min(1).max(65_536),
  /** A reminder after so many days without a backup; 0 for none. */
  backupRemindDays: z.number().int().min(0).max(3650),
};
/** What was never chosen stands at its default. */
export const Settings = z.object({
  twinFormat: CHOICES.twinFormat.default("otf"),
  limits: CHOICES.limits.default(DEFAULT_ARCHIVE_LIMITS),
  watchedFolder: CHOICES.watchedFolder.default(null),
  thisComputer: CHOICES.thisComputer.default(false),
  practice: CHOICES.practice.default(false),
  network: CHOICES.network.default(false),
  keepEvidence: CHOICES.keepEvidence.default(true),
  evidenceMib: CHOICES.evidenceMib.default(500),
  backupRemindDays: CHOICES.backupRemindDays.default(30),
  /** Where backups go, and the last one: both known once one was made. */
  backupFolder: z.string().nullable().default(null),
  backupLast: BackupMade.nullable().default(null),
});
export type Settings = z.infer<typeof Settings>;
/** Some of them; those left out stay as they are, and have no default that would be written over them. */
export const SettingsChange = z.object(CHOICES).partial();
/** What is asked in a form of its own. */
export const WatchedFolder = z.object({ watchedFolder: z.string().trim().min(1).max(FOLDER_LENGTH) });
export const EvidenceLimit = z.object({ evidenceMib: CHOICES.evidenceMib });

/** What the watched folder brought. */
export const WatchReport = z.object({
  folder: z.string().nullable(),
  /** Where downloads usually land on this machine. */
  suggestion: z.string(),
  /** Why the folder cannot be watched at the moment; null when it can. */
  problem: z.object({ code: z.string(), message: z.string(), next: z.string() }).nullable(),
  taken: z.number().int(),
  passedOver: z.number().int(),
  /** Archives and fonts that lay there before it was watched. */
  before: z.number().int(),
  latest: z.array(z.object({ name: z.string(), outcome: z.string(), at: z.iso.datetime() })),
});
export type WatchReport = z.infer<typeof WatchReport>;
