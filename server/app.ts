// The Express application: guard, API, interface.
import express, { type Express } from "express";
import type { Parts } from "./parts.ts";
import { api } from "./routes/api.ts";
import { nothingHere, problems } from "./routes/answer.ts";
import { onlyFromHere, strictHeaders } from "./routes/guard.ts";
import { serveInterface } from "./routes/interface.ts";
import type { Services } from "./services/services.ts";

export function makeApp(parts: Parts, services: Services): Express {
  const app = express();
  app.disable("x-powered-by");
  app.use(strictHeaders, onlyFromHere);
  app.use("/api", api(parts, services));
  serveInterface(app, parts.config.webDir);
  app.use(nothingHere);
  app.use(problems);
  return app;
}
