import os from "node:os";
import { defineConfig } from "vitest/config";

/** A stuck test must end, a slow machine must not fail: nothing here asserts speed. */
const PATIENCE = { testTimeout: 180_000, hookTimeout: 180_000 };

/** Every core, also on a machine of two, where one would be left idle. */
const WORKERS = { maxWorkers: Math.max(2, os.availableParallelism()) };
const PURE = { pool: "threads", isolate: false };

/** Of the web's tests without a component those that need a document or another module's stand-in all the same. */
const ALONE = [
  "src/shared/ui/publish.test.ts",
  "src/shared/drafts/drafts.test.ts",
  "src/rooms/roll/sheet/table.test.ts",
  "src/rooms/walk/importQueue.test.ts",
  "src/rooms/hold/pictures/queue.test.ts",
];

const project = (name: string, root: string, more: object = {}) => ({
  test: { name, root, include: ["**/*.test.{ts,tsx}"], ...PATIENCE, ...WORKERS, ...more },
});

export default defineConfig({
  test: {
    projects: [
      // Pure code needs no fresh world a file.
      project("core", "packages/core", { ...PURE, provide: { proof: process.env.PROOF === "1" } }),
      project("contract", "packages/contract", PURE),
      project("demo", "demo", PURE),
      project("web", "apps/web", { ...PURE, include: ["**/*.test.ts"], exclude: ALONE }),
      // What draws, or puts a stand-in in place of a module, needs a world of its own a file.
      project("pages", "apps/web", { include: ["**/*.test.tsx", ...ALONE] }),
      // Built once before: two starts at the same time must not both build.
      project("tools", "tools", { exclude: ["fixtures/**"], globalSetup: `${import.meta.dirname}/tools/testing/built.ts` }),
      project("server", "apps/server", {
        globalSetup: `${import.meta.dirname}/apps/server/test/globalSetup.ts`,
        maxWorkers: 2,
        isolate: false,
        // After the others when asked for together: it has its own number of workers.
        sequence: { groupOrder: 1 },
      }),
    ],
  },
});
