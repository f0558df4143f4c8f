// What services are made from: stores, files, the clock. Made once at start; each service is handed those it uses.
import { mkdir } from "node:fs/promises";
import { homedir } from "node:os";
import { join } from "node:path";
import { EventHub } from "./events.ts";
import { FileStore } from "./files/files.ts";
import { ClearanceStore, JobStore } from "./store/clearance.ts";
import { openDatabase, type Db } from "./store/database.ts";
import { DeviceStore } from "./store/devices.ts";
import { LibraryStore } from "./store/library.ts";
import { ParcelStore } from "./store/parcels.ts";
import { PairingStore } from "./store/pairings.ts";
import { PlanStore } from "./store/plans.ts";
import { ReadingStore } from "./store/readings.ts";
import { SettingsStore } from "./store/settings.ts";
import { HistoryStore, SightingStore } from "./store/sightings.ts";
import { ViewStore } from "./store/views.ts";
import { WatchedStore } from "./store/watched.ts";

export interface Config {
  /** Where the library lives. */
  dataDir: string;
  /** The built interface; undefined when only the API is served. */
  webDir: string | undefined;
  /** Where built worker files lie. */
  workerDir: string;
  /** Fonts every practice device comes with; undefined when the practice room is not wanted. */
  builtInFonts: string | undefined;
  now: () => Date;
  /** The account this runs for: its home, system and environment; tests hand in others. */
  home: string;
  platform: NodeJS.Platform;
  env: NodeJS.ProcessEnv;
}

/** The account and system this process runs under. */
export const thisMachine = (): Pick<Config, "home" | "platform" | "env"> => ({
  home: homedir(),
  platform: process.platform,
  env: process.env,
});

export interface Parts {
  config: Config;
  db: Db;
  parcels: ParcelStore;
  library: LibraryStore;
  devices: DeviceStore;
  plans: PlanStore;
  pairings: PairingStore;
  sightings: SightingStore;
  history: HistoryStore;
  settings: SettingsStore;
  watched: WatchedStore;
  clearance: ClearanceStore;
  jobs: JobStore;
  readings: ReadingStore;
  views: ViewStore;
  files: FileStore;
  events: EventHub;
  /** Where uploads lie until their parcel is removed. */
  incoming: string;
  now(): string;
}

export async function makeParts(config: Config): Promise<Parts> {
  const incoming = join(config.dataDir, "incoming");
  await mkdir(incoming, { recursive: true });
  const files = new FileStore(join(config.dataDir, "files"));
  await files.prepare();
  const db = openDatabase(join(config.dataDir, "library.db"));
  return {
    config,
    db,
    parcels: new ParcelStore(db),
    library: new LibraryStore(db),
    devices: new DeviceStore(db),
    plans: new PlanStore(db),
    pairings: new PairingStore(db),
    sightings: new SightingStore(db),
    history: new HistoryStore(db),
    settings: new SettingsStore(db),
    watched: new WatchedStore(db),
    clearance: new ClearanceStore(db),
    jobs: new JobStore(db),
    readings: new ReadingStore(db),
    views: new ViewStore(db),
    files,
    events: new EventHub(),
    incoming,
    now: () => config.now().toISOString(),
  };
}
