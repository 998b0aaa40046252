import { ARCHIVE_MAX_BYTES } from "@keep-rolling/contract/archive";
import { idSchema } from "@keep-rolling/contract/primitives";
import type { Context, Hono } from "hono";
import { z } from "zod";
import type { Deps } from "../../deps.ts";
import { check, readBytes } from "../../http/body.ts";
import { Refusal } from "../../http/refusal.ts";
import { importArchive } from "./importArchive.ts";
import { readSetAside } from "./dataStore.ts";
import { archiveChunks } from "./exportArchive.ts";
import type { Archive } from "./readArchive.ts";
import { readArchive } from "./readArchive.ts";
import { exportRun, looksLikeJson, readRunFile } from "./runFile.ts";

const importQuery = z.object({ sha256: z.string().regex(/^[0-9a-f]{64}$/), conflicts: z.enum(["refuse", "set aside"]).default("refuse") });

export function dataRoutes(app: Hono, deps: Deps): void {
  app.get("/api/archive", async (c) => {
    const chunks = archiveChunks(deps);
    // Everything that can fail for want of a database has been read before the first byte leaves.
    const first = await chunks.next();
    c.header("content-type", "application/zip");
    c.header("cache-control", "no-store");
    c.header("content-disposition", `attachment; filename="keep-rolling-${new Date(deps.now()).toISOString().slice(0, 10)}.zip"`);
    return c.body(streamOf(first, chunks));
  });
  app.get("/api/runs/:id/file", async (c) => {
    const file = await exportRun(deps, check(idSchema, c.req.param("id")));
    c.header("cache-control", "no-store");
    c.header(
      "content-disposition",
      `attachment; filename="run-${new Date(file.exportedAtMs).toISOString().slice(0, 10)}-${file.runId.slice(-6)}.json"`,
    );
    return c.body(JSON.stringify(file, null, 1), 200, { "content-type": "application/json" });
  });
  app.post("/api/archive/preview", async (c) =>
    c.json(await importArchive(deps, await open(await bytesIn(c)), { store: false, conflicts: "refuse" })),
  );
  app.post("/api/archive/import", async (c) => {
    const { sha256, conflicts } = check(importQuery, c.req.query());
    const archive = await open(await bytesIn(c));
    if (archive.sha256 !== sha256)
      throw new Refusal(
        409,
        "changed-meanwhile",
        "Not the file that was looked at",
        "This is another file than the one previewed. Nothing was changed; look at it first.",
      );
    return c.json(await importArchive(deps, archive, { store: true, conflicts }));
  });
  app.get("/api/set-aside", async (c) => c.json({ setAside: await readSetAside(deps.db) }));
}

const bytesIn = (c: Context): Promise<Uint8Array> =>
  readBytes(c, /^application\/(zip|json)\b/i, "application/zip or application/json", ARCHIVE_MAX_BYTES);

/** A whole archive, or the file of one run. */
const open = async (bytes: Uint8Array): Promise<Archive> => (looksLikeJson(bytes) ? readRunFile(bytes) : readArchive(bytes));

function streamOf(
  first: IteratorResult<Uint8Array<ArrayBuffer>>,
  rest: AsyncGenerator<Uint8Array<ArrayBuffer>>,
): ReadableStream<Uint8Array<ArrayBuffer>> {
  return new ReadableStream({
    start: (controller) => {
      if (first.done !== true) controller.enqueue(first.value);
    },
    pull: async (controller) => {
      const next = await rest.next();
      if (next.done === true) controller.close();
      else controller.enqueue(next.value);
    },
    cancel: async () => void (await rest.return(undefined)),
  });
}
