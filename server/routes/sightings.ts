// Endpoints of sightings: the board, its cells, evidence.
import { readFile } from "node:fs/promises";
import { Router } from "express";
import { z } from "zod";
import {
  Board,
  BoardQuery,
  Cell,
  CellKeys,
  Diagnosis,
  EvidenceAnswer,
  EvidenceQuery,
  LookAnswer,
  LookedMany,
  LookManyRequest,
  LookRequest,
  NameLearnt,
  NameRequest,
  PictureResult,
  Sighting,
  TakeBackRequest,
} from "../../contract/sightings.ts";
import type { Parts } from "../parts.ts";
import type { Services } from "../services/services.ts";
import { answer, bodyOf, idOf, queryOf } from "./answer.ts";
import { EVIDENCE_UPLOAD, withFiles } from "./uploads.ts";

const MOST_PICTURE_BYTES = 50 * 1024 * 1024;
const WordsQuery = z.object({ words: z.string().max(200) });

export function sightingRoutes(parts: Pick<Parts, "incoming" | "library" | "programs">, services: Services): Router {
  const { sightings, evidence, keptEvidence, looks, recorder } = services;
  const router = Router();
  router.get(
    "/board",
    answer(Board, (request) => sightings.board(queryOf(BoardQuery, request))),
  );
  router.get(
    "/board/cells",
    answer(CellKeys, (request) => ({ cells: sightings.boardCells(queryOf(BoardQuery, request)) })),
  );
  router.post(
    "/board/look",
    answer(LookedMany, (request) => looks.lookMany(bodyOf(LookManyRequest, request))),
  );
  router.get(
    "/cells/:styleId/:programId",
    answer(Cell, async (request) => {
      const cell = await sightings.forStyle(idOf(request, "styleId"), idOf(request, "programId"));
      const earlier = recorder.ofCell(cell.styleId, cell.programId);
      const { familyId } = parts.library.styleBrief(cell.styleId)!;
      const { own, traits } = parts.programs.get(cell.programId)!;
      const { sha256, face } = parts.library.styleBrief(cell.styleId)!;
      const nameLearnt = parts.programs.learntName(cell.programId, sha256, face) !== undefined;
      return {
        ...cell,
        nameLearnt,
        familyId,
        practice: !own,
        readsWhen: traits.readsWhen,
        warnings: services.jobs.beforeUse([familyId]),
        earlier,
      };
    }),
  );
  router.get(
    "/cells/:styleId/:programId/diagnosis",
    answer(Diagnosis, async (request) => {
      // What happened behind Buvano's back is found out first.
      await services.devices.lookBefore(idOf(request, "programId"));
      return sightings.diagnosis(idOf(request, "styleId"), idOf(request, "programId"));
    }),
  );
  router.post(
    "/cells/:styleId/:programId/name",
    answer(NameLearnt, (request) =>
      sightings.learnName(idOf(request, "styleId"), idOf(request, "programId"), bodyOf(NameRequest, request).name),
    ),
  );
  router.post(
    "/cells/:styleId/:programId/look",
    answer(LookAnswer, (request) => looks.look(idOf(request, "styleId"), idOf(request, "programId"), bodyOf(LookRequest, request))),
  );
  router.post(
    "/cells/:styleId/:programId/picture",
    answer(PictureResult, (request) => {
      const { words } = queryOf(WordsQuery, request);
      return withFiles(request, parts.incoming, { bytes: MOST_PICTURE_BYTES, files: 1 }, ([{ fileName, path }]) =>
        evidence.picture(idOf(request, "styleId"), idOf(request, "programId"), fileName, path, words),
      );
    }),
  );
  router.post(
    "/cells/:styleId/:programId/evidence",
    answer(EvidenceAnswer, (request) => {
      const { words, sure } = queryOf(EvidenceQuery, request);
      return withFiles(request, parts.incoming, EVIDENCE_UPLOAD, ([file]) =>
        evidence.give(idOf(request, "styleId"), idOf(request, "programId"), { ...file, words, sure: sure === "1" }),
      );
    }),
  );
  router.get("/sightings/:id/file", async (request, response) => {
    const { path, name } = await keptEvidence.file(idOf(request));
    // Whatever it is, it is saved and never shown from here.
    response
      .attachment(name)
      .type("application/octet-stream")
      .send(await readFile(path));
  });
  router.post(
    "/sightings/:id/take-back",
    answer(Sighting, (request) => recorder.takeBack(idOf(request), bodyOf(TakeBackRequest, request).back)),
  );
  return router;
}
