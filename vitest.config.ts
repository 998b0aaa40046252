import { defineConfig } from "vitest/config";

/** A stuck test must end, a slow machine must not fail: nothing here asserts speed. */
const PATIENCE = { testTimeout: 180_000, hookTimeout: 180_000 };

const PURE = { pool: "threads", isolate: false };

const project = (name: string, root: string, more: object = {}) => ({
  test: { name, root, include: ["**/*.test.{ts,tsx}"], ...PATIENCE, ...more },
});

export default defineConfig({
  test: {
    projects: [
      // Pure code needs no fresh world a file.
      project("core", "packages/core", PURE),
      project("contract", "packages/contract", PURE),
      project("demo", "demo", PURE),
      project("web", "apps/web"),
      project("tools", "tools", { fileParallelism: false, exclude: ["fixtures/**"] }),
      project("server", "apps/server", {
        globalSetup: `${import.meta.dirname}/apps/server/test/globalSetup.ts`,
        maxWorkers: 2,
        // After the others when asked for together: it has its own number of workers.
        sequence: { groupOrder: 1 },
      }),
    ],
  },
});
