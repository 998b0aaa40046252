// Everything a stranger on the network, or a file from outside, can knock on; each knock is drawn by the seed.

import { createHash } from "node:crypto";
import type { KitBundle } from "@keep-rolling/contract/kit";
import type { Random } from "@keep-rolling/core/statistics";
import { pick, spoiled, spoiledArchive, spoiledBytes } from "./spoil.ts";

export interface Knock {
  door: string;
  method: string;
  path: string;
  headers: Record<string, string>;
  body: Uint8Array | string;
}
/** Good data of the bench, to be spoiled. */
export interface Good {
  marks: unknown;
  archive: Uint8Array;
  kitFile: KitBundle;
  runFile: unknown;
  picture: Uint8Array;
  unitId: string;
  runId: string;
}

const json = (door: string, method: string, path: string, body: unknown, headers: Record<string, string> = {}): Knock => ({
  door,
  method,
  path,
  headers: { "content-type": "application/json", ...headers },
  body: JSON.stringify(body),
});
const file = (door: string, path: string, type: string, body: Uint8Array | string): Knock => ({
  door,
  method: "POST",
  path,
  headers: { "content-type": type },
  body,
});
const sha256 = (bytes: Uint8Array | string): string => createHash("sha256").update(bytes).digest("hex");

type Door = (good: Good, random: Random) => Knock;
export const DOORS: readonly Door[] = [
  (g, r) => json("marks", "POST", "/api/marks", spoiled(g.marks, r)),
  (g, r) => file("archive preview", "/api/archive/preview", "application/zip", spoiledArchive(g.archive, r)),
  (g, r) => {
    const bytes = r.next() < 0.5 ? spoiledArchive(g.archive, r) : spoiledBytes(g.archive, r);
    return file("archive", `/api/archive/import?sha256=${sha256(bytes)}&conflicts=set%20aside`, "application/zip", bytes);
  },
  (g, r) => {
    const text = JSON.stringify(spoiled(g.runFile, r));
    return file("run file", `/api/archive/import?sha256=${sha256(text)}&conflicts=set%20aside`, "application/json", text);
  },
  (g, r) => json("kit file preview", "POST", "/api/kit-file/preview", spoiled(g.kitFile, r)),
  // Never at the revision the bench has: a stranger does not know it.
  (g, r) => json("kit row", "PUT", `/api/kit/units/${g.unitId}`, spoiled(g.kitFile.kit, r), { "if-match": `"${r.int(7, 99)}"` }),
  (g, r) => file("picture", "/api/photos", pick(r, ["image/jpeg", "image/png", "text/html"]), spoiledBytes(g.picture, r)),
  (g, r) =>
    json("intake", "POST", "/intake/v1/batches", spoiled({ idempotencyKey: g.runId, lines: [] }, r), { authorization: "Bearer guess" }),
  (g, r) =>
    json("limit", "POST", "/api/limits", spoiled({ id: g.runId, ofRunId: g.runId, endpoint: "shutdown", share: 0.5, confidence: 2 }, r)),
  (_, r) => json("pair", "POST", "/api/pair", { code: String(r.next()) }),
  (_, r) => ({
    door: "anything",
    method: pick(r, ["PUT", "POST", "DELETE"]),
    path: pick(r, ["/api/clocks/real/rate", "/api/nothing", "/api/runs/%ff/strikes", "/../etc/passwd", "/api/devices/x/revoke"]),
    headers: { "content-type": pick(r, ["application/json", "text/html", ""]) },
    body: pick(r, ["", "[".repeat(20_000), "9".repeat(4000), `"${"x".repeat(3_000_000)}"`]),
  }),
];
