// What assistive technology would stumble over, by axe-core. Run in the page itself: the usual binding opens a page of its own for every answer,
// and took four times as long.

import { readFileSync } from "node:fs";
import { createRequire } from "node:module";
import type { Page } from "@playwright/test";
import type axe from "axe-core";

const SOURCE = readFileSync(createRequire(import.meta.url).resolve("axe-core/axe.min.js"), "utf8");

/** Every place of the page that breaks a rule. */
export async function violationsOn(page: Page): Promise<string[]> {
  if (!(await page.evaluate(() => "axe" in globalThis))) await page.evaluate(SOURCE);
  return page.evaluate(async () => {
    // Only what is wrong: naming every place that is right takes as long again.
    const { violations } = await (globalThis as unknown as { axe: typeof axe }).axe.run({ resultTypes: ["violations"] });
    return violations.flatMap(({ id, nodes }) => nodes.map(({ html }) => `${id} ${html.slice(0, 160)}`));
  });
}
