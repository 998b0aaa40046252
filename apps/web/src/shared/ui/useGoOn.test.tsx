// @vitest-environment jsdom
// An answer that comes late goes on only for somebody who is still there.

import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import type { ReactNode } from "react";
import { createMemoryRouter, Link, RouterProvider } from "react-router";
import { afterEach, expect, it } from "vitest";
import { useGoOn } from "./useGoOn.ts";

afterEach(cleanup);

function later<T>() {
  let resolve: (value: T) => void = () => undefined;
  const promise = new Promise<T>((done) => (resolve = done));
  return { promise, resolve };
}

/** A form whose answer and a page whose code come when the test says so. */
function open() {
  const answer = later<undefined>();
  const loaded = later<{ element: ReactNode }>();
  function Form() {
    const goOn = useGoOn();
    return (
      <>
        <button type="button" onClick={() => void answer.promise.then(() => goOn("/kit"))}>
          Save
        </button>
        <Link to="/bench">Bench</Link>
      </>
    );
  }
  const router = createMemoryRouter([
    { path: "/", element: <Form /> },
    { path: "/kit", element: <h1>Kit</h1> },
    { path: "/bench", lazy: () => loaded.promise },
  ]);
  render(<RouterProvider router={router} />);
  return { answer: () => answer.resolve(undefined), load: () => loaded.resolve({ element: <h1>Today</h1> }) };
}

it("goes on when the answer comes", async () => {
  const { answer } = open();
  fireEvent.click(screen.getByText("Save"));
  answer();
  expect((await screen.findByRole("heading")).textContent).toBe("Kit");
});
it("does not fetch back who is on the way to another page", async () => {
  const { answer, load } = open();
  fireEvent.click(screen.getByText("Save"));
  fireEvent.click(screen.getByText("Bench"));
  await new Promise((done) => setTimeout(done, 20));
  answer();
  await new Promise((done) => setTimeout(done, 20));
  load();
  expect((await screen.findByRole("heading")).textContent).toBe("Today");
});
it("does not fetch back who left in the same moment, before the page was drawn again", async () => {
  const { answer, load } = open();
  fireEvent.click(screen.getByText("Save"));
  // Pressed without the test library's waiting for React: the router knows, the page does not yet.
  screen.getByText("Bench").click();
  answer();
  await new Promise((done) => setTimeout(done, 20));
  load();
  expect((await screen.findByRole("heading")).textContent).toBe("Today");
});
