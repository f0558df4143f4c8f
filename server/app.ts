// The Express application: guard, API, interface.
import compression from "compression";
import express, { type Express, type Request, type Response } from "express";
import type { Parts } from "./parts.ts";
import { api } from "./routes/api.ts";
import { nothingHere, problems } from "./routes/answer.ts";
import { onlyFromHere, strictHeaders } from "./routes/guard.ts";
import { serveInterface } from "./routes/interface.ts";
import type { Services } from "./services/services.ts";

/** Answers of words; fonts and archives gain little, and events must not wait for one another. */
const isText = (_request: Request, response: Response): boolean =>
  /^(application\/(problem\+)?json|text\/(html|csv|plain))/.test(String(response.getHeader("content-type") ?? ""));

export function makeApp(parts: Parts, services: Services): Express {
  const app = express();
  app.disable("x-powered-by");
  app.use(strictHeaders, onlyFromHere, compression({ filter: isText }));
  app.use("/api", api(parts, services));
  serveInterface(app, parts.config.webDir);
  app.use(nothingHere);
  app.use(problems(parts.disk));
  return app;
}
