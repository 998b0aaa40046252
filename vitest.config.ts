import { defineConfig } from "vitest/config";

/** A stuck test must end, a slow machine must not fail: nothing here asserts speed. */
const PATIENCE = { testTimeout: 180_000, hookTimeout: 180_000 };

const project = (name: string, root: string, more: object = {}) => ({
  test: { name, root, include: ["**/*.test.{ts,tsx}"], ...PATIENCE, ...more },
});

export default defineConfig({
  test: {
    projects: [
      project("core", "packages/core"),
      project("contract", "packages/contract"),
      project("demo", "demo"),
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
