// Composition root: settings, start, and a stop that a second Ctrl+C or a hang-up does not cut short.

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
      .finally(() => process.exit(0));
  };
  // A closed terminal must not kill us through a failed write.
  process.stdout.on("error", () => undefined);
  process.stderr.on("error", () => undefined);
  for (const signal of ["SIGINT", "SIGTERM", "SIGHUP"] as const) process.on(signal, stop);
  process.on("disconnect", stop);
  const running = await started;
  // Whoever started it as its child is told; without that process it would run unseen.
  process.send?.({ address: running.address });
  console.log(`\nKeep Rolling stands at  ${running.address}\n`);
}

main().catch((error: unknown) => {
  console.error(error instanceof Error ? error.message : String(error));
  process.exit(1);
});
