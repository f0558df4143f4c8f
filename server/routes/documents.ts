// Endpoints of documents: what fonts each needs, and having them placed.
import { rm } from "node:fs/promises";
import { join } from "node:path";
import { Router, type Request } from "express";
import { JobDetail } from "../../contract/job.ts";
import { DocumentsTaken, NeedsLook, NeedsPlanRequest, NeedsQuery, NeedsView } from "../../contract/needs.ts";
import { PlanView } from "../../contract/plan.ts";
import type { Parts } from "../parts.ts";
import type { Services } from "../services/services.ts";
import { answer, bodyOf, Done, done, idOf, queryOf } from "./answer.ts";
import { receiveFiles } from "./uploads.ts";

interface Given {
  fileName: string;
  path: string;
}
const LIMITS = { bytes: 200 * 1024 * 1024, files: 40 };

export function documentRoutes(parts: Pick<Parts, "incoming">, { needs }: Services): Router {
  const withFiles = async <T>(request: Request, work: (given: Given[]) => Promise<T>): Promise<T> => {
    const files = await receiveFiles(request, parts.incoming, LIMITS);
    const given = files.map(({ name, stored_as }) => ({ fileName: name.split("/").at(-1)!, path: join(parts.incoming, stored_as) }));
    try {
      return await work(given);
    } finally {
      for (const { path } of given) await rm(path, { force: true });
    }
  };
  const router = Router();
  router.get(
    "/documents",
    answer(NeedsView, (request) => needs.view(queryOf(NeedsQuery, request).device)),
  );
  router.post(
    "/documents",
    answer(DocumentsTaken, (request) => withFiles(request, (given) => needs.give(given))),
  );
  router.post(
    "/documents/look",
    answer(NeedsLook, (request) => withFiles(request, (given) => needs.look(given, queryOf(NeedsQuery, request).device))),
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
