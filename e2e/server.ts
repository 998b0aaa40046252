// Servers of the specs: one a worker, with the demo or without.

import { test as base } from "@playwright/test";
import type { TestServer } from "../tools/launch.ts";
import { launchServer } from "../tools/launch.ts";

export type { TestServer } from "../tools/launch.ts";
export { launchServer } from "../tools/launch.ts";

/** One server a worker; `demo` has the demo on it. */
export const test = base.extend<object, { empty: TestServer; demo: TestServer }>({
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
