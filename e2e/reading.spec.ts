// Reading what was recorded: the run's page, the statement, the recorded limit and what later speaks against it; settings that stay.

import { readAllRuns } from "../tools/testing/runs.ts";
import type { APIRequestContext } from "@playwright/test";
import { expect, test } from "./server.ts";
import { watchErrors } from "./steps.ts";

test.describe.configure({ mode: "serial" });

async function limitOf(request: APIRequestContext, url: string) {
  const { limits } = (await (await request.get(`${url}/api/limits`)).json()) as {
    limits: { id: string; unitId: string; evidence: { runId: string }[]; modeName: string }[];
  };
  // The seeded one: newest come first, and other specs record on the same bench.
  const limit = limits.at(-1);
  if (limit === undefined) throw new Error("the demo has no limit");
  return limit;
}

test("a run's page: numbers, a late correction of a mark, taking it back", async ({ page, demo }) => {
  const errors = watchErrors(page);
  const limit = await limitOf(page.request, demo.url);
  await page.goto(`${demo.url}/runs/${limit.evidence[1]?.runId ?? ""}`);
  const numbers = page.getByLabel("Numbers of this run");
  await expect(numbers).toContainText("heat limit 0:33:");
  await expect(numbers).toContainText("card swap, body on, 17 s");
  const strip = page.getByRole("img", {
    name: /^Recorded 0:33:\d\d, one gap of 17 s in all, first warning at 0:26:\d\d, ended by heat shutdown/,
  });
  await expect(strip).toBeVisible();

  await page.getByRole("button", { name: /correct warning shown/ }).click();
  await page.getByLabel("Elapsed time").fill("25:00");
  await expect(page.getByText("reads as 25 min")).toBeVisible();
  await page.keyboard.press("Enter");
  await expect(numbers).toContainText("0:24:43");
  await page.getByRole("button", { name: /correct warning shown/ }).click();
  await page.getByRole("button", { name: "Undo this mark" }).click();
  await expect(page.getByText(/^Undone: .*warning shown/)).toBeVisible();
  await expect(page.getByText("A warning escalated or cleared before it was shown.").first()).toBeVisible();
  expect(errors).toEqual([]);
});

test("a shorter run and another firmware make a recorded limit say re-test; recording again supersedes it", { tag: "@proof" }, async ({
  page,
  demo,
}) => {
  const limit = await limitOf(page.request, demo.url);
  const runs = await readAllRuns(async (at) => (await page.request.get(`${demo.url}${at}`)).json(), `unit=${limit.unitId}`);
  const like = runs.find((r) => r.run.id === limit.evidence[0]?.runId);
  const start = like?.marks.find((m) => m.mark.kind === "start")?.mark;
  if (like === undefined || start === undefined) throw new Error("no run to copy");
  const id = (n: number): string => `0190ffff-0000-7000-8000-${String(n).padStart(12, "0")}`;
  const atMs = start.atMs + 86_400_000 * 4;
  const mark = (n: number, kind: string, ms: number, body: unknown) => ({
    id: id(n),
    runId: id(900),
    deviceId: id(901),
    deviceSeq: n,
    v: 1,
    kind,
    atMs: ms,
    madeAtMs: ms,
    source: "pressed",
    deviceMs: ms,
    offsetMs: 0,
    offsetErrMs: 1,
    body,
  });
  const marks = [mark(1, "start", atMs, start.body), mark(2, "end", atMs + 1_500_000, { cause: "thermal shutdown" })];
  const sent = await page.request.post(`${demo.url}/api/marks`, {
    headers: { origin: demo.url },
    data: { deviceId: id(901), sentDeviceMs: 0, offsetMs: 0, marks },
  });
  expect(sent.ok()).toBe(true);

  await page.goto(`${demo.url}/limits`);
  await expect(page.getByText("Re-test: a run outside the evidence was shorter than this limit.").first()).toBeVisible();
  await page.goto(`${demo.url}/kit/units/${limit.unitId}`);
  await page.getByLabel("Firmware").fill("2.2");
  await page.getByRole("button", { name: "Save" }).click();
  await page.getByRole("link", { name: "Bench" }).click();
  await expect(page.getByText("Re-test: a run outside the evidence was shorter than this limit.").first()).toBeVisible();
  await page.getByRole("link", { name: "Limits" }).click();
  await expect(page.getByText("Re-test: the unit now runs firmware 2.2, this was measured on 2.1.").first()).toBeVisible();

  await page.goto(`${demo.url}/heat/${limit.unitId}?cell=${id(900)}`);
  await expect(page.getByTestId("answer")).toContainText("9 of 10 runs will last at least");
  await expect(page.getByText(/^6 runs, the shortest 0:25:00/)).toBeVisible();
  await page.getByRole("button", { name: "Record this limit" }).click();
  await expect(page.getByText(/^It stands on 6 runs/)).toBeVisible();
  // The run of a third day is in it: it speaks for new days.
  await expect(page.getByText(/from \d+ ends in \d+ runs of \d+ modes? and conditions?, on new days too, from 3 days$/)).toBeVisible();
  await page.goBack();
  await expect(page.getByText(/^6 runs, the shortest 0:25:00/)).toBeVisible();
  await page.goto(`${demo.url}/limits`);
  await page.getByLabel(/Show 1 superseded/).check();
  await expect(page.getByText("· superseded")).toBeVisible();
});

test("the first warning as endpoint, another confidence, and the table behind the strips", { tag: "@proof" }, async ({ page, demo }) => {
  const limit = await limitOf(page.request, demo.url);
  await page.goto(`${demo.url}/heat/${limit.unitId}`);
  await page.getByLabel("Until").selectOption("first warning");
  await expect(page.getByText("to the first warning").first()).toBeVisible();
  await page.getByLabel("How sure").selectOption("95 % sure");
  await expect(page.getByText(/95 % sure/).nth(1)).toBeVisible();
  await page.reload();
  await expect(page.getByLabel("Until")).toHaveValue("firstWarning");
  await page.getByRole("button", { name: "The same as a table" }).click();
  await expect(page.getByRole("cell", { name: "warm start" }).first()).toBeVisible();
  expect(await page.getByRole("table").getByRole("row").count()).toBeGreaterThan(12);
});

test("a stopwatch run typed in late: its times echoed, kept as marks entered late, an end found off as an interval", async ({
  page,
  demo,
}) => {
  const { units } = (await (await page.request.get(`${demo.url}/api/kit`)).json()) as { units: { id: string; name: string }[] };
  await page.goto(`${demo.url}/roll/late?unit=${units.find((u) => u.name === "Wader")?.id ?? ""}`);
  await page.getByLabel("Recording mode").selectOption("HD 50 binned");
  await page.getByLabel("It started").fill("2031-06-14T15:00:00");
  await page.getByLabel("Nobody saw it end").check();
  await page.getByLabel("Found off after").fill("1h07m");
  await expect(page.getByText("reads as 1 h 07 min")).toBeVisible();
  await page.getByLabel("Last seen rolling after").fill("2:00");
  await page.getByLabel("It was ended by").selectOption("battery empty");
  await page.getByRole("button", { name: "Store this run" }).click();
  await expect(page.getByText("It was seen rolling after it was found off.")).toBeVisible();
  await page.getByLabel("Last seen rolling after").fill("50 min");
  await page.getByRole("button", { name: "Store this run" }).click();
  await expect(page.getByText("0:50:00 to 1:07:00")).toBeVisible();
  await expect(page.getByText("found off: the end lies between; claims use the shorter")).toBeVisible();
  const runId = page.url().split("/").at(-1) ?? "";
  await expect
    .poll(async () => {
      const reply = await page.request.get(`${demo.url}/api/runs/${runId}/marks`);
      return ((await reply.json()) as { marks: { mark: { source: string } }[] }).marks.map((m) => m.mark.source);
    })
    .toEqual(["late", "late"]);
});

test("nothing ended by heat: at least, and no typical time", async ({ page, demo }) => {
  const { units } = (await (await page.request.get(`${demo.url}/api/kit`)).json()) as { units: { id: string; name: string }[] };
  await page.goto(`${demo.url}/heat/${units.find((u) => u.name === "Wader")?.id ?? ""}`);
  await expect(page.getByRole("heading", { name: "UHD 25 line-skipped", exact: true })).toBeVisible();
  await expect(page.getByTestId("answer")).toHaveText(/^at least 2:1\d:\d\d; nothing ended by heat$/);
  await expect(page.getByText("No typical time.")).toBeVisible();
});

test("face and temperature unit are remembered, and the log follows", { tag: "@proof" }, async ({ page, demo }) => {
  await page.goto(demo.url);
  await page.getByRole("button", { name: "Display" }).click();
  await page.getByLabel("Night").check();
  await page.getByLabel("°F").check();
  await page.keyboard.press("Escape");
  await page.reload();
  await expect(page.locator("html")).toHaveAttribute("data-face", "night");
  await page.goto(`${demo.url}/kit`);
  await expect(page.getByText("0:45:00 at 73.4 °F")).toBeVisible();
  await page.goto(`${demo.url}/roll?rehearse=1`);
  // In degrees of one's choice, and empty: nobody has said it.
  await expect(page.getByRole("spinbutton", { name: /^Ambient \(°F\)/ })).toHaveValue("");
});

test("an empty bench says what to do first", async ({ page, empty }) => {
  await page.goto(`${empty.url}/limits`);
  await expect(page.getByText("No limit of recording time is recorded yet.")).toBeVisible();
  await page.goto(`${empty.url}/runs/0190ffff-0000-7000-8000-000000000001`);
  await expect(page.getByText(/There is no run at this address on this bench/)).toBeVisible();
  await page.goto(`${empty.url}/nowhere`);
  await expect(page.getByRole("heading", { name: "Nothing at this address" })).toBeVisible();
});
