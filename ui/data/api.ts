// Talks to the server: every answer is checked against the contract, every refusal becomes a problem in words.
import { z } from "zod";
import { ProblemDocument } from "../../contract/problem.ts";
import { SAY } from "../sentences/parts.ts";

/** A refusal: `message` is the sentence for people, `next` what to do. */
export class ApiProblem extends Error {
  readonly code: string;
  readonly next: string;
  readonly status: number;
  constructor(code: string, message: string, next: string, status: number) {
    super(message);
    this.name = "ApiProblem";
    this.code = code;
    this.next = next;
    this.status = status;
  }
}

export const UNREACHABLE = new ApiProblem("unreachable", SAY.buvanosServerCannotBeReached, SAY.checkThatItIsStill, 0);

const CALLED_OFF = new ApiProblem("called-off", SAY.sendingWasCancelled, SAY.dropItAgainWhenYou, 0);

function problemFrom(status: number, text: string): ApiProblem {
  try {
    const problem = ProblemDocument.parse(JSON.parse(text));
    return new ApiProblem(problem.code, problem.detail, problem.next, status);
  } catch {
    return new ApiProblem("fault", SAY.theServerAnsweredWithSomething, SAY.reloadThePageAndTry, status);
  }
}

async function request(path: string, init?: RequestInit): Promise<Response> {
  let response: Response;
  try {
    response = await fetch(`/api${path}`, init);
  } catch {
    throw UNREACHABLE;
  }
  if (!response.ok) throw problemFrom(response.status, await response.text());
  return response;
}

export async function get<S extends z.ZodType>(path: string, schema: S): Promise<z.output<S>> {
  return schema.parse(await (await request(path)).json());
}

/** An answer that only says that it was done. */
export const Done = z.object({ done: z.literal(true) });

const jsonInit = (method: string, body: unknown): RequestInit => ({
  method,
  ...(body === undefined ? {} : { headers: { "content-type": "application/json" }, body: JSON.stringify(body) }),
});

export async function send<S extends z.ZodType>(method: "POST", path: string, schema: S, body?: unknown): Promise<z.output<S>> {
  return schema.parse(await (await request(path, jsonInit(method, body))).json());
}

/** A file the server makes on request. */
export async function fetchFile(path: string, body: unknown): Promise<Blob> {
  return (await request(path, jsonInit("POST", body))).blob();
}

/** Sends files, telling how many bytes have left. `fetch` cannot tell that yet, so this uses XMLHttpRequest. */
export function upload<S extends z.ZodType>(
  path: string,
  files: readonly { name: string; file: Blob }[],
  schema: S,
  onProgress: (sent: number, total: number) => void = () => {},
  signal?: AbortSignal,
): Promise<z.output<S>> {
  const form = new FormData();
  for (const { name, file } of files) form.append("file", file, name);
  return new Promise((resolve, reject) => {
    const call = new XMLHttpRequest();
    call.upload.onprogress = (event) => onProgress(event.loaded, event.total);
    call.onerror = () => reject(UNREACHABLE);
    call.onabort = () => reject(CALLED_OFF);
    signal?.addEventListener("abort", () => call.abort());
    call.onload = () => {
      if (call.status >= 400) return reject(problemFrom(call.status, call.responseText));
      const answer = schema.safeParse(JSON.parse(call.responseText));
      if (answer.success) resolve(answer.data);
      else reject(problemFrom(500, ""));
    };
    call.open("POST", `/api${path}`);
    call.send(form);
  });
}

export const fontUrl = (sha256: string): string => `/api/files/${sha256}`;
