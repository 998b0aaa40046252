import { describe, expect, it } from "vitest";
import { createHub } from "../src/live/hub.ts";

const large = { type: "changed", what: "runs", ids: ["x".repeat(500_000)] } as never;

describe("the hub", () => {
  it("remembers within its bytes, and says when a cursor is too old", () => {
    const hub = createHub();
    const first = hub.cursor;
    for (let i = 0; i < 200; i++) hub.publish(large);
    expect(hub.since(first)).toBeNull();
    const texts: string[] = [];
    const leave = hub.subscribe(({ text }) => void texts.push(text));
    const before = hub.cursor;
    hub.publish(large);
    leave();
    hub.publish(large);
    expect(texts).toHaveLength(1);
    expect(hub.since(before)?.map((s) => s.text)).toEqual([texts[0], texts[0]]);
    // About 16 MB of half-megabyte messages, however many were published.
    let kept = 0;
    for (let back = 1; back <= 200; back++) {
      const [epoch = "", n = ""] = hub.cursor.split(":");
      if (hub.since(`${epoch}:${Number(n) - back}`) !== null) kept = back;
    }
    expect(kept).toBeGreaterThan(20);
    expect(kept).toBeLessThanOrEqual(32);
  });
});
