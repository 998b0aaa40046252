// What all crops share: which spot, how large, and the magnifier over all of them at once.

import type { HoldPicture } from "@keep-rolling/core/holds";
import type { ReactNode } from "react";
import { useRef, useState } from "react";
import { useKeptState } from "../../../shared/drafts/useKeptState.ts";
import { SelectField } from "../../../shared/ui/fields.tsx";
import { usePageKeys } from "../../../shared/ui/usePageKeys.ts";
import { isSame, placeName } from "../pictures/spots.ts";
import type { Scale } from "./scale.ts";
import { PERCENTS, scaleFactor, scaleWords } from "./scale.ts";

export interface Look {
  cutOf: (picture: HoldPicture) => string | null;
  factorOf: (picture: HoldPicture) => number;
}

const SCALES: readonly (readonly [string, string])[] = [
  ...PERCENTS.map((p) => [String(p), `${p} %`] as const),
  ["print", "as printed"],
  ["screen", "fills a screen"],
];

export function Looking({ id, pictures, children }: { id: string; pictures: readonly HoldPicture[]; children: (look: Look) => ReactNode }) {
  const spots = pictures.flatMap((p) => p.cuts).filter((c, i, all) => all.findIndex((o) => isSame(o, c)) === i);
  const [seen, change] = useKeptState(`hold look ${id}`, { spot: 0, scale: "100", printCm: "30", screenPx: "3840" });
  const spot = spots[seen.spot] ?? spots[0];
  const dense = globalThis.devicePixelRatio;
  const scale = scaleOf(seen);
  const widest = Math.max(1, ...pictures.map((p) => p.widthPx));
  const look: Look = {
    cutOf: (p) => p.cuts.find((c) => spot !== undefined && isSame(c, spot))?.sha256 ?? null,
    // At one size of print or screen, pictures of fewer pixels are enlarged more.
    factorOf: (p) => scaleFactor(scale, p.widthPx, dense),
  };
  return (
    <>
      <div className="mb-2 flex flex-wrap items-end gap-x-4 gap-y-2">
        <SelectField
          label="Spot"
          value={String(seen.spot)}
          onChange={(e) => change((was) => ({ ...was, spot: Number(e.target.value) }))}
          options={spots.map((s, i) => [String(i), placeName(s)] as const)}
        />
        <SelectField
          label="Shown"
          value={seen.scale}
          onChange={(e) => change((was) => ({ ...was, scale: e.target.value }))}
          options={SCALES}
        />
        {seen.scale === "print" && (
          <Size label="Print, cm wide" value={seen.printCm} set={(printCm) => change((was) => ({ ...was, printCm }))} />
        )}
        {seen.scale === "screen" && (
          <Size label="Screen, pixels wide" value={seen.screenPx} set={(screenPx) => change((was) => ({ ...was, screenPx }))} />
        )}
        <p className="text-sm text-soft">{scaleWords(scale, widest, dense)}</p>
      </div>
      <Glass>{children(look)}</Glass>
    </>
  );
}

function scaleOf({ scale, printCm, screenPx }: { scale: string; printCm: string; screenPx: string }): Scale {
  const positive = (text: string, otherwise: number): number => (Number(text) > 0 ? Number(text) : otherwise);
  if (scale === "print") return { kind: "print", widthCm: positive(printCm, 30) };
  if (scale === "screen") return { kind: "screen", pixelsWide: positive(screenPx, 3840) };
  return { kind: "percent", percent: PERCENTS.find((p) => String(p) === scale) ?? 100 };
}

const Size = ({ label, value, set }: { label: string; value: string; set: (text: string) => void }) => (
  <label className="text-sm">
    <span className="block font-semibold">{label}</span>
    <input inputMode="numeric" className="mt-1 w-24" value={value} onChange={(e) => set(e.target.value)} />
  </label>
);

const STRONG = 3;
/** By a key, in page pixels. */
const NUDGE = 6;
/** M: the same place of every crop, three times as large and in its middle. It follows the pointer, or the keys I J K L. */
function Glass({ children }: { children: ReactNode }) {
  const box = useRef<HTMLDivElement>(null);
  const place = useRef({ x: 0, y: 0 });
  const [on, setOn] = useState(false);
  const look = (x: number, y: number): void => {
    place.current = { x, y };
    box.current?.style.setProperty("--glass-x", String(x));
    box.current?.style.setProperty("--glass-y", String(y));
  };
  const turn = (to: boolean): void => {
    look(0, 0);
    setOn(to);
  };
  const follow = (event: React.PointerEvent): void => {
    const tile = event.target instanceof Element ? event.target.closest("[data-factor]") : null;
    const factor = Number(tile?.getAttribute("data-factor"));
    if (!on || tile === null || !(factor > 0)) return;
    const area = tile.getBoundingClientRect();
    look((event.clientX - area.left - area.width / 2) / factor, (event.clientY - area.top - area.height / 2) / factor);
  };
  const nudge = (dx: number, dy: number): void => {
    const factor = Number(box.current?.querySelector("[data-factor]")?.getAttribute("data-factor"));
    if (on && factor > 0) look(place.current.x + (NUDGE * dx) / factor, place.current.y + (NUDGE * dy) / factor);
  };
  usePageKeys({ m: () => turn(!on), j: () => nudge(-1, 0), l: () => nudge(1, 0), i: () => nudge(0, -1), k: () => nudge(0, 1) });
  return (
    <div ref={box} onPointerMove={follow} style={{ "--glass": on ? STRONG : 1 } as React.CSSProperties}>
      {children}
      <p className="mt-2 text-sm text-soft">
        <label>
          <input type="checkbox" checked={on} onChange={(e) => turn(e.target.checked)} /> Magnifier over all crops (M): point at the place,
          or move it by I J K L
        </label>
      </p>
    </div>
  );
}
