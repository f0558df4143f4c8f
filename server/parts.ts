// What services are made from: stores, files, the clock. Made once at start; each service is handed those it uses.
import { mkdir } from "node:fs/promises";
import { homedir } from "node:os";
import { join } from "node:path";
import { DiskWatch } from "./disk.ts";
import { EventHub } from "./events.ts";
import { FileStore } from "./files/files.ts";
import { ClearanceStore } from "./store/clearance/clearance.ts";
import { JobStore } from "./store/jobs/jobs.ts";
import { BenchStore } from "./store/bench/bench.ts";
import { CutStore } from "./store/cutting/cuts.ts";
import { LibraryLock } from "./lock.ts";
import { openDatabase, type Db } from "./store/database.ts";
import { DeviceStore } from "./store/devices/devices.ts";
import { ExternalChangeStore } from "./store/devices/external-changes.ts";
import { ObservedStore } from "./store/devices/observed.ts";
import { ProgramStore } from "./store/devices/programs.ts";
import { DocumentStore } from "./store/documents/documents.ts";
import { listRanges, nameFaces, renewBriefs } from "./store/families/faces.ts";
import { MatchStore } from "./store/matching/matches.ts";
import { LibraryStore } from "./store/families/families.ts";
import { ParcelStore } from "./store/parcels/parcels.ts";
import { PairingStore } from "./store/pairing/pairings.ts";
import { PlanStore } from "./store/placing/plans.ts";
import { ReadingStore } from "./store/clearance/readings.ts";
import { SearchStore } from "./store/families/search.ts";
import { SettingsStore } from "./store/settings/settings.ts";
import { SightingStore } from "./store/sightings/sightings.ts";
import { HistoryStore } from "./store/history/history.ts";
import { ShelfList } from "./store/families/shelf-list.ts";
import { TagStore } from "./store/families/tags.ts";
import { CellViewStore } from "./store/views/cells.ts";
import { DeviceViewStore } from "./store/views/devices.ts";
import { FamilyViewStore } from "./store/views/families.ts";
import { ParcelViewStore } from "./store/views/parcels.ts";
import { StaleMarks } from "./store/views/stale.ts";
import { WatchedStore } from "./store/parcels/watched.ts";

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
  /** Has the demo's library made anew, and this process with it; undefined for a library of somebody's own. */
  putBack?: (() => void) | undefined;
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
  programs: ProgramStore;
  observed: ObservedStore;
  externalChanges: ExternalChangeStore;
  plans: PlanStore;
  pairings: PairingStore;
  sightings: SightingStore;
  search: SearchStore;
  shelf: ShelfList;
  tags: TagStore;
  history: HistoryStore;
  settings: SettingsStore;
  watched: WatchedStore;
  clearance: ClearanceStore;
  jobs: JobStore;
  readings: ReadingStore;
  bench: BenchStore;
  cuts: CutStore;
  matches: MatchStore;
  familyViews: FamilyViewStore;
  cellViews: CellViewStore;
  parcelViews: ParcelViewStore;
  deviceViews: DeviceViewStore;
  stale: StaleMarks;
  files: FileStore;
  /** Files given as evidence. */
  evidenceFiles: FileStore;
  /** Pictures that are matched. */
  pictures: FileStore;
  documents: DocumentStore;
  events: EventHub;
  lock: LibraryLock;
  disk: DiskWatch;
  /** Where uploads lie until their parcel is removed. */
  incoming: string;
  now(): string;
}

/** Opens the database; on a full disk with the room that is kept for that. */
function openLibrary(path: string, disk: DiskWatch): Db {
  try {
    return openDatabase(path);
  } catch (error) {
    if (!disk.report(error)) throw error;
    disk.dropBallast();
    return openDatabase(path);
  }
}

/** Throws `LibraryTaken` when another process has the library. */
export async function makeParts(config: Config): Promise<Parts> {
  const lock = new LibraryLock(config.dataDir);
  const disk = new DiskWatch(config.dataDir);
  try {
    return await openParts(config, lock, disk);
  } catch (error) {
    lock.release();
    disk.close();
    throw error;
  }
}

async function openParts(config: Config, lock: LibraryLock, disk: DiskWatch): Promise<Parts> {
  const incoming = join(config.dataDir, "incoming");
  const files = new FileStore(join(config.dataDir, "files"));
  const evidenceFiles = new FileStore(join(config.dataDir, "evidence"));
  // What was left half-written goes before anything is written: the disk may be full of it.
  await files.prepare();
  await evidenceFiles.prepare();
  const pictures = new FileStore(join(config.dataDir, "pictures"));
  await pictures.prepare();
  await mkdir(incoming, { recursive: true });
  const db = openLibrary(join(config.dataDir, "library.db"), disk);
  disk.attempt(() => void renewBriefs(db));
  disk.attempt(() => nameFaces(db));
  disk.attempt(() => listRanges(db));
  if (!disk.problem) disk.keepBallast();
  const close = db.close.bind(db);
  db.close = () => {
    disk.close();
    const closed = close();
    lock.release();
    return closed;
  };
  const programs = new ProgramStore(db);
  const observed = new ObservedStore(db);
  return {
    config,
    db,
    evidenceFiles,
    documents: new DocumentStore(db),
    parcels: new ParcelStore(db),
    library: new LibraryStore(db),
    devices: new DeviceStore(db, programs, observed),
    programs,
    observed,
    externalChanges: new ExternalChangeStore(db),
    plans: new PlanStore(db),
    pairings: new PairingStore(db),
    sightings: new SightingStore(db),
    history: new HistoryStore(db),
    settings: new SettingsStore(db),
    watched: new WatchedStore(db),
    clearance: new ClearanceStore(db),
    jobs: new JobStore(db),
    readings: new ReadingStore(db),
    bench: new BenchStore(db),
    cuts: new CutStore(db),
    matches: new MatchStore(db),
    pictures,
    familyViews: new FamilyViewStore(db),
    cellViews: new CellViewStore(db),
    parcelViews: new ParcelViewStore(db),
    deviceViews: new DeviceViewStore(db),
    stale: new StaleMarks(db),
    shelf: new ShelfList(db),
    search: new SearchStore(db),
    tags: new TagStore(db),
    files,
    events: new EventHub(),
    lock,
    disk,
    incoming,
    now: () => config.now().toISOString(),
  };
}
