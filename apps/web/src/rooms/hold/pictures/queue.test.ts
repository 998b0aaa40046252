// Pictures on their way in: each once, each problem named, nothing put to the facts that this device could not keep.

import type { HoldPicture, PictureBody } from "@keep-rolling/core/holds";
import type { ReadShot } from "@keep-rolling/core/shots";
import { beforeEach, describe, expect, it, vi } from "vitest";
import type { ReadPicture } from "../../../workers/jobs/readPicture.ts";
import { createPictureQueue } from "./queue.ts";

const kept = vi.hoisted(() => ({ full: false, broken: false, names: [] as string[] }));
vi.mock("../../../shared/photos/pictures.ts", () => ({
  sendPhotos: () => undefined,
  keepPictures: (pictures: readonly { sha256: string }[]) => {
    if (kept.full) return Promise.reject(new Error("quota"));
    kept.names.push(...pictures.map((p) => p.sha256));
    return Promise.resolve();
  },
}));
vi.mock("../../../workers/pool.ts", () => ({ clipPool: {} }));

const shotOf = (more: Partial<ReadShot>): ReadShot =>
  ({
    camera: "Tern",
    exposureSec: 1 / 60,
    takenAt: null,
    focalMm: 30,
    iso: 400,
    fNumber: 4,
    stabiliser: null,
    problem: null,
    ...more,
  }) as ReadShot;
const drawn = (name: string): ReadPicture["drawn"] => ({
  widthPx: 1200,
  heightPx: 800,
  sidePx: 480,
  preview: { sha256: `p ${name}`, picture: new Blob() },
  cuts: [{ u: 0.5, v: 0.5, sha256: `c ${name}`, picture: new Blob() }],
});
/** A file is what its name says. */
const read = (file: File): Promise<ReadPicture | null> => {
  if (file.name === "gone") return Promise.resolve(null);
  if (file.name === "throws") return Promise.reject(new Error("decoder"));
  if (file.name === "heic") return Promise.resolve({ sha256: "heic", shot: shotOf({ problem: "heic" }), drawn: null });
  if (file.name === "plain")
    return Promise.resolve({ sha256: "plain", shot: shotOf({ exposureSec: null, problem: "no-exif" }), drawn: drawn("plain") });
  const sha256 = file.name.replace(/ copy$/, "");
  return Promise.resolve({ sha256, shot: shotOf({ stabiliser: "on" }), drawn: drawn(sha256) });
};

function queueWith(pictures: readonly HoldPicture[] = []) {
  const queue = createPictureQueue(read);
  const added: PictureBody[] = [];
  const cuts: PictureBody["cuts"][] = [];
  queue.hook({
    pictures,
    add: (of) => (kept.broken ? Promise.reject(new Error("outbox")) : Promise.resolve(added.push(...of))),
    cut: (_p, of) => Promise.resolve(cuts.push(of)),
  });
  const bring = async (...names: string[]) => {
    queue.add(names.map((n) => new File(["x"], n)));
    await vi.waitFor(() => expect(queue.items().every((i) => !["waiting", "reading"].includes(i.stage))).toBe(true));
    return queue.items().map((i) => [i.name, i.stage, i.problem]);
  };
  return { queue, added, cuts, bring };
}
beforeEach(() => {
  kept.full = false;
  kept.broken = false;
  kept.names = [];
});

describe("pictures brought in", () => {
  it("are kept first and told then, one of each content, and each problem has its name", async () => {
    const { added, bring } = queueWith();
    expect(await bring("a", "a copy", "heic", "plain", "gone", "throws", "b")).toEqual([
      ["a", "done", null],
      ["a copy", "here already", null],
      ["heic", "failed", "heic"],
      ["plain", "failed", "no-exif"],
      ["gone", "failed", "gone"],
      ["throws", "failed", "unreadable"],
      ["b", "done", null],
    ]);
    expect(added.map((p) => [p.sha256, p.setting, p.settingBy])).toEqual([
      ["a", "on", "picture"],
      ["b", "on", "picture"],
    ]);
    expect(kept.names).toEqual(["p a", "c a", "p b", "c b"]);
  });
  it("on a full device are named, put to nothing, and come in when dropped again", async () => {
    const { added, bring } = queueWith();
    kept.full = true;
    expect(await bring("a")).toEqual([["a", "failed", "not-kept"]]);
    kept.full = false;
    expect((await bring("a"))[1]).toEqual(["a", "done", null]);
    expect(added).toHaveLength(1);
  });
  it("are told together, and when that fails each is named and comes in when dropped again", async () => {
    const { added, bring } = queueWith();
    kept.broken = true;
    const many = Array.from({ length: 11 }, (_, i) => `n${i}`);
    expect((await bring(...many)).every(([, stage, problem]) => stage === "failed" && problem === "not-kept")).toBe(true);
    kept.broken = false;
    expect((await bring(...many)).slice(11).every(([, stage]) => stage === "done")).toBe(true);
    expect(added.map((p) => p.sha256).sort()).toEqual([...many].sort());
  });
  it("known to the test are at hand again, and another spot of them is cut once", async () => {
    const known = { id: "f1", sha256: "a", cuts: [{ u: 0.5, v: 0.5, sha256: "c a" }] } as unknown as HoldPicture;
    const { queue, cuts, bring, added } = queueWith([known]);
    expect(await queue.cutAt({ u: 0.3, v: 0.4 })).toBe(0);
    expect(await bring("a")).toEqual([["a", "at hand again", null]]);
    expect(added).toEqual([]);
    expect(await queue.cutAt({ u: 0.3, v: 0.4 })).toBe(1);
    expect(cuts).toEqual([[known.cuts[0], { u: 0.5, v: 0.5, sha256: "c a" }]]);
    // The middle is kept already.
    expect(await queue.cutAt({ u: 0.5, v: 0.5 })).toBe(0);
  });
});
