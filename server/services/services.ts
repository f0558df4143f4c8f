// All services, wired together.
import { join } from "node:path";
import { PracticeRoom } from "../../practice/room.ts";
import type { Context } from "../context.ts";
import { WorkPool } from "../work/pool.ts";
import { DeviceService } from "./devices.ts";
import { FamilyService } from "./families.ts";
import { PaperService } from "./papers.ts";
import { ParcelService } from "./parcels.ts";
import { PracticeService } from "./practice.ts";
import { SightingService } from "./sightings.ts";

export interface Services {
  parcels: ParcelService;
  families: FamilyService;
  devices: DeviceService;
  sightings: SightingService;
  practice: PracticeService;
  papers: PaperService;
  close(): Promise<void>;
}

export async function makeServices(context: Context): Promise<Services> {
  const pool = new WorkPool(context.config.workerDir);
  const room = new PracticeRoom(join(context.config.dataDir, "practice"));
  const { builtInFonts } = context.config;
  if (builtInFonts) await room.prepare(builtInFonts);
  const sightings = new SightingService(context);
  const services: Services = {
    parcels: new ParcelService(context, pool),
    families: new FamilyService(context, sightings),
    devices: new DeviceService(context, room),
    sightings,
    practice: new PracticeService(context, room),
    papers: new PaperService(context),
    close: async () => {
      services.parcels.close();
      await pool.close();
      context.events.close();
      context.db.close();
    },
  };
  if (builtInFonts) await services.devices.prepare();
  await services.parcels.resume();
  return services;
}
