// Endpoints of parcels: received, looked at, shelved, unwrapped, removed.
import { Router } from "express";
import {
  ParcelDetail,
  ParcelIds,
  ParcelPage,
  ParcelQuery,
  ParcelSummary,
  RetryRequest,
  ShelveManyRequest,
  ShelveRequest,
  ShelveResult,
  UnwrapRequest,
} from "../../contract/parcels.ts";
import { parcelName } from "../../core/archive/arrival.ts";
import { limitsFrom } from "../../core/archive/limits.ts";
import type { Parts } from "../parts.ts";
import type { Services } from "../services/services.ts";
import { answer, bodyOf, Done, done, idOf, queryOf } from "./answer.ts";
import { receiveFiles } from "./uploads.ts";

/** Files of folders that are dropped together. */
const MOST_DROPPED = 50_000;

export function parcelRoutes(parts: Pick<Parts, "settings" | "incoming">, services: Services): Router {
  const { parcels } = services;
  const router = Router();
  router.get(
    "/parcels",
    answer(ParcelPage, (request) => {
      const { waits, from, limit } = queryOf(ParcelQuery, request);
      return parcels.list(waits && waits === "yes", from, limit);
    }),
  );
  router.post(
    "/parcels",
    answer(ParcelSummary, async (request) => {
      const { totalBytes } = limitsFrom(parts.settings.get().limits);
      const files = await receiveFiles(request, parts.incoming, { bytes: totalBytes, files: MOST_DROPPED });
      return parcels.summary(parcels.receive(parcelName(files.map((file) => file.name)), files));
    }),
  );
  router.get(
    "/parcels/shelvable",
    answer(ParcelIds, () => ({ ids: parcels.shelvableIds() })),
  );
  router.post(
    "/parcels/shelve",
    answer(ShelveResult, async (request) => {
      const shelved = await parcels.shelveMany(bodyOf(ShelveManyRequest, request).ids);
      services.glyphs.poke();
      return shelved;
    }),
  );
  router.get(
    "/parcels/:id",
    answer(ParcelDetail, (request) => parcels.detail(idOf(request))),
  );
  router.post(
    "/parcels/:id/shelve",
    answer(ShelveResult, (request) => {
      const shelved = parcels.shelve(idOf(request), bodyOf(ShelveRequest, request).faces);
      services.glyphs.poke();
      return shelved;
    }),
  );
  router.post(
    "/parcels/:id/retry",
    answer(ParcelSummary, (request) => parcels.retry(idOf(request), bodyOf(RetryRequest, request).password)),
  );
  router.post(
    "/parcels/:id/unwrap",
    answer(ParcelDetail, (request) => parcels.unwrap(idOf(request), bodyOf(UnwrapRequest, request).files)),
  );
  for (const cleared of [true, false]) {
    router.post(
      `/parcels/:id/${cleared ? "clear" : "unclear"}`,
      answer(ParcelSummary, (request) => parcels.clear(idOf(request), cleared)),
    );
    router.post(
      `/parcels/:id/${cleared ? "remove" : "bring-back"}`,
      answer(Done, (request) => done(parcels.remove(idOf(request), cleared))),
    );
  }
  return router;
}
