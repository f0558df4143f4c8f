// Families: the list, one of them, several at once.
import { Router } from "express";
import { z } from "zod";
import {
  ChosenFamilies,
  ChosenRequest,
  FamilyAct,
  FamilyActed,
  FamilyCounts,
  FamilyDetail,
  FamilyIds,
  FamilyPage,
  FamilyQuery,
  JoinRequest,
  PartRequest,
  PinRequest,
} from "../../contract/families.ts";
import { TabletView } from "../../contract/tablets.ts";
import { PROFILE_MEDIA_TYPE } from "../../core/placing/profile.ts";
import type { Services } from "../services/services.ts";
import { answer, bodyOf, Done, done, idOf, queryOf } from "./answer.ts";

const TextQuery = z.object({ text: z.string().max(500).default("") });

export function familyRoutes(services: Services): Router {
  const { families, choosing, alike } = services;
  /** The order by likeness, where that is asked for. */
  const orderOf = async ({ sort, like }: FamilyQuery): Promise<readonly number[] | undefined> =>
    sort === "likeness" && like !== undefined ? alike.order(like) : undefined;
  const router = Router();
  router.get(
    "/families",
    answer(FamilyPage, async (request) => {
      const query = queryOf(FamilyQuery, request);
      return families.list(query, await orderOf(query));
    }),
  );
  router.get(
    "/families/ids",
    answer(FamilyIds, async (request) => {
      const query = queryOf(FamilyQuery, request);
      return { ids: families.ids(query, await orderOf(query)) };
    }),
  );
  router.get(
    "/families/counts",
    answer(FamilyCounts, (request) => families.counts(queryOf(FamilyQuery, request))),
  );
  router.post(
    "/families/chosen",
    answer(ChosenFamilies, (request) => choosing.chosen(bodyOf(ChosenRequest, request).ids)),
  );
  router.post(
    "/families/act",
    answer(FamilyActed, (request) => choosing.act(bodyOf(FamilyAct, request))),
  );
  router.get(
    "/families/:id",
    answer(FamilyDetail, (request) => {
      const family = families.detail(idOf(request), queryOf(TextQuery, request).text);
      const own = new Set(family.styleList.map((style) => style.id));
      const handed = services.plans.waiting().filter(({ styleId }) => styleId !== null && own.has(styleId));
      const names = new Map(services.devices.list().map((device) => [device.id, device.name]));
      const waiting = [...new Set(handed.map((one) => one.deviceId))].map((deviceId) => ({
        deviceId,
        deviceName: names.get(deviceId) ?? "",
        styles: handed.filter((one) => one.deviceId === deviceId).length,
      }));
      return { ...family, waiting, missing: services.missing.ofFamily(family.id) };
    }),
  );

  router.get("/families/:id/profile", async (request, response) => {
    const { fileName, bytes } = await services.tablets.profile(idOf(request));
    response.attachment(fileName).set("content-type", PROFILE_MEDIA_TYPE).send(Buffer.from(bytes));
  });
  router.get(
    "/families/:id/tablet",
    answer(TabletView, (request) => services.tablets.view(idOf(request))),
  );
  router.post(
    "/families/:id/pin",
    answer(Done, (request) => done(families.pin(idOf(request), bodyOf(PinRequest, request).pinned))),
  );
  router.post(
    "/families/:id/join",
    answer(Done, (request) => done(families.join(idOf(request), bodyOf(JoinRequest, request).otherId))),
  );
  router.post(
    "/families/:id/part",
    answer(Done, (request) => done(families.part(idOf(request), bodyOf(PartRequest, request).key))),
  );

  return router;
}
