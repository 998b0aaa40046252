// @vitest-environment jsdom
// What the camera did not say is said here: one by one, all at once, or by the plan's order; and what does not fit is counted only when asked.

import type { HoldPicture, HoldPlan, PictureFields } from "@keep-rolling/core/holds";
import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import { afterEach, describe, expect, it } from "vitest";
import { PictureList } from "./PictureList.tsx";

const PLAN = {
  spans: { off: { fastest: -6, slowest: -6 }, on: { fastest: -5, slowest: -5 } },
  stepStops: 1,
  shotsEach: 2,
  order: "balanced",
  seed: 1,
} as HoldPlan;
const picture = (n: number, x: number, more: Partial<HoldPicture> = {}): HoldPicture =>
  ({ id: `f${n}`, name: `P${n}.JPG`, x, setting: null, settingBy: null, misfit: null, counts: true, ...more }) as HoldPicture;

function shown(pictures: readonly HoldPicture[]): Map<string, PictureFields> {
  const said = new Map<string, PictureFields>();
  render(
    <PictureList
      plan={PLAN}
      pictures={pictures}
      correct={(those, fields) =>
        those.forEach((p, i) => {
          const body = fields(p, i);
          if (body !== null) said.set(p.id, body);
        })
      }
    />,
  );
  return said;
}
const press = (name: string): void => void fireEvent.click(screen.getByRole("button", { name }));
afterEach(cleanup);

describe("the list of pictures", () => {
  const four = [picture(1, -6), picture(2, -6), picture(3, -5), picture(4, -5)];
  it("takes the plan's order where it was shot to the end", () => {
    const said = shown(four);
    press("in the plan’s order");
    expect([...said.values()].map((f) => f.setting)).toEqual(["off", "off", "on", "on"]);
    expect([...said.values()].every((f) => f.settingBy === "order")).toBe(true);
  });
  it("says one setting of all that are silent, and leaves what is said as it is", () => {
    const said = shown([...four.slice(0, 3), picture(4, -5, { setting: "on", settingBy: "picture" })]);
    press("off");
    expect([...said.keys()]).toEqual(["f1", "f2", "f3"]);
    expect(said.get("f1")).toEqual({ setting: "off", settingBy: "hand" });
  });
  it("corrects one, and takes back what was said of it", () => {
    const said = shown([picture(1, -6, { setting: "off", settingBy: "card" })]);
    expect(screen.getByText("by the card")).toBeDefined();
    const field = screen.getByLabelText("Stabiliser of P1.JPG");
    fireEvent.change(field, { target: { value: "on" } });
    expect(said.get("f1")).toEqual({ setting: "on", settingBy: "hand" });
    fireEvent.change(field, { target: { value: "" } });
    expect(said.get("f1")?.setting).toBeNull();
  });
  it("names what does not fit, and counts it only when asked", () => {
    const said = shown([
      picture(1, -6),
      picture(2, -9, { misfit: "unplanned-time", counts: false }),
      picture(3, -6, { misfit: "bad-try", counts: false }),
    ]);
    expect(screen.getByText("1 not counted: not one of the planned times.")).toBeDefined();
    expect(screen.getByText("1 not counted: a bad try, says the card.")).toBeDefined();
    fireEvent.click(screen.getAllByRole("button", { name: "Count them all the same" })[0] as HTMLElement);
    expect([...said]).toEqual([["f2", { counted: true }]]);
    fireEvent.click(screen.getByLabelText("P1.JPG counts"));
    expect(said.get("f1")).toEqual({ counted: false });
  });
});
