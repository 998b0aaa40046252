// A newcomer rehearses to thermal shutdown by keyboard alone, and holds a printed limit that says how far it can be trusted.

import { formatHms } from "@keep-rolling/core/units";
import { expect, test } from "./server.ts";
import { marksOnRecord, savedLine, skip, skipUntil, startRehearsal, tabTo, watchErrors } from "./steps.ts";

for (const width of [1280, 390]) {
  test(`the whole rehearsal by keyboard, to a printed limit, ${width} px wide`, async ({ page, empty }) => {
    await page.setViewportSize({ width, height: 800 });
    const errors = watchErrors(page);
    const runId = await startRehearsal(page, empty.url);
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
    await skipUntil(page, /the camera shut down from heat/);
    await expect(page.getByText(/the camera shut down from heat/)).toBeVisible();
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
    await expect(page.getByTestId("beneath")).toContainText("ended: thermal shutdown");

    await tabTo(page, /^no$/);
    await page.keyboard.press("Enter");
    await expect(page.getByText("powers on: no").first()).toBeVisible();
    await savedLine(page, /^all \d+ marks saved$/);
    const marks = await marksOnRecord(page, empty.url, runId);
    expect(marks.filter((m) => m.mark.kind === "end")).toHaveLength(1);
    expect(marks.find((m) => m.mark.kind === "end")?.mark.source).toBe("accepted");

    await tabTo(page, /What this unit's runs say/);
    await page.keyboard.press("Enter");
    await expect(page.getByTestId("answer")).toContainText(/at least 0:\d\d:\d\d in \d of 10 runs/);
    await expect(page.getByText("From a simulated camera (rehearsal).")).toBeVisible();
    await tabTo(page, /Record this limit/);
    await page.keyboard.press("Enter");
    await expect(page.getByText("Not a statement about any real body.")).toBeVisible();
    await expect(page.getByText(/^It stands on (one run: an anecdote|\d runs)/)).toBeVisible();
    const pdf = await page.pdf({ format: "A4" });
    expect(pdf.toString("latin1").match(/\/Type\s*\/Page[^s]/g)).toHaveLength(1);
    expect(errors).toEqual([]);
  });
}

test("the clock on screen is the fold at the bench time of the same moment", async ({ page, empty }) => {
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
