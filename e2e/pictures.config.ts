import { defineConfig } from "@playwright/test";
import base from "../playwright.config.ts";

/** npm run screenshots: one current picture of each main view, from the demo. */
export default defineConfig({
  ...base,
  testDir: ".",
  projects: [{ name: "pictures", testMatch: "pictures.ts" }],
  workers: 1,
  use: { ...base.use, serviceWorkers: "allow" },
});
