// Composition root: settings, start, and a stop that a second Ctrl+C or a hang-up does not cut short.

import { rmSync, writeFileSync } from "node:fs";
import pino from "pino";
import { readConfig } from "./config.ts";
import { startServer } from "./server.ts";

async function main(): Promise<void> {
  const config = readConfig(process.env);
  const log = pino({ level: config.logLevel });
  const started = startServer(config, log, (line) => console.log(line));
  let stopping: Promise<void> | undefined;
  const stop = (): void => {
    stopping ??= started
      .then(
        async (running) => {
          console.log("Stopping: everything pressed is saved ...");
          await running.stop();
          console.log("Stopped.");
        },
        () => undefined,
      )
      .finally(() => {
        if (config.addressFile !== undefined) rmSync(config.addressFile, { force: true });
        process.exit(0);
      });
  };
  // A closed terminal must not kill us through a failed write.
  process.stdout.on("error", () => undefined);
  process.stderr.on("error", () => undefined);
  for (const signal of ["SIGINT", "SIGTERM", "SIGHUP"] as const) process.on(signal, stop);
  const running = await started;
  if (config.addressFile !== undefined) writeFileSync(config.addressFile, JSON.stringify({ pid: process.pid, address: running.address }));
  console.log(`\nKeep Rolling stands at  ${running.address}\n`);
}

main().catch((error: unknown) => {
  console.error(error instanceof Error ? error.message : String(error));
  process.exit(1);
});
