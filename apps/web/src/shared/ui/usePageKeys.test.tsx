// @vitest-environment jsdom
import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import { afterEach, expect, it, vi } from "vitest";
import { usePageKeys } from "./usePageKeys.ts";

afterEach(cleanup);

it("hears a key right after a click on a button, but never takes a field's keys nor the press of a button", () => {
  const [left, enter] = [vi.fn(), vi.fn()];
  function Page() {
    usePageKeys({ ArrowLeft: left, Enter: enter });
    return (
      <>
        <button type="button">first</button>
        <input aria-label="name" />
        <input type="checkbox" aria-label="tick" />
      </>
    );
  }
  render(<Page />);
  const button = screen.getByRole("button");
  fireEvent.keyDown(button, { key: "ArrowLeft" });
  fireEvent.keyDown(screen.getByLabelText("tick"), { key: "ArrowLeft" });
  expect(left).toHaveBeenCalledTimes(2);
  fireEvent.keyDown(button, { key: "Enter" });
  fireEvent.keyDown(screen.getByLabelText("name"), { key: "ArrowLeft" });
  fireEvent.keyDown(screen.getByLabelText("name"), { key: "Enter" });
  expect(left).toHaveBeenCalledTimes(2);
  expect(enter).not.toHaveBeenCalled();
  fireEvent.keyDown(document.body, { key: "Enter" });
  expect(enter).toHaveBeenCalledTimes(1);
});
