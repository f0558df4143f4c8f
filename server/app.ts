// The Express application: guard, API, interface.
import { join } from "node:path";
import express, { type Express } from "express";
import type { Context } from "./context.ts";
import { api } from "./routes/api.ts";
import { nothingHere, problems } from "./routes/answer.ts";
import { onlyFromHere, strictHeaders } from "./routes/guard.ts";
import type { Services } from "./services/services.ts";

export function makeApp(context: Context, services: Services): Express {
  const app = express();
  app.disable("x-powered-by");
  app.use(strictHeaders, onlyFromHere);
  app.use("/api", api(context, services));
  const { webDir } = context.config;
  if (webDir) {
    // Built files carry a digest in their names, so they never change under one.
    app.use("/_expo", express.static(join(webDir, "_expo"), { immutable: true, maxAge: "1y" }));
    app.use("/assets", express.static(join(webDir, "assets"), { immutable: true, maxAge: "1y" }));
    app.use(express.static(webDir, { index: false }));
    // Every other address is a screen of the app.
    app.get(/^\/(?!.*\.[a-z0-9]+$)/i, (_request, response) => {
      response.set("cache-control", "no-store").sendFile(join(webDir, "index.html"));
    });
  }
  app.use(nothingHere);
  app.use(problems);
  return app;
}
