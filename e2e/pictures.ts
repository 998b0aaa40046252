// Takes docs/screenshots/*.png from a fresh demo.

import { readAllRuns } from "../tools/testing/runs.ts";
import path from "node:path";
import type { Page } from "@playwright/test";
import { DEMO_HOLDS } from "@keep-rolling/demo/hold";
import { DEMO_PICTURES } from "@keep-rolling/demo/holdPictures";
import { WALK_ID } from "@keep-rolling/demo/walk";
import { standInHabits } from "@keep-rolling/core/stand-ins";
import { expect, test } from "./server.ts";
import { skip } from "./steps.ts";

const OUT = path.resolve(import.meta.dirname, "../docs/screenshots");
const face = (page: Page, name: "day" | "night"): Promise<unknown> =>
  page.addInitScript((f) => localStorage.setItem("keep-rolling-settings", JSON.stringify({ face: f })), name);

/** `sign`: what is there once all has been computed. */
async function take(page: Page, url: string, name: string, sign = page.getByRole("heading", { level: 1 }).first()): Promise<void> {
  await page.goto(url);
  await sign.waitFor();
  await expect(page.getByText(/^Reading .* …$/)).toHaveCount(0);
  await page.evaluate(() => document.fonts.ready);
  // The first visit is over: the page is kept, the clock compared.
  await page.waitForFunction(() => navigator.serviceWorker.controller !== null);
  await expect(page.getByText(/^not compared$|Keep this page open/)).toHaveCount(0);
  await page.screenshot({ path: path.join(OUT, `${name}.png`) });
}

/** The statistics come from a worker: the picture waits for them. */
async function heat(page: Page, url: string, name: string): Promise<void> {
  await page.goto(url);
  await expect(page.locator("section[aria-labelledby=answer][aria-busy=false]")).toBeVisible();
  await take(page, url, name);
  await expect(page.locator("section[aria-labelledby=answer][aria-busy=false]")).toBeVisible();
  await page.screenshot({ path: path.join(OUT, `${name}.png`) });
}

test("pictures by day", async ({ page, demo }) => {
  await face(page, "day");
  const runs = (await readAllRuns(async (at) => (await page.request.get(`${demo.url}${at}`)).json())) as unknown as {
    run: { id: string; status: string };
    marks: { mark: { body: { condition?: { name: string }; mode?: { name: string } } } }[];
  }[];
  const { limits } = (await (await page.request.get(`${demo.url}/api/limits`)).json()) as {
    limits: { id: string; unitId: string; evidence: { runId: string }[] }[];
  };
  const [limit] = limits;
  const withGap = limit?.evidence[1]?.runId ?? "";
  await take(page, `${demo.url}/`, "bench");
  await take(page, `${demo.url}/kit`, "kit");
  await take(page, `${demo.url}/walk/${WALK_ID}`, "walk", page.getByRole("img", { name: /^control: all off: / }));
  await take(page, `${demo.url}/hold/${DEMO_HOLDS[0]?.id ?? ""}`, "hold", page.getByRole("img", { name: /^stabiliser off/ }));
  await take(page, `${demo.url}/hold/${DEMO_PICTURES.id}/table?judge=RB`, "hold-table", page.getByText(/^in hand: /));
  // Made takes are drawn anew for whoever looks at them.
  test.setTimeout(300_000);
  const canvas = page.locator("canvas[role=img]");
  await take(page, `${demo.url}/walk/${WALK_ID}/look`, "walk-look", canvas);
  await page.getByRole("heading", { level: 1 }).click();
  for (let i = 0; i < 40; i++) await page.keyboard.press("ArrowRight");
  await page.screenshot({ path: path.join(OUT, "walk-look.png") });
  await page.goto(`${demo.url}/walk/${WALK_ID}/recorded`);
  await page.getByRole("combobox", { name: "Setup" }).selectOption("counterweight rig");
  await page.getByLabel(/^Battery of counterweight rig/).fill("0");
  await page.getByLabel(/^Because/).fill("nothing to charge, nothing cut off");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("region", { name: "Recorded for everyday talk" })).toBeVisible();
  await page.screenshot({ path: path.join(OUT, "walk-record.png") });
  await take(page, `${demo.url}/plan`, "plan");
  const { days } = (await (await page.request.get(`${demo.url}/api/kit`)).json()) as { days: { id: string }[] };
  await take(page, `${demo.url}/plan/days/${days[0]?.id ?? ""}`, "day");
  await take(page, `${demo.url}/runs/${withGap}`, "run");
  await page.goto(`${demo.url}/runs/${withGap}/files`);
  await page.getByRole("button", { name: /Read the stand-in's card/ }).click();
  const { units } = (await (await page.request.get(`${demo.url}/api/kit`)).json()) as { units: { id: string }[] };
  const habits = standInHabits(units.find((u) => u.id === limit?.unitId)?.id ?? "");
  await page.getByLabel(habits.stamp === "start" ? "begun" : "closed", { exact: true }).check();
  await page.getByLabel(habits.zone, { exact: true }).check();
  await expect(page.getByText(/marks agree$/)).toBeVisible();
  await page.screenshot({ path: path.join(OUT, "files.png") });
  await take(page, `${demo.url}/data`, "data");
  await page.goto(`${demo.url}/roll/notebook`);
  const row = async (n: number, cells: Readonly<Record<string, string>>): Promise<void> => {
    for (const [column, text] of Object.entries(cells)) await page.getByLabel(`${column}, row ${n}`).fill(text);
  };
  await row(1, {
    "Date and time": "20 May 2031 9:40",
    Unit: "Plover B",
    Mode: "UHD 50 oversampled",
    Condition: "Boathouse",
    Ambient: "21",
  });
  for (const n of [1, 2, 3]) await row(n, { Firmware: "2.1" });
  await row(1, { "Start or rest": "cold", "Time to warning": "26 min", "Recorded time": "34:20", "Ended by": "heat" });
  await row(2, { "Start or rest": "45 min", "Recorded time": "19 min", "Ended by": "heat", "Recovery of the row above": "yes" });
  await row(3, { "Date and time": "21 May 2031 10:05", "Start or rest": "cold", "Time to warning": "40 min", "Recorded time": "35 min" });
  await page.getByLabel("Date and time, row 4").focus();
  await page.screenshot({ path: path.join(OUT, "notebook.png") });
  const cell = `?cell=${limit?.evidence[0]?.runId ?? ""}`;
  await heat(page, `${demo.url}/heat/${limit?.unitId ?? ""}/lasts${cell}`, "heat");
  await heat(page, `${demo.url}/heat/${limit?.unitId ?? ""}/why${cell}`, "heat-why");
  await take(page, `${demo.url}/limits/${limit?.id ?? ""}`, "limit");
  expect(runs.length).toBeGreaterThan(30);
});

test("pictures by night", async ({ page, demo }) => {
  await face(page, "night");
  const runs = await readAllRuns(async (at) => (await page.request.get(`${demo.url}${at}`)).json(), "open=1");
  const rolling = `${demo.url}/roll/${runs[0]?.run.id ?? ""}`;
  await take(page, rolling, "console");
  await page.setViewportSize({ width: 390, height: 844 });
  await take(page, rolling, "phone");
  // The wall comes last: two more bodies then roll beside the first.
  await page.setViewportSize({ width: 1280, height: 800 });
  const { units } = (await (await page.request.get(`${demo.url}/api/kit`)).json()) as { units: { id: string; name: string }[] };
  for (const name of ["Plover B", "Wader"]) {
    await page.goto(`${demo.url}/roll?unit=${units.find((u) => u.name === name)?.id ?? ""}`);
    await page.getByRole("button", { name: "Start recording now" }).click();
    await page.getByTestId("recorded").waitFor();
  }
  await skip(page, 380, "demo");
  await page.keyboard.press("1");
  await expect(page.getByTestId("recorded")).toHaveText(/^0:06:/);
  await page.keyboard.press("g");
  await expect(page.getByText("Why did it stop?")).toBeVisible();
  await page.screenshot({ path: path.join(OUT, "wall.png") });
});
