// All services, wired together: each is handed what it uses.
import { stat } from "node:fs/promises";
import { join } from "node:path";
import { holdOf } from "../../core/clearance/job.ts";
import { PracticeRoom } from "../../practice/room.ts";
import type { Parts } from "../parts.ts";
import { Cells } from "../views/sightings.ts";
import { Clearing } from "../views/clearance.ts";
import { DeviceViews } from "../views/devices.ts";
import { FamilyViews } from "../views/families.ts";
import { ParcelViews } from "../views/parcels.ts";
import { Renewal } from "../views/renewal.ts";
import { WorkPool } from "../work/pool.ts";
import { TaskLost } from "../work/threads.ts";
import { BenchService } from "./bench/bench.ts";
import { ChoosingService } from "./families/choosing.ts";
import { ClearanceService } from "./clearance/clearance.ts";
import { CutService } from "./cutting/cuts.ts";
import { DeviceService } from "./devices/devices.ts";
import { EvidenceService } from "./sightings/evidence.ts";
import { KeptEvidence } from "./sightings/kept-evidence.ts";
import { LookService } from "./sightings/looks.ts";
import { SightingRecorder } from "./sightings/recording.ts";
import { TextReader } from "./facts/facts.ts";
import { FaceRenewer } from "./facts/faces.ts";
import { FactWriter } from "./facts/writer.ts";
import { FamilyService } from "./families/families.ts";
import { GlyphService } from "./glyphs/glyphs.ts";
import { Handing } from "./placing/handing.ts";
import { HistoryService } from "./history/history.ts";
import { Hosts } from "./devices/hosts.ts";
import { JobService } from "./jobs/jobs.ts";
import { KitService } from "./devices/kits.ts";
import { AlikeService } from "./matching/alike.ts";
import { MatchService } from "./matching/matching.ts";
import { FaceMeasurer } from "./matching/measuring.ts";
import { NeedsService } from "./documents/documents.ts";
import { Observer } from "./devices/observer.ts";
import { PairingService, type NetworkListener } from "./pairing/pairing.ts";
import { PaperService } from "./clearance/papers.ts";
import { ParcelContents } from "./parcels/contents.ts";
import { ParcelService } from "./parcels/parcels.ts";
import { PlanService } from "./placing/plans.ts";
import { PracticeService } from "./practice/practice.ts";
import { ProgramService } from "./sightings/programs.ts";
import { QuickCheckService } from "./sightings/quick-check.ts";
import { SightingService } from "./sightings/sightings.ts";
import { MissingFiles } from "./facts/missing.ts";
import { BackupService } from "./backup/backups.ts";
import { startProgram } from "./practice/open-program.ts";
import { TabletRoom } from "./practice/tablet-room.ts";
import { TabletService } from "./placing/tablets.ts";
import { Wanting } from "./placing/wanted.ts";
import { WatchService } from "./parcels/watch.ts";

const MINUTE_MS = 60_000;
/** The log of what was committed is written back from this size on, looked at so often. */
const WRITE_BACK_BYTES = 8 * 1024 * 1024;
const WRITE_BACK_MS = 400;
const HOUR_MS = 60 * MINUTE_MS;
/** What was removed or cleared can be had back this long. */
const KEPT_MS = 24 * HOUR_MS;
/** Families removed from the library can be brought back so long. */
const REMOVED_KEPT_MS = 30 * 24 * HOUR_MS;

export interface Services {
  parcels: ParcelService;
  families: FamilyService;
  choosing: ChoosingService;
  devices: DeviceService;
  plans: PlanService;
  pairing: PairingService;
  kits: KitService;
  programs: ProgramService;
  tabletRoom: TabletRoom;
  sightings: SightingService;
  evidence: EvidenceService;
  keptEvidence: KeptEvidence;
  looks: LookService;
  backups: BackupService;
  missing: MissingFiles;
  recorder: SightingRecorder;
  needs: NeedsService;
  practice: PracticeService;
  quickCheck: QuickCheckService;
  papers: PaperService;
  bench: BenchService;
  cuts: CutService;
  glyphs: GlyphService;
  matching: MatchService;
  measurer: FaceMeasurer;
  alike: AlikeService;
  watch: WatchService;
  clearance: ClearanceService;
  jobs: JobService;
  tablets: TabletService;
  history: HistoryService;
  reader: TextReader;
  renewal: Renewal;
  /** Sees to it that what days change is renewed, when a new one has begun; whether one has. */
  newDay(): boolean;
  /** Resolves once devices were looked at, and what an older program left was made anew. */
  begun: Promise<void>;
  close(): Promise<void>;
}

/** A listener that never listens: for servers that are not opened to the network. */
export const NO_LISTENER: NetworkListener = { addresses: () => [], problem: () => null, set: () => Promise.resolve() };

/** `pool`: threads that several libraries share one after the other; its maker closes it. */
export async function makeServices(
  parts: Parts,
  listener: NetworkListener = NO_LISTENER,
  pool = new WorkPool(parts.config.workerDir),
): Promise<Services> {
  const { config, events } = parts;
  const room = new PracticeRoom(join(config.dataDir, "practice"), (plan, device, onEnded) => startProgram(pool, plan, device, onEnded));
  if (config.builtInFonts) await room.prepare(config.builtInFonts);

  const clearing = new Clearing(parts);
  const lapsed = (familyId: number) => clearing.lapsed(familyId);
  const cells = new Cells(parts, lapsed);
  const renewal = new Renewal(parts, new FamilyViews(parts, clearing, cells), new ParcelViews(parts), new DeviceViews(parts, lapsed));
  // What changed is told once it can be seen.
  events.holdUntil(() => renewal.settle(TELL_WITHIN_MS));

  const writer = new FactWriter(parts);
  const told = () => events.changed("families", "parcels", "clearance");
  const reader = new TextReader(parts, pool, told);
  const faces = new FaceRenewer(parts, pool, writer, told);

  const clearance = new ClearanceService(parts, clearing);
  const jobs = new JobService(parts, renewal);
  const sightings = new SightingService(parts, cells, clearing, pool);
  const contents = new ParcelContents(parts, clearing, clearance);
  const parcels = new ParcelService(parts, pool, contents, writer, reader, renewal);
  const watch = new WatchService(parts, parcels, pool);
  const backups = new BackupService(parts, pool, parcels);
  const observer = new Observer(parts, new Hosts(parts, room), pool, writer, (device) => plans.settleHanded(device));
  const missing = new MissingFiles(parts, pool, observer, parcels);
  const recorder = new SightingRecorder(parts);
  const keptEvidence = new KeptEvidence(parts);
  const programs = new ProgramService(parts);
  const looks = new LookService(parts, { recorder, cells, programs });
  const evidence = new EvidenceService(parts, sightings, observer, pool, { recorder, kept: keptEvidence });
  const handing = new Handing(parts, room, pool);
  const devices = new DeviceService(parts, room, observer, parcels, pool, renewal);
  const tablets = new TabletService(parts, jobs, handing);
  const hold = (familyId: number) => {
    const family = renewal.family(familyId);
    return family && holdOf(family.clearance);
  };
  const plans = new PlanService(parts, observer, new Wanting(parts, hold), handing, {
    warn: (familyIds) => jobs.beforeUse(familyIds),
    afterPlacing: (familyIds) => clearance.placed(familyIds),
  });
  const practice = new PracticeService(parts, room, observer);
  const history: HistoryService = new HistoryService(parts, {
    plan: ({ id }) => plans.carryOut(id, true),
    licence: ({ id }) => clearance.removeLicence(id, true),
    "licence-removed": ({ id }) => clearance.removeLicence(id, false),
    "left-out": ({ text, sentence }) => clearance.leaveOut({ text, sentence, out: false }),
    "program-removed": ({ id }) => programs.remove(id, false),
    "job-removed": ({ id }) => jobs.remove(id, false),
    "sheet-removed": ({ id }) => bench.remove(id, false),
    "match-removed": ({ id }) => matching.remove(id, false),
    "parcel-removed": ({ id }) => parcels.remove(id, false),
    "archive-cleared": ({ id }) => parcels.clear(id, false),
    shelved: ({ styleIds }) => choosing.unshelve(styleIds),
    "styles-removed": ({ at }) => choosing.bringBack(at),
    spelling: ({ id, key }) => families.part(id, key),
    "name-learnt": (undo) => sightings.unlearnName(undo),
    unpaired: ({ id }) => pairing.restore(id),
    looks: ({ sightingIds }) => recorder.takeBackMany(sightingIds),
    sighting: ({ id }) => recorder.takeBack(id, true),
    "sighting-back": ({ id }) => recorder.takeBack(id, false),
  });
  const choosing = new ChoosingService(parts, (device) => observer.hosts.of(device).switches);
  const pairing = new PairingService(parts, observer, handing, looks, listener, pool);
  const families: FamilyService = new FamilyService(parts, renewal, sightings, jobs, history);

  const bench: BenchService = new BenchService(parts, renewal, (query) => families.filter(query), pool);

  const glyphs = new GlyphService(parts, pool);

  const measurer = new FaceMeasurer(parts, pool, observer);
  const matching: MatchService = new MatchService(parts, pool, { renewal, bench, measurer });
  // What arrives is measured once it is quiet.
  events.onChanged = (topics) => {
    if (topics.some((topic) => topic === "parcels" || topic === "devices")) measurer.poke();
    if (topics.includes("parcels")) void calmly("Looking for files", () => missing.again());
  };

  const { disk } = parts;
  disk.onChange = () => events.changed("library");
  /** Work in the background that a disk may refuse: it is told, and done at another time. */
  const calmly = async (what: string, work: () => unknown): Promise<void> => {
    try {
      await work();
    } catch (error) {
      if (!disk.report(error)) process.stderr.write(`${what} failed: ${error instanceof Error ? error.stack : String(error)}\n`);
    }
  };
  const tidy = async () => {
    const before = new Date(config.now().getTime() - KEPT_MS).toISOString();
    const long = new Date(config.now().getTime() - REMOVED_KEPT_MS).toISOString();
    disk.attempt(() => parts.library.forgetRemoved(long));
    await calmly("Tidying", () => parcels.tidy(before));
    await calmly("Tidying pictures", () => matching.tidy(before));
  };
  const hourly = async () => {
    await tidy();
    await calmly("Looking for files", () => missing.check());
  };
  const tidying = setInterval(() => void hourly(), HOUR_MS);
  tidying.unref();
  // Licences end with days.
  let day = "";
  const newDay = (): boolean => {
    if (clearing.today() === day) return false;
    day = clearing.today();
    disk.attempt(() => parts.clearance.markTimed());
    events.changed("clearance", "sightings", "devices");
    return true;
  };
  const dayWatch = setInterval(newDay, MINUTE_MS);
  dayWatch.unref();

  // Writing back waits for the disk; a thread does it, often enough that there is little.
  parts.db.pragma("wal_autocheckpoint = 0");
  let written = true;
  const writeBack = async () => {
    const { size } = await stat(`${parts.db.name}-wal`).catch(() => ({ size: 0 }));
    if (!written || size < WRITE_BACK_BYTES) return;
    written = false;
    await pool.checkpoint(parts.db.name).catch(() => {});
    written = true;
  };
  const writingBack = setInterval(() => void writeBack(), WRITE_BACK_MS);
  writingBack.unref();

  // What nobody holds any more goes first: it may be what fills the disk.
  const held = [parts.parcels.heldFiles(), parts.library.shelvedFiles(), parts.clearance.receipts(), parts.plans.heldFiles()];
  await calmly("Sweeping files", () => parts.files.sweep(new Set(held.flat())));
  await tidy();
  await calmly("Tidying evidence", () => keptEvidence.tidy());
  disk.attempt(() => parts.readings.sweep());
  disk.attempt(() => devices.prepare());
  await calmly("Recovering plans", () => plans.recover());
  await calmly("Going on with parcels", () => parcels.resume());
  newDay();
  renewal.poke();
  reader.poke();
  const begun = (async () => {
    await devices.lookAround();
    await watch.start();
    await renewal.settle();
    await faces.run();
    await missing.check();
    glyphs.poke();
    measurer.poke();
  })();
  begun.catch((error: unknown) => {
    if (!disk.report(error) && !(error instanceof TaskLost && error.why === "closed"))
      process.stderr.write(`Looking around failed: ${String(error)}\n`);
  });

  return {
    parcels,
    watch,
    families,
    choosing,
    clearance,
    jobs,
    tablets,
    devices,
    plans,
    programs,
    sightings,
    evidence,
    keptEvidence,
    looks,
    backups,
    missing,
    recorder,
    history,
    reader,
    renewal,
    newDay,
    begun,
    pairing,
    kits: new KitService(parts, clearing, tablets, pool),
    tabletRoom: new TabletRoom(devices, observer, room),
    practice,
    quickCheck: new QuickCheckService(parts, evidence, practice, renewal),
    papers: new PaperService(parts, reader),
    bench,
    cuts: new CutService(parts, bench, pool),
    glyphs,
    matching,
    measurer,
    alike: new AlikeService(parts, pool, renewal),
    needs: new NeedsService(parts, pool, { parcels, plans, jobs }),
    close: async () => {
      clearInterval(tidying);
      clearInterval(dayWatch);
      clearInterval(writingBack);
      for (const one of [parcels, reader, faces, renewal]) one.close();
      await watch.close();
      glyphs.close();
      measurer.close();
      matching.close();
      await pool.close();
      await begun.catch(() => {});
      events.close();
      parts.db.close();
    },
  };
}

/** What changed is told at the latest after so long, fresh or not; it is told again once it is. */
const TELL_WITHIN_MS = 400;
