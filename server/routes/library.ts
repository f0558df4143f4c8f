// Endpoints of the library as a whole: events, what can be taken back, Today, the demo.
import { Router } from "express";
import { z } from "zod";
import { HistoryEvent } from "../../contract/history.ts";
import { LibraryState, MissingFound } from "../../contract/library.ts";
import { Today } from "../../contract/today.ts";
import { notFound } from "../fault.ts";
import type { Parts } from "../parts.ts";
import type { Services } from "../services/services.ts";
import { answer, Done, done, idOf } from "./answer.ts";

export function libraryRoutes(parts: Pick<Parts, "config" | "events" | "disk">, services: Services): Router {
  const { families } = services;
  const router = Router();
  router.get("/events", (_request, response) => parts.events.join(response));
  router.get(
    "/history/undoable",
    answer(z.array(HistoryEvent), () => services.history.undoable()),
  );
  router.post(
    "/history/:id/undo",
    answer(Done, async (request) => done(await services.history.undo(idOf(request)))),
  );
  router.get(
    "/library",
    answer(LibraryState, () => ({ problem: parts.disk.problem, demo: parts.config.putBack !== undefined })),
  );
  router.post(
    "/demo/put-back",
    answer(Done, () => {
      if (!parts.config.putBack) throw notFound("demo");
      return done(parts.config.putBack());
    }),
  );
  router.get(
    "/today",
    answer(Today, () => ({ ...families.today(), backup: services.backups.due(), missing: services.missing.sentence() })),
  );
  router.post(
    "/library/missing/find",
    answer(MissingFound, () => services.missing.find()),
  );
  return router;
}
