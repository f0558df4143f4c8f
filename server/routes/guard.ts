// What every request passes first: the right host name, no other origin, strict headers.
import type { RequestHandler } from "express";
import helmet from "helmet";
import { Fault } from "../fault.ts";

const LOOPBACK = /^(localhost|127\.0\.0\.1|\[::1\])(:\d+)?$/;

/** Refuses requests under another host name (a page that re-points its name here) or from another site's pages. */
function refuseForeign(known: (host: string) => boolean): RequestHandler {
  return (request, _response, next) => {
    const host = request.headers.host ?? "";
    const origin = request.headers.origin;
    const foreign = new Fault(403, {
      code: "other-origin",
      message: "This request came from another site and was refused.",
      next: "Open Buvano at its own address.",
    });
    if (!known(host)) throw foreign;
    if (origin !== undefined && origin !== `http://${host}`) throw foreign;
    const site = request.headers["sec-fetch-site"];
    // Another site may lead to the application's pages, and to nothing else (Fetch Metadata, W3C). A page on another port is another site here.
    const elsewhere = site !== undefined && site !== "same-origin" && site !== "none";
    const leadsHere = request.method === "GET" && request.headers["sec-fetch-mode"] === "navigate" && !request.path.startsWith("/api");
    if (elsewhere && !leadsHere) throw foreign;
    next();
  };
}
export const onlyFromHere = refuseForeign((host) => LOOPBACK.test(host));
/** Only under the addresses this machine has on its networks, by number: names can be re-pointed. */
export const onlyFrom = (hosts: () => readonly string[]): RequestHandler => refuseForeign((host) => hosts().includes(host));

/** React Native for the web writes its style sheet from script, so inline styles are allowed; scripts are not. */
export const strictHeaders: RequestHandler = helmet({
  contentSecurityPolicy: {
    useDefaults: false,
    directives: {
      defaultSrc: ["'none'"],
      scriptSrc: ["'self'"],
      styleSrc: ["'self'", "'unsafe-inline'"],
      fontSrc: ["'self'"],
      imgSrc: ["'self'", "blob:", "data:"],
      connectSrc: ["'self'"],
      workerSrc: ["'self'"],
      manifestSrc: ["'self'"],
      baseUri: ["'none'"],
      formAction: ["'none'"],
      frameAncestors: ["'none'"],
    },
  },
  strictTransportSecurity: false,
  referrerPolicy: { policy: "no-referrer" },
  crossOriginOpenerPolicy: { policy: "same-origin" },
  crossOriginResourcePolicy: { policy: "same-origin" },
});
