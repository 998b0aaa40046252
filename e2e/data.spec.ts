// The Data room: everything out of one bench and into an empty one, looked at before it is done; what contradicts, and what is no archive.

import { createHash } from "node:crypto";
import { writeFile } from "node:fs/promises";
import { strToU8, unzipSync, zipSync } from "fflate";
import { readAllRuns } from "../tools/testing/runs.ts";
import { expect, launchServer, test } from "./server.ts";
import { tabTo, watchErrors } from "./steps.ts";

test("the demo's archive opens in an empty bench, by keyboard, and is all there", { tag: "@proof" }, async ({ page, demo }, info) => {
  const errors = watchErrors(page);
  await page.goto(`${demo.url}/data`);
  await tabTo(page, /Download the archive/);
  const [download] = await Promise.all([page.waitForEvent("download"), page.keyboard.press("Enter")]);
  expect(download.suggestedFilename()).toMatch(/^keep-rolling-\d{4}-\d\d-\d\d\.zip$/);
  const file = info.outputPath("bench.zip");
  await download.saveAs(file);

  const server = await launchServer({ empty: true });
  try {
    await page.goto(`${server.url}/data`);
    const noZip = info.outputPath("notes.zip");
    await writeFile(noZip, "no zip at all");
    await page.getByLabel("Archive, or file of one run, to open").setInputFiles(noZip);
    await expect(page.getByText("The file is not a whole zip. Nothing was changed.")).toBeVisible();
    await page.getByLabel("Archive, or file of one run, to open").setInputFiles(file);
    await expect(page.getByText(/Nothing is changed yet\. It would bring: \d+ new runs, 0 runs grow/)).toBeVisible();
    await tabTo(page, /^Bring it in$/);
    await page.keyboard.press("Enter");
    await expect(page.getByText(/^Brought in\. \d+ new runs/)).toBeVisible();
    const count = async (url: string): Promise<number> =>
      (await readAllRuns(async (at) => (await page.request.get(`${url}${at}`)).json())).length;
    expect(await count(server.url)).toBe(await count(demo.url));
    await page.getByRole("link", { name: "Limits", exact: true }).click();
    await expect(page.getByText("Plover B").first()).toBeVisible();
    await page.getByRole("link", { name: "Data", exact: true }).click();
    await page.getByLabel("Archive, or file of one run, to open").setInputFiles(file);
    await expect(page.getByText("Everything in it is here already. There is nothing to bring in.")).toBeVisible();

    expect(errors).toEqual([]);
  } finally {
    await server.stop();
  }
});

test("a fact changed by hand, checksum and all, contradicts what is on record, and is kept aside", async ({ page, own }, info) => {
  const errors = watchErrors(page);
  await page.goto(`${own.url}/data`);
  const files = unzipSync(new Uint8Array(await (await page.request.get(`${own.url}/api/archive`)).body()));
  const striking = async (reason: string, name: string): Promise<string> => {
    const strike = {
      id: "01900000-0000-7000-8000-00000000abcd",
      runId: "01900000-0000-7000-8000-00000000abce",
      reason,
      undoes: null,
      atMs: 1,
    };
    const bytes = strToU8(`${JSON.stringify(strike)}\n`);
    const manifest = JSON.parse(Buffer.from(files["manifest.json"] ?? []).toString()) as {
      files: { name: string; sha256: string; bytes: number }[];
    };
    const entry = manifest.files.find((f) => f.name === "tables/strikes.jsonl");
    Object.assign(entry ?? {}, { sha256: createHash("sha256").update(bytes).digest("hex"), bytes: bytes.length });
    const made = info.outputPath(name);
    await writeFile(made, zipSync({ ...files, "tables/strikes.jsonl": bytes, "manifest.json": strToU8(JSON.stringify(manifest)) }));
    return made;
  };
  await page.getByLabel("Archive, or file of one run, to open").setInputFiles(await striking("first story", "one.zip"));
  await page.getByRole("button", { name: "Bring it in" }).click();
  await expect(page.getByText(/^Brought in\./)).toBeVisible();
  await page.getByLabel("Archive, or file of one run, to open").setInputFiles(await striking("other story", "two.zip"));
  await expect(page.getByText("other content under the same id is on record here")).toBeVisible();
  await page.getByRole("button", { name: "Bring in the rest, keep 1 aside" }).click();
  await expect(page.getByText(/^Brought in\./)).toBeVisible();
  await page.reload();
  await expect(page.getByText(/^archive, strikes: other content/)).toBeVisible();
  expect(errors).toEqual([]);
});
