// The files as a second witness: a timer started late is proved wrong, a file of many gigabytes is read by its index alone, files alone make a
// run; photos lose their position; chapters are read by the browser's own WebVTT parser.

import { open, readFile } from "node:fs/promises";
import path from "node:path";
import type { Page } from "@playwright/test";
import type { ClipSpec } from "@keep-rolling/core/stand-ins";
import { bytesOf, layOutClip } from "@keep-rolling/core/stand-ins";
import { formatHms } from "@keep-rolling/core/format";
import { expect, test } from "./server.ts";
import { marksOnRecord, savedLine, skip, startRehearsal, watchErrors } from "./steps.ts";

/** The camera's clock runs so far behind the bench's. */
const BEHIND_MS = 73_000;

function clipSpec(fromMs: number, toMs: number, more: Partial<ClipSpec> = {}): ClipSpec {
  const startMs = fromMs - BEHIND_MS;
  return {
    createdMs: Math.floor(startMs / 1000) * 1000,
    frames: Math.round((toMs - fromMs) / 20),
    fpsNum: 50,
    fpsDen: 1,
    widthPx: 3840,
    heightPx: 2160,
    fourcc: "avc1",
    sampleBytes: 40,
    timeCodeFrame: null,
    dropFrame: false,
    cutOff: false,
    ...more,
  };
}
function upload(name: string, spec: ClipSpec) {
  const file = layOutClip(spec);
  return { name, mimeType: "video/mp4", buffer: Buffer.from(bytesOf(file, 0, file.bytes)) };
}
/** Answers how the body stamps its clips, where it is asked: what was answered before is only said. */
const stamps = async (page: Page): Promise<void> => {
  await page
    .getByText(/^How .* stamps its clips$|stamps its clips when they are/)
    .first()
    .waitFor();
  if (await page.getByText("stamps its clips when they are begun, in UTC.").isVisible()) return;
  await page.getByLabel("begun", { exact: true }).check();
  await page.getByLabel("UTC", { exact: true }).check();
};

test("a timer started minutes late is proved wrong by the files, and set right by one key", async ({ page, empty }) => {
  const errors = watchErrors(page);
  const runId = await startRehearsal(page, empty.url);
  const elapsed = (words: RegExp) => expect(page.getByTestId("recorded")).toHaveText(words);
  await skip(page, 300);
  await elapsed(/^0:05:/);
  await page.keyboard.press("g");
  await page.keyboard.press("1");
  await skip(page, 15);
  await expect(page.getByTestId("beneath")).toContainText(/one gap of 1\d s/);
  await page.keyboard.press("r");
  await skip(page, 240);
  await elapsed(/^0:09:/);
  await page.keyboard.press("q");
  await page.keyboard.press("6");
  await savedLine(page, /^all \d+ marks saved$/);
  const at = async (kind: string): Promise<number> =>
    (await marksOnRecord(page, empty.url, runId)).find((m) => m.mark.kind === kind)?.mark.atMs ?? 0;
  const [startMs, gapMs, resumeMs, endMs] = [await at("start"), await at("gap"), await at("resume"), await at("end")];

  // The camera recorded 3 min 10 s before the key was pressed, and began a new file on the way.
  const trueMs = startMs - 190_000;
  const splitMs = startMs + 100_000;
  await page.goto(`${empty.url}/runs/${runId}/files`);
  await page
    .locator("input[type=file]")
    .setInputFiles([
      upload("b-0003.mp4", clipSpec(resumeMs, endMs)),
      upload("b-0001.mp4", clipSpec(trueMs, splitMs)),
      upload("b-0002.mp4", clipSpec(splitMs, gapMs)),
    ]);
  await expect(page.getByText("These clips follow on each other if the time is when a clip was begun.")).toBeVisible();
  await stamps(page);
  await expect(page.getByText(/The camera's clock is 1 min 1[234] s behind the bench's/)).toBeVisible();
  await expect(page.getByText("3 of 4 marks agree")).toBeVisible();
  await expect(page.getByText(/^3 min (9|10|11) s late$/)).toBeVisible();
  await expect(page.getByText(/^The start moves 3 min (9|10|11) s earlier/)).toBeVisible();
  await expect(page.getByText(/^A new file at 0:01:(39|40|41)/)).toBeVisible();
  await page.getByRole("heading", { level: 1 }).click();
  await page.keyboard.press("a");
  await expect(page.getByText("The files and the marks agree; nothing to take over.")).toBeVisible();
  const marks = await marksOnRecord(page, empty.url, runId);
  await expect.poll(async () => (await marksOnRecord(page, empty.url, runId)).filter((m) => m.mark.source === "accepted").length).toBe(3);
  expect(marks.find((m) => m.mark.kind === "start")?.mark.atMs).toBe(startMs);
  await page.goto(`${empty.url}/runs/${runId}`);
  const recorded = Math.floor((splitMs - trueMs + gapMs - splitMs + endMs - resumeMs) / 1000);
  const near = [-2, -1, 0, 1, 2].map((d) => formatHms((recorded + d) * 1000)).join("|");
  await expect(
    page
      .getByRole("term")
      .filter({ hasText: /^recorded$/ })
      .locator("xpath=following-sibling::dd"),
  ).toHaveText(new RegExp(`^(${near})`));
  await expect(page.getByText("None: every mark fits.")).toBeVisible();

  // What was answered about this body is kept: the next run's files are not asked again.
  await page.goto(`${empty.url}/runs/${runId}/files`);
  await page
    .locator("input[type=file]")
    .setInputFiles([upload("b-0001.mp4", clipSpec(trueMs, gapMs)), upload("b-0002.mp4", clipSpec(resumeMs, endMs))]);
  await expect(page.getByText("stamps its clips when they are begun, in UTC.")).toBeVisible();
  await expect(page.getByLabel("begun", { exact: true })).toHaveCount(0);
  expect(errors).toEqual([]);
});

test("a file of many gigabytes is read by its index, and files alone make a run with its mode", async ({ page, empty }, info) => {
  const errors = watchErrors(page);
  await page.goto(`${empty.url}/roll/late`);
  await page.getByLabel("Unit").selectOption({ label: "Practice body (rehearsal)" });
  const startMs = Date.now() - 6 * 3_600_000;
  // 200 Mbit/s, as the hot mode of the practice body writes: 8 GB in 320 s. The zeros are a hole in the file.
  const spec = clipSpec(startMs, startMs + 320_000, { sampleBytes: 500_000 });
  const file = layOutClip(spec);
  const big = info.outputPath("big.mp4");
  const handle = await open(big, "w");
  await handle.write(file.head, 0, file.head.length, 0);
  await handle.write(file.tail, 0, file.tail.length, file.head.length + file.zeros);
  await handle.close();
  const second = layOutClip({ ...spec, createdMs: Math.floor((startMs + 380_000 - BEHIND_MS) / 1000) * 1000, frames: 6000 });
  const other = info.outputPath("more.mp4");
  const next = await open(other, "w");
  await next.write(second.head, 0, second.head.length, 0);
  await next.write(second.tail, 0, second.tail.length, second.head.length + second.zeros);
  await next.close();
  await page.locator("input[type=file]").setInputFiles([big, other]);
  await expect(page.getByText(/^Read (\d+ kB|1\.\d MB) of 11\.0 GB: the index of each file/)).toBeVisible();
  await stamps(page);
  await expect(page.getByText(/One gap of 1 min 0 s\. Their causes are not in the files/)).toBeVisible();
  await expect(page.getByLabel("Recording mode")).toHaveValue(/.+/);
  await expect(page.getByLabel("Recording mode").locator("option:checked")).toHaveText("UHD 50, hot");
  await page.getByLabel("It was ended by").selectOption("battery empty");
  await page.getByRole("button", { name: "Store this run" }).click();
  await expect(page.getByRole("heading", { level: 1 })).toContainText("UHD 50, hot");
  await expect(page.getByText("end: battery empty").first()).toBeVisible();
  await expect(page.getByText(/^From 2 files: big\.mp4 5 min 20 s, more\.mp4 2 min 0 s/)).toBeVisible();
  const runId = page.url().split("/").at(-1) ?? "";
  await savedLine(page, /^all \d+ marks saved$/);
  const marks = await marksOnRecord(page, empty.url, runId);
  expect(marks.map((m) => [m.mark.kind, m.mark.source])).toEqual(["start", "gap", "resume", "end", "note"].map((kind) => [kind, "late"]));
  expect(errors).toEqual([]);
});

test(
  "a photo is drawn anew: its position stays behind; chapters are read by the browser itself; one page prints",
  { tag: "@proof" },
  async ({ page, empty }, info) => {
    const errors = watchErrors(page);
    const runId = await startRehearsal(page, empty.url);
    await page.keyboard.press("c");
    await page.getByLabel(/^Picture/).setInputFiles({ name: "not.jpg", mimeType: "image/jpeg", buffer: Buffer.from("no picture") });
    await page.getByRole("button", { name: "Store", exact: true }).click();
    await expect(page.getByText("This file is no picture that this browser can read. Nothing was stored.")).toBeVisible();
    const photo = path.resolve(import.meta.dirname, "../apps/server/test/fixtures/position.jpg");
    await page.getByLabel(/^Picture/).setInputFiles(photo);
    await page.getByLabel("In words").fill("the rig on its tripod");
    await page.getByRole("button", { name: "Store", exact: true }).click();
    await expect(page.getByRole("img", { name: "the rig on its tripod" })).toBeVisible();
    await savedLine(page, /^all \d+ marks saved$/);
    const hashOf = async (): Promise<string> => {
      const hashes = (await marksOnRecord(page, empty.url, runId)).map((m) => m.mark.body.sha256);
      return hashes.find((hash) => typeof hash === "string") ?? "";
    };
    await expect.poll(async () => (await page.request.get(`${empty.url}/api/photos/${await hashOf()}`)).status()).toBe(200);
    const kept = await (await page.request.get(`${empty.url}/api/photos/${await hashOf()}`)).body();
    expect(kept.includes("Exif")).toBe(false);
    expect((await readFile(photo)).includes("Exif")).toBe(true);

    await skip(page, 600);
    await expect(page.getByTestId("recorded")).toHaveText(/^0:10:/);
    await page.keyboard.press("w");
    await expect(page.getByText("warning shown").first()).toBeVisible();
    await skip(page, 60);
    await expect(page.getByTestId("recorded")).toHaveText(/^0:11:/);
    await page.keyboard.press("x");
    await page.getByRole("link", { name: "This run: strip, numbers, marks" }).click();
    await page.getByLabel("It begins before the start by").fill("0:20");
    await expect(page.getByText("reads as 20 s")).toBeVisible();
    const [download] = await Promise.all([page.waitForEvent("download"), page.getByRole("button", { name: "WebVTT" }).click()]);
    const vtt = info.outputPath("chapters.vtt");
    await download.saveAs(vtt);
    // A page without our policy, which lets no media in.
    const bare = await page.context().newPage();
    const cues = await bare.evaluate(
      async (text) => {
        const track = document.createElement("track");
        track.kind = "chapters";
        track.src = URL.createObjectURL(new Blob([text], { type: "text/vtt" }));
        const video = document.createElement("video");
        video.append(track);
        document.body.append(video);
        track.track.mode = "hidden";
        await new Promise((done, fail) => {
          track.addEventListener("load", done);
          track.addEventListener("error", () => fail(new Error("the browser refused the chapters")));
        });
        return [...(track.track.cues ?? [])].map((c) => ({ from: c.startTime, to: c.endTime, text: (c as VTTCue).text }));
      },
      await readFile(vtt, "utf8"),
    );
    expect(cues.map((c) => c.text)).toEqual(
      [/^Start, (cold|warm)$/, /^Warning shown$/, /^End: heat shutdown$/].map((t) => expect.stringMatching(t)),
    );
    expect(cues[0]?.from).toBe(20);
    expect(cues[0]?.to).toBe(cues[1]?.from);
    await page.goto(`${empty.url}/runs/${runId}/sheet`);
    await expect(page.getByText("From a simulated camera.")).toBeVisible();
    const pdf = (await page.pdf({ format: "A4" })).toString("latin1");
    expect(pdf.match(/\/Type\s*\/Page[^s]/g)).toHaveLength(1);
    expect(errors).toEqual([]);
  },
);
