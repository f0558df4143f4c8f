// Serves the built interface: files compressed when it was built, and kept by browsers under the digests in their names.
import { join } from "node:path";
import type { Express } from "express";
import expressStaticGzip from "express-static-gzip";

const YEAR_S = 31_536_000;

/** `screens`: addresses that are screens of the app. */
export function serveInterface(app: Express, webDir: string | undefined, screens = /^\/(?!.*\.[a-z0-9]+$)/i): void {
  if (!webDir) return;
  const compressed = (folder: string, maxAge: number, immutable: boolean) =>
    expressStaticGzip(join(webDir, folder), {
      enableBrotli: true,
      orderPreference: ["br", "gz"],
      index: false,
      serveStatic: { maxAge: maxAge * 1000, immutable },
    });
  app.use("/_expo/static", compressed(join("_expo", "static"), YEAR_S, true));
  app.use("/assets", compressed("assets", YEAR_S, true));
  // The drawing worker's shaping library is WebAssembly; a worker has the policy its own file came with, and pages keep theirs.
  app.use("/work", (_request, response, next) => {
    const policy = String(response.getHeader("content-security-policy") ?? "");
    response.set("content-security-policy", policy.replace("script-src 'self'", "script-src 'self' 'wasm-unsafe-eval'"));
    next();
  });
  const pages = compressed("", 0, false);
  app.use(pages);
  app.get(screens, (request, response, next) => {
    response.set("cache-control", "no-store");
    request.url = "/index.html";
    pages(request, response, next);
  });
}
