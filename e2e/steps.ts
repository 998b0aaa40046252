// What the specs do again and again, by the words on the screen.

import { clockAt } from "@keep-rolling/core/time";
import type { Page } from "@playwright/test";
import { expect } from "./server.ts";

/** Fails the test on any error of the page, a policy violation included. */
export function watchErrors(page: Page): string[] {
  const errors: string[] = [];
  page.on("pageerror", (error) => errors.push(error.message));
  page.on("console", (message) => {
    const text = message.text();
    // A refused connection is what the fault specs cause on purpose.
    if (message.type() === "error" && !/ERR_|Failed to load resource/.test(text)) errors.push(text);
  });
  return errors;
}

/** Starts a rehearsal by keyboard alone, from the bench, and waits for the console. Returns the run's id. */
export async function startRehearsal(page: Page, url: string): Promise<string> {
  await page.goto(url);
  await tabTo(page, /Rehearse with a stand-in/);
  await page.keyboard.press("Enter");
  await expect(page.getByRole("heading", { name: "Roll: rehearse a run" })).toBeVisible();
  // The specs step the clock themselves.
  await page.getByLabel("Its clock runs at").selectOption("1");
  await tabTo(page, /Start recording now/);
  await page.keyboard.press("Enter");
  const refused = page.getByRole("alert").filter({ hasText: "This body is rolling already" });
  await expect(page.getByTestId("recorded").or(refused).first()).toBeVisible();
  if (await refused.isVisible()) {
    // An earlier test of this server left it rolling.
    await page.getByRole("link", { name: "Go to its console" }).click();
    await expect(page.getByTestId("recorded")).toBeVisible();
    await page.keyboard.press("q");
    await expect(page.getByRole("heading", { name: "Right after the end" })).toBeVisible();
    return startRehearsal(page, url);
  }
  return page.url().split("/").at(-1) ?? "";
}

/** Presses Tab until the focused control has this name. */
export async function tabTo(page: Page, name: RegExp): Promise<void> {
  await page.getByText(name).first().waitFor();
  for (let i = 0; i < 80; i++) {
    const focused = await page.evaluate(() => document.activeElement?.textContent ?? "");
    if (
      name.test(focused) &&
      (await page.evaluate(() => document.activeElement !== document.body && !["root", "main"].includes(document.activeElement?.id ?? "")))
    )
      return;
    await page.keyboard.press("Tab");
  }
  throw new Error(`no control named ${String(name)} can be reached with Tab`);
}

/** Sets the simulated clock ahead over the API, as the key does. */
export async function skip(page: Page, seconds: number, clock = "rehearsal"): Promise<void> {
  await page.evaluate(
    async ([id, skipSec]) => {
      const reply = await fetch(`/api/clocks/${id}/rate`, {
        method: "POST",
        headers: { "content-type": "application/json" },
        body: JSON.stringify({ rate: 1, skipSec }),
      });
      if (!reply.ok) throw new Error(`the clock answered ${reply.status}`);
    },
    [clock, seconds] as const,
  );
}

interface RunReply {
  run: { status: string };
  events: { id: string }[];
  channels: { readings: { atMs: number }[] }[];
}
interface Clocks {
  clocks: { id: string; segments: { wallMs: number; clockMs: number; rate: number }[] }[];
  serverMs: number;
}

/** What the page's own server answers. */
const ask = async <T>(page: Page, at: string): Promise<T> =>
  (await (await page.request.get(new URL(at, page.url()).href, { maxRetries: 2 })).json()) as T;

/**
 * Waits until the stand-in of a run has told all it did up to this minute of its clock; true when it told of more than `known` events
 * before that. On a busy machine it lags behind a clock that is stepped, and every blind step overshoots.
 */
export async function toldMore(page: Page, runId: string, known: number, clock = "rehearsal"): Promise<boolean> {
  let events = known;
  await expect
    .poll(async () => {
      const { clocks, serverMs } = await ask<Clocks>(page, "/api/clocks");
      const reply = await ask<RunReply>(page, `/api/runs/${runId}`);
      events = reply.events.length;
      const latestMs = Math.max(0, ...reply.channels.flatMap((c) => c.readings.map((r) => r.atMs)));
      return (
        events > known ||
        reply.run.status === "ended" ||
        latestMs + 60_000 > clockAt(clocks.find((c) => c.id === clock)?.segments ?? [], serverMs)
      );
    })
    .toBe(true);
  return events > known;
}

export async function eventsOf(page: Page, runId: string): Promise<number> {
  return (await ask<RunReply>(page, `/api/runs/${runId}`)).events.length;
}

/** Steps the clock until the console says so. Every run has its own day's heat, so how many steps it takes is not known beforehand. */
export async function skipUntil(page: Page, words: RegExp): Promise<void> {
  const wanted = page.getByText(words).first();
  const runId = page.url().split("/").at(-1) ?? "";
  for (let i = 0; i < 40 && !(await wanted.isVisible()); i++) {
    const known = await eventsOf(page, runId);
    await skip(page, 120);
    // What was told may be a gauge step, which the console does not offer.
    if (await toldMore(page, runId, known)) await wanted.waitFor({ timeout: 1000 }).catch(() => undefined);
  }
  await expect(wanted).toBeVisible();
}

export interface OnRecord {
  seq: number;
  mark: { id: string; kind: string; atMs: number; body: Record<string, unknown>; source: string; target?: string };
}

export async function marksOnRecord(page: Page, url: string, runId: string): Promise<OnRecord[]> {
  const reply = await page.request.get(`${url}/api/runs/${runId}/marks`, { maxRetries: 2 });
  return ((await reply.json()) as { marks: OnRecord[] }).marks;
}

export async function savedLine(page: Page, words: RegExp): Promise<void> {
  await expect(page.getByTestId("saved")).toHaveText(words, { timeout: 90_000 });
}
