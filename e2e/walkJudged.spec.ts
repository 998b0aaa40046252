// A walk judged, on the demo: what can be told apart, takes looked at to the frame, pairs judged blind at a desk and on a phone, and the
// conclusion recorded, printed and taken out. By keyboard throughout.

import { execFileSync } from "node:child_process";
import { readFileSync } from "node:fs";
import { WALK_ID } from "@keep-rolling/demo/walk";
import type { Page } from "@playwright/test";
import { violationsOn } from "./axe.ts";
import { expect, test } from "./server.ts";
import { savedLine, tabTo, watchErrors } from "./steps.ts";

test.describe.configure({ mode: "serial" });
const canvas = (page: Page) => page.locator("canvas[role=img]");
const frameOf = async (page: Page): Promise<number> => Number(await canvas(page).getAttribute("data-frame"));
/** Mean brightness of a part of the canvas: whether something else is drawn there. */
const inkOf = (page: Page, part: "left" | "right"): Promise<number> =>
  canvas(page).evaluate((el, side) => {
    const c = (el as HTMLCanvasElement).getContext("2d");
    const { width, height } = el as HTMLCanvasElement;
    const { data } = c?.getImageData(side === "left" ? 10 : width - 210, Math.floor(height / 3), 200, 40) ?? {
      data: new Uint8ClampedArray(1),
    };
    return data.reduce((a, b) => a + b, 0) / data.length;
  }, part);
const noViolations = async (page: Page): Promise<void> => {
  expect(await violationsOn(page)).toEqual([]);
};

test("table: the sentence, brackets and additions say the same as the rows", async ({ page, demo }) => {
  const errors = watchErrors(page);
  await page.goto(`${demo.url}/walk/${WALK_ID}`);
  const lead = page.getByTestId("walk-lead");
  await expect(lead).toContainText(
    /^To walk with: lens \+ sensor \+ electronic, standard, shake 0\.22 % of the picture's width, 62 to 76 % less than the control/,
  );
  await expect(lead).toContainText("Counterweight rig cannot be told apart from it");
  await expect(
    page.getByText(/control shakiest, as it must be · on this walk \(KD, 14 June 2031\), 90 % sure of all pairs together/),
  ).toBeVisible();
  // What the sentence names is what the rows say.
  await expect(
    page.getByRole("img", { name: /^lens \+ sensor \+ electronic, standard: .*level 0\.22 %, 90 % sure between/ }),
  ).toBeVisible();
  await expect(page.getByText(/^The control → counterweight rig: takes off \d+ to \d+ %/)).toBeVisible();
  await page.getByText("Every pair, and what would tell it").focus();
  await page.keyboard.press("Enter");
  await expect(page.getByText(/^Lens \+ sensor \+ electronic, standard and counterweight rig cannot be told apart yet: /)).toBeVisible();
  await noViolations(page);
  expect(errors).toEqual([]);
});

test("look at takes: every frame by keyboard, the path, the wipe, a still and a clip", { tag: "@proof" }, async ({ page, demo }) => {
  const errors = watchErrors(page);
  await page.goto(`${demo.url}/walk/${WALK_ID}`);
  await tabTo(page, /^Look at takes$/);
  await page.keyboard.press("Enter");
  await expect(canvas(page)).toBeVisible({ timeout: 60_000 });
  await expect(page.getByLabel("Laid on each other by")).toHaveValue("footfall");
  await page.getByRole("heading", { name: "Look at takes" }).click();
  await page.keyboard.press("Home");
  const start = await frameOf(page);
  for (let i = 0; i < 5; i++) await page.keyboard.press("ArrowRight");
  expect(await frameOf(page)).toBe(start + 5);
  await page.keyboard.press("ArrowLeft");
  expect(await frameOf(page)).toBe(start + 4);
  // It runs, slower when asked, and stops on the key.
  await page.keyboard.press("[");
  await expect(page.getByText("half speed")).toBeVisible();
  await page.keyboard.press("Space");
  await expect.poll(() => frameOf(page)).toBeGreaterThan(start + 6);
  await page.keyboard.press("Space");
  // The wipe shows the other take where it was beside it.
  await expect.poll(() => inkOf(page, "right")).toBeGreaterThan(0);
  await page.keyboard.press("w");
  await expect(page.getByRole("button", { name: /side by side/ })).toBeVisible();
  const before = await inkOf(page, "right");
  for (let i = 0; i < 10; i++) await page.keyboard.press(".");
  await expect.poll(() => inkOf(page, "right")).not.toBe(before);
  await page.keyboard.press("w");
  // A loop of a few frames, taken out as a clip of exactly so many.
  await page.keyboard.press("Home");
  await page.keyboard.press("l");
  for (let i = 0; i < 11; i++) await page.keyboard.press("ArrowRight");
  await page.keyboard.press("l");
  const [still] = await Promise.all([
    page.waitForEvent("download"),
    tabTo(page, /Save this still/).then(() => page.keyboard.press("Enter")),
  ]);
  expect(
    readFileSync(await still.path())
      .subarray(1, 4)
      .toString(),
  ).toBe("PNG");
  const [clip] = await Promise.all([
    page.waitForEvent("download"),
    tabTo(page, /Save the loop as a clip/).then(() => page.keyboard.press("Enter")),
  ]);
  const probe = ["-v", "error", "-count_frames", "-show_entries", "stream=width,nb_read_frames", "-of", "csv=p=0", await clip.path()];
  expect(execFileSync("ffprobe", probe).toString().trim()).toBe("1280,12");
  await noViolations(page);
  expect(errors).toEqual([]);
});

test("judge blind, by keyboard at a desk: no name, three answers a pair, one with the server killed, the last one taken back", async ({
  page,
  demo,
}) => {
  const errors = watchErrors(page);
  await page.goto(`${demo.url}/walk/${WALK_ID}/judge`);
  await expect(page.getByText(/^With 6 setups about 126 pairs tell apart/)).toBeVisible();
  await page.getByLabel("Initials of who judges").focus();
  await page.keyboard.type("KD");
  await page.keyboard.press("Enter");
  const pairs = (n: number) => page.getByText(`KD · ${n} ${n === 1 ? "pair" : "pairs"} judged`);
  const ready = page.getByRole("button", { name: /no difference/ });
  for (let n = 0; n < 2; n++) {
    await expect(pairs(n)).toBeVisible();
    await expect(ready).toBeEnabled({ timeout: 60_000 });
    // Blind means blind: nothing on the page names a setup.
    await expect(page.locator("main")).not.toContainText(/lens|sensor|electronic|counterweight|corrected|control/i);
    if (n === 1) await demo.kill();
    await page.keyboard.press("ArrowLeft");
    await expect(page.getByText("Which is the better picture?")).toBeVisible();
    await page.keyboard.press("ArrowRight");
    await page.keyboard.press("Backspace");
    await expect(page.getByText("Which is the better picture?")).toBeVisible();
    await page.keyboard.press("ArrowDown");
    await page.keyboard.press("ArrowLeft");
  }
  await expect(pairs(2)).toBeVisible();
  await savedLine(page, /waiting, kept on this device/);
  await demo.start();
  await savedLine(page, /saved$/);
  await expect(ready).toBeEnabled({ timeout: 60_000 });
  await page.keyboard.press("Backspace");
  await expect(pairs(1)).toBeVisible();
  await savedLine(page, /saved$/);
  // A reload goes on where it stood.
  await page.reload();
  await expect(pairs(1)).toBeVisible();
  await expect(ready).toBeEnabled({ timeout: 60_000 });
  await noViolations(page);
  expect(errors).toEqual([]);
});

test("judge blind, on a phone: pair and answers in view together; what was said is told with its doubt", { tag: "@proof" }, async ({
  page,
  demo,
}) => {
  const errors = watchErrors(page);
  await page.setViewportSize({ width: 390, height: 844 });
  await page.goto(`${demo.url}/walk/${WALK_ID}/judge?judge=rb`);
  const first = page.getByRole("button", { name: /first$/ });
  await expect(first).toBeEnabled({ timeout: 60_000 });
  await expect(canvas(page)).toBeInViewport({ ratio: 1 });
  await expect(first).toBeInViewport({ ratio: 1 });
  for (const name of [/first$/, /no difference/, /second$/]) await page.getByRole("button", { name }).click();
  await expect(page.getByText("rb · 1 pair judged")).toBeVisible();
  await page.getByRole("button", { name: "Another judge, or enough" }).click();
  await page.getByRole("button", { name: /^Show it/ }).click();
  await expect(page.getByText(/^Nothing is told apart yet, to judges like these: 2 answers\.$/).first()).toBeVisible();
  await expect(page.getByText(/pairs are measured apart, and the eye does not decide them yet/)).toBeVisible();
  await noViolations(page);
  expect(errors).toEqual([]);
});

test("price and record: typed beside measured, recorded, printed on a page, taken out, and an alarm after another firmware", async ({
  page,
  demo,
}) => {
  const errors = watchErrors(page);
  await page.goto(`${demo.url}/walk/${WALK_ID}`);
  await tabTo(page, /^Price and record$/);
  await page.keyboard.press("Enter");
  const battery = page.getByLabel(/^Battery of counterweight rig/);
  await battery.focus();
  await page.keyboard.type("many");
  await page.keyboard.press("Tab");
  await expect(page.getByText("a number", { exact: true })).toBeVisible();
  await battery.fill("3");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("row", { name: /^Battery/ })).toContainText("typed");
  await page.getByRole("combobox", { name: "Setup" }).selectOption("counterweight rig");
  await page.getByLabel(/^Because/).focus();
  await page.keyboard.type("nothing to charge");
  await page.keyboard.press("Enter");
  const sheet = page.getByRole("region", { name: "Recorded for everyday talk" });
  await expect(sheet).toContainText(
    /Walk, for everyday talk: counterweight rig, shake 0\.23 % of the picture's width \(90 % sure: 0\.\d+ to 0\.\d+ %\)\./,
  );
  await expect(sheet).toContainText("Because: nothing to charge");
  await expect(sheet).toContainText("Could not be told apart from it: lens + sensor + electronic, standard.");
  await savedLine(page, /saved$/);
  await noViolations(page);
  const pdf = (await page.pdf({ format: "A4" })).toString("latin1");
  expect(pdf.match(/\/Type\s*\/Page[^s]/g)).toHaveLength(1);
  const [csv] = await Promise.all([page.waitForEvent("download"), tabTo(page, /^CSV$/).then(() => page.keyboard.press("Enter"))]);
  expect(readFileSync(await csv.path(), "utf8").split("\r\n")[1]).toMatch(/^Walk,everyday talk,use it,counterweight rig,0\.00\d+,.*,3,/);
  // Another firmware on the body: what was recorded asks to be walked again.
  const unitId = await page.evaluate(async (id) => {
    const { facts } = (await (await fetch(`/api/sessions/${id}`)).json()) as {
      facts: { fact: { kind: string; body: { unitIds?: string[] } } }[];
    };
    return facts.find((f) => f.fact.kind === "begin")?.fact.body.unitIds?.[0] ?? "";
  }, WALK_ID);
  await page.goto(`${demo.url}/kit/units/${unitId}`);
  await page.getByLabel("Firmware").fill("9.9");
  await page.getByRole("button", { name: "Save" }).click();
  await expect(page.getByRole("heading", { name: "Kit" })).toBeVisible();
  // The list of limits says it too, and leads to its page.
  await page.goto(`${demo.url}/limits`);
  await expect(page.getByText(/^Tern A · Heron 26-64 · Towpath, 40 m and back · \d+ takes of this move · demo$/)).toBeVisible();
  await expect(page.getByText(/^Walk it again: the body now runs firmware 9\.9, this was recorded on/)).toBeVisible();
  await noViolations(page);
  await tabTo(page, /^Walk, for everyday talk: counterweight rig/);
  await page.keyboard.press("Enter");
  await expect(page.getByText(/^Walk it again: the body now runs firmware 9\.9, this was recorded on/)).toBeVisible();
  await page.getByRole("button", { name: "Undo", exact: true }).focus();
  await page.keyboard.press("Enter");
  await expect(sheet).toBeHidden();
  expect(errors).toEqual([]);
});

test("box check: a target fixed to the camera tells motion sensors from the picture", { tag: "@proof" }, async ({ page, demo }) => {
  const errors = watchErrors(page);
  await page.goto(`${demo.url}/walk/box`);
  await tabTo(page, /made clips of one that listens to motion/);
  await page.keyboard.press("Enter");
  await expect(page.getByTestId("box")).toContainText(/^It listens to motion sensors/, { timeout: 60_000 });
  await page.getByRole("button", { name: /looks at the picture/ }).click();
  await expect(page.getByTestId("box")).toContainText(/^It does not listen to motion sensors/, { timeout: 60_000 });
  expect(errors).toEqual([]);
});
