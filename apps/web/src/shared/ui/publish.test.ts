// @vitest-environment jsdom
import { afterEach, describe, expect, it } from "vitest";
import { composeSvg, HIGH, WIDE } from "./publish.ts";

afterEach(() => document.documentElement.removeAttribute("style"));

function drawing(inner: string, width: number, height: number): SVGSVGElement {
  const holder = document.createElement("div");
  holder.innerHTML = `<svg width="${width}" height="${height}">${inner}</svg>`;
  return holder.firstElementChild as SVGSVGElement;
}

describe("a published picture", () => {
  const caption = { title: "Body <one> & two", lines: ["Room, 21 °C", "6 runs on 2 days"] };
  const parse = (svg: string): Document => new DOMParser().parseFromString(svg, "image/svg+xml");

  it("is one svg of 1920 by 1080 with title, lines and the drawings one under the other, scaled to fit", () => {
    const doc = parse(
      composeSvg([drawing("<path d='M0 0'/>", 700, 200), drawing("<text class='num underline'>0:30</text>", 700, 30)], caption),
    );
    expect(doc.querySelector("parsererror")).toBeNull();
    expect(doc.documentElement.getAttribute("viewBox")).toBe(`0 0 ${WIDE} ${HIGH}`);
    const texts = [...doc.querySelectorAll("text")].map((t) => t.textContent);
    expect(texts).toEqual(["Body <one> & two", "Room, 21 °C", "6 runs on 2 days", "0:30"]);
    const moves = [...doc.querySelectorAll("g")].map((g) => g.getAttribute("transform"));
    expect(moves).toContain("translate(0 200)");
    const scale = Number(/scale\(([\d.]+)\)/.exec(moves[0] ?? "")?.[1]);
    expect(scale * 700).toBeLessThanOrEqual(WIDE);
    expect(scale * 230).toBeLessThanOrEqual(HIGH);
    expect(doc.querySelector("text.num")).not.toBeNull();
  });
  it("wraps what is long, and makes a long title smaller, so that nothing leaves the picture", () => {
    const long = { title: "T".repeat(120), lines: ["word ".repeat(60).trim()] };
    const texts = [...parse(composeSvg([drawing("<path d='M0 0'/>", 700, 200)], long)).querySelectorAll("text")];
    expect(texts.length).toBeGreaterThan(3);
    for (const t of texts) expect((t.textContent ?? "").length * Number(t.getAttribute("font-size")) * 0.54).toBeLessThan(WIDE);
    expect(
      texts
        .slice(1)
        .map((t) => t.textContent)
        .join(" "),
    ).toBe(long.lines[0]);
  });
  it("stands alone: no variable, no link, no class of the page", () => {
    document.documentElement.style.setProperty("--ink", "#123456");
    const svg = composeSvg([drawing('<a href="/runs/1"><path class="block" style="fill: var(--ink)"/></a>', 10, 10)], caption);
    expect(svg).toContain("#123456");
    expect(svg).not.toMatch(/var\(|<a |href=|class="block"/);
  });
  it("of nothing is refused by name", () => expect(() => composeSvg([], caption)).toThrow(/drawings must hold at least one svg/));
});
