// The application over HTTP: guards first, then the rooms, then the page. One error mapper for all.

import { Hono } from "hono";
import type { Deps } from "./deps.ts";
import { guard } from "./http/guard.ts";
import { pageRoutes } from "./http/page.ts";
import type { Passphrase } from "./http/passphrase.ts";
import { problem, toProblem } from "./http/problems.ts";
import type { LiveStreams } from "./live/routes.ts";
import { liveRoutes } from "./live/routes.ts";
import { recordRoutes } from "./record/routes.ts";
import { ROOMS } from "./rooms.ts";

export interface AppOptions {
  host: string;
  webDir: string;
  gate: Passphrase;
}

export function createApp(deps: Deps, options: AppOptions): { app: Hono; streams: LiveStreams } {
  const app = new Hono();
  app.onError(toProblem(deps.log));
  app.notFound((c) => problem(c, 404, { code: "not-found", title: "Nothing here", detail: "There is nothing at this address." }));
  app.use("*", guard(options.host));
  app.use("*", options.gate.middleware);
  options.gate.routes(app);
  for (const room of ROOMS) room.routes?.(app, deps, options);
  recordRoutes(app, deps);
  const streams = liveRoutes(app, deps);
  pageRoutes(app, options.webDir);
  return { app, streams };
}
