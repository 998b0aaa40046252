// A phone on the network: plain http under a name, so no secure context. It is let in by a scanned code, rolls, says what it cannot do
// there, and loses nothing while the server is away.

import type { TestServer } from "../tools/launch.ts";
import { expect, launchServer, test } from "./server.ts";
import { marksOnRecord, savedLine, watchErrors } from "./steps.ts";
import { chromiumPath } from "../tools/setup.mjs";

const WORDS = "river lock and boathouse";
test.use({
  // A page is to be there without its server.
  serviceWorkers: "allow",
  launchOptions: { executablePath: chromiumPath(), args: ["--host-resolver-rules=MAP phone.test 127.0.0.2"] },
});

let server: TestServer;
test.beforeAll(async () => {
  test.setTimeout(240_000);
  server = await launchServer({ empty: true, host: "127.0.0.2", passphrase: WORDS });
});
test.afterAll(() => server.stop());

test("paired by a code, without a secure context: everything is kept and sent", async ({ page, browser }) => {
  await page.goto(`${server.url}/data`);
  await page.getByLabel("Passphrase").fill("not these words");
  await page.getByRole("button", { name: "Open" }).click();
  await expect(page.getByText("That is not the passphrase of this bench.")).toBeVisible();
  await page.getByLabel("Passphrase").fill(WORDS);
  await expect(async () => {
    await page.getByRole("button", { name: "Open" }).click();
    // Pressed again too soon, a slow answer would become a second login.
    await expect(page.getByRole("heading", { name: "Data", exact: true })).toBeVisible({ timeout: 10_000 });
  }).toPass();
  const made = page.waitForResponse((r) => r.url().endsWith("/api/pairing") && r.request().method() === "POST");
  await page.getByRole("button", { name: "Show a code to scan" }).click();
  const { code } = (await (await made).json()) as { code: string };
  await expect(page.getByRole("img", { name: "Code for the phone" })).toBeVisible();

  const phoneUrl = server.url.replace("127.0.0.2", "phone.test");
  const context = await browser.newContext({ viewport: { width: 390, height: 844 }, hasTouch: true, isMobile: true });
  const phone = await context.newPage();
  const errors = watchErrors(phone);
  await phone.goto(`${phoneUrl}/pair#${code}`);
  await expect(phone.getByRole("heading", { name: "Bench" })).toBeVisible();
  expect(phone.url()).toBe(`${phoneUrl}/`);
  expect(await phone.evaluate(() => window.isSecureContext)).toBe(false);
  // Without a service worker the server may be gone before what stands beside the console has come.
  await phone.route(/assets\/Live(Ahead|Chance)/, (route) => route.abort());
  await phone.getByRole("link", { name: "Rehearse with a stand-in" }).tap();
  await phone.getByRole("button", { name: /Start recording now/ }).tap();
  await expect(phone.getByTestId("recorded")).toBeVisible();
  await expect(phone.getByTestId("device-line")).toContainText("set the display time-out longer than the run");
  await expect(phone.getByTestId("device-line")).toContainText("Keep this page open");
  await savedLine(phone, /saved/);
  const runId = phone.url().split("/").at(-1) ?? "";
  await server.kill();
  const came = phone.waitForResponse((r) => /assets\/LiveAhead/.test(r.url()) && r.ok());
  await phone.unroute(/assets\/Live(Ahead|Chance)/);
  await phone.getByRole("button", { name: "Gap" }).tap();
  await phone.getByRole("button", { name: "Resume" }).tap();
  await savedLine(phone, /2 marks waiting, kept on this device/);
  await server.start();
  await savedLine(phone, /^all 3 marks saved$/);
  await came;
  await phone.reload();
  await expect(phone.getByTestId("recorded")).toBeVisible();
  await phone.getByRole("button", { name: "Other end" }).tap();
  await savedLine(phone, /^all 4 marks saved$/);
  expect((await marksOnRecord(page, server.url, runId)).map((m) => m.mark.kind)).toEqual(["start", "gap", "resume", "end"]);
  expect(errors).toEqual([]);

  const stranger = await (await browser.newContext()).newPage();
  await stranger.goto(`${phoneUrl}/pair#${code}`);
  await expect(stranger.getByText("A code is good once and for five minutes.")).toBeVisible();

  // Both are listed; the phone is ended from the desk, and the desk logs itself out.
  await page.goto(`${server.url}/data`);
  const logins = page.getByRole("region", { name: "Who is let in" });
  await expect(logins.getByRole("listitem")).toHaveCount(2);
  await logins.getByRole("button", { name: /^End the login of/ }).click();
  await expect(logins.getByRole("listitem")).toHaveCount(1);
  await expect(async () => {
    await phone.reload();
    await expect(phone.getByRole("heading", { name: "Passphrase of this bench" })).toBeVisible({ timeout: 2000 });
  }).toPass();
  await logins.getByRole("button", { name: "Log out of this device" }).click();
  await expect(page.getByRole("heading", { name: "Passphrase of this bench" })).toBeVisible();
  await context.close();
});
