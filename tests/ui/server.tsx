// A server for tests of the interface: answers what it is told to, and remembers what it was asked.
import type { ReactNode } from "react";
import { SWRConfig } from "swr";

export interface Asked {
  method: string;
  path: string;
  body: unknown;
}
/** What is answered to a method and the beginning of a path; a refusal is made by `refused`. */
type Answers = Record<string, unknown>;

const REFUSED = Symbol("refused");
/** A refusal in the server's own words. */
export const refused = (status: number, code: string, detail: string, next = "Try again."): unknown => ({
  [REFUSED]: true,
  status,
  body: { type: "about:blank", title: code, status, detail, code, next },
});

/** Answers from now on; of several beginnings that fit the longest counts. Returns what is asked, as it comes. */
export function serve(answers: Answers): Asked[] {
  const asked: Asked[] = [];
  globalThis.fetch = (async (url: string, init?: RequestInit) => {
    const [method, path] = [init?.method ?? "GET", url.replace(/^\/api/, "")];
    const body = init?.body === undefined ? undefined : (JSON.parse(init.body as string) as unknown);
    asked.push({ method, path, body });
    const key = Object.keys(answers)
      .filter((one) => `${method} ${path}`.startsWith(one))
      .sort((a, b) => b.length - a.length)[0];
    if (key === undefined) throw new Error(`Nothing is answered to ${method} ${path}.`);
    const given = answers[key];
    const answer = typeof given === "function" ? (given as (asked: Asked) => unknown)({ method, path, body }) : given;
    const no = answer as { [REFUSED]?: true; status: number; body: unknown };
    const [status, value] = no?.[REFUSED] ? [no.status, no.body] : [200, answer];
    return { ok: status < 400, status, json: async () => value, text: async () => JSON.stringify(value) } as Response;
  }) as typeof fetch;
  return asked;
}

/** A page's knowledge of the server, begun anew. */
export const Afresh = ({ children }: { children: ReactNode }) => (
  <SWRConfig value={{ provider: () => new Map(), dedupingInterval: 0, revalidateOnFocus: false }}>{children}</SWRConfig>
);
