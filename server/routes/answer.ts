// Requests in and answers out, both checked against the contract.
import type { ErrorRequestHandler, RequestHandler, Request, Response } from "express";
import { z, ZodError } from "zod";
import type { ProblemDocument } from "../../contract/problem.ts";
import { refusalWords } from "../../contract/refused.ts";
import { diskFault } from "../../core/disk/faults.ts";
import { ProblemError, type Problem } from "../../core/problem.ts";
import type { DiskWatch } from "../disk.ts";
import { Fault } from "../fault.ts";
import { TaskLost } from "../work/threads.ts";

/** What routes further up leave for those below: waits until what a request changed can be seen. */
interface Locals {
  settled?: () => Promise<unknown>;
}

/** Whoever changed something is answered once it shows, or after so long. */
export const SETTLE_MS = 2000;

/** Has whoever changes something be answered once it shows. */
export const shownFirst =
  (renewal: { settle(mostMs: number): Promise<unknown> }): RequestHandler =>
  (request, response, next) => {
    if (request.method !== "GET") (response.locals as Locals).settled = () => renewal.settle(SETTLE_MS);
    next();
  };

/** A route whose answer must fit `schema`. */
export function answer<S extends z.ZodType>(schema: S, work: (request: Request) => z.input<S> | Promise<z.input<S>>): RequestHandler {
  return async (request, response) => {
    const value = await work(request);
    await (response.locals as Locals).settled?.();
    const checked = schema.safeParse(value);
    // An answer that does not fit is this server's fault, whatever the request was.
    if (!checked.success) throw new Error(`The answer to ${request.method} ${request.path} breaks its contract: ${checked.error.message}`);
    response.json(checked.data);
  };
}

export const bodyOf = <S extends z.ZodType>(schema: S, request: Request): z.output<S> => schema.parse(request.body ?? {});
export const queryOf = <S extends z.ZodType>(schema: S, request: Request): z.output<S> => schema.parse(request.query);

/** An answer that only says that it was done. */
export const Done = z.object({ done: z.literal(true) });
export const done = (_: void) => ({ done: true as const });

/** The number in the path; anything else is a thing that is not here. */
export function idOf(request: Request, name = "id"): number {
  const value = request.params[name];
  if (typeof value !== "string" || !/^\d{1,15}$/.test(value)) {
    throw new Fault(404, { code: "not-found", message: "There is nothing at this address.", next: "Go back and look again." });
  }
  return Number(value);
}

function send(response: Response, status: number, problem: Problem): void {
  const document: ProblemDocument = {
    type: `urn:buvano:problem:${problem.code}`,
    title: problem.message,
    status,
    detail: problem.message,
    code: problem.code,
    next: problem.next,
  };
  response.status(status).type("application/problem+json").send(JSON.stringify(document));
}

export const nothingHere: RequestHandler = () => {
  throw new Fault(404, { code: "not-found", message: "There is nothing at this address.", next: "Go back and look again." });
};

/** Work that was handed to a thread and did not come to its end. */
const LOST: Record<Exclude<TaskLost["why"], "died">, Problem> = {
  overran: {
    code: "work-overran",
    message: "Reading this takes longer than any such file should, and was ended (limit “Time”).",
    next: "Give a shorter one, or export it again.",
  },
  memory: {
    code: "work-memory",
    message: "Reading this takes more memory than any such file should, and was ended (limit “Memory”).",
    next: "Give a shorter one, or export it again.",
  },
  closed: { code: "closing", message: "Buvano is being closed.", next: "Start it again, then try once more." },
};

/** Answers faults of the disk (RFC 4918, 11.5 "507 Insufficient Storage"; RFC 9110, 15.6.4 "503 Service Unavailable"). */
function diskStatus(code: string): number {
  return code === "disk-full" ? 507 : 503;
}

// Express knows an error handler by its four parameters.
export const problems =
  (disk?: DiskWatch): ErrorRequestHandler =>
  (error: unknown, request, response, next) => {
    if (response.headersSent) return next(error);
    const fault = diskFault(error);
    if (fault) {
      disk?.report(error);
      return send(response, diskStatus(fault.problem.code), fault.problem);
    }
    if (error instanceof TaskLost && error.why !== "died") return send(response, error.why === "closed" ? 503 : 422, LOST[error.why]);
    if (error instanceof Fault) return send(response, error.status, error.problem);
    if (error instanceof ProblemError) return send(response, 422, error.problem);
    if (error instanceof ZodError) {
      const [issue] = error.issues;
      const where = issue?.path.join(".") || "request";
      const words = issue && refusalWords(issue);
      return send(response, 400, {
        code: "bad-request",
        message: words ? `“${where}” does not fit: ${words}` : `The request's “${where}” is not what is expected.`,
        next: words ? "Change it and try again." : "Reload the page and try again.",
      });
    }
    const status = (error as { status?: unknown }).status;
    if (status === 415) {
      return send(response, 415, {
        code: "bad-request",
        message: "The request is written in a way that is not read here.",
        next: "Reload the page and try again.",
      });
    }
    if (status === 413) {
      return send(response, 413, {
        code: "request-large",
        message: "This is more than is taken at once. Nothing was changed.",
        next: "Make it smaller: fewer or shorter lines, fewer things at once.",
      });
    }
    if (status === 400) {
      return send(response, status, {
        code: "bad-request",
        message: "The request could not be read.",
        next: "Reload the page and try again.",
      });
    }
    process.stderr.write(`${request.method} ${request.path}: ${error instanceof Error ? error.stack : String(error)}\n`);
    send(response, 500, { code: "fault", message: "Something went wrong inside Buvano.", next: "Try again. What you had is unchanged." });
  };
