// The application over HTTP: guards first, then the rooms, then the page. One error mapper for all.

import { Hono } from "hono";
import { clockRoutes } from "./rooms/clocks/routes.ts";
import { dataRoutes } from "./rooms/data/routes.ts";
import type { Deps } from "./deps.ts";
import { deviceRoutes } from "./rooms/devices/routes.ts";
import { guard } from "./http/guard.ts";
import type { Passphrase } from "./http/passphrase.ts";
import { problem, toProblem } from "./http/problems.ts";
import { kitRoutes } from "./rooms/kit/routes.ts";
import { limitRoutes } from "./rooms/limits/routes.ts";
import type { LiveStreams } from "./live/routes.ts";
import { liveRoutes } from "./live/routes.ts";
import { photoRoutes } from "./rooms/photos/routes.ts";
import { pairingRoutes } from "./rooms/pairing/routes.ts";
import { runRoutes } from "./rooms/runs/routes.ts";
import { pageRoutes } from "./http/page.ts";

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
  clockRoutes(app, deps);
  kitRoutes(app, deps);
  runRoutes(app, deps);
  deviceRoutes(app, deps);
  photoRoutes(app, deps);
  limitRoutes(app, deps);
  dataRoutes(app, deps);
  pairingRoutes(app, deps, options.gate, options.host);
  const streams = liveRoutes(app, deps);
  pageRoutes(app, options.webDir);
  return { app, streams };
}
