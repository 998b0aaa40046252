// Pictures as large as cameras write them: squares of them are the picture's own pixels, however the browser decodes them. Checked against ffmpeg's decoder.

import { execFileSync } from "node:child_process";
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import os from "node:os";
import path from "node:path";
import { TAG, withExif } from "../packages/core/src/stand-ins/shots/exif.ts";
import { expect, test } from "./server.ts";
import { savedLine, watchErrors } from "./steps.ts";

const [WIDTH, HEIGHT, SIDE] = [3600, 2400, 480];
let folder = "";
test.beforeAll(() => (folder = mkdtempSync(path.join(os.tmpdir(), "kr-large-"))));
test.afterAll(() => rmSync(folder, { recursive: true, force: true }));

const ffmpeg = (...args: string[]): Buffer => execFileSync("ffmpeg", ["-v", "error", "-y", ...args], { maxBuffer: 1e9 });

/** Named so that its row is known; each at its own second. */
function picture(name: string, format: string, orientation: number, second: number): string {
  const [plain, file] = [path.join(folder, `plain-${name}`), path.join(folder, name)];
  ffmpeg("-f", "lavfi", "-i", `testsrc2=size=${WIDTH}x${HEIGHT}`, "-frames:v", "1", "-q:v", "2", "-pix_fmt", format, plain);
  const main = { [TAG.model]: "Tern 4", [TAG.orientation]: { short: orientation } };
  const taken = { [TAG.exposureTime]: [1, 60] as const, [TAG.focal]: [30, 1] as const, [TAG.takenAt]: `2031:06:14 10:00:0${second}` };
  writeFileSync(file, withExif(new Uint8Array(readFileSync(plain)), { main, taken, littleEndian: true }));
  return file;
}

/** Mean difference of brightness from what ffmpeg draws of the same file, and of the same turned and cut. */
function unlike(cut: Buffer, file: string, turn: string, crop: string): number {
  const stored = path.join(folder, "cut.jpg");
  writeFileSync(stored, cut);
  const grey = ["-pix_fmt", "gray", "-f", "rawvideo", "-"];
  const [ours, theirs] = [
    ffmpeg("-i", stored, ...grey),
    ffmpeg("-noautorotate", "-i", file, "-vf", `format=gray,${turn}crop=${SIDE}:${SIDE}:${crop}`, ...grey),
  ];
  expect(ours).toHaveLength(theirs.length);
  return ours.reduce((sum, v, i) => sum + Math.abs(v - (theirs[i] as number)), 0) / ours.length;
}

test("halved colour, whole colour, upright and turned: every square is cut where it is said to be", { tag: "@proof" }, async ({
  page,
  own: server,
}) => {
  const errors = watchErrors(page);
  await page.goto(`${server.url}/hold/new`);
  await page.getByLabel("Lens", { exact: true }).fill("Reed 16 to 55");
  await page.getByLabel("Focal length (mm)", { exact: true }).fill("30");
  await page.getByRole("button", { name: /usual ones/ }).click();
  await page.getByRole("button", { name: /^Begin/ }).click();
  await page.waitForURL(/card/);
  const id = page.url().split("/").at(-2) ?? "";
  await page.goto(`${server.url}/hold/${id}/pictures`);
  const shots = [
    { file: picture("HALVED.JPG", "yuvj420p", 1, 1), turn: "", upright: [WIDTH, HEIGHT] },
    { file: picture("WHOLE.JPG", "yuvj444p", 1, 2), turn: "", upright: [WIDTH, HEIGHT] },
    { file: picture("TURNED.JPG", "yuvj420p", 6, 3), turn: "transpose=clock,", upright: [HEIGHT, WIDTH] },
  ] as const;
  await page.getByLabel(/^Drop pictures or folders here/).setInputFiles(shots.map((s) => s.file));
  await expect(page.getByRole("heading", { name: "3 pictures read", exact: true })).toBeVisible();
  await savedLine(page, /saved$/);
  interface Body {
    name: string;
    widthPx: number;
    heightPx: number;
    sidePx: number;
    preview: string;
    cuts: { u: number; v: number; sha256: string }[];
  }
  const reply = (await (await page.request.get(`${server.url}/api/sessions/${id}`)).json()) as {
    facts: { fact: { kind: string; body: Body } }[];
  };
  const bodies = reply.facts.flatMap(({ fact }) => (fact.kind === "picture" ? [fact.body] : []));
  const stored = async (sha256: string): Promise<Buffer> => {
    const at = `${server.url}/api/photos/${sha256}`;
    // Facts are saved before their pictures have all been sent.
    await expect.poll(async () => (await page.request.get(at)).status()).toBe(200);
    return (await page.request.get(at)).body();
  };
  for (const { file, turn, upright } of shots) {
    const body = bodies.find((b) => b.name === path.basename(file));
    if (body === undefined) throw new Error(`${file} is not on record`);
    expect([body.widthPx, body.heightPx, body.sidePx]).toEqual([...upright, SIDE]);
    expect(body.cuts).toHaveLength(5);
    let off = 0;
    for (const { u, v, sha256 } of body.cuts) {
      const place = (share: number, length: number): number =>
        2 * Math.floor(Math.max(0, Math.min(length - SIDE, share * length - SIDE / 2)) / 2);
      const crop = `${place(u, upright[0])}:${place(v, upright[1])}`;
      off += unlike(await stored(sha256), file, turn, crop);
    }
    // Coded once more at high quality: .3 levels for all five; cut two pixels beside it, more than three.
    expect(off).toBeLessThan(1);
    const small = path.join(folder, "small.jpg");
    writeFileSync(small, await stored(body.preview));
    const size = execFileSync("ffprobe", ["-v", "error", "-show_entries", "stream=width,height", "-of", "csv=p=0", small], {
      encoding: "utf8",
    });
    expect(size.trim()).toBe(upright[0] > upright[1] ? "640,426" : "426,640");
  }
  expect(errors).toEqual([]);
});
