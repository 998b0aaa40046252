import { afterEach, describe, expect, it, vi } from "vitest";
import { askAndKeep, forgetKept, KEPT, KEPT_IN } from "./keptAnswers.ts";

const HERE = "http://127.0.0.1:5199";

afterEach(() => vi.unstubAllGlobals());

/** A browser whose server answers `status`, with or without a service worker in control: what it keeps by the end. */
function browser({ status = 200, controlled = false, room = true } = {}) {
  const kept = new Map<string, Promise<string>>();
  const put = (url: string, reply: Response) =>
    room ? Promise.resolve(void kept.set(url, reply.text())) : Promise.reject(new DOMException("no room", "QuotaExceededError"));
  vi.stubGlobal("fetch", () => Promise.resolve(new Response("the answer", { status })));
  vi.stubGlobal("navigator", { serviceWorker: { controller: controlled ? {} : null } });
  vi.stubGlobal("caches", { open: () => Promise.resolve({ put }) });
  return kept;
}

describe("answers a page keeps by itself", () => {
  it("are the good ones of questions, whole, and the asker has them too", async () => {
    const kept = browser();
    const reply = await askAndKeep(new Request(`${HERE}/api/kit`));
    await expect(reply.text()).resolves.toBe("the answer");
    expect([...kept.keys()]).toEqual([`${HERE}/api/kit`]);
    await expect(kept.get(`${HERE}/api/kit`)).resolves.toBe("the answer");
  });

  it("are none once a service worker keeps them, none of what was refused, and none of what was sent", async () => {
    const ask = async (request: Request, how: Parameters<typeof browser>[0]): Promise<number> => {
      const kept = browser(how);
      await (await askAndKeep(request)).text();
      return kept.size;
    };
    await expect(ask(new Request(`${HERE}/api/kit`), { controlled: true })).resolves.toBe(0);
    await expect(ask(new Request(`${HERE}/api/kit`), { status: 401 })).resolves.toBe(0);
    await expect(ask(new Request(`${HERE}/api/marks`, { method: "POST", body: "{}" }), {})).resolves.toBe(0);
  });

  it("leave the asker alone where there is no room and where the browser keeps nothing", async () => {
    browser({ room: false });
    await expect(askAndKeep(new Request(`${HERE}/api/kit`)).then((r) => r.text())).resolves.toBe("the answer");
    browser();
    Reflect.deleteProperty(globalThis, "caches");
    await expect(askAndKeep(new Request(`${HERE}/api/kit`)).then((r) => r.text())).resolves.toBe("the answer");
  });

  it("go from a device that is not let in", () => {
    const gone: string[] = [];
    vi.stubGlobal("caches", { delete: (name: string) => Promise.resolve(gone.push(name) > 0) });
    forgetKept();
    expect(gone).toEqual([KEPT_IN]);
    Reflect.deleteProperty(globalThis, "caches");
    forgetKept();
    expect(gone).toEqual([KEPT_IN]);
  });

  it("are of the application's questions but time, pulse, stream, archives, log-ins and small copies", () => {
    const asked = (at: string): boolean => KEPT.test(`${HERE}${at}`);
    expect(
      ["/api/kit", "/api/runs?latest=12", "/api/sessions/1", "/api/sessions", "/api/timers", "/api/walks/packs/a"].filter(asked),
    ).toHaveLength(6);
    const changing = ["time", "pulse", "pulse?runs=1", "stream", "stream?since=1", "archive/run", "session", "pair", "pairing/1"];
    expect([...changing, "walks/proxies/a", "walks/decode/a"].filter((at) => asked(`/api/${at}`))).toEqual([]);
    expect(["/kit", "/assets/api/kit.js"].filter(asked)).toEqual([]);
  });
});
