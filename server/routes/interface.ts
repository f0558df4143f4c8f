// Serves the built interface.
import { join } from "node:path";
import express, { type Express } from "express";

/** `screens`: addresses that are screens of the app. */
export function serveInterface(app: Express, webDir: string | undefined, screens = /^\/(?!.*\.[a-z0-9]+$)/i): void {
  if (!webDir) return;
  // Built files carry a digest in their names, so they never change under one.
  app.use("/_expo", express.static(join(webDir, "_expo"), { immutable: true, maxAge: "1y" }));
  app.use("/assets", express.static(join(webDir, "assets"), { immutable: true, maxAge: "1y" }));
  app.use(express.static(webDir, { index: false }));
  app.get(screens, (_request, response) => {
    response.set("cache-control", "no-store").sendFile(join(webDir, "index.html"));
  });
}
