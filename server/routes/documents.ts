// Endpoints of documents: what fonts each needs, and having them placed.
import { Router } from "express";
import { JobDetail } from "../../contract/jobs.ts";
import { DocumentsTaken, NeedsLook, NeedsPlanRequest, NeedsQuery, NeedsView } from "../../contract/documents.ts";
import { PlanView } from "../../contract/placing.ts";
import type { Parts } from "../parts.ts";
import type { Services } from "../services/services.ts";
import { answer, bodyOf, Done, done, idOf, queryOf } from "./answer.ts";
import { withFiles } from "./uploads.ts";

const LIMITS = { bytes: 200 * 1024 * 1024, files: 40 };

export function documentRoutes(parts: Pick<Parts, "incoming">, { needs }: Services): Router {
  const router = Router();
  router.get(
    "/documents",
    answer(NeedsView, (request) => needs.view(queryOf(NeedsQuery, request).device)),
  );
  router.post(
    "/documents",
    answer(DocumentsTaken, (request) => withFiles(request, parts.incoming, LIMITS, (files) => needs.give(files))),
  );
  router.post(
    "/documents/look",
    answer(NeedsLook, (request) =>
      withFiles(request, parts.incoming, LIMITS, (files) => needs.look(files, queryOf(NeedsQuery, request).device)),
    ),
  );
  router.post(
    "/documents/plan",
    answer(PlanView, (request) => needs.plan(bodyOf(NeedsPlanRequest, request))),
  );
  router.post(
    "/documents/:id/job",
    answer(JobDetail, (request) => needs.job(idOf(request), queryOf(NeedsQuery, request).device)),
  );
  for (const removed of [true, false]) {
    router.post(
      `/documents/:id/${removed ? "remove" : "bring-back"}`,
      answer(Done, (request) => done(needs.remove(idOf(request), removed))),
    );
  }
  return router;
}
