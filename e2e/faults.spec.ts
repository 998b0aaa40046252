// Nothing pressed is lost: reload mid-run, network off and back, server killed, database killed, both killed, two tabs.

import type { TestServer } from "../tools/launch.ts";
import { expect, launchServer, test } from "./server.ts";
import type { OnRecord } from "./steps.ts";
import { marksOnRecord, savedLine, startRehearsal } from "./steps.ts";

// A page is to be there without its server.
test.use({ serviceWorkers: "allow" });

let server: TestServer;
test.beforeAll(async () => {
  test.setTimeout(240_000);
  server = await launchServer({ empty: true, relaxed: false });
});
test.afterAll(() => server.stop());

const kinds = (marks: OnRecord[]): string[] => marks.map((m) => m.mark.kind);
const once = (marks: OnRecord[]): void => expect(new Set(marks.map((m) => m.mark.id)).size).toBe(marks.length);

test("reload mid-run changes nothing", { tag: "@proof" }, async ({ page }) => {
  const runId = await startRehearsal(page, server.url);
  await page.keyboard.press("g");
  await savedLine(page, /all 2 marks saved/);
  await page.reload();
  await expect(page.getByTestId("beneath")).toContainText("not recording");
  await page.keyboard.press("r");
  await savedLine(page, /all 3 marks saved/);
  await page.reload();
  await expect(page.getByText("recording again").first()).toBeVisible();
  const marks = await marksOnRecord(page, server.url, runId);
  expect(kinds(marks)).toEqual(["start", "gap", "resume"]);
  await page.keyboard.press("q");
});

test("network off and back: kept on this device, then saved once", { tag: "@proof" }, async ({ page, context }) => {
  const runId = await startRehearsal(page, server.url);
  await savedLine(page, /saved/);
  await context.setOffline(true);
  await page.keyboard.press("t");
  await page.keyboard.press("1");
  await page.keyboard.press("w");
  await savedLine(page, /3 marks waiting, kept on this device/);
  await expect(page.getByText("· waiting").first()).toBeVisible();
  const before = await page.getByTestId("recorded").textContent();
  await expect(page.getByTestId("recorded")).not.toHaveText(before ?? "");
  await context.setOffline(false);
  await savedLine(page, /^all \d+ marks saved$/);
  const marks = await marksOnRecord(page, server.url, runId);
  expect(kinds(marks)).toEqual(["start", "touch", "correction", "warning"]);
  once(marks);
  await page.keyboard.press("q");
});

test("server killed mid-run and started again: pressed set = set on record", async ({ page }) => {
  const runId = await startRehearsal(page, server.url);
  await savedLine(page, /saved/);
  await server.kill();
  await page.keyboard.press("g");
  await page.keyboard.press("2");
  await page.keyboard.press("r");
  await savedLine(page, /3 marks waiting, kept on this device/);
  await server.start();
  await savedLine(page, /^all \d+ marks saved$/);
  const marks = await marksOnRecord(page, server.url, runId);
  expect(kinds(marks)).toEqual(["start", "gap", "correction", "resume"]);
  once(marks);
  await expect(page.getByTestId("beneath")).toContainText("one gap of");
  await page.keyboard.press("q");
  await savedLine(page, /saved/);
});

test("database killed mid-run: marks wait, it is started again by itself, they are saved once", async ({ page }) => {
  const runId = await startRehearsal(page, server.url);
  await savedLine(page, /saved/);
  await server.killDatabase();
  await page.keyboard.press("u");
  await page.keyboard.press("4");
  await savedLine(page, /^all \d+ marks saved$/);
  const marks = await marksOnRecord(page, server.url, runId);
  expect(kinds(marks)).toEqual(["start", "reading", "correction"]);
  once(marks);
  await page.keyboard.press("q");
  await savedLine(page, /saved/);
});

test("server and database killed together, the page pressed on: all is there when both are back", { tag: "@proof" }, async ({ page }) => {
  const runId = await startRehearsal(page, server.url);
  await savedLine(page, /saved/);
  await server.killDatabase();
  await server.kill();
  await page.keyboard.press("w");
  await page.keyboard.press("g");
  await savedLine(page, /2 marks waiting, kept on this device; the server cannot be reached/);
  await server.start();
  await page.keyboard.press("r");
  await savedLine(page, /^all \d+ marks saved$/);
  const marks = await marksOnRecord(page, server.url, runId);
  expect(kinds(marks)).toEqual(["start", "warning", "gap", "resume"]);
  once(marks);
  await page.keyboard.press("q");
  await savedLine(page, /saved/);
});

test("two tabs send the same marks; each is on record once, and both see them", { tag: "@proof" }, async ({ page, context }) => {
  const runId = await startRehearsal(page, server.url);
  const second = await context.newPage();
  await second.goto(`${server.url}/roll/${runId}`);
  await expect(second.getByTestId("recorded")).toBeVisible();
  await page.keyboard.press("w");
  await expect(second.getByText("warning shown").first()).toBeVisible();
  await second.keyboard.press("x");
  await expect(page.getByRole("heading", { name: "Right after the end" })).toBeVisible();
  await savedLine(page, /saved/);
  const marks = await marksOnRecord(page, server.url, runId);
  expect(kinds(marks)).toEqual(["start", "warning", "end"]);
  once(marks);
});
