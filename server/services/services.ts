// All services, wired together.
import { join } from "node:path";
import { PracticeRoom } from "../../practice/room.ts";
import type { Context } from "../context.ts";
import { WorkPool } from "../work/pool.ts";
import { ClearanceService } from "./clearance.ts";
import { DeviceService } from "./devices.ts";
import { FamilyService } from "./families.ts";
import { JobService } from "./jobs.ts";
import { PaperService } from "./papers.ts";
import { ParcelService } from "./parcels.ts";
import { PracticeService } from "./practice.ts";
import { Shelf } from "./shelf.ts";
import { SightingService } from "./sightings.ts";
import { TabletService } from "./tablets.ts";
import { WatchService } from "./watch.ts";

const HOUR_MS = 3_600_000;
/** What was removed or cleared can be had back this long. */
const KEPT_MS = 24 * HOUR_MS;

export interface Services {
  parcels: ParcelService;
  families: FamilyService;
  devices: DeviceService;
  sightings: SightingService;
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
  const services: Services = {
    parcels,
    watch,
    families: new FamilyService(context, shelf, sightings, clearance, jobs),
    clearance,
    jobs,
    tablets: new TabletService(context, jobs),
    devices: new DeviceService(context, room, {
      warn: (familyIds) => jobs.beforeUse(familyIds),
      afterPlacing: (familyIds) => clearance.placed(familyIds),
    }),
    sightings,
    practice: new PracticeService(context, room),
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
  await context.files.sweep(new Set([...context.parcels.heldFiles(), ...context.library.shelvedFiles(), ...context.clearance.receipts()]));
  if (builtInFonts) await services.devices.prepare();
  await parcels.resume();
  await watch.start();
  return services;
}
