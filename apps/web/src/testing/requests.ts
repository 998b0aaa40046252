// Test support: fetch answered from a table. What is not in it is a fault of the test, and says so.

import { vi } from "vitest";

export interface Sent {
  method: string;
  path: string;
  body: unknown;
}

/** An answer that is a problem. */
export class Refused {
  constructor(
    readonly status: number,
    readonly problem: object,
  ) {}
}

/** May be a promise: an answer that is late. */
export type Answerer = (body: unknown, search: URLSearchParams) => unknown;

export function configureApi(answers: Record<string, unknown>): Sent[] {
  const sent: Sent[] = [];
  // A browser's requests are relative to its page; Node's know no page.
  const Absolute = class extends Request {
    constructor(input: RequestInfo | URL, init?: RequestInit) {
      super(typeof input === "string" ? new URL(input, "http://localhost") : input, init);
    }
  };
  vi.stubGlobal("Request", Absolute);
  vi.stubGlobal("fetch", async (input: Request) => {
    const { pathname, searchParams } = new URL(input.url);
    const path = pathname.replace(/^\/api/, "");
    const text = await input.text();
    const body: unknown = text === "" ? undefined : JSON.parse(text);
    const key = `${input.method} ${path}`;
    const given = answers[key];
    if (given === undefined) throw new Error(`no answer for ${key}`);
    if (input.method !== "GET") sent.push({ method: input.method, path, body });
    const answer: unknown = typeof given === "function" ? await (given as Answerer)(body, searchParams) : given;
    return answer instanceof Refused
      ? new Response(JSON.stringify(answer.problem), { status: answer.status, headers: { "content-type": "application/problem+json" } })
      : new Response(JSON.stringify(answer), { headers: { "content-type": "application/json" } });
  });
  return sent;
}
