// Endpoints of devices, plans, pairing and kits.
import { createReadStream } from "node:fs";
import { readFile, rm } from "node:fs/promises";
import { pipeline } from "node:stream/promises";
import { join } from "node:path";
import { Router } from "express";
import { z } from "zod";
import {
  Adopted,
  AdoptRequest,
  Comparison,
  DeviceDetail,
  DeviceFonts,
  DeviceFontsQuery,
  DeviceSummary,
  DuplicateGroup,
  PracticeStateChange,
  ProfileAct,
  Rescan,
  TabletProfiles,
} from "../../contract/devices.ts";
import { PairingView } from "../../contract/pairing.ts";
import { CarryOutRequest, ChooseRequest, PlanRequest, PlanView } from "../../contract/placing.ts";
import { LoadStyleRequest, PracticeProgram } from "../../contract/practice.ts";
import type { Parts } from "../parts.ts";
import type { Services } from "../services/services.ts";
import { answer, bodyOf, Done, done, idOf, queryOf } from "./answer.ts";
import { receiveFiles } from "./uploads.ts";

const MOST_FONT_BYTES = 100 * 1024 * 1024;
const KitQuery = z.object({
  families: z
    .string()
    .regex(/^\d{1,15}(,\d{1,15}){0,499}$/)
    .transform((text) => text.split(",").map(Number)),
});
const LoadQuery = z.object({ keep: z.enum(["yes", "no"]).default("no") });

export function deviceRoutes(parts: Pick<Parts, "incoming">, services: Services): Router {
  const { devices, plans, pairing, kits, tabletRoom, practice, history } = services;
  const withHistory = (device: Omit<DeviceDetail, "history" | "waiting">): DeviceDetail => ({
    ...device,
    history: history.ofDevice(device.id),
    waiting: plans.waiting(device.id).map((one) => one.name),
  });
  const router = Router();
  router.get(
    "/devices",
    answer(z.array(DeviceSummary), () => devices.list()),
  );
  router.get(
    "/devices/:id",
    answer(DeviceDetail, async (request) => withHistory(await devices.detail(idOf(request)))),
  );
  router.get(
    "/devices/:id/fonts",
    answer(DeviceFonts, (request) => {
      const { q, from, limit } = queryOf(DeviceFontsQuery, request);
      return devices.fonts(idOf(request), q, from, limit);
    }),
  );
  router.post(
    "/devices/:id/rescan",
    answer(Rescan, (request) => devices.rescan(idOf(request))),
  );
  router.post(
    "/devices/:id/external-changes-seen",
    answer(Done, (request) => done(devices.seeExternalChanges(idOf(request)))),
  );
  router.post(
    "/devices/:id/adopt",
    answer(Adopted, (request) => devices.adopt(idOf(request), bodyOf(AdoptRequest, request).files)),
  );
  router.get(
    "/devices/:id/duplicates",
    answer(z.array(DuplicateGroup), (request) => devices.duplicates(idOf(request))),
  );
  router.get(
    "/devices/:id/compare/:otherId",
    answer(Comparison, (request) => devices.compare(idOf(request), idOf(request, "otherId"))),
  );
  router.post(
    "/devices/:id/practice",
    answer(DeviceDetail, async (request) =>
      withHistory(await devices.setPracticeState(idOf(request), bodyOf(PracticeStateChange, request))),
    ),
  );
  router.get(
    "/devices/:id/profiles",
    answer(TabletProfiles, (request) => tabletRoom.profiles(idOf(request))),
  );
  router.post(
    "/devices/:id/profiles/:profile",
    answer(TabletProfiles, (request) => tabletRoom.act(idOf(request), String(request.params["profile"]), bodyOf(ProfileAct, request))),
  );

  router.post(
    "/plans",
    answer(PlanView, (request) => plans.draw(bodyOf(PlanRequest, request))),
  );
  router.get(
    "/plans/:id",
    answer(PlanView, (request) => plans.plan(idOf(request))),
  );
  router.post(
    "/plans/:id/choose",
    answer(PlanView, (request) => plans.choose(idOf(request), bodyOf(ChooseRequest, request))),
  );
  router.post(
    "/plans/:id/do",
    answer(PlanView, (request) => plans.carryOut(idOf(request), false, bodyOf(CarryOutRequest, request).passcode)),
  );
  router.post(
    "/plans/:id/undo",
    answer(PlanView, (request) => plans.carryOut(idOf(request), true, bodyOf(CarryOutRequest, request).passcode)),
  );

  router.get(
    "/pairing",
    answer(PairingView, () => pairing.view()),
  );
  router.post(
    "/pairing/network",
    answer(PairingView, (request) => pairing.setNetwork(bodyOf(z.object({ open: z.boolean() }), request).open)),
  );
  router.post(
    "/pairing/invite",
    answer(PairingView, () => pairing.invite()),
  );
  router.post(
    "/pairing/:id/revoke",
    answer(PairingView, (request) => pairing.revoke(idOf(request))),
  );
  router.post(
    "/pairing/:id/restore",
    answer(PairingView, (request) => pairing.restore(idOf(request))),
  );

  router.get("/kit", async (request, response) => {
    const { fileName, path } = await kits.make(queryOf(KitQuery, request).families);
    try {
      response.attachment(fileName).type("application/zip");
      await pipeline(createReadStream(path), response);
    } finally {
      await rm(path, { force: true });
    }
  });

  router.post(
    "/practice/:id/load",
    answer(PracticeProgram, async (request) => {
      const [file] = await receiveFiles(request, parts.incoming, { bytes: MOST_FONT_BYTES, files: 1 });
      const path = join(parts.incoming, file!.stored_as);
      try {
        return await practice.load(idOf(request), file!.name, await readFile(path), queryOf(LoadQuery, request).keep === "yes");
      } finally {
        await rm(path, { force: true });
      }
    }),
  );
  router.post(
    "/practice/:id/load-style",
    answer(PracticeProgram, (request) => {
      const { styleId, keep } = bodyOf(LoadStyleRequest, request);
      return practice.loadStyle(idOf(request), styleId, keep);
    }),
  );
  return router;
}
