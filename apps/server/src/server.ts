// One running server: database, schema, bench, HTTP, stand-ins; and the one way to stop it, in the order that loses nothing.

import type { Server } from "node:http";
import path from "node:path";
import { serve } from "@hono/node-server";
import type { Logger } from "pino";
import { createApp } from "./app.ts";
import { holdSimulatedClocks } from "./rooms/clocks/index.ts";
import type { Config } from "./config.ts";
import type { Db } from "./db/connection.ts";
import { connect, isAway, targetOf } from "./db/connection.ts";
import { startDatabase } from "./db/mariadb.ts";
import { watchDatabase } from "./db/watch.ts";
import { migrateUp } from "./db/migrations.ts";
import { composeDeps } from "./compose.ts";
import { emptySpool } from "./rooms/data/index.ts";
import { startStandIns } from "./rooms/devices/index.ts";
import { wakeReadThread } from "./rooms/runs/index.ts";
import { passphraseGate } from "./http/passphrase.ts";
import { STEPS } from "./rooms.ts";
import { refreshCaches } from "./record/refresh.ts";
import { mediaFolder } from "./media/folder.ts";
import { seedBench } from "./seed/service.ts";

export interface Running {
  address: string;
  databasePid: () => number | undefined;
  stop(): Promise<void>;
}

interface Database {
  db: Db;
  /** No other server works on it. */
  alone(): Promise<boolean>;
  pid: () => number | undefined;
  stop(): Promise<void>;
}

async function openDatabase(config: Config, log: Logger): Promise<Database> {
  if (config.databaseUrl !== undefined) {
    const target = targetOf(config.databaseUrl);
    const db = connect(target);
    await answersQueries(db).catch((error: unknown) => {
      throw new Error(`The database of DATABASE_URL cannot be used: ${error instanceof Error ? error.message : String(error)}`);
    });
    const watch = watchDatabase(target, () => log.error("the database does not answer: it hangs, or is overloaded"));
    return {
      db,
      alone: () => watch.alone(),
      pid: () => undefined,
      stop: async () => {
        await watch.stop();
        await db.destroy();
      },
    };
  }
  const server = await startDatabase({
    dataDir: config.dataDir,
    relaxedFlush: config.relaxedFlush,
    onRestart: (attempt) => log.warn({ attempt }, "database stopped, starting it again"),
  });
  const target = { socketPath: server.socketPath, user: server.user, password: server.password, database: server.database };
  const db = connect(target);
  await answersQueries(db);
  const watch = watchDatabase(target, () => {
    // Ended, it is started again like one that died; what was committed is there.
    log.error("the database hangs, ending it");
    const pid = server.pid();
    if (pid !== undefined) process.kill(pid, "SIGKILL");
  });
  return {
    db,
    alone: () => watch.alone(),
    pid: () => server.pid(),
    stop: async () => {
      await watch.stop();
      await db.destroy();
      await server.stop();
    },
  };
}

/** A database that has just come up may reset the first connections: the socket answers before the server does. */
async function answersQueries(db: Db): Promise<void> {
  for (let attempt = 1; ; attempt++) {
    try {
      await db.raw("select 1");
      return;
    } catch (error) {
      if (attempt >= 300 || !isAway(error)) throw error;
      await new Promise((done) => setTimeout(done, 100));
    }
  }
}

export async function startServer(config: Config, log: Logger, say: (line: string) => void): Promise<Running> {
  const database = await openDatabase(config, log);
  try {
    await migrateUp(database.db, STEPS);
    const media = mediaFolder(path.join(config.dataDir, "media"));
    const spool = path.join(config.dataDir, "spool");
    await emptySpool(spool);
    const deps = composeDeps({ db: database.db, media, spool, log });
    if (!config.empty) say("Looking at the demo bench (made once, then kept) ...");
    await seedBench(deps, !config.empty);
    await refreshCaches(deps);
    const alone = await database.alone();
    if (alone) await holdSimulatedClocks(deps, false);
    else
      say(
        "Another server of Keep Rolling works on this database. This one shows and records, and leaves clocks and stand-ins to it; run one only.",
      );
    const gate = passphraseGate(config.passphrase, deps.db, deps.now);
    const { app, streams } = createApp(deps, { host: config.host, webDir: config.webDir, gate });
    const { http, port } = await listen(app.fetch, config);
    void wakeReadThread(deps);
    const standIns = alone ? startStandIns(deps, `http://${loopbackOf(config.host)}:${port}`) : null;
    const stop = async (): Promise<void> => {
      streams.close();
      await standIns?.stop();
      await closeHttp(http);
      if (alone) await holdSimulatedClocks(deps, true).catch(() => undefined);
      await database.stop();
    };
    return { address: `http://${config.host.includes(":") ? `[${config.host}]` : config.host}:${port}`, databasePid: database.pid, stop };
  } catch (error) {
    await database.stop();
    throw error;
  }
}

/** The stand-ins live in this process: they reach the intake by the address listened on, or loopback for all addresses. */
const loopbackOf = (host: string): string => (host === "0.0.0.0" || host === "::" ? "127.0.0.1" : host.includes(":") ? `[${host}]` : host);

function listen(fetch: (request: Request) => Response | Promise<Response>, config: Config): Promise<{ http: Server; port: number }> {
  return new Promise((done, fail) => {
    const http = serve({ fetch, hostname: config.host, port: config.port }, (info) => done({ http, port: info.port })) as Server;
    // Node's five seconds close many a connection at the moment its next request is on the way.
    http.keepAliveTimeout = 65_000;
    http.once("error", (error: NodeJS.ErrnoException) => fail(new Error(listenSentence(error, config))));
  });
}

function listenSentence(error: NodeJS.ErrnoException, config: Config): string {
  if (error.code === "EADDRINUSE")
    return `Port ${config.port} is taken by another program. Start with another one: npm start -- --port ${config.port + 1}`;
  if (error.code === "EACCES")
    return `Port ${config.port} is not allowed for this user. Start with one above 1023: npm start -- --port 4600`;
  if (error.code === "EADDRNOTAVAIL") return `${config.host} is not an address of this computer. Nothing was started.`;
  return `Cannot listen on ${config.host}:${config.port} (${error.code ?? error.message}).`;
}

async function closeHttp(http: Server): Promise<void> {
  const closed = new Promise<void>((done) => http.close(() => done()));
  const late = setTimeout(() => http.closeAllConnections(), 1500);
  http.closeIdleConnections();
  await closed;
  clearTimeout(late);
}
