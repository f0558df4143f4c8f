// What a device on the network can ask for: to be paired, and then its own work only.
import { rm } from "node:fs/promises";
import { parse as parseCookie } from "cookie";
import express, { Router, type Request } from "express";
import { z } from "zod";
import { MyAnswers, MyDevice, PairRequest } from "../../contract/pairing.ts";
import { fileStem } from "../../core/words/file-names.ts";
import { PROFILE_ENDING, PROFILE_MEDIA_TYPE } from "../../core/placing/profile.ts";
import type { DeviceRow } from "../store/devices/devices.ts";
import { PAIRED_MS } from "../services/pairing/pairing.ts";
import type { Services } from "../services/services.ts";
import { answer, bodyOf, nothingHere, queryOf, shownFirst } from "./answer.ts";

const SubjectQuery = z.object({ subject: z.string().max(300) });

const tokenOf = (request: Request, name: string): string | undefined => parseCookie(request.headers.cookie ?? "")[name];

export function mineRoutes({ pairing, renewal }: Pick<Services, "pairing" | "renewal">): Router {
  const router = Router();
  const whose = (request: Request): DeviceRow => {
    const token = tokenOf(request, pairing.cookie);
    const device = pairing.whose(token);
    if (token !== undefined) keep(request, token);
    return device;
  };
  /** Using it renews it. */
  const keep = (request: Request, token: string) =>
    request.res?.cookie(pairing.cookie, token, { httpOnly: true, sameSite: "strict", path: "/api", maxAge: PAIRED_MS });
  router.use(express.json({ limit: "100kb" }), shownFirst(renewal));

  router.post("/pair", (request, response) => {
    const { token } = pairing.pair(bodyOf(PairRequest, request), request.socket.remoteAddress ?? "");
    keep(request, token);
    response.json(MyDevice.parse(pairing.mine(pairing.whose(token))));
  });
  router.get(
    "/mine",
    answer(MyDevice, (request) => pairing.mine(whose(request))),
  );
  router.post(
    "/mine/answers",
    answer(MyDevice, (request) => pairing.answer(whose(request), bodyOf(MyAnswers, request))),
  );
  router.get("/files/:sha256", async (request, response) => {
    const { fileName, bytes } = await pairing.file(whose(request), String(request.params["sha256"]));
    response
      .attachment(fileName)
      .type(fileName.endsWith(".otf") ? "font/otf" : "font/ttf")
      .set("cache-control", "no-store")
      .send(Buffer.from(bytes));
  });
  router.get("/mine/all", async (request, response, next) => {
    const { fileName, path } = await pairing.everything(whose(request));
    response.attachment(fileName).type("application/zip").set("cache-control", "no-store");
    response.sendFile(path, { dotfiles: "allow" }, (error?: Error) => {
      void rm(path, { force: true });
      if (error && !response.headersSent) next(error);
    });
  });
  router.get("/mine/profile", async (request, response) => {
    const { subject, bytes } = await pairing.profile(whose(request), queryOf(SubjectQuery, request).subject);
    const name = fileStem(subject);
    response
      .attachment(name + PROFILE_ENDING)
      .set("content-type", PROFILE_MEDIA_TYPE)
      .send(Buffer.from(bytes));
  });
  router.use(nothingHere);
  return router;
}
