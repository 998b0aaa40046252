// Servers of the specs: one a worker, with the demo or without.

import { test as base } from "@playwright/test";
import type { TestServer } from "../tools/launch.ts";
import { launchServer as launched } from "../tools/launch.ts";
import { template } from "./templates.ts";

export type { TestServer } from "../tools/launch.ts";

export const launchServer = async (options: Parameters<typeof launched>[0]): Promise<TestServer> =>
  launched({ from: await template(options), ...options });

/** One server a worker, `demo` with the demo on it; `own` is a test's alone, and ended however the test ends. */
export const test = base.extend<{ own: TestServer }, { empty: TestServer; demo: TestServer }>({
  own: async ({}, use) => {
    const server = await launchServer({ empty: true });
    await use(server);
    await server.stop();
  },
  empty: [
    async ({}, use) => {
      const server = await launchServer({ empty: true });
      await use(server);
      await server.stop();
    },
    { scope: "worker", timeout: 240_000 },
  ],
  demo: [
    async ({}, use) => {
      const server = await launchServer({ empty: false });
      await use(server);
      await server.stop();
    },
    { scope: "worker", timeout: 240_000 },
  ],
});
export { expect } from "@playwright/test";
