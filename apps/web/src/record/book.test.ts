import type { StoredMark } from "@keep-rolling/contract/marks";
import { describe, expect, it } from "vitest";
import { mark } from "../testing/marks.ts";
import { createBook } from "./book.ts";

const at = (seq: number): StoredMark => ({ seq, receivedAtMs: 0, mark: mark("note", seq, { text: String(seq) }) });
const upTo = (n: number) => ({ id: "r", marks: Array.from({ length: n }, (_, i) => at(i + 1)), gauge: [], told: [] });

describe("the book of marks", () => {
  it("grows by what follows, once, and keeps the array of a run that did not change", () => {
    const book = createBook();
    const leaf = book.read(upTo(2));
    expect(book.append("r", [at(2)])).toBe(leaf);
    expect(book.append("r", [at(2), at(3)])?.marks.map((m) => m.seq)).toEqual([1, 2, 3]);
    const marks = book.get("r")?.marks;
    expect(book.read(upTo(3)).marks).toBe(marks);
  });
  it("forgets a run with a hole, so that it is read again, and never goes back", () => {
    const book = createBook();
    book.read(upTo(2));
    expect(book.append("r", [at(4)])).toBeUndefined();
    expect(book.get("r")).toBeUndefined();
    book.read(upTo(5));
    expect(book.read(upTo(3)).lastSeq).toBe(5);
    expect(book.append("unknown", [at(1)])).toBeUndefined();
  });
  it("keeps the gauge a device adds", () => {
    const book = createBook();
    book.read(upTo(1));
    expect(book.gauge("r", [{ atMs: 5, value: 3 }])?.gauge).toEqual([{ atMs: 5, value: 3 }]);
    expect(book.gauge("r", [])).toBe(book.get("r"));
  });
  it("keeps the warnings a device tells, each once", () => {
    const book = createBook();
    book.read(upTo(1));
    const event = { id: "e", deviceId: "d", atMs: 5, kind: "warning", body: { phase: "shown" } };
    expect(book.told("r", [event, { ...event, id: "f", kind: "shutdown" }])?.told).toEqual([event]);
    expect(book.told("r", [event])).toBe(book.get("r"));
    expect(book.told("unknown", [event])).toBeUndefined();
  });
});
