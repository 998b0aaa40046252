// Planning: a three-unit day from the demo's kit, counted in presses; dragged, printed, put in a calendar, started from its blocks; the
// kit's things, units out of service, a plan from nothing on an empty bench.

import { readAllRuns } from "../tools/testing/runs.ts";
import { readFile } from "node:fs/promises";
import type { Page } from "@playwright/test";
import ICAL from "ical.js";
import { expect, launchServer, test } from "./server.ts";
import { marksOnRecord, savedLine, skip, tabTo, watchErrors } from "./steps.ts";

interface KitReply {
  units: { id: string; name: string }[];
  items: { id: string; name: string; rev: number; count: number }[];
  days: { id: string; name: string; date: string }[];
}
const kitOf = async (page: Page, url: string): Promise<KitReply> => (await (await page.request.get(`${url}/api/kit`)).json()) as KitReply;
const blocksOf = (page: Page) => page.getByRole("button", { name: /: starts \d+:\d\d/ });
const startOf = (label: string | null): string => /starts (\d+:\d\d)/.exec(label ?? "")?.[1] ?? "";

for (const width of [1280, 390])
  test(
    `a three-unit day by keyboard, ${width} px: planned, put in a calendar, started from a block, in under sixty presses`,
    { tag: width === 390 ? "@proof" : [] },
    async ({ page, demo }, info) => {
      await page.setViewportSize({ width, height: 800 });
      const errors = watchErrors(page);
      let presses = 0;
      const press = async (key: string): Promise<void> => {
        presses++;
        await page.keyboard.press(key);
      };
      const reach = async (name: RegExp): Promise<void> => {
        await page.getByText(name).first().waitFor();
        for (let i = 0; i < 60; i++) {
          const focused = await page.evaluate(() => document.activeElement?.textContent ?? "");
          if (
            name.test(focused) &&
            (await page.evaluate(() => document.activeElement?.tagName !== "BODY" && document.activeElement?.id !== "main"))
          )
            return;
          await press("Tab");
        }
        throw new Error(`no control named ${String(name)}`);
      };
      await page.goto(`${demo.url}/plan`);
      await reach(/^Plan a day$/);
      await press("Enter");
      await expect(page.getByRole("heading", { name: "Plan a day" })).toBeVisible();
      await reach(/^Plan it$/);
      await press("Enter");
      await expect(page).toHaveURL(/\/plan\/days\/[0-9a-f-]{36}$/);
      await expect(blocksOf(page).first()).toBeVisible();
      const units = ["Plover B", "Tern A", "Wader"];
      for (const unit of units) await expect(page.getByRole("button", { name: new RegExp(`^${unit}, .*: starts`) }).first()).toBeVisible();

      // A calendar program reads what was planned: one event a block.
      await reach(/^Calendar file$/);
      const [calendar] = await Promise.all([page.waitForEvent("download"), press("Enter")]);
      expect(calendar.suggestedFilename()).toMatch(/\.ics$/);
      const file = info.outputPath("day.ics");
      await calendar.saveAs(file);
      const events = new ICAL.Component(ICAL.parse(await readFile(file, "utf8")) as never)
        .getAllSubcomponents("vevent")
        .map((c) => new ICAL.Event(c));
      const blocks = await blocksOf(page).count();
      expect(events.filter((e) => units.some((u) => e.summary.startsWith(`${u}: `))).length).toBe(blocks);

      // The next block, from the day to a rolling run that knows its block.
      await reach(/^Start \S+ .*at \d+:\d\d$/);
      await press("Enter");
      await expect(page.getByText("Filled in from the planned day.")).toBeVisible();
      await reach(/^Start recording now$/);
      await press("Enter");
      await expect(page.getByTestId("recorded")).toBeVisible();
      expect(presses).toBeLessThan(60);
      const runId = page.url().split("/").at(-1) ?? "";
      // The press is kept on the device first; its record follows.
      const slotOnRecord = async (): Promise<unknown> => (await marksOnRecord(page, demo.url, runId))[0]?.mark.body.slot;
      await expect.poll(slotOnRecord).toMatchObject({ slot: expect.stringMatching(/#\d+$/) });
      // Undone, so that the next test finds the body free.
      await page.keyboard.press("z");
      // The line said saved before: a page closed too soon would take the undo with it.
      await expect.poll(async () => (await marksOnRecord(page, demo.url, runId)).some((m) => m.mark.kind === "undo")).toBe(true);
      await savedLine(page, /saved/);
      expect(errors).toEqual([]);
    },
  );

test("a block dragged stays where it was dropped and the rest follows; arrow keys move it too; undo brings it back", async ({
  page,
  demo,
}) => {
  const { days } = await kitOf(page, demo.url);
  await page.goto(`${demo.url}/plan/days/${days.find((d) => d.date === "2031-06-15")?.id ?? ""}`);
  const wader = page.getByRole("button", { name: /^Wader, UHD 25 line-skipped, Pontoon.*: starts/ }).first();
  await expect(wader).toBeVisible();
  const before = startOf(await wader.getAttribute("aria-label"));
  const box = await wader.boundingBox();
  if (box === null) throw new Error("the block is nowhere");
  await page.mouse.move(box.x + 10, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x + 60, box.y + box.height / 2, { steps: 6 });
  await page.mouse.up();
  await expect(page.getByText(/^Put to \d+:\d\d; the rest follows\./)).toBeVisible();
  const pinned = page.getByRole("button", { name: /^Wader, UHD 25 line-skipped, Pontoon.*where you put it/ });
  await expect(pinned).toHaveCount(1);
  const dropped = startOf(await pinned.getAttribute("aria-label"));
  expect(dropped).not.toBe(before);
  await page.reload();
  await expect(pinned).toHaveCount(1);
  await pinned.focus();
  await page.keyboard.press("ArrowRight");
  await expect.poll(async () => startOf(await pinned.getAttribute("aria-label"))).not.toBe(dropped);
  await page.getByRole("button", { name: "Undo" }).click();
  await expect.poll(async () => startOf(await pinned.getAttribute("aria-label"))).toBe(dropped);
  await pinned.focus();
  await page.keyboard.press("Enter");
  await page.getByRole("button", { name: "Let the planner choose the start" }).click();
  await expect(pinned).toHaveCount(0);
});

test("a file of the day that cannot be made says so, and is made the next time", async ({ page, demo }) => {
  const errors = watchErrors(page);
  const { days } = await kitOf(page, demo.url);
  await page.goto(`${demo.url}/plan/days/${days.find((d) => d.date === "2031-06-15")?.id ?? ""}`);
  const csv = page.getByRole("button", { name: "CSV", exact: true });
  await csv.waitFor();
  const writer = "**/assets/exports-*.js";
  await page.route(writer, (route) => route.abort());
  await csv.click();
  const trouble = page.getByText("No file was made: what writes it could not be loaded. Try again when the server answers.");
  await expect(trouble).toBeInViewport();
  await page.unroute(writer);
  const download = page.waitForEvent("download");
  await csv.click();
  expect((await download).suggestedFilename()).toMatch(/\.csv$/);
  await expect(trouble).toHaveCount(0);
  expect(errors).toEqual([]);
});

test("the day sheet prints: settings, runs in order, what to pack, on few pages", async ({ page, demo }) => {
  const { days } = await kitOf(page, demo.url);
  await page.goto(`${demo.url}/plan/days/${days.find((d) => d.date === "2031-06-15")?.id ?? ""}/sheet`);
  await expect(page.getByRole("heading", { name: "Settings of the day" })).toBeVisible();
  await expect(page.getByRole("heading", { name: "Pack" })).toBeVisible();
  await expect(page.getByText("Runs of simulated bodies on the demo clock")).toBeVisible();
  await page.emulateMedia({ media: "print" });
  await expect(page.getByRole("navigation", { name: "Rooms" })).toBeHidden();
  const pdf = (await page.pdf({ preferCSSPageSize: true, printBackground: false })).toString("latin1");
  const pages = pdf.match(/\/Type\s*\/Page[^s]/g)?.length ?? 0;
  expect(pages).toBeGreaterThanOrEqual(1);
  expect(pages).toBeLessThanOrEqual(4);
});

test(
  "the kit's things: a bad value gets its sentence; a smaller card changes what ends a run; the kit leaves and comes back as a file",
  { tag: "@proof" },
  async ({ page, demo }, info) => {
    await page.goto(`${demo.url}/kit?of=things`);
    await page.getByRole("link", { name: "Add a card" }).click();
    await page.getByLabel("Name of the card").fill("Tiny 8");
    await page.getByLabel("Fits").fill("slim");
    await page.getByLabel("Capacity").fill("0");
    await page.getByLabel("Sustained write speed").fill("90");
    await page.getByRole("button", { name: "Add this card" }).click();
    await expect(page.getByText("More than zero.")).toBeVisible();
    await page.getByLabel("Capacity").fill("8");
    await page.getByRole("button", { name: "Add this card" }).click();
    await expect(page.getByText("Added: Tiny 8.")).toBeVisible();
    await expect(page.getByRole("link", { name: "Tiny 8" })).toBeVisible();

    const { days } = await kitOf(page, demo.url);
    await page.goto(`${demo.url}/plan/days/${days.find((d) => d.date === "2031-06-15")?.id ?? ""}`);
    await page
      .getByRole("button", { name: /^Wader, UHD 25 line-skipped, Pontoon.*: starts/ })
      .first()
      .click();
    await page.getByLabel("Card", { exact: true }).selectOption("Tiny 8");
    // 8 GB at 120 Mbit/s last 533 s.
    await expect(
      page.getByText(/The card ends it at 0:08, (8 of 10|earlier) runs .*: use Slim 120, or plan one swap of 15 s, body on\./).first(),
    ).toBeVisible();
    await expect(page.getByRole("heading", { name: /will be ended by .*card/ })).toBeVisible();
    // The range opens to its runs.
    await page.getByText("What these numbers stand on").click();
    await expect(page.getByRole("region", { name: /^Wader, UHD 25 line-skipped/ }).getByRole("link", { name: /^0:4\d:\d\d$/ })).toHaveCount(
      2,
    );
    await page.getByLabel("Card", { exact: true }).selectOption("the smallest that lasts");
    await expect(page.getByText(/The card ends it at 0:08/)).toHaveCount(0);

    await page.goto(`${demo.url}/kit?of=file`);
    const [download] = await Promise.all([page.waitForEvent("download"), page.getByRole("link", { name: "Download the kit" }).click()]);
    const file = info.outputPath("kit.json");
    await download.saveAs(file);
    const server = await launchServer({ empty: true });
    try {
      await page.goto(`${server.url}/kit?of=file`);
      await page.getByLabel("Kit file to bring in").setInputFiles(file);
      await expect(page.getByText(/Nothing is changed yet\. It would bring: \d+ new/)).toBeVisible();
      await page.getByRole("button", { name: "Bring it in" }).click();
      await expect(page.getByText(/^Brought in: \d+ new/)).toBeVisible();
      await page.getByRole("link", { name: "Cards, batteries, lenses" }).click();
      await expect(page.getByRole("link", { name: "Tiny 8" })).toBeVisible();
    } finally {
      await server.stop();
    }
  },
);

test("a body out of service moves the plan, and back in service brings it back", { tag: "@proof" }, async ({ page, demo }) => {
  const { units, days } = await kitOf(page, demo.url);
  const day = `${demo.url}/plan/days/${days.find((d) => d.date === "2031-06-15")?.id ?? ""}`;
  await page.goto(`${demo.url}/kit/units/${units.find((u) => u.name === "Wader")?.id ?? ""}`);
  await page.getByLabel("What", { exact: true }).selectOption("out of service");
  await page.getByLabel("In a few words").fill("card door stuck");
  await page.getByRole("button", { name: "Note it" }).click();
  await expect(page.getByText("out of service: card door stuck, until further notice")).toBeVisible();
  await page.goto(day);
  await expect(page.getByText("out of service").first()).toBeVisible();
  await expect(page.getByRole("button", { name: /^Wader, .*: starts/ })).toHaveCount(0);
  await expect(page.getByText(/^Wader, .*: the unit is out of service/).first()).toBeVisible();
  await page.goBack();
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(page.getByText("card door stuck")).toHaveCount(0);
  // Another day's absence leaves this one alone.
  await page.getByLabel("What", { exact: true }).selectOption("out of service");
  await page.getByLabel("When, if not now").fill("2031-06-17T08:00");
  await page.getByLabel("Until, if known").fill("2031-06-18T20:00");
  await page.getByRole("button", { name: "Note it" }).click();
  await expect(page.getByText("out of service, until 18 Jun, 20:00")).toBeVisible();
  await page.goto(day);
  await expect(page.getByRole("button", { name: /^Wader, .*: starts/ }).first()).toBeVisible();
});

test("from nothing: a plan for the practice body, its matrix, its day, a run from its block that counts", { tag: "@proof" }, async ({
  page,
  own: server,
}) => {
  // A bench nobody has used: runs of other specs would count.
  await page.goto(`${server.url}/plan`);
  await page.getByLabel("Name of the new plan").fill("Practice");
  await page.getByLabel("For", { exact: true }).selectOption("stand-ins to rehearse with");
  await page.getByRole("button", { name: "Make a plan" }).click();
  await expect(page.getByRole("heading", { name: "Practice", exact: true })).toBeVisible();
  await page.getByLabel("Add a condition").selectOption("Room, screen lit");
  await page.getByLabel("Trials wanted: Practice body, UHD 50, hot, Room, screen lit").fill("2");
  await page.getByRole("button", { name: /^Skip with a reason: Practice body, HD 25, mild/ }).click();
  await page.getByLabel(/^Why it is skipped: Practice body, HD 25, mild/).fill("nobody records it");
  await page.getByRole("button", { name: "Skip", exact: true }).click();
  await page.getByRole("button", { name: "Save the plan" }).click();
  await expect(page.getByText("Saved: Practice.")).toBeVisible();
  await expect(page.getByText("2 trials are still wanted.")).toBeVisible();
  await expect(page.getByText("skipped: nobody records it")).toBeVisible();
  await page.getByRole("link", { name: "Plan a day" }).click();
  await page.getByLabel("From").fill("soon");
  await page.getByRole("button", { name: "Plan it" }).click();
  await expect(page.getByText("Write it as 9:15.")).toBeVisible();
  // Today, from its first minute: what is started now belongs to it.
  const today = await page.evaluate(() => new Intl.DateTimeFormat("en-CA", { dateStyle: "short" }).format(Date.now()));
  await page.getByLabel("Date").fill(today);
  await page.getByLabel("From").fill("0:00");
  await page.getByLabel("To", { exact: true }).fill("47:00");
  await page.getByRole("button", { name: "Plan it" }).click();
  await expect(blocksOf(page)).toHaveCount(2);
  await expect(page.getByText("No earlier run tells how long it may last: two hours are kept free for it.").first()).toBeVisible();

  await page.getByRole("link", { name: /^Start Practice body at/ }).click();
  await expect(page.getByText("Filled in from the planned day.")).toBeVisible();
  await expect(page.getByText(/By our estimate the body is cold, no powered time on record/)).toBeVisible();
  await page.getByLabel("Its clock runs at").selectOption("1");
  await page.getByRole("button", { name: "Start recording now" }).click();
  await expect(page.getByTestId("recorded")).toBeVisible();
  await skip(page, 900);
  await expect(page.getByTestId("recorded")).toHaveText(/^0:15:/);
  await page.keyboard.press("x");
  await expect(page.getByRole("heading", { name: "Right after the end" })).toBeVisible();
  await page.getByRole("link", { name: "Plan", exact: true }).click();
  await expect(page.getByText("1 trial is still wanted.")).toBeVisible();
  await page.getByRole("link", { name: "Test day" }).click();
  // The plan has followed: one is a fact, the body is warm, the other waits until it is cold.
  await expect(page.getByRole("button", { name: /^Practice body, .*: ran/ })).toHaveCount(1);
  await expect(blocksOf(page)).toHaveCount(1);
  await expect(page.getByText(/^now \d+ % warm$/)).toBeVisible();
  await expect(page.getByText(/earlier run|one run/).first()).toBeAttached();
  await page.getByRole("link", { name: "Bench", exact: true }).click();
  await expect(page.getByText(/cooling, by our estimate \d+ % warm, cold in/)).toBeVisible();
  await expect(page.getByRole("link", { name: "Test day" })).toBeVisible();
});

test("a run under way shows what is expected to end it, moved by its readings", { tag: "@proof" }, async ({ page, demo }) => {
  const runs = (await readAllRuns(async (at) => (await page.request.get(`${demo.url}${at}`)).json(), "open=1")) as unknown as {
    run: { id: string };
    marks: { mark: { body: { unit?: { name: string } } } }[];
  }[];
  const tern = runs.find((r) => r.marks.some((m) => m.mark.body.unit?.name === "Tern A"));
  await page.goto(`${demo.url}/roll/${tern?.run.id ?? ""}`);
  await expect(page.getByText(/^8 of 10 runs end at 0:1[5-8] to 0:2[1-3] \(4 runs\)$/)).toBeVisible();
  await expect(page.getByText(/^Heat: reaches 0:\d\d:\d\d with a chance of 80 %; /)).toBeVisible();
  await expect(page.getByText(/^Of earlier runs told the same way, \d of 4 at 25 % of their length/)).toBeVisible();
  await page.keyboard.press("e");
  // 14 GB at 280 Mbit/s are 400 s: the card then ends it before anything else.
  await page.getByLabel("Card free").fill("14");
  await page.keyboard.press("Enter");
  await expect(page.getByText(/^card 0:[2-5]\d$/)).toBeVisible();
});

test("two conditions and two protocols compared in plain words", { tag: "@proof" }, async ({ page, demo }) => {
  await page.goto(`${demo.url}/kit/compare`);
  await page.getByLabel("Conditions: this one").selectOption("Boathouse");
  await page.getByLabel("Conditions: with that one").selectOption("Pontoon, direct sun");
  await expect(page.getByText("differs in: sun none → direct, air still → breeze, ambient +8 °C")).toBeVisible();
  await page.reload();
  await expect(page.getByLabel("Conditions: this one")).toHaveValue(/.+/);
  await expect(page.getByText("differs in: sun none → direct, air still → breeze, ambient +8 °C")).toBeVisible();
  await page.getByLabel("Protocols: with that one").selectOption("Two hours is enough");
  await expect(page.getByText(/differs in: .*stops at never → 120 min/)).toBeVisible();
  await tabTo(page, /Back to the kit/);
});
