// All services, wired together.
import { join } from "node:path";
import { PracticeRoom } from "../../practice/room.ts";
import type { Context } from "../context.ts";
import { WorkPool } from "../work/pool.ts";
import { ClearanceService } from "./clearance.ts";
import { DeviceService } from "./devices.ts";
import { EvidenceService } from "./evidence.ts";
import { Handing } from "./handing.ts";
import { Hosts } from "./hosts.ts";
import { FamilyService } from "./families.ts";
import { JobService } from "./jobs.ts";
import { KitService } from "./kits.ts";
import { Observer } from "./observer.ts";
import { PairingService } from "./pairing.ts";
import { PaperService } from "./papers.ts";
import { ParcelService } from "./parcels.ts";
import { PlanService } from "./plans.ts";
import { PracticeService } from "./practice.ts";
import { ProgramService } from "./programs.ts";
import { Shelf } from "./shelf.ts";
import { SightingService } from "./sightings.ts";
import { TabletRoom } from "./tablet-room.ts";
import { TabletService } from "./tablets.ts";
import { Wanting } from "./wanted.ts";
import { WatchService } from "./watch.ts";

const HOUR_MS = 3_600_000;
/** What was removed or cleared can be had back this long. */
const KEPT_MS = 24 * HOUR_MS;

export interface Services {
  parcels: ParcelService;
  families: FamilyService;
  devices: DeviceService;
  plans: PlanService;
  pairing: PairingService;
  kits: KitService;
  programs: ProgramService;
  tabletRoom: TabletRoom;
  sightings: SightingService;
  evidence: EvidenceService;
  practice: PracticeService;
  papers: PaperService;
  watch: WatchService;
  clearance: ClearanceService;
  jobs: JobService;
  tablets: TabletService;
  close(): Promise<void>;
}

export async function makeServices(context: Context): Promise<Services> {
  const pool = new WorkPool(context.config.workerDir);
  const room = new PracticeRoom(join(context.config.dataDir, "practice"));
  const { builtInFonts } = context.config;
  if (builtInFonts) await room.prepare(builtInFonts);
  const shelf = new Shelf(context);
  const clearance = new ClearanceService(context, shelf);
  const sightings = new SightingService(context, shelf, clearance);
  const jobs = new JobService(context, shelf, clearance, sightings);
  const parcels = new ParcelService(context, pool, shelf, clearance);
  const watch = new WatchService(context, parcels);
  const observer = new Observer(context, new Hosts(context, room));
  const evidence = new EvidenceService(context, sightings, observer, pool);
  const handing = new Handing(context, room);
  const devices = new DeviceService(context, room, observer, parcels, (familyId) => clearance.of(familyId).lapsed);
  const tablets = new TabletService(context, jobs);
  const services: Services = {
    parcels,
    watch,
    families: new FamilyService(context, shelf, sightings, clearance, jobs),
    clearance,
    jobs,
    tablets,
    devices,
    plans: new PlanService(context, observer, new Wanting(context, (familyId) => clearance.hold(familyId)), handing, {
      warn: (familyIds) => jobs.beforeUse(familyIds),
      afterPlacing: (familyIds) => clearance.placed(familyIds),
    }),
    pairing: new PairingService(context, observer, handing, evidence),
    kits: new KitService(context, clearance, tablets),
    programs: new ProgramService(context),
    tabletRoom: new TabletRoom(devices, observer, room),
    sightings,
    evidence,
    practice: new PracticeService(context, room, observer),
    papers: new PaperService(context),
    close: async () => {
      clearInterval(tidying);
      await watch.close();
      parcels.close();
      await pool.close();
      context.events.close();
      context.db.close();
    },
  };
  const tidy = () => parcels.tidy(new Date(context.config.now().getTime() - KEPT_MS).toISOString());
  const tidying = setInterval(() => void tidy(), HOUR_MS);
  tidying.unref();
  await tidy();
  const held = [context.parcels.heldFiles(), context.library.shelvedFiles(), context.clearance.receipts(), context.plans.heldFiles()];
  await context.files.sweep(new Set(held.flat()));
  await devices.prepare(builtInFonts !== undefined);
  await services.plans.recover();
  await parcels.resume();
  await watch.start();
  return services;
}
