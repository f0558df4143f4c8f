// The API: one line an endpoint, each request and answer fitting the contract.
import { readFile } from "node:fs/promises";
import express, { Router } from "express";
import { z } from "zod";
import { HistoryEvent } from "../../contract/history.ts";
import {
  ParcelDetail,
  ParcelIds,
  ParcelPage,
  ParcelQuery,
  ParcelSummary,
  RetryRequest,
  ShelveManyRequest,
  ShelveRequest,
  ShelveResult,
  UnwrapRequest,
} from "../../contract/parcels.ts";
import { LibraryState } from "../../contract/library.ts";
import { PaperText } from "../../contract/papers.ts";
import { PracticeDrawing, PracticeProgram, PracticeText } from "../../contract/practice.ts";
import {
  Board,
  BoardQuery,
  Cell,
  CellKeys,
  Diagnosis,
  EvidenceAnswer,
  EvidenceQuery,
  LookedMany,
  LookManyRequest,
  LookRequest,
  NameLearnt,
  NameRequest,
  PictureResult,
  Sighting,
  TakeBackRequest,
} from "../../contract/sightings.ts";
import { Settings, SettingsChange, WatchReport } from "../../contract/settings.ts";
import { Today } from "../../contract/today.ts";
import { parcelName } from "../../core/archive/arrival.ts";
import { limitsFrom } from "../../core/archive/limits.ts";
import { fontEnding, placedFileName } from "../../core/placing/files.ts";
import { Fault, notFound } from "../fault.ts";
import type { Parts } from "../parts.ts";
import type { Services } from "../services/services.ts";
import { folderProblem } from "../services/parcels/watch.ts";
import { answer, bodyOf, Done, done, idOf, nothingHere, queryOf, SETTLE_MS, shownFirst } from "./answer.ts";
import { benchRoutes } from "./bench.ts";
import { cutRoutes } from "./cutting.ts";
import { clearanceRoutes } from "./clearance.ts";
import { deviceRoutes } from "./devices.ts";
import { familyRoutes } from "./families.ts";
import { matchRoutes } from "./matching.ts";
import { documentRoutes } from "./documents.ts";
import { programRoutes } from "./programs.ts";
import { receiveFiles, withFiles } from "./uploads.ts";

const MOST_EVIDENCE_BYTES = 200 * 1024 * 1024;
const MOST_PICTURE_BYTES = 50 * 1024 * 1024;
const WordsQuery = z.object({ words: z.string().max(200) });

const mediaTypes: Record<string, string> = {
  "\0\x01\0\0": "font/ttf",
  true: "font/ttf",
  OTTO: "font/otf",
  ttcf: "font/collection",
  wOFF: "font/woff",
  wOF2: "font/woff2",
};

export function api(
  parts: Pick<Parts, "config" | "events" | "settings" | "incoming" | "files" | "library" | "devices" | "disk" | "programs">,
  services: Services,
): Router {
  const { parcels, families, sightings, evidence, practice, papers, watch } = services;
  const router = Router();
  router.use(express.json({ limit: "1mb" }));
  router.use(async (request, response, next) => {
    if (services.newDay()) await services.renewal.settle(SETTLE_MS);
    next();
  }, shownFirst(services.renewal));

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
    answer(Today, () => families.today()),
  );

  router.get(
    "/parcels",
    answer(ParcelPage, (request) => {
      const { waits, from, limit } = queryOf(ParcelQuery, request);
      return parcels.list(waits && waits === "yes", from, limit);
    }),
  );
  router.post(
    "/parcels",
    answer(ParcelSummary, async (request) => {
      const { totalBytes } = limitsFrom(parts.settings.get().limits);
      const files = await receiveFiles(request, parts.incoming, { bytes: totalBytes, files: 5000 });
      return parcels.summary(parcels.receive(parcelName(files.map((file) => file.name)), files));
    }),
  );
  router.get(
    "/parcels/shelvable",
    answer(ParcelIds, () => ({ ids: parcels.shelvableIds() })),
  );
  router.post(
    "/parcels/shelve",
    answer(ShelveResult, async (request) => {
      const shelved = await parcels.shelveMany(bodyOf(ShelveManyRequest, request).ids);
      services.glyphs.poke();
      return shelved;
    }),
  );
  router.get(
    "/parcels/:id",
    answer(ParcelDetail, (request) => parcels.detail(idOf(request))),
  );
  router.post(
    "/parcels/:id/shelve",
    answer(ShelveResult, (request) => {
      const shelved = parcels.shelve(idOf(request), bodyOf(ShelveRequest, request).faces);
      services.glyphs.poke();
      return shelved;
    }),
  );
  router.post(
    "/parcels/:id/retry",
    answer(ParcelSummary, (request) => parcels.retry(idOf(request), bodyOf(RetryRequest, request).password)),
  );
  router.post(
    "/parcels/:id/unwrap",
    answer(ParcelDetail, (request) => parcels.unwrap(idOf(request), bodyOf(UnwrapRequest, request).files)),
  );
  for (const cleared of [true, false]) {
    router.post(
      `/parcels/:id/${cleared ? "clear" : "unclear"}`,
      answer(ParcelSummary, (request) => parcels.clear(idOf(request), cleared)),
    );
    router.post(
      `/parcels/:id/${cleared ? "remove" : "bring-back"}`,
      answer(Done, (request) => done(parcels.remove(idOf(request), cleared))),
    );
  }

  /** A file of the store, or one of a parcel still being unpacked; it may move from there to the store while it is looked for. */
  const readStored = async (sha256: string): Promise<Uint8Array> => {
    const stored = () => parts.files.read(sha256);
    const early = async () => {
      const path = parcels.earlyFile(sha256);
      if (path === undefined) throw notFound("file");
      return readFile(path);
    };
    return stored()
      .catch(early)
      .catch(stored)
      .catch(() => {
        throw notFound("file");
      });
  };
  router.get("/files/:sha256", async (request, response) => {
    const { sha256 } = request.params;
    if (!/^[0-9a-f]{64}$/.test(sha256)) throw notFound("file");
    const bytes = await readStored(sha256);
    const type = mediaTypes[new TextDecoder("latin1").decode(bytes.subarray(0, 4))];
    response.set({ "content-type": type ?? "application/octet-stream", "cache-control": "private, max-age=31536000, immutable" });
    if (!type) response.set("content-disposition", "attachment");
    response.send(Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength));
  });

  router.get("/styles/:id/file", async (request, response) => {
    const style = parts.library.style(idOf(request));
    if (!style) throw notFound("style");
    const { fullName: name, postScriptName } = style.record;
    response.attachment(placedFileName({ name, postScriptName, ending: fontEnding(style.record) })).type("application/octet-stream");
    response.send(Buffer.from(await readStored(style.sha256)));
  });

  router.get(
    "/settings",
    answer(Settings, () => parts.settings.get()),
  );
  router.post(
    "/settings",
    answer(Settings, async (request) => {
      const change = bodyOf(SettingsChange, request);
      const problem = change.watchedFolder ? await folderProblem(change.watchedFolder) : undefined;
      if (problem) throw new Fault(422, problem);
      const { network: _network, ...rest } = change;
      parts.settings.set(rest);
      if (change.watchedFolder !== undefined) await watch.start();
      if (change.practice !== undefined) await services.devices.usePractice(change.practice);
      if (change.thisComputer !== undefined) await services.devices.useComputer(change.thisComputer);
      parts.events.changed("parcels");
      return parts.settings.get();
    }),
  );
  router.get(
    "/settings/watch",
    answer(WatchReport, () => watch.report()),
  );
  router.post(
    "/settings/watch/take-earlier",
    answer(WatchReport, async () => {
      await watch.takeEarlier();
      return watch.report();
    }),
  );

  router.get(
    "/papers/:sha256",
    answer(PaperText, (request) => papers.read(String(request.params["sha256"]))),
  );

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
    answer(LookedMany, (request) => evidence.lookMany(bodyOf(LookManyRequest, request))),
  );
  router.get(
    "/cells/:styleId/:programId",
    answer(Cell, async (request) => {
      const cell = await sightings.forStyle(idOf(request, "styleId"), idOf(request, "programId"));
      const earlier = evidence.ofCell(cell.styleId, cell.programId);
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
    answer(Sighting, (request) => evidence.look(idOf(request, "styleId"), idOf(request, "programId"), bodyOf(LookRequest, request))),
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
      return withFiles(request, parts.incoming, { bytes: MOST_EVIDENCE_BYTES, files: 1 }, ([file]) =>
        evidence.give(idOf(request, "styleId"), idOf(request, "programId"), { ...file, words, sure: sure === "1" }),
      );
    }),
  );
  router.get("/sightings/:id/file", async (request, response) => {
    const { path, name } = await evidence.file(idOf(request));
    // Whatever it is, it is saved and never shown from here.
    response
      .attachment(name)
      .type("application/octet-stream")
      .send(await readFile(path));
  });
  router.post(
    "/sightings/:id/take-back",
    answer(Sighting, (request) => evidence.takeBack(idOf(request), bodyOf(TakeBackRequest, request).back)),
  );

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
