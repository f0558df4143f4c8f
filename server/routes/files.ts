// Endpoints of files of the library: fonts as they are, styles to be saved, papers to be read.
import { readFile } from "node:fs/promises";
import { Router } from "express";
import { PaperText } from "../../contract/papers.ts";
import { fontEnding, placedFileName } from "../../core/placing/files.ts";
import { notFound } from "../fault.ts";
import type { Parts } from "../parts.ts";
import type { Services } from "../services/services.ts";
import { answer, idOf } from "./answer.ts";

const mediaTypes: Record<string, string> = {
  "\0\x01\0\0": "font/ttf",
  true: "font/ttf",
  OTTO: "font/otf",
  ttcf: "font/collection",
  wOFF: "font/woff",
  wOF2: "font/woff2",
};

export function fileRoutes(parts: Pick<Parts, "files" | "library">, services: Services): Router {
  const { parcels, papers } = services;
  const router = Router();
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
    "/papers/:sha256",
    answer(PaperText, (request) => papers.read(String(request.params["sha256"]))),
  );
  return router;
}
