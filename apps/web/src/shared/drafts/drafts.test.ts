// @vitest-environment jsdom
import { afterEach, describe, expect, it, vi } from "vitest";
import { forgetDraft, forgetOldDrafts, keepDraft, KEPT_MS, readDraft } from "./drafts.ts";

afterEach(() => {
  vi.restoreAllMocks();
  localStorage.clear();
});

describe("a draft on this device", () => {
  it("is there until it is forgotten or old", () => {
    keepDraft("plan 1", { trials: 3 }, 1000);
    expect(readDraft("plan 1", 1000 + KEPT_MS)?.value).toEqual({ trials: 3 });
    expect(readDraft("plan 1", 1001 + KEPT_MS)).toBeNull();
    expect(readDraft("plan 1", 3000, 1000)).toBeNull();
    expect(readDraft("plan 2", 1000)).toBeNull();
    forgetDraft("plan 1");
    expect(readDraft("plan 1", 1000)).toBeNull();
  });
  it("of long ago goes, and nothing else of this device", () => {
    localStorage.setItem("keep-rolling-settings", "{}");
    keepDraft("old", 1, 0);
    keepDraft("new", 2, KEPT_MS);
    forgetOldDrafts(KEPT_MS + 1);
    expect(Object.keys(localStorage).sort()).toEqual(["keep-rolling-draft:new", "keep-rolling-settings"]);
  });
  it("that cannot be kept or read costs nothing else", () => {
    vi.spyOn(Storage.prototype, "setItem").mockImplementation(() => {
      throw new DOMException("no room", "QuotaExceededError");
    });
    expect(() => keepDraft("a", 1, 0)).not.toThrow();
    localStorage["keep-rolling-draft:b"] = "half a thi";
    expect(readDraft("b", 0)).toBeNull();
  });
});
