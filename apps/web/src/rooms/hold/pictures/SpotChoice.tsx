// Another spot of every picture: pointed at on one of them, cut from the originals that are at hand.

import type { HoldPicture } from "@keep-rolling/core/holds";
import { useState } from "react";
import { useKeptState } from "../../../shared/drafts/useKeptState.ts";
import { usePictureUrl } from "../../../shared/photos/usePictureUrl.ts";
import { Button } from "../../../shared/ui/parts.tsx";
import { cutWords } from "./pictureWords.ts";
import type { PictureQueue } from "./queue.ts";
import { isSame, placeName } from "./spots.ts";

const STEP = 0.02;

export function SpotChoice({ id, pictures, queue }: { id: string; pictures: readonly HoldPicture[]; queue: PictureQueue }) {
  // The fastest shows best where there is something sharp.
  const shown = pictures.reduce<HoldPicture | undefined>((best, p) => (best === undefined || p.x < best.x ? p : best), undefined);
  const src = usePictureUrl(shown?.preview ?? null);
  const [spot, move] = useKeptState(`hold spot ${id}`, { u: 0.5, v: 0.5 });
  const [said, setSaid] = useState("");
  if (shown === undefined) return null;
  const cut = async (): Promise<void> => {
    setSaid("cutting …");
    const before = pictures.filter((p) => p.cuts.some((c) => isSame(c, spot))).length;
    const cutNow = await queue.cutAt(spot);
    setSaid(cutWords({ all: pictures.length, before, cutNow, atHand: queue.atHand() }));
  };
  const nudge = (event: React.KeyboardEvent): void => {
    const by = { ArrowLeft: [-STEP, 0], ArrowRight: [STEP, 0], ArrowUp: [0, -STEP], ArrowDown: [0, STEP] }[event.key];
    if (by === undefined) return;
    event.preventDefault();
    move((was) => ({ u: within(was.u + (by[0] ?? 0)), v: within(was.v + (by[1] ?? 0)) }));
  };
  const box = { width: (100 * shown.sidePx) / shown.widthPx, height: (100 * shown.sidePx) / shown.heightPx };
  return (
    <details className="mt-4">
      <summary>Which spot is looked at</summary>
      <p className="my-2 max-w-3xl text-soft">
        Centre and four corners are kept of every picture. Another spot, where something fine lies in focus, can be cut while the originals
        are at hand: point at it, or move it by the arrows.
      </p>
      <div className="flex flex-wrap items-start gap-4">
        <div
          role="slider"
          tabIndex={0}
          aria-label="Spot"
          aria-valuenow={Math.round(100 * spot.u)}
          aria-valuetext={placeName(spot)}
          onKeyDown={nudge}
          onPointerDown={(event) => {
            const area = event.currentTarget.getBoundingClientRect();
            const at = { u: within((event.clientX - area.left) / area.width), v: within((event.clientY - area.top) / area.height) };
            move(() => at);
          }}
          className="relative w-fit cursor-crosshair"
        >
          {src !== null && (
            <img src={src} alt={`Small copy of ${shown.name}`} draggable={false} className="max-h-72 max-w-full select-none" />
          )}
          <span
            aria-hidden="true"
            className="absolute -translate-x-1/2 -translate-y-1/2 border-2 border-here"
            style={{ left: `${100 * spot.u}%`, top: `${100 * spot.v}%`, width: `${box.width}%`, height: `${box.height}%` }}
          />
        </div>
        <p className="space-y-2">
          <span className="block">{placeName(spot)}</span>
          <Button onClick={() => void cut()}>Cut this spot of all pictures</Button>
          <span role="status" className="block text-soft">
            {said}
          </span>
        </p>
      </div>
    </details>
  );
}
const within = (share: number): number => Math.round(1000 * Math.min(1, Math.max(0, share))) / 1000;
