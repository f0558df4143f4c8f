// Endpoints of matching: pictures, what is read in them, which fonts they show; look-alikes of a family.
import { readFile } from "node:fs/promises";
import { Router } from "express";
import { SheetDetail } from "../../contract/bench.ts";
import { AlikeQuery, AlikeView, MatchAsked, MatchChoice, MatchList, MatchReading, MatchToJob, MatchView } from "../../contract/matching.ts";
import type { Parts } from "../parts.ts";
import type { Services } from "../services/services.ts";
import { answer, bodyOf, Done, done, idOf, queryOf } from "./answer.ts";
import { withFiles } from "./uploads.ts";

const LIMITS = { bytes: 50 * 1024 * 1024, files: 1 };

export function matchRoutes(parts: Pick<Parts, "incoming">, { matching, alike }: Pick<Services, "matching" | "alike">): Router {
  const router = Router();
  router.get(
    "/matches",
    answer(MatchList, () => matching.list()),
  );
  router.post(
    "/matches",
    answer(MatchView, (request) => withFiles(request, parts.incoming, LIMITS, ([file]) => matching.give(file.fileName, file.path))),
  );
  router.get(
    "/matches/:id",
    answer(MatchView, (request) => matching.view(idOf(request))),
  );
  router.get("/matches/:id/picture", async (request, response) => {
    const { path, type } = matching.picture(idOf(request));
    response.type(type).send(await readFile(path));
  });
  router.post(
    "/matches/:id/read",
    answer(MatchReading, (request) => matching.read(idOf(request), bodyOf(MatchAsked, request))),
  );
  router.post(
    "/matches/:id/answer",
    answer(MatchView, (request) => matching.answer(idOf(request), bodyOf(MatchAsked, request))),
  );
  router.post(
    "/matches/:id/stop",
    answer(Done, (request) => done(matching.stop(idOf(request)))),
  );
  router.post(
    "/matches/:id/sheet",
    answer(SheetDetail, (request) => matching.toSheet(idOf(request), bodyOf(MatchChoice, request).chosen)),
  );
  router.post(
    "/matches/:id/job",
    answer(MatchView, (request) => {
      const { jobId, chosen } = bodyOf(MatchToJob, request);
      return matching.toJob(idOf(request), jobId, chosen);
    }),
  );
  for (const removed of [true, false]) {
    router.post(
      `/matches/:id/${removed ? "remove" : "bring-back"}`,
      answer(Done, (request) => done(matching.remove(idOf(request), removed))),
    );
  }
  router.get(
    "/families/:id/alike",
    answer(AlikeView, (request) => alike.alike(idOf(request), queryOf(AlikeQuery, request).job ?? null)),
  );
  return router;
}
