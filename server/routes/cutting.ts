// Endpoints of cutting: what is chosen for a line, its files, opening a file again, and what practice machines would follow.
import { readFile, rm } from "node:fs/promises";
import { join } from "node:path";
import { Router, type Request } from "express";
import { SheetDetail } from "../../contract/bench.ts";
import { CutChoice, CutFilesRequest, LineCut, MachineView } from "../../contract/cutting.ts";
import { PracticeText } from "../../contract/practice.ts";
import type { Parts } from "../parts.ts";
import type { Services } from "../services/services.ts";
import { answer, bodyOf, idOf } from "./answer.ts";
import { receiveFiles } from "./uploads.ts";

const MOST_SVG_BYTES = 30 * 1024 * 1024;

export function cutRoutes(parts: Pick<Parts, "incoming">, { cuts, practice }: Pick<Services, "cuts" | "practice">): Router {
  const router = Router();
  const lineOf = (request: Request): string => String(request.params["line"]).slice(0, 40);
  /** The text of the one file that was sent. */
  const sent = async (request: Request): Promise<string> => {
    const [file] = await receiveFiles(request, parts.incoming, { bytes: MOST_SVG_BYTES, files: 1 });
    const path = join(parts.incoming, file!.stored_as);
    try {
      return await readFile(path, "utf8");
    } finally {
      await rm(path, { force: true });
    }
  };
  router.get(
    "/bench/sheets/:id/cuts/:line",
    answer(LineCut, (request) => cuts.look(idOf(request), lineOf(request))),
  );
  router.post(
    "/bench/sheets/:id/cuts/:line",
    answer(LineCut, (request) => cuts.choose(idOf(request), lineOf(request), bodyOf(CutChoice, request))),
  );
  router.post("/bench/sheets/:id/cuts/:line/files", async (request, response) => {
    const { fileName, type, bytes } = await cuts.files(idOf(request), lineOf(request), bodyOf(CutFilesRequest, request));
    response.attachment(fileName).type(type).send(Buffer.from(bytes));
  });
  router.post(
    "/bench/sheets/:id/open-cut",
    answer(SheetDetail, async (request) => cuts.open(idOf(request), await sent(request))),
  );
  router.post(
    "/practice/:id/machine",
    answer(MachineView, async (request) => cuts.machine(await practice.machinePaths(idOf(request), bodyOf(PracticeText, request)))),
  );
  router.post(
    "/practice/:id/machine-file",
    answer(MachineView, async (request) => {
      practice.machine(idOf(request));
      return cuts.machine({ svg: await sent(request) });
    }),
  );
  return router;
}
