// npm start on this clone's own code, in a data folder of its own: a second start, a taken port, a stale lock, a half-made database,
// a leftover one, Ctrl+C. Nothing is installed here; the set-up is the fresh clone's test.

import { existsSync } from "node:fs";
import { chmod, mkdir, readdir, readFile, stat, writeFile } from "node:fs/promises";
import net from "node:net";
import path from "node:path";
import { afterEach, beforeEach, describe, expect, it } from "vitest";
import type { Started } from "./testing/start.ts";
import { clearUp, freshFolder, lives, start as startIn } from "./testing/start.ts";

let dataDir = "";
beforeEach(async () => {
  dataDir = await freshFolder();
});
afterEach(() => clearUp(dataDir));
const start = (...args: string[]): Started => startIn(dataDir, ...args);

const serverPid = async (): Promise<number> =>
  (JSON.parse(await readFile(path.join(dataDir, "lock.json"), "utf8")) as { server: number }).server;

const PORT = 20_000 + (process.pid % 20_000);
const stands = /stands at {2}http:\/\/127\.0\.0\.1:\d+/;

describe("npm start", () => {
  it("starts once a clone, prints the running address to a second start, and stops cleanly on Ctrl+C", async () => {
    const first = start("--port", String(PORT));
    await first.says(stands);
    const second = start();
    expect(await second.exit).toBe(0);
    expect(second.output()).toContain(`running already, at  http://127.0.0.1:${PORT}`);
    const pid = Number(await readFile(path.join(dataDir, "own/mariadb/mariadbd.pid"), "utf8"));
    first.child.kill("SIGINT");
    first.child.kill("SIGINT");
    expect(await first.exit).toBe(0);
    expect(first.output()).toContain("Stopped.");
    expect(lives(pid)).toBe(false);
    expect(existsSync(path.join(dataDir, "lock.json"))).toBe(false);
  });

  it("starts a server that dies again, and stops one that is left alone", async () => {
    const first = start("--port", String(PORT));
    await first.says(stands);
    const server = await serverPid();
    process.kill(server, "SIGKILL");
    await first.says(/ended unexpectedly \(SIGKILL\).*started again in 1 s[^]*stands at/);
    expect((await fetch(`http://127.0.0.1:${PORT}/api/time`)).status).toBe(200);
    const next = await serverPid();
    expect(next).not.toBe(server);
    // The next start waits for the server left behind, which holds the port, to stop in its own order, here a slow one.
    process.kill(next, "SIGSTOP");
    first.child.kill("SIGKILL");
    await first.exit;
    const second = start("--port", String(PORT));
    await second.says(/The server of a start that was killed is stopping/);
    process.kill(next, "SIGCONT");
    await second.says(stands);
    expect(lives(next, "main.mjs")).toBe(false);
    second.child.kill("SIGTERM");
    expect(await second.exit).toBe(0);
  });

  it("goes on after a kill: a stale lock, a leftover database, and a closed terminal", async () => {
    const first = start("--port", String(PORT));
    await first.says(stands);
    const leftover = Number(await readFile(path.join(dataDir, "own/mariadb/mariadbd.pid"), "utf8"));
    const sockets = await readFile(path.join(dataDir, "own/socket-folder"), "utf8");
    const server = await serverPid();
    first.child.kill("SIGKILL");
    process.kill(server, "SIGKILL");
    await first.exit;
    expect([lives(leftover), existsSync(sockets)]).toEqual([true, true]);
    const second = start("--port", String(PORT));
    await second.says(stands);
    expect([lives(leftover), existsSync(sockets)]).toEqual([false, false]);
    second.child.kill("SIGHUP");
    expect(await second.exit).toBe(0);
  });

  it("of two starts in the same moment one runs and the other says so, a stale lock in the way or not", async () => {
    await writeFile(path.join(dataDir, "lock.json"), JSON.stringify({ pid: 2 ** 22 - 3 }));
    const both = [start("--port", String(PORT)), start("--port", String(PORT)), start("--port", String(PORT))];
    const codes = both.map((s) => s.exit);
    await Promise.any(both.map((s) => s.says(stands)));
    const others = both.filter((s) => !stands.test(s.output()) || /running already/.test(s.output()));
    expect(others).toHaveLength(2);
    for (const other of others) expect(other.output()).toMatch(/being started in another terminal|running already/);
    for (const s of both) s.child.kill("SIGINT");
    expect(await Promise.all(codes)).toEqual([0, 0, 0]);
    expect((await readdir(dataDir)).filter((n) => n.startsWith("lock"))).toEqual([]);
  });

  it("clears a half-made database and says what to do about a taken port", async () => {
    await mkdir(path.join(dataDir, "own/mariadb.new-1/mysql"), { recursive: true });
    await chmod(path.join(dataDir, "own"), 0o755);
    await writeFile(path.join(dataDir, "lock.json"), JSON.stringify({ pid: process.pid }));
    const blocker = net.createServer().listen(PORT, "127.0.0.1");
    const blocked = start("--port", String(PORT));
    expect(await blocked.exit).toBe(1);
    expect(blocked.output()).toContain(`Port ${PORT} is taken by another program. Start with another one: npm start -- --port ${PORT + 1}`);
    expect(((await stat(path.join(dataDir, "own"))).mode & 0o777).toString(8)).toBe("700");
    await new Promise((done) => blocker.close(done));
    const again = start("--port", String(PORT));
    await again.says(stands);
    expect(existsSync(path.join(dataDir, "own/mariadb.new-1"))).toBe(false);
    again.child.kill("SIGTERM");
    expect(await again.exit).toBe(0);
  });

  it("refuses to listen beyond this computer without a passphrase, and a setting it does not know", async () => {
    const open = start("--host", "0.0.0.0");
    expect(await open.exit).toBe(1);
    expect(open.output()).toContain("needs a passphrase");
    const odd = start("--colour");
    expect(await odd.exit).toBe(1);
    expect(odd.output()).toContain("--port 4700");
  });
});
