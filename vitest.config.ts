import { readdirSync, readFileSync } from "node:fs";
import os from "node:os";
import path from "node:path";
import { defineConfig } from "vitest/config";

const PROOF = process.env.PROOF === "1";
/** A stuck test must end, a slow machine must not fail: nothing here asserts speed. Proofs take ten times as many sets, beside another. */
const PATIENCE = { testTimeout: PROOF ? 1_200_000 : 180_000, hookTimeout: 180_000 };

/** Every core, also on a machine of two, where one would be left idle. */
const WORKERS = { maxWorkers: Math.max(2, os.availableParallelism()) };
const PURE = { pool: "threads", isolate: false };

/** The web's tests that need a world of their own a file: those with a document, or with a stand-in in place of a module. */
const WEB = path.join(import.meta.dirname, "apps/web");
const ALONE = readdirSync(path.join(WEB, "src"), { recursive: true, encoding: "utf8" })
  .map((name) => path.join("src", name))
  .filter((name) => /\.test\.tsx?$/.test(name) && /@vitest-environment|vi\.mock\(/.test(readFileSync(path.join(WEB, name), "utf8")));

const project = (name: string, root: string, more: object = {}) => ({
  test: { name, root, include: ["**/*.test.{ts,tsx}"], ...PATIENCE, ...WORKERS, ...more },
});

export default defineConfig({
  test: {
    projects: [
      // Pure code needs no fresh world a file.
      project("core", "packages/core", { ...PURE, provide: { proof: PROOF } }),
      project("contract", "packages/contract", PURE),
      project("demo", "demo", PURE),
      project("web", "apps/web", { ...PURE, exclude: ALONE }),
      project("pages", "apps/web", { include: ALONE }),
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
