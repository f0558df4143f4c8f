// Endpoints of the practice room's programs.
import { Router } from "express";
import { PracticeDrawing, PracticeProgram, PracticeText } from "../../contract/practice.ts";
import type { Services } from "../services/services.ts";
import { answer, bodyOf, idOf } from "./answer.ts";

export function practiceRoutes(services: Services): Router {
  const { practice } = services;
  const router = Router();
  router.get(
    "/practice/:id",
    answer(PracticeProgram, (request) => practice.look(idOf(request))),
  );
  router.post(
    "/practice/:id/open",
    answer(PracticeProgram, (request) => practice.open(idOf(request))),
  );
  router.post(
    "/practice/:id/close",
    answer(PracticeProgram, (request) => practice.close(idOf(request))),
  );
  router.post(
    "/practice/:id/draw",
    answer(PracticeDrawing, (request) => practice.draw(idOf(request), bodyOf(PracticeText, request))),
  );
  for (const kind of ["pdf", "svg"] as const) {
    router.post(`/practice/:id/${kind}`, async (request, response) => {
      const { fileName, bytes } = await practice.exportAs(kind, idOf(request), bodyOf(PracticeText, request));
      response.attachment(fileName).type(kind).send(Buffer.from(bytes));
    });
  }
  return router;
}
