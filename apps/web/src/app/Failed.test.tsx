// @vitest-environment jsdom
// A page that throws, or cannot be loaded, keeps the shell and the line about saved marks, and says what failed.

import { cleanup, render, screen } from "@testing-library/react";
import { Provider } from "react-redux";
import { createMemoryRouter, RouterProvider } from "react-router";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { standInBrowser } from "../testing/dom.ts";
import { Failed, sentenceOfFailure } from "./Failed.tsx";
import { Shell } from "./Shell.tsx";
import { createStore } from "./store.ts";

beforeEach(() => {
  standInBrowser();
  vi.stubGlobal("fetch", async () => Response.json({}, { status: 503 }));
  vi.spyOn(console, "error").mockImplementation(() => undefined);
  vi.spyOn(console, "warn").mockImplementation(() => undefined);
});
afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
  vi.restoreAllMocks();
});

function Broken(): never {
  throw new Error("the strip has no start");
}

const show = (page: object) =>
  render(
    <Provider store={createStore()}>
      <RouterProvider
        router={createMemoryRouter([
          {
            element: <Shell />,
            children: [{ errorElement: <Failed />, children: [{ index: true, handle: { title: "Bench" }, ...page }] }],
          },
        ])}
      />
    </Provider>,
  );

describe("a page that fails", () => {
  it("keeps the rooms and the line about saved marks, and says what failed", async () => {
    show({ element: <Broken /> });
    expect((await screen.findByRole("alert")).textContent).toContain("the strip has no start");
    expect(screen.getByRole("heading", { level: 1 }).textContent).toBe("This page failed");
    expect(screen.getByRole("navigation", { name: "Rooms" }).textContent).toContain("Kit");
    expect(screen.getAllByRole("status").map((line) => line.textContent)).toContain("opening this device's store");
    expect(screen.queryByText(/Nothing at this address/)).toBeNull();
  });
  it("names the page in the tab", async () => {
    show({ element: <h1>Tern A · UHD 50</h1> });
    await screen.findByRole("heading", { level: 1 });
    await vi.waitFor(() => expect(document.title).toBe("Tern A · UHD 50 · Keep Rolling"));
  });
  it("words a missing part of the program in words of its own", () => {
    expect(sentenceOfFailure(new TypeError("Failed to fetch dynamically imported module: http://x/y.js"))).toContain("could not be loaded");
    expect(sentenceOfFailure(new Error(""))).toBe("It gave no reason.");
  });
});
