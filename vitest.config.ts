import { defineConfig } from "vitest/config";

const project = (name: string, root: string, more: object = {}) => ({ test: { name, root, include: ["**/*.test.ts"], ...more } });

export default defineConfig({
  test: {
    projects: [
      project("core", "packages/core"),
      project("contract", "packages/contract"),
      project("demo", "demo"),
      project("web", "apps/web"),
      project("tools", "tools", { testTimeout: 90_000, hookTimeout: 30_000, fileParallelism: false, exclude: ["fixtures/**"] }),
      project("server", "apps/server", {
        globalSetup: `${import.meta.dirname}/apps/server/test/globalSetup.ts`,
        testTimeout: 30_000,
        hookTimeout: 60_000,
        maxWorkers: 2,
      }),
    ],
  },
});
