// Two devices on one run: each sees the other's marks at once, they settle what they disagree on, and one may be away from before the
// start to after the end. A phone on the network gets in by a code, and says what it cannot do there.

import type { Browser, BrowserContext, Page } from "@playwright/test";
import type { TestServer } from "../tools/launch.ts";
import { expect, launchServer, test } from "./server.ts";
import { marksOnRecord, savedLine, startRehearsal, watchErrors } from "./steps.ts";

// A page is to be there without its server.
test.use({ serviceWorkers: "allow" });

let server: TestServer;
test.beforeAll(async () => {
  test.setTimeout(240_000);
  server = await launchServer({ empty: true });
});
test.afterAll(() => server.stop());

async function second(browser: Browser, runId: string, name: string): Promise<{ context: BrowserContext; page: Page }> {
  const context = await browser.newContext({ viewport: { width: 390, height: 844 } });
  await context.addInitScript((n) => localStorage.setItem("keep-rolling-settings", JSON.stringify({ deviceName: n })), name);
  const page = await context.newPage();
  await page.goto(`${server.url}/roll/${runId}`);
  await expect(page.getByTestId("recorded")).toBeVisible();
  return { context, page };
}

test("a first visit keeps what it was answered: loaded again without the server it says the same", { tag: "@proof" }, async ({
  page,
  context,
}) => {
  await page.goto(`${server.url}/kit`);
  const main = page.getByRole("main");
  await expect(main).toContainText("Practice body");
  const said = await main.innerText();
  await page.waitForFunction(() => navigator.serviceWorker.controller !== null);
  await context.setOffline(true);
  await page.reload();
  await expect(main).toContainText("Practice body");
  expect(await main.innerText()).toBe(said);
  await context.setOffline(false);
});

test("two devices: marks cross at once, ends that differ are settled by one key, the history names both", async ({ page, browser }) => {
  const errors = watchErrors(page);
  const runId = await startRehearsal(page, server.url);
  const phone = await second(browser, runId, "phone at the camera");
  await phone.page.getByRole("button", { name: "Touch" }).click();
  await expect(page.getByText("touch, not said how").first()).toBeVisible();
  await page.keyboard.press("w");
  await expect(phone.page.getByText("warning shown").first()).toBeVisible();
  // Both say that it ended, the phone first, while it cannot be reached, and for another reason.
  await phone.context.setOffline(true);
  await phone.page.getByRole("button", { name: "Other end" }).click();
  await phone.page.getByRole("button", { name: "battery empty", exact: true }).click();
  await savedLine(phone.page, /waiting, kept on this device/);
  await page.keyboard.press("x");
  await expect(page.getByRole("heading", { name: "Right after the end" })).toBeVisible();
  await phone.context.setOffline(false);
  await savedLine(phone.page, /^all \d+ marks saved$/);
  const settle = page.getByRole("button", { name: "It was: battery empty" });
  await expect(settle).toBeVisible();
  await page.keyboard.press("f");
  await expect(settle).toHaveCount(0);
  await expect(phone.page.getByRole("button", { name: "It was: battery empty" })).toHaveCount(0);
  await expect(page.getByTestId("beneath")).toContainText("ended: battery empty");
  // The undo key takes back only what was made on its own device.
  await phone.page.keyboard.press("z");
  const undoOf = async () => (await marksOnRecord(page, server.url, runId)).find((m) => m.mark.kind === "undo")?.mark;
  await expect.poll(undoOf).toBeDefined();
  const undo = await undoOf();
  const marks = await marksOnRecord(page, server.url, runId);
  const undone = marks.find((m) => m.mark.id === undo?.target)?.mark;
  expect(undone?.kind).toBe("correction");
  expect(undone?.body).toMatchObject({ cause: "battery empty" });
  await page.goto(`${server.url}/runs/${runId}/history`);
  await expect(page.getByText("phone at the camera").first()).toBeVisible();
  await expect(page.getByText("(this one)").first()).toBeVisible();
  await expect(page.getByText(/takes back/)).toHaveCount(1);
  expect(errors).toEqual([]);
  await phone.context.close();
});

test("a device away from before the start to after the end, reloaded meanwhile: its run is whole", { tag: "@proof" }, async ({
  browser,
}) => {
  const context = await browser.newContext();
  const page = await context.newPage();
  await page.goto(`${server.url}/roll?rehearse=1`);
  await expect(page.getByRole("button", { name: /Start recording now/ })).toBeVisible();
  // The first visit fills the device's copy of page, rooms and answers.
  await page.waitForFunction(() => navigator.serviceWorker.controller !== null);
  for (const room of ["/", "/roll?rehearse=1", "/kit"]) {
    await page.goto(`${server.url}${room}`);
    await expect(page.getByRole("heading", { level: 1 }).first()).toBeVisible();
    await expect(page.getByText(/^Reading .* …$/)).toHaveCount(0);
  }
  await page.goto(`${server.url}/roll?rehearse=1`);
  await page.getByRole("button", { name: /Start recording now/ }).waitFor();
  await context.setOffline(true);
  await page.getByRole("button", { name: /Start recording now/ }).click();
  await expect(page.getByTestId("recorded")).toBeVisible();
  const runId = page.url().split("/").at(-1) ?? "";
  await page.keyboard.press("g");
  await savedLine(page, /2 marks waiting, kept on this device/);
  await page.reload();
  await expect(page.getByTestId("beneath")).toContainText("not recording");
  await page.keyboard.press("r");
  await page.keyboard.press("x");
  await savedLine(page, /4 marks waiting, kept on this device; the server cannot be reached/);
  await page.goto(`${server.url}/`);
  await expect(page.getByRole("heading", { name: "Bench" })).toBeVisible();
  await savedLine(page, /4 marks waiting/);
  await context.setOffline(false);
  await savedLine(page, /nothing waiting|saved/);
  await expect
    .poll(async () => (await marksOnRecord(page, server.url, runId)).map((m) => m.mark.kind))
    .toEqual(["start", "gap", "resume", "end"]);
  await context.close();
});

test("two tabs of one browser: each sees the other's marks at once, every mark is sent once, and then there is silence", async ({
  page,
  context,
}) => {
  const runId = await startRehearsal(page, server.url);
  await savedLine(page, /saved/);
  const other = await context.newPage();
  await other.goto(page.url());
  await expect(other.getByTestId("recorded")).toBeVisible();
  const sent: string[] = [];
  // What was answered: a request that failed on its way is sent again by right.
  context.on("response", (response) => {
    const request = response.request();
    if (request.method() === "POST" && request.url().endsWith("/api/marks"))
      sent.push(...(request.postDataJSON() as { marks: { id: string }[] }).marks.map((m) => m.id));
  });
  await context.setOffline(true);
  for (const [tab, words] of [
    [page, "from the first"],
    [other, "from the second"],
  ] as const) {
    await tab.bringToFront();
    await tab.keyboard.press("n");
    await tab.keyboard.type(words);
    await tab.keyboard.press("Enter");
  }
  for (const tab of [page, other]) await savedLine(tab, /^4 marks waiting, kept on this device/);
  sent.length = 0;
  await context.setOffline(false);
  for (const tab of [page, other]) await savedLine(tab, /^all \d+ marks saved$/);
  const marks = await marksOnRecord(page, server.url, runId);
  expect(marks.map((m) => m.mark.kind).sort()).toEqual(["correction", "correction", "note", "note", "start"]);
  expect(sent.sort()).toEqual(
    marks
      .filter((m) => m.mark.kind !== "start")
      .map((m) => m.mark.id)
      .sort(),
  );
  const heard = await other.evaluate(
    () =>
      new Promise<number>((done) => {
        let count = 0;
        const listening = new BroadcastChannel("keep-rolling-outbox");
        listening.addEventListener("message", () => count++);
        setTimeout(() => (listening.close(), done(count)), 1500);
      }),
  );
  expect(heard).toBe(0);
  await page.bringToFront();
  await page.keyboard.press("q");
  await savedLine(page, /saved/);
  await other.close();
});

test("no room on the device: said loudly, kept in hand, sent, and kept again once there is room", async ({ page, context }) => {
  const runId = await startRehearsal(page, server.url);
  await savedLine(page, /saved/);
  // The browser's quota is a guess it makes now and then; what a page meets when there is none left is this error.
  await page.evaluate(() => {
    const put = Object.getOwnPropertyDescriptor(IDBObjectStore.prototype, "put") ?? {};
    Object.assign(window, { roomAgain: () => Object.defineProperty(IDBObjectStore.prototype, "put", put) });
    Object.defineProperty(IDBObjectStore.prototype, "put", {
      ...put,
      value: () => {
        throw new DOMException("no room", "QuotaExceededError");
      },
    });
  });
  await context.setOffline(true);
  await page.keyboard.press("n");
  await page.keyboard.type("x".repeat(600));
  await page.keyboard.press("Enter");
  await savedLine(page, /not kept on this device: keep this page open/);
  await expect(page.getByRole("button", { name: "Download the marks" })).toBeVisible();
  await page.evaluate(() => (window as unknown as { roomAgain: () => void }).roomAgain());
  await savedLine(page, /marks waiting, kept on this device/);
  await context.setOffline(false);
  await savedLine(page, /^all \d+ marks saved$/);
  await page.reload();
  await savedLine(page, /^all \d+ marks saved$/);
  const marks = await marksOnRecord(page, server.url, runId);
  expect(marks.map((m) => m.mark.kind)).toEqual(["start", "note", "correction"]);
  await page.keyboard.press("q");
  await savedLine(page, /saved/);
});
