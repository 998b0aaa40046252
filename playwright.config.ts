import { defineConfig } from "@playwright/test";
import { chromiumPath } from "./tools/setup.mjs";

/** Begun first: a long file begun last keeps one worker at it while the other has nothing left. */
const LONG = ["walk.spec.ts", "walkJudged.spec.ts", "rehearsal.spec.ts", "holdPictures.spec.ts"];
// What takes minutes, or asks another way what another test asks, is proved before a release: npm run proof.
const WHOLE = process.env.PROOF === "1";
const ALL = WHOLE ? ["*.spec.ts", "*.proof.ts"] : ["*.spec.ts"];

// The built application, Debian's Chromium. No retries: a wait is on state, never on time.
export default defineConfig({
  testDir: "e2e",
  globalSetup: `${import.meta.dirname}/e2e/templates.ts`,
  projects: [
    { name: "long", testMatch: LONG },
    { name: "others", testMatch: ALL, testIgnore: LONG },
  ],
  ...(WHOLE ? {} : { grepInvert: /@proof/ }),
  outputDir: "test-results",
  // Generous on purpose: a slow machine must not fail, nothing here asserts speed.
  timeout: 300_000,
  expect: { timeout: 60_000 },
  // A machine on which nothing answers is told by the first failures, not by eighty waits of five minutes.
  maxFailures: process.env.PLAYWRIGHT_JSON_OUTPUT_FILE ? 5 : 0,
  globalTimeout: (WHOLE ? 120 : 40) * 60_000,
  workers: 2,
  retries: 0,
  fullyParallel: false,
  reporter: process.env.PLAYWRIGHT_JSON_OUTPUT_FILE
    ? [["line"], ["json", { outputFile: process.env.PLAYWRIGHT_JSON_OUTPUT_FILE }]]
    : [["line"]],
  use: {
    viewport: { width: 1280, height: 800 },
    // Every test opens a new browser's first page: keeping all of the application on its device took a third of that. Specs of what a page can
    // do without its server allow it, and the long proofs do.
    serviceWorkers: WHOLE ? "allow" : "block",
    // What was done, said and asked, and at a failure the page in words; film and copies of every page cost a quarter of all the time.
    trace: { mode: "retain-on-failure", screenshots: false, snapshots: false, sources: false },
    launchOptions: {
      executablePath: chromiumPath(),
      args: ["--disable-background-networking", "--disable-component-update", "--disable-sync", "--no-first-run"],
    },
  },
});
