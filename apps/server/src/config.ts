// The environment, read once through Zod. Everything else gets its settings as arguments.

import { z } from "zod";

const schema = z.object({
  PORT: z.coerce.number().int().min(0).max(65_535).default(4600),
  HOST: z.string().default("127.0.0.1"),
  DATA_DIR: z.string().default(".data"),
  WEB_DIR: z.string().default("apps/web/dist"),
  DATABASE_URL: z.url({ protocol: /^mysql$/ }).optional(),
  KEEP_ROLLING_PASSPHRASE: z.string().min(10, "A passphrase of at least 10 characters.").optional(),
  EMPTY: z.enum(["0", "1"]).default("0"),
  LOG_LEVEL: z.enum(["debug", "info", "warn", "error", "silent"]).default("warn"),
  MARIADB_RELAXED_FLUSH: z.enum(["0", "1"]).default("0"),
});

export interface Config {
  port: number;
  host: string;
  dataDir: string;
  webDir: string;
  databaseUrl: string | undefined;
  passphrase: string | undefined;
  empty: boolean;
  logLevel: string;
  relaxedFlush: boolean;
}

/** The one address that needs no passphrase. Another of 127.0.0.0/8 stands in for a network in tests, and is asked like one. */
export const isLoopback = (host: string): boolean => ["localhost", "::1", "127.0.0.1"].includes(host);

/** Throws an Error whose message is a sentence for the terminal. */
export function readConfig(env: Record<string, string | undefined>): Config {
  const parsed = schema.safeParse(env);
  if (!parsed.success) {
    const issue = parsed.error.issues[0];
    throw new Error(`Setting ${issue?.path.join(".") ?? ""} is not usable: ${issue?.message ?? ""}`);
  }
  const e = parsed.data;
  if (!isLoopback(e.HOST) && e.KEEP_ROLLING_PASSPHRASE === undefined) {
    throw new Error(
      `Listening on ${e.HOST} lets other devices in, so it needs a passphrase: set KEEP_ROLLING_PASSPHRASE (10 characters or more). Without --host only this computer can connect.`,
    );
  }
  return {
    port: e.PORT,
    host: e.HOST,
    dataDir: e.DATA_DIR,
    webDir: e.WEB_DIR,
    databaseUrl: e.DATABASE_URL,
    passphrase: e.KEEP_ROLLING_PASSPHRASE,
    empty: e.EMPTY === "1",
    logLevel: e.LOG_LEVEL,
    relaxedFlush: e.MARIADB_RELAXED_FLUSH === "1",
  };
}
