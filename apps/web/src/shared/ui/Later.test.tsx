// @vitest-environment jsdom
// What stands beside the job comes late, comes never, or throws: the page around it stays.

import { act, cleanup, render, screen } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { Later, laterPart } from "./Later.tsx";

beforeEach(() => {
  vi.useFakeTimers();
  vi.spyOn(console, "error").mockImplementation(() => undefined);
});
afterEach(() => {
  cleanup();
  vi.useRealTimers();
  vi.restoreAllMocks();
});

const away = () => Promise.reject(new TypeError("Failed to fetch dynamically imported module: /assets/part.js"));

describe("a part that comes later", () => {
  it("leaves the page as it is meanwhile, and comes", async () => {
    let server = false;
    const Part = laterPart(() => (server ? Promise.resolve(() => <p>what will end it</p>) : away()));
    render(
      <>
        <button type="button">Gap</button>
        <Later waiting={<p>the strip alone</p>}>
          <Part />
        </Later>
      </>,
    );
    await act(() => vi.advanceTimersByTimeAsync(1000));
    expect(screen.getByRole("button").textContent).toBe("Gap");
    expect(screen.getByText("the strip alone").tagName).toBe("P");
    server = true;
    await act(() => vi.advanceTimersByTimeAsync(2000));
    expect(screen.getByText("what will end it").tagName).toBe("P");
    expect(screen.queryByText("the strip alone")).toBeNull();
  });

  it("that throws is replaced by what says so, and takes nothing else away", () => {
    const Broken = (): never => {
      throw new Error("a curve without runs");
    };
    const show = (failed?: string) => (
      <>
        <button type="button">Gap</button>
        <Later waiting="the strip alone" failed={failed}>
          <Broken />
        </Later>
      </>
    );
    const { container, unmount } = render(show("not computed"));
    expect(container.textContent).toBe("Gapnot computed");
    unmount();
    expect(render(show()).container.textContent).toBe("Gapthe strip alone");
  });
});
