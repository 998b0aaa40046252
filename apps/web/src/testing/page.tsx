// Test support: a page as the application shows it, with a server that answers from a table and keeps what was sent.

import type { Sent } from "./requests.ts";
import { configureApi } from "./requests.ts";
import { configure, render } from "@testing-library/react";
import type { ReactNode } from "react";
import { Provider } from "react-redux";
import { createMemoryRouter, RouterProvider } from "react-router";
import { createStore } from "../app/store.ts";
import { standInBrowser } from "./dom.ts";

// A busy machine is slow, not wrong.
configure({ asyncUtilTimeout: 60_000 });

/** `routes`: patterns and what stands there; `answers`: by method and path, a value or what to make of the body. */
export function showPage(
  routes: Record<string, ReactNode>,
  at: string,
  answers: Record<string, unknown>,
): { sent: Sent[]; where: () => string } {
  standInBrowser();
  const sent = configureApi(answers);
  const router = createMemoryRouter(
    Object.entries(routes).map(([path, element]) => ({ path, element })),
    { initialEntries: [at] },
  );
  render(
    <Provider store={createStore()}>
      <RouterProvider router={router} />
    </Provider>,
  );
  return { sent, where: () => router.state.location.pathname };
}
