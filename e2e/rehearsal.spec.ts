// A newcomer rehearses to thermal shutdown by keyboard alone, and holds a printed limit that says how far it can be trusted.

import { formatHms } from "@keep-rolling/core/format";
import { expect, test } from "./server.ts";
import { marksOnRecord, savedLine, skip, skipUntil, startRehearsal, tabTo, watchErrors } from "./steps.ts";

// A page is to be there without its server.
test.use({ serviceWorkers: "allow" });

for (const width of [1280, 390]) {
  test(`the whole rehearsal by keyboard, to a printed limit, ${width} px wide`, { tag: width === 390 ? "@proof" : [] }, async ({
    page,
    own,
  }) => {
    await page.setViewportSize({ width, height: 800 });
    const errors = watchErrors(page);
    const runId = await startRehearsal(page, own.url);
    await expect(page.getByText("start, cold").first()).toBeVisible();

    await page.keyboard.press("u");
    await page.keyboard.press("3");
    await expect(page.getByText("gauge 3", { exact: true }).first()).toBeVisible();
    await page.keyboard.press("t");
    await page.keyboard.press("2");
    await expect(page.getByText("touch: warm").first()).toBeVisible();

    await page.keyboard.press("g");
    await page.keyboard.press("1");
    await expect(page.getByText("gap: card swap, body on").first()).toBeVisible();
    await expect(page.getByTestId("beneath")).toContainText("not recording");
    await page.keyboard.press("r");
    await expect(page.getByText("recording again").first()).toBeVisible();

    await page.keyboard.press("n");
    await page.keyboard.type("fan of the room came on");
    await page.keyboard.press("Enter");
    await expect(page.getByText("fan of the room came on").first()).toBeVisible();

    // A late press is set back, taken back, and brought again.
    await page.keyboard.press("y");
    await page.keyboard.press("1");
    await page.keyboard.press("j");
    await expect(page.getByText("· corrected").first()).toBeVisible();
    await page.keyboard.press("z");
    await page.keyboard.press("Shift+Z");
    await savedLine(page, /^all \d+ marks saved$/);

    // The stand-in heats up: its warning and its shutdown are offered, and taken over with its own times.
    await page.keyboard.press("]");
    await expect(page.getByRole("button", { name: "10×" })).toHaveAttribute("aria-pressed", "true");
    await skipUntil(page, /the camera shows: warning shown/);
    await expect(page.getByText(/the camera shows: warning shown/)).toBeVisible();
    await page.keyboard.press("a");
    await expect(page.getByText(/^warning shown/).first()).toBeVisible();
    await skipUntil(page, /the camera went off: heat shutdown/);
    await expect(page.getByText(/the camera went off: heat shutdown/)).toBeVisible();
    while (
      await page
        .getByText(/Nobody has marked it/)
        .first()
        .isVisible()
    ) {
      const before = await page.getByText(/Nobody has marked it/).count();
      await page.keyboard.press("a");
      await expect(page.getByText(/Nobody has marked it/)).not.toHaveCount(before);
    }
    await expect(page.getByRole("heading", { name: "Right after the end" })).toBeVisible();
    await expect(page.getByTestId("beneath")).toContainText("ended: heat shutdown");

    await tabTo(page, /^no$/);
    await page.keyboard.press("Enter");
    await expect(page.getByText("powers on: no").first()).toBeVisible();
    await savedLine(page, /^all \d+ marks saved$/);
    const marks = await marksOnRecord(page, own.url, runId);
    expect(marks.filter((m) => m.mark.kind === "end")).toHaveLength(1);
    expect(marks.find((m) => m.mark.kind === "end")?.mark.source).toBe("accepted");

    await tabTo(page, /What this unit's runs say/);
    await page.keyboard.press("Enter");
    await expect(page.getByTestId("answer")).toContainText(/^at least \d:\d\d:\d\d in 1 of 10 runs$/);
    await expect(page.getByText(/Only one run reached its shortest end: 1 more run, at best on another day\.$/)).toBeVisible();
    await expect(page.getByText("From a simulated camera (rehearsal).")).toBeVisible();
    await tabTo(page, /Record this limit/);
    await page.keyboard.press("Enter");
    await expect(page.getByText("It says nothing about any real body.")).toBeVisible();
    await expect(page.getByText(/^It stands on one run: an anecdote/)).toBeVisible();
    const pdf = await page.pdf({ format: "A4" });
    expect(pdf.toString("latin1").match(/\/Type\s*\/Page[^s]/g)).toHaveLength(1);
    expect(errors).toEqual([]);
  });
}

test("after the end: a measured rest with its alarm, a refusal recorded as zero, a recovery and a fallback run, all in one chain", {
  tag: "@proof",
}, async ({ page, empty }) => {
  const errors = watchErrors(page);
  await startRehearsal(page, empty.url);
  await skip(page, 1500);
  await expect(page.getByTestId("recorded")).toHaveText(/^0:25:/);
  await page.keyboard.press("x");
  await expect(page.getByRole("heading", { name: "Rest", exact: true })).toBeVisible();
  await expect(page.getByText(/by our estimate 100 % warm, cold in 1 h 0\d min/)).toBeVisible();
  await page.getByLabel("Alarm after").fill("10");
  await expect(page.getByText(/rings in 9 min/)).toBeVisible();
  await page.reload();
  await expect(page.getByLabel("Alarm after")).toHaveValue("10");
  await skip(page, 660);
  await expect(page.getByText("The rest is over.")).toBeVisible();
  await page.getByRole("heading", { level: 1 }).click();
  await page.keyboard.press("o");
  await expect(page.getByText("recovery run · warm start")).toBeVisible();
  await expect(page.getByTestId("recorded")).toHaveText("0:00:00");
  await expect(page.getByTestId("resting")).toBeVisible();
  await skip(page, 1200);
  await expect(page.getByTestId("resting")).toHaveText(/^20 min/);
  await page.keyboard.press("v");
  await expect(page.getByTestId("recorded")).toHaveText(/^0:00:0/);
  await skip(page, 600);
  await expect(page.getByTestId("recorded")).toHaveText(/^0:10:/);
  await page.keyboard.press("x");
  await expect(page.getByRole("heading", { name: "Rest", exact: true })).toBeVisible();
  await page.keyboard.press("b");
  await expect(page.getByRole("heading", { name: /HD 25, mild/ })).toBeVisible();
  await expect(page.getByText("fallback run · warm start")).toBeVisible();
  await skip(page, 300);
  await expect(page.getByTestId("recorded")).toHaveText(/^0:05:/);
  await page.keyboard.press("q");
  await page.keyboard.press("6");
  await page.getByRole("link", { name: "This run: strip, numbers, marks" }).click();
  const chain = page.getByRole("region", { name: "Chain" }).getByRole("listitem");
  await expect(chain).toHaveCount(4);
  await expect(chain.nth(1)).toContainText(/0, refused to record.*after 11 min/);
  await expect(chain.nth(2)).toContainText(/after 20 min \d+ s of rest/);
  await expect(chain.nth(3)).toContainText(/fallback.*HD 25, mild/);
  expect(errors).toEqual([]);
});

test("the clock on screen is the fold at the bench time of the same moment", { tag: "@proof" }, async ({ page, empty }) => {
  await startRehearsal(page, empty.url);
  await skip(page, 127);
  await expect(page.getByTestId("recorded")).toHaveText(/^0:02:/);
  const look = () =>
    page.evaluate(async () => {
      const { clocks } = (await (await fetch("/api/clocks")).json()) as {
        clocks: { id: string; segments: { wallMs: number; clockMs: number; rate: number }[] }[];
      };
      const last = clocks.find((c) => c.id === "rehearsal")?.segments.at(-1);
      // Bench time and figure are read in one go; both wall clocks are this machine's.
      const el = document.querySelector<HTMLElement>("[data-testid=recorded]");
      const bench = last === undefined ? 0 : last.clockMs + (Date.now() - last.wallMs) * last.rate;
      return { text: el?.textContent ?? "", ms: Number(el?.dataset.ms), lateMs: Math.abs(bench - Number(el?.dataset.now)) };
    });
  // The page draws ten times a second; a busy machine may miss a beat, never the figure.
  let lateMs = Number.POSITIVE_INFINITY;
  for (let i = 0; i < 200 && lateMs > 100; i++) {
    const seen = await look();
    expect(seen.text).toBe(formatHms(seen.ms));
    lateMs = seen.lateMs;
  }
  expect(lateMs).toBeLessThanOrEqual(100);
  await page.keyboard.press("q");
  await page.keyboard.press("6");
});
