// Endpoints of programs people name, and of probe documents.
import { Router, type Response } from "express";
import { z } from "zod";
import { ProgramLearned, ProgramRequest, ProgramSummary } from "../../contract/programs.ts";
import { CheckedOnly, CheckQuery, OnPage, QuickAnswer, QuickCheck } from "../../contract/quick-check.ts";
import { PROBE_KINDS } from "../../core/evidence/probe.ts";
import type { Parts } from "../parts.ts";
import type { Page } from "../services/sightings/programs.ts";
import type { Services } from "../services/services.ts";
import { answer, bodyOf, Done, done, idOf, queryOf } from "./answer.ts";
import { EVIDENCE_UPLOAD, withFiles } from "./uploads.ts";

const ProbeQuery = z.object({ family: z.coerce.number().int().min(0), kind: z.enum(PROBE_KINDS) });

export function programRoutes(parts: Pick<Parts, "incoming">, { programs, quickCheck }: Services): Router {
  const router = Router();
  const asDownload = (response: Response, { fileName, type, bytes }: Page): void => {
    // Always a download: a probe page is for the program, and never a page of this site.
    response.attachment(fileName).type(type).send(Buffer.from(bytes));
  };
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
    answer(ProgramSummary, (request) => programs.learn(idOf(request), bodyOf(ProgramLearned, request))),
  );
  router.get("/programs/:id/probe", (request, response) => {
    const { family, kind } = queryOf(ProbeQuery, request);
    asDownload(response, programs.probe(idOf(request), family, kind));
  });
  router.get(
    "/programs/:id/check",
    answer(QuickCheck, (request) => quickCheck.look(idOf(request), queryOf(CheckedOnly, request))),
  );
  router.get("/programs/:id/check/probe", (request, response) => {
    const { kind, styles } = queryOf(OnPage.extend({ kind: ProbeQuery.shape.kind }), request);
    asDownload(response, quickCheck.probe(idOf(request), kind, styles));
  });
  router.post(
    "/programs/:id/check",
    answer(QuickAnswer, (request) => {
      const { sure, styles } = queryOf(CheckQuery, request);
      return withFiles(request, parts.incoming, EVIDENCE_UPLOAD, ([file]) =>
        quickCheck.give(idOf(request), { ...file, sure: sure === "1" }, styles),
      );
    }),
  );
  router.post(
    "/programs/:id/check/practise",
    answer(QuickAnswer, (request) => quickCheck.practise(idOf(request), queryOf(OnPage, request).styles)),
  );
  return router;
}
