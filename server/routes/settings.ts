// Endpoints of settings and of the watched folder.
import { Router } from "express";
import { BackupRequest, BackupState, OriginalsRequest } from "../../contract/backup.ts";
import { Settings, SettingsChange, WatchReport } from "../../contract/settings.ts";
import { Fault } from "../fault.ts";
import type { Parts } from "../parts.ts";
import type { Services } from "../services/services.ts";
import { folderProblem } from "../services/parcels/watch.ts";
import { answer, bodyOf } from "./answer.ts";

export function settingsRoutes(parts: Pick<Parts, "settings" | "events">, services: Services): Router {
  const { watch } = services;
  const router = Router();
  router.get(
    "/settings",
    answer(Settings, () => parts.settings.get()),
  );
  router.post(
    "/settings",
    answer(Settings, async (request) => {
      const change = bodyOf(SettingsChange, request);
      const problem = change.watchedFolder ? await folderProblem(change.watchedFolder) : undefined;
      if (problem) throw new Fault(422, problem);
      const { network: _network, ...rest } = change;
      parts.settings.set(rest);
      if (change.watchedFolder !== undefined) await watch.start();
      if (change.practice !== undefined) await services.devices.usePractice(change.practice);
      if (change.thisComputer !== undefined) await services.devices.useComputer(change.thisComputer);
      parts.events.changed("parcels");
      return parts.settings.get();
    }),
  );
  router.get(
    "/settings/watch",
    answer(WatchReport, () => watch.report()),
  );
  router.post(
    "/settings/watch/take-earlier",
    answer(WatchReport, async () => {
      await watch.takeEarlier();
      return watch.report();
    }),
  );
  router.get(
    "/backup",
    answer(BackupState, () => services.backups.state()),
  );
  router.post(
    "/backup",
    answer(BackupState, (request) => services.backups.make(bodyOf(BackupRequest, request).folder)),
  );
  router.post(
    "/backup/originals",
    answer(BackupState, (request) => {
      const { ids, cleared } = bodyOf(OriginalsRequest, request);
      return services.backups.letGo(ids, cleared);
    }),
  );
  return router;
}
