import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { madePath } from "../../workers/testing/madePath.ts";
import type { QueueHooks } from "./importQueue.ts";
import { queueOf } from "./importQueue.ts";

// The workers and the picture store are stood in for; the order of things is what is tested.
const hands = vi.hoisted(() => ({ calls: [] as string[], measure: (_name: string): unknown => null }));
vi.mock("../../workers/pool.ts", () => ({
  isAbandoned: (error: unknown) => error instanceof DOMException,
  clipPool: {
    call: async (job: string, input: File, options: { signal?: AbortSignal } = {}) => {
      const name = Array.isArray(input) ? "" : input.name;
      hands.calls.push(`${job} ${name}`.trim());
      if (job === "hashClip") return (await input.text()).padEnd(64, "0");
      if (job === "readClips") return { clips: [] };
      const wait = hands.measure(name);
      if (wait === "hangs")
        await new Promise((_done, fail) => options.signal?.addEventListener("abort", () => fail(new DOMException("", "AbortError"))));
      return (
        wait ?? {
          ok: true,
          pack: new Uint8Array(4),
          widthPx: 640,
          heightPx: 360,
          codec: "avc",
          durationMs: 3000,
          stills: [],
          proxy: new Blob(["copy"]),
          notes: [],
          sound: null,
        }
      );
    },
  },
}));
vi.mock("../../shared/photos/pictures.ts", () => ({ keepPicture: async () => "f".repeat(64) }));

let serial = 0;
const file = (name: string, content = name): File => new File([content], name);

function bench(more: Partial<QueueHooks> = {}) {
  const [saved, pressed]: [string[], string[]] = [[], []];
  const durations: number[] = [];
  const queue = queueOf(`s${++serial}`);
  const hooks: QueueHooks = {
    measured: new Map(),
    inSession: new Set(),
    habits: () => null,
    press: async (_kind, body) => {
      pressed.push((body as { name: string }).name);
      durations.push((body as { durationMs: number }).durationMs);
      return "id";
    },
    save: async (clip) => void saved.push(clip.sha256.replace(/0+$/, "")),
    ...more,
  };
  queue.hook(hooks);
  const stages = (): string[] => queue.items().map((i) => `${i.file.name}: ${i.stage}`);
  const settled = (): Promise<void> =>
    vi.waitFor(() => expect(queue.items().every((i) => ["done", "known already", "failed", "stopped"].includes(i.stage))).toBe(true), {
      timeout: 4000,
    });
  return { queue, hooks, saved, pressed, durations, stages, settled };
}

beforeEach(() => {
  hands.calls.length = 0;
  hands.measure = () => null;
  vi.stubGlobal("fetch", async () => Response.json({ sha256: "e".repeat(64) }));
});
afterEach(() => vi.unstubAllGlobals());

describe("clips on their way in", () => {
  it("are measured, stored and put to the session, each once", async () => {
    const { queue, saved, pressed, settled } = bench();
    queue.add([file("a.mp4"), file("b.mp4"), file("c.mp4")]);
    await settled();
    expect([...saved].sort()).toEqual(["a.mp4", "b.mp4", "c.mp4"]);
    expect([...pressed].sort()).toEqual(["a.mp4", "b.mp4", "c.mp4"]);
  });
  it("of the same content are measured once, whatever they are called and however close together", async () => {
    const { queue, saved, stages, settled } = bench();
    queue.add([file("a.mp4", "one"), file("b.mp4", "one")]);
    await settled();
    expect(saved).toEqual(["one"]);
    expect(stages().sort()).toEqual(["a.mp4: done", "b.mp4: known already"]);
  });
  it("that are on record are known, and only enter the session when they are not in it", async () => {
    const sha = "one".padEnd(64, "0");
    vi.stubGlobal("fetch", async () => new Response(madePath({ sec: 2 })));
    const { queue, hooks, saved, pressed, durations, settled } = bench({ measured: new Map([[sha, "b".repeat(64)]]) });
    queue.add([file("a.mp4", "one")]);
    await settled();
    expect([saved, pressed]).toEqual([[], ["a.mp4"]]);
    // How long it is says its path, never a guess.
    expect(durations).toEqual([1960]);
    queue.hook({ ...hooks, inSession: new Set([sha]) });
    queue.add([file("a.mp4", "one")]);
    await settled();
    expect(pressed).toEqual(["a.mp4"]);
    expect(hands.calls.some((c) => c.startsWith("measureClip"))).toBe(false);
  });
  it("that are on record wait for a server that is starting: their path is not nowhere", async () => {
    vi.useFakeTimers({ shouldAdvanceTime: true, advanceTimeDelta: 500 });
    const sha = "two".padEnd(64, "0");
    const answers = [Response.json({ detail: "The bench is starting." }, { status: 503 }), new Response(madePath({ sec: 2 }))];
    vi.stubGlobal("fetch", async () => answers.shift() ?? new Response(null, { status: 404 }));
    const { queue, durations, stages, settled } = bench({ measured: new Map([[sha, "c".repeat(64)]]) });
    queue.add([file("a.mp4", "two")]);
    await settled();
    vi.useRealTimers();
    expect([stages(), durations]).toEqual([["a.mp4: known already"], [1960]]);
  });
  it("wait for a server that is away or full, and are stored once when it answers", async () => {
    vi.useFakeTimers({ shouldAdvanceTime: true, advanceTimeDelta: 500 });
    const answers = [
      new TypeError("no network"),
      Response.json({ detail: "The disk is full." }, { status: 507 }),
      Response.json({ sha256: "e".repeat(64) }),
      // Its small copy, after its path.
      Response.json({ sha256: "d".repeat(64) }),
    ];
    vi.stubGlobal("fetch", async () => {
      const next = answers.shift();
      if (next instanceof Error || next === undefined) throw next ?? new TypeError("asked once too often");
      return next;
    });
    const { queue, saved, stages, settled } = bench();
    const seen = new Set<string>();
    queue.subscribe(() => stages().forEach((s) => seen.add(s)));
    queue.add([file("a.mp4")]);
    await settled();
    vi.useRealTimers();
    expect(seen).toContain("a.mp4: waiting for the server");
    expect([saved, stages(), answers]).toEqual([["a.mp4"], ["a.mp4: done"], []]);
  });
  it("that cannot be measured say why, and the rest goes on", async () => {
    hands.measure = (name) => (name === "b.mp4" ? { ok: false, trouble: "cut-off" } : null);
    const { queue, saved, settled } = bench();
    queue.add([file("b.mp4"), file("a.mp4")]);
    await settled();
    expect(queue.items().map((i) => [i.file.name, i.stage, i.trouble])).toEqual([
      ["b.mp4", "failed", "cut-off"],
      ["a.mp4", "done", null],
    ]);
    expect(saved).toEqual(["a.mp4"]);
    // Dropped again, the new try takes the place of the failed one.
    hands.measure = () => null;
    queue.add([file("b.mp4")]);
    await settled();
    expect(queue.items().map((i) => [i.file.name, i.stage])).toEqual([
      ["a.mp4", "done"],
      ["b.mp4", "done"],
    ]);
  });
  it("can be stopped one by one, and paused before they begin", async () => {
    hands.measure = (name) => (name === "a.mp4" ? "hangs" : null);
    const { queue, stages, settled } = bench();
    queue.pause(true);
    queue.add([file("a.mp4"), file("b.mp4")]);
    expect(stages()).toEqual(["a.mp4: waiting", "b.mp4: waiting"]);
    queue.pause(false);
    await vi.waitFor(() => expect(stages()).toEqual(["a.mp4: measuring", "b.mp4: done"]));
    queue.cancel(queue.items()[0]?.key ?? 0);
    await settled();
    expect(stages()).toEqual(["a.mp4: stopped", "b.mp4: done"]);
  });
  it("whose card was taken out say so at once, and are not sent for ever", async () => {
    hands.measure = () => ({ ok: false, trouble: "not-decoded" });
    const asked: string[] = [];
    vi.stubGlobal("fetch", async (at: string) => {
      asked.push(at);
      throw new TypeError("Failed to fetch");
    });
    const gone = file("a.mp4");
    gone.slice = () => ({ arrayBuffer: () => Promise.reject(new DOMException("", "NotReadableError")) }) as unknown as Blob;
    const { queue, settled } = bench();
    queue.add([gone]);
    await settled();
    expect(queue.items()[0]?.trouble).toMatch(/cannot be read any more. Was its card taken out/);
    expect(asked).toEqual([]);
  });
  it("that the server decodes say how far it is, in its stages", async () => {
    vi.useFakeTimers({ shouldAdvanceTime: true });
    hands.measure = () => ({ ok: false, trouble: "not-decoded" });
    const told = [
      { stage: "waiting", share: 0 },
      { stage: "receiving", share: 0.5 },
      { stage: "decoding", share: 0.25 },
    ];
    let answer: (reply: Response) => void = () => undefined;
    vi.stubGlobal("fetch", async (_at: string, options?: RequestInit) => {
      if (options?.method === "POST") return new Promise<Response>((done) => (answer = done));
      const next = told.shift();
      if (next === undefined) answer(Response.json({ ok: false, problem: "no-frames" }));
      return Response.json(next ?? { stage: "none", share: 0 });
    });
    const { queue, settled } = bench();
    const seen: string[] = [];
    queue.subscribe(() => {
      const { stage, share } = queue.items()[0] as { stage: string; share: number };
      if (seen.at(-1) !== `${stage} ${share}`) seen.push(`${stage} ${share}`);
    });
    queue.add([file("a.mp4")]);
    await settled();
    vi.useRealTimers();
    expect(seen.slice(-5)).toEqual([
      "sending to the server 0",
      "waiting for the server's decoder 0",
      "sending to the server 0.5",
      "decoded by the server 0.25",
      "failed 0.25",
    ]);
    expect(queue.items()[0]?.trouble).toBe("no-frames");
  });
  it("that the browser cannot decode go to the server, whose refusal is told in its words", async () => {
    hands.measure = () => ({ ok: false, trouble: "not-decoded" });
    vi.stubGlobal("fetch", async () =>
      Response.json(
        { type: "urn:x", code: "too-large", status: 413, title: "Too large", detail: "A request may be at most 8 GB." },
        { status: 413 },
      ),
    );
    const { queue, settled } = bench();
    queue.add([file("a.mp4")]);
    await settled();
    expect(queue.items()[0]).toMatchObject({ stage: "failed", trouble: "A request may be at most 8 GB." });
  });
});
