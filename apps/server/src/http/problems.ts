// One error mapper: failures become problem details (RFC 9457). No stack, no SQL, no body ever leaves.

import type { Problem } from "@keep-rolling/contract/problem";
import type { Context } from "hono";
import { HTTPException } from "hono/http-exception";
import type { ContentfulStatusCode } from "hono/utils/http-status";
import type { Logger } from "pino";
import { isAway, isFull } from "../db/connection.ts";
import { Refusal } from "./refusal.ts";

export function problem(
  c: Context,
  status: ContentfulStatusCode,
  p: Omit<Problem, "type" | "status">,
  headers: Record<string, string> = {},
): Response {
  const body: Problem = { type: `urn:keep-rolling:${p.code}`, status, ...p };
  return c.json(body, status, { "content-type": "application/problem+json", ...headers });
}

export function toProblem(log: Logger) {
  return (error: Error, c: Context): Response => {
    if (error instanceof Refusal) {
      const fields = error.fields.length > 0 ? { fields: [...error.fields] } : {};
      const retry: Record<string, string> = error.status === 429 || error.status === 503 ? { "retry-after": "2" } : {};
      return problem(c, error.status, { code: error.code, title: error.title, detail: error.message, ...fields }, retry);
    }
    if (error instanceof HTTPException && error.status < 500) {
      return problem(c, error.status, {
        code: "bad-body",
        title: "The request cannot be read",
        detail: "The request is malformed. Nothing was changed.",
      });
    }
    if (isAway(error)) {
      return problem(
        c,
        503,
        {
          code: "database-away",
          title: "The database is restarting",
          detail: "Nothing was lost: marks stay on this device and are sent again by themselves.",
        },
        { "retry-after": "1" },
      );
    }
    if (isFull(error)) {
      log.error({ path: c.req.path, code: "code" in error ? error.code : undefined }, "disk full");
      return problem(
        c,
        503,
        {
          code: "storage-full",
          title: "The server's disk is full",
          detail:
            "Nothing of this request was stored. Make room on the server's disk; marks stay on their devices and are sent again by themselves.",
        },
        { "retry-after": "10" },
      );
    }
    log.error(
      { path: c.req.path, name: error.name, code: "code" in error ? error.code : undefined, at: error.stack?.split("\n")[1]?.trim() },
      "unexpected failure",
    );
    return problem(c, 500, {
      code: "internal",
      title: "Something went wrong here",
      detail: "The server met a fault of its own. What was saved before is safe; try again, and export your marks if it stays.",
    });
  };
}
