// What leaves comes back whole; people find twins in it, and nobody a secret.

import type { ImportReport } from "@keep-rolling/contract/data";
import { longDay, practiceStart } from "@keep-rolling/demo";
import { unzipSync } from "fflate";
import { v7 as uuidv7 } from "uuid";
import { describe, expect, it } from "vitest";
import { sha256Of } from "../src/media/folder.ts";
import { bring, deliver, facts, foldsOf, preview, take } from "./archives.ts";
import type { TestBench } from "./bench.ts";
import { benches, presser } from "./bench.ts";

const bench = benches();

describe("the archive of a long made day", () => {
  it("opens in an empty workspace with identical folds, and leaves it as it came", async () => {
    const day = longDay();
    const from = await bench({ demo: true });
    for (let i = 0; i < day.deliveries.length; ) {
      const device = day.deliveries[i]?.deviceId;
      const next = day.deliveries.findIndex((m, k) => k > i && m.deviceId !== device);
      const until = Math.min(next === -1 ? day.deliveries.length : next, i + 500);
      const reply = await deliver(from, day.deliveries.slice(i, until));
      expect((reply.json as { outcomes: { outcome: string }[] }).outcomes.every((o) => o.outcome === "stored")).toBe(true);
      i = until;
    }
    for (const bytes of day.blobs) {
      await from.db("blob").insert({ sha256: await from.deps.media.put(bytes), bytes: bytes.length, mime: "image/png", received_ms: 1 });
    }
    const archive = await take(from);
    const to = await bench();
    const report = (await bring(to, archive)).json as ImportReport;
    expect(report.stored).toBe(true);
    expect(report.conflicts).toEqual([]);
    expect(report.runs.fresh).toBeGreaterThanOrEqual(day.runIds.length);
    const [before, after] = [await foldsOf(from), await foldsOf(to)];
    expect(after.size).toBe(before.size);
    for (const id of day.runIds) expect(before.has(id)).toBe(true);
    expect(after).toEqual(before);
    const again = await take(to);
    expect(await facts(again)).toEqual(await facts(archive));
    for (const bytes of day.blobs) expect(await to.deps.media.read(sha256Of(bytes))).toEqual(Buffer.from(bytes));
    const second = (await bring(to, archive)).json as ImportReport;
    expect(second.tables.map((t) => [t.table, t.add])).toEqual(second.tables.map((t) => [t.table, 0]));
    const limits = (bench: TestBench) => bench.call("GET", "/api/limits").then((r) => r.json);
    expect(await limits(to)).toEqual(await limits(from));

    // Runs begin and roll while all this comes in elsewhere: they wait for none of it.
    const busy = await bench();
    const fromMs = Date.now();
    let over = false;
    const merging = preview(busy, archive).finally(() => (over = true));
    const waitsMs: number[] = [];
    while (!over) {
      const { press, batch } = presser();
      const sentMs = Date.now();
      const reply = await busy.call("POST", "/api/marks", batch(press("start", 0, practiceStart()), press("note", 1, { text: "on" })));
      waitsMs.push(Date.now() - sentMs);
      expect(reply.json).toMatchObject({ outcomes: [{ outcome: "stored" }, { outcome: "stored" }] });
      await new Promise((next) => setTimeout(next, 20));
    }
    expect(Math.max(...waitsMs)).toBeLessThan((Date.now() - fromMs) / 5);
    expect((await merging).status).toBe(200);
  });

  it("has twins for people: one line a run, times in seconds, and no cell that a spreadsheet would run", async () => {
    const from = await bench();
    const { press, batch } = presser();
    await from.call(
      "POST",
      "/api/marks",
      batch(press("start", 0, practiceStart()), press("note", 5000, { text: "=cmd()" }), press("end", 900_500, { cause: "card full" })),
    );
    const files = unzipSync(await take(from));
    const read = (name: string): string => Buffer.from(files[name] ?? new Uint8Array()).toString();
    const [head, run] = read("csv/runs.csv").split("\r\n");
    expect(head).toContain("recorded s, at least");
    expect(run).toContain(",900.5,900.5,900.5,0,card full,900.5,0,ended otherwise");
    expect(read("csv/marks.csv")).toContain(`"'=cmd()"`);
    expect(read("README.txt")).toContain("archive format 1");
  });

  it("carries no secret", async () => {
    const from = await bench({ passphrase: "long enough words" });
    await from.db("device").insert({ id: uuidv7(), kind: "sensor", name: "probe", unit_id: uuidv7(), token_hash: "f".repeat(64) });
    const open = await from.call("POST", "/api/session", { passphrase: "long enough words" });
    const cookie = open.headers.get("set-cookie")?.split(";")[0] ?? "";
    const secret = cookie.split("=")[1] ?? "";
    const row = (await from.db<{ token_sha: string; proof: string }>("login").first()) ?? { token_sha: "", proof: "" };
    const reply = await from.app.request("http://127.0.0.1/api/archive", { headers: { host: "127.0.0.1", cookie } });
    const all = Object.values(unzipSync(new Uint8Array(await reply.arrayBuffer())))
      .map((f) => Buffer.from(f).toString())
      .join("\n");
    expect(all).toContain("probe");
    expect(all).not.toContain("f".repeat(64));
    expect(secret).toHaveLength(43);
    for (const kept of [secret, row.token_sha, row.proof]) expect(all).not.toContain(kept);
  });
});
