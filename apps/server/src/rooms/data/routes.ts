import { createReadStream } from "node:fs";
import { stat } from "node:fs/promises";
import { Readable } from "node:stream";
import { ARCHIVE_MAX_BYTES } from "@keep-rolling/contract/archive";
import type { ImportReport } from "@keep-rolling/contract/data";
import { idSchema } from "@keep-rolling/contract/primitives";
import type { Context, Hono } from "hono";
import { z } from "zod";
import type { Deps } from "../../deps.ts";
import { check } from "../../http/body.ts";
import { Refusal } from "../../http/refusal.ts";
import { exportTo, importFrom } from "./archiveJobs.ts";
import { readSetAside } from "./dataStore.ts";
import type { ImportOptions } from "./importArchive.ts";
import { exportRun } from "./runFile.ts";
import { spoolBody, withSpoolFile } from "./spool.ts";

const importQuery = z.object({ sha256: z.string().regex(/^[0-9a-f]{64}$/), conflicts: z.enum(["refuse", "set aside"]).default("refuse") });

export function dataRoutes(app: Hono, deps: Deps): void {
  app.get("/api/archive", (c) => archiveReply(c, deps));
  app.get("/api/runs/:id/file", async (c) => {
    const file = await exportRun(deps, check(idSchema, c.req.param("id")));
    c.header("cache-control", "no-store");
    c.header(
      "content-disposition",
      `attachment; filename="run-${new Date(file.exportedAtMs).toISOString().slice(0, 10)}-${file.runId.slice(-6)}.json"`,
    );
    return c.body(JSON.stringify(file, null, 1), 200, { "content-type": "application/json" });
  });
  app.post("/api/archive/preview", async (c) => c.json(await importBody(c, deps, { store: false, conflicts: "refuse" }, null)));
  app.post("/api/archive/import", async (c) => {
    const { sha256, conflicts } = check(importQuery, c.req.query());
    return c.json(await importBody(c, deps, { store: true, conflicts }, sha256));
  });
  app.get("/api/set-aside", async (c) => c.json({ setAside: await readSetAside(deps.db) }));
}

/** The archive is whole before its first byte leaves: a failure until then is still a plain answer. */
async function archiveReply(c: Context, deps: Deps): Promise<Response> {
  return withSpoolFile(deps.spool, async (file) => {
    await exportTo(deps, file, c.req.raw.signal);
    const { size } = await stat(file);
    // Opened before it is removed: the name goes at once, the content with the last reader.
    const stream = createReadStream(file);
    await new Promise((done, fail) => stream.once("open", done).once("error", fail));
    c.header("content-type", "application/zip");
    c.header("content-length", String(size));
    c.header("cache-control", "no-store");
    c.header("content-disposition", `attachment; filename="keep-rolling-${new Date(deps.now()).toISOString().slice(0, 10)}.zip"`);
    return c.body(Readable.toWeb(stream) as ReadableStream<Uint8Array<ArrayBuffer>>);
  });
}

/** `sha256`: of the file that was previewed. */
function importBody(c: Context, deps: Deps, options: ImportOptions, sha256: string | null): Promise<ImportReport> {
  return withSpoolFile(deps.spool, async (file) => {
    const upload = await spoolBody(c, file, /^application\/(zip|json)\b/i, "application/zip or application/json", ARCHIVE_MAX_BYTES);
    if (sha256 !== null && upload.sha256 !== sha256)
      throw new Refusal(
        409,
        "changed-meanwhile",
        "Not the file that was looked at",
        "This is another file than the one previewed. Nothing was changed; look at it first.",
      );
    return importFrom(deps, upload, options, c.req.raw.signal);
  });
}
