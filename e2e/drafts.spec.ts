// What was typed and not saved yet outlives a reload, the way back and a second tab; and a live run starts by its button alone, once a body.

import { expect, test } from "./server.ts";
import { savedLine, watchErrors } from "./steps.ts";

test("a plan's matrix, a day and a body half typed are there again, and can be thrown away", { tag: "@proof" }, async ({ page, demo }) => {
  const errors = watchErrors(page);
  await page.goto(`${demo.url}/plan`);
  const trials = page.getByLabel(/^Trials wanted:/).first();
  const before = await trials.inputValue();
  await trials.fill("17");
  await page.goto(`${demo.url}/kit`);
  await page.goBack();
  await expect(trials).toHaveValue("17");
  await expect(page.getByText("What was changed here before is not saved yet.")).toBeVisible();
  await page.getByRole("button", { name: "Start over" }).click();
  await expect(trials).toHaveValue(before);
  await page.reload();
  await expect(trials).toHaveValue(before);

  await page.goto(`${demo.url}/plan/days/new`);
  await page.getByLabel("Name of the day").fill("Half a name");
  await page.reload();
  await expect(page.getByLabel("Name of the day")).toHaveValue("Half a name");
  const second = await page.context().newPage();
  await second.goto(page.url());
  await expect(second.getByLabel("Name of the day")).toHaveValue("Half a name");
  await second.getByRole("button", { name: "Start over" }).click();
  await expect(second.getByLabel("Name of the day")).toHaveValue("Test day");
  await second.close();

  await page.goto(`${demo.url}/kit/models/new`);
  await page.getByLabel("Model name").fill("Half a model");
  await page.reload();
  await expect(page.getByLabel("Model name")).toHaveValue("Half a model");
  await page.getByRole("button", { name: "Start over" }).click();
  await expect(page.getByLabel("Model name")).toHaveValue("");
  expect(errors).toEqual([]);
});

test("changing a day is saved and said", { tag: "@proof" }, async ({ page, demo }) => {
  await page.goto(`${demo.url}/plan`);
  const day = page.locator("section", { hasText: "Days" }).getByRole("link").first();
  const name = await day.innerText();
  await day.click();
  await page.getByRole("link", { name: "Change the day" }).click();
  await page.getByLabel("Chargers on site").fill("no");
  await page.getByRole("button", { name: "Save" }).click();
  await expect(page.getByRole("alert").first()).toHaveText("Not saved: one marked field says why.");
  await page.getByLabel("Chargers on site").fill("3");
  await page.getByRole("button", { name: "Save" }).click();
  await expect(page.getByText(`Saved: ${name}.`)).toBeVisible();
});

test("Enter in a field starts nothing, and a body that rolls is not started again from another tab", async ({ page, own }) => {
  await page.goto(`${own.url}/roll?rehearse=1`);
  const start = page.getByRole("button", { name: "Start recording now" });
  await start.waitFor();
  const other = await page.context().newPage();
  await other.goto(`${own.url}/roll?rehearse=1`);
  await other.getByRole("button", { name: "Start recording now" }).waitFor();
  await page
    .getByLabel(/^Ambient/)
    .first()
    .press("Enter");
  await expect(start).toBeVisible();
  expect(page.url()).toContain("/roll?rehearse=1");
  await start.click();
  await expect(page.getByTestId("recorded")).toBeVisible();
  await savedLine(page, /saved/);
  await other.bringToFront();
  await expect(other.getByText("This unit is rolling already.")).toBeVisible();
  await other.getByRole("button", { name: "Start recording now" }).click();
  await expect(other.getByRole("alert").filter({ hasText: "This body is rolling already" })).toBeVisible();
  const { runs } = (await (await page.request.get(`${own.url}/api/runs?latest=50`)).json()) as { runs: unknown[] };
  expect(runs).toHaveLength(1);
});
