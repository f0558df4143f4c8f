// Endpoints of the bench: sheets, the styles on them, glyphs.
import { Router } from "express";
import { z } from "zod";
import {
  DecideRequest,
  Draws,
  DrawsQuery,
  GlyphPage,
  GlyphQuery,
  ProofRequest,
  RemoveRequest,
  SheetChange,
  SheetDetail,
  SheetMake,
  SheetSummary,
  SignsFound,
  SignsQuery,
  StepRequest,
  StyleFacts,
  StyleFeatures,
  StyleHead,
  StylePage,
  StyleQuery,
  BenchStyle,
} from "../../contract/bench.ts";
import type { Services } from "../services/services.ts";
import { answer, bodyOf, Done, done, idOf, queryOf } from "./answer.ts";

const FactsRequest = z.object({ styles: z.array(BenchStyle).max(500), jobId: z.number().int().nullable() });

export function benchRoutes({ bench, glyphs }: Pick<Services, "bench" | "glyphs">): Router {
  const router = Router();
  router.get(
    "/bench/sheets",
    answer(z.array(SheetSummary), () => bench.list()),
  );
  router.post(
    "/bench/sheets",
    answer(SheetDetail, (request) => bench.make(bodyOf(SheetMake, request))),
  );
  router.get(
    "/bench/sheets/:id",
    answer(SheetDetail, (request) => bench.detail(idOf(request))),
  );
  router.post(
    "/bench/sheets/:id",
    answer(SheetDetail, (request) => {
      const { body, from } = bodyOf(SheetChange, request);
      return bench.change(idOf(request), body, from);
    }),
  );
  router.post(
    "/bench/sheets/:id/step",
    answer(SheetDetail, (request) => bench.step(idOf(request), bodyOf(StepRequest, request).back)),
  );
  router.post(
    "/bench/sheets/:id/remove",
    answer(Done, (request) => done(bench.remove(idOf(request), bodyOf(RemoveRequest, request).removed))),
  );
  router.post("/bench/sheets/:id/proof", async (request, response) => {
    const { fileName, type, bytes } = await bench.proof(idOf(request), bodyOf(ProofRequest, request));
    response.attachment(fileName).type(type).send(Buffer.from(bytes));
  });
  router.post(
    "/bench/sheets/:id/decide",
    answer(SheetDetail, (request) => bench.decide(idOf(request), bodyOf(DecideRequest, request))),
  );
  router.get(
    "/bench/styles",
    answer(StylePage, (request) => {
      const { letter, like, ...query } = queryOf(StyleQuery, request);
      return letter === undefined ? bench.styles(query) : bench.byLetter(query, letter, like);
    }),
  );
  router.post(
    "/bench/facts",
    answer(z.array(StyleFacts), (request) => {
      const { styles, jobId } = bodyOf(FactsRequest, request);
      return styles.map((style) => bench.facts(style, jobId));
    }),
  );
  router.get(
    "/styles/:id",
    answer(StyleHead, (request) => bench.head(idOf(request))),
  );
  router.get(
    "/styles/:id/features",
    answer(StyleFeatures, (request) => glyphs.features(idOf(request))),
  );
  router.get(
    "/styles/:id/glyphs",
    answer(GlyphPage, (request) => glyphs.glyphs(idOf(request), queryOf(GlyphQuery, request))),
  );
  router.get(
    "/draws/signs",
    answer(SignsFound, (request) => glyphs.signsByWord(queryOf(SignsQuery, request).find)),
  );
  router.get(
    "/draws",
    answer(Draws, (request) => {
      const { text, family } = queryOf(DrawsQuery, request);
      return glyphs.draws(text, family);
    }),
  );
  return router;
}
