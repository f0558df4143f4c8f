// Endpoints of programs people name, and of probe documents.
import { Router } from "express";
import { z } from "zod";
import { ProgramLearned, ProgramRequest, ProgramSummary } from "../../contract/program.ts";
import { PROBE_KINDS } from "../../core/evidence/probe.ts";
import type { Services } from "../services/services.ts";
import { answer, bodyOf, Done, done, idOf, queryOf } from "./answer.ts";

const ProbeQuery = z.object({ family: z.coerce.number().int().min(0), kind: z.enum(PROBE_KINDS) });

export function programRoutes({ programs }: Services): Router {
  const router = Router();
  router.get(
    "/programs/:id",
    answer(ProgramSummary, (request) => programs.get(idOf(request))),
  );
  router.post(
    "/programs",
    answer(ProgramSummary, (request) => programs.put(bodyOf(ProgramRequest, request))),
  );
  router.post(
    "/programs/:id",
    answer(ProgramSummary, (request) => programs.put(bodyOf(ProgramRequest, request), idOf(request))),
  );
  for (const removed of [true, false]) {
    router.post(
      `/programs/:id/${removed ? "remove" : "bring-back"}`,
      answer(Done, (request) => done(programs.remove(idOf(request), removed))),
    );
  }
  router.post(
    "/programs/:id/opened",
    answer(ProgramSummary, (request) => programs.opened(idOf(request))),
  );
  router.post(
    "/programs/:id/updated",
    answer(ProgramSummary, (request) => programs.updated(idOf(request))),
  );
  router.post(
    "/programs/:id/learn",
    answer(ProgramSummary, (request) => programs.learn(idOf(request), bodyOf(ProgramLearned, request).readsWhen)),
  );
  router.get("/programs/:id/probe", (request, response) => {
    const { family, kind } = queryOf(ProbeQuery, request);
    const { fileName, type, bytes } = programs.probe(idOf(request), family, kind);
    // Always a download: a probe page is for the program, and never a page of this site.
    response.attachment(fileName).type(type).send(Buffer.from(bytes));
  });
  return router;
}
