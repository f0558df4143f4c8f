// The API: one line an endpoint, each request and answer fitting the contract; a room for each matter.
import express, { Router } from "express";
import type { Parts } from "../parts.ts";
import type { Services } from "../services/services.ts";
import { nothingHere, SETTLE_MS, shownFirst } from "./answer.ts";
import { benchRoutes } from "./bench.ts";
import { cutRoutes } from "./cutting.ts";
import { clearanceRoutes } from "./clearance.ts";
import { deviceRoutes } from "./devices.ts";
import { familyRoutes } from "./families.ts";
import { matchRoutes } from "./matching.ts";
import { documentRoutes } from "./documents.ts";
import { programRoutes } from "./programs.ts";
import { fileRoutes } from "./files.ts";
import { libraryRoutes } from "./library.ts";
import { parcelRoutes } from "./parcels.ts";
import { practiceRoutes } from "./practice.ts";
import { settingsRoutes } from "./settings.ts";
import { sightingRoutes } from "./sightings.ts";

/** 200 lines of 10,000 characters, each up to four bytes, with their layers. */
const SHEET_BYTES = 24 * 1024 * 1024;

export function api(
  parts: Pick<Parts, "config" | "events" | "settings" | "incoming" | "files" | "library" | "devices" | "disk" | "programs">,
  services: Services,
): Router {
  const router = Router();
  // A sheet as full as it may be is a long one.
  router.use("/bench/sheets", express.json({ limit: SHEET_BYTES }));
  router.use(express.json({ limit: "1mb" }));
  router.use(async (request, response, next) => {
    if (services.newDay()) await services.renewal.settle(SETTLE_MS);
    next();
  }, shownFirst(services.renewal));

  router.use(libraryRoutes(parts, services));
  router.use(parcelRoutes(parts, services));
  router.use(fileRoutes(parts, services));
  router.use(settingsRoutes(parts, services));
  router.use(sightingRoutes(parts, services));
  router.use(practiceRoutes(services));
  router.use(familyRoutes(services));
  router.use(benchRoutes(services));
  router.use(cutRoutes(parts, services));
  router.use(matchRoutes(parts, services));
  router.use(clearanceRoutes(parts, services));
  router.use(deviceRoutes(parts, services));
  router.use(programRoutes(parts, services));
  router.use(documentRoutes(parts, services));
  router.use(nothingHere);
  return router;
}
