// The way of a take sideways and up and down, the whole clip with where it is cut, and parts of it that are takes of their own.

import type { WalkClip, WalkPlan, WalkTake } from "@keep-rolling/core/walks";
import { useState } from "react";
import { v7 as uuidv7 } from "uuid";
import type { Pressed } from "../../record/sessions.ts";
import { pressAll } from "../../record/sessions.ts";
import { linear } from "../../rulers/axis/linear.ts";
import { Wake } from "../../rulers/sway/Wake.tsx";
import { Button } from "../../shared/ui/parts.tsx";
import { useWidth } from "../../shared/ui/useWidth.ts";
import type { TakeRead } from "../../workers/jobs/readTakes.ts";
import type { SeenWalk } from "./useWalk.ts";
import { cutWords } from "./words.ts";

interface WaysProps {
  id: string;
  seen: SeenWalk;
  plan: WalkPlan;
  take: WalkTake;
  clip: WalkClip;
  read: TakeRead;
}

/** Both ways of the picture, and the whole clip with where it is cut. */
export function Ways({ read, clip, take, id, seen, plan }: WaysProps) {
  const [box, width] = useWidth<HTMLDivElement>(900);
  const half = Math.max(0.002, ...[...read.wake.x, ...read.wake.y].map(Math.abs));
  const seconds = read.wake.timesSec.at(-1) ?? 1;
  return (
    <div ref={box}>
      {(["x", "y"] as const).map((along) => (
        <div key={along} className="hairline py-2">
          <p className="text-sm text-soft">
            {along === "x" ? `sideways, ${seconds.toFixed(1)} s from the middle` : "up and down, same scale"}
          </p>
          <Wake
            wake={read.wake}
            along={along}
            halfFrac={half}
            width={width}
            height={90}
            seconds={seconds}
            label={along === "x" ? "Sideways path" : "Path up and down"}
          />
        </div>
      ))}
      <Trim key={`${read.inFrame} ${read.outFrame}`} {...{ read, clip, take, id, seen, plan, width }} />
    </div>
  );
}

function Trim({ read, clip, take, id, seen, plan, width }: WaysProps & { width: number }) {
  const [ends, setEnds] = useState({ in: read.inFrame, out: read.outFrame });
  const x = linear([0, read.frames], [0, width]);
  const half = Math.max(0.004, ...read.whole.x.map(Math.abs));
  const changed = ends.in !== read.inFrame || ends.out !== read.outFrame;
  const seconds = read.whole.timesSec.at(-1) ?? 1;
  const { sha256 } = clip;
  const msOf = (frame: number): number => Math.round((1000 * frame) / read.measures.fps);
  const keep = (): void =>
    void (clip.part === null
      ? seen.press("trim", { sha256, inFrame: ends.in, outFrame: ends.out })
      : seen.press("segment", { sha256, takeId: take.id, fromMs: msOf(ends.in), toMs: msOf(ends.out) }));
  // A take that was made for this part goes with it; one that was walked by the card stays.
  const alone = !take.timed && take.clips.length === 1;
  const giveBack = (): void =>
    void pressAll(id, seen.clock, [
      ["segment", { sha256, takeId: take.id, fromMs: null, toMs: null }],
      ...(alone ? [["undo", {}, take.id] as const] : []),
    ]);
  return (
    <div className="hairline py-2">
      <p className="text-sm text-soft">
        the whole clip, {seconds.toFixed(1)} s: counted from frame {ends.in} to {ends.out - 1} of {read.frames}
      </p>
      <div className="relative">
        <Wake
          wake={read.whole}
          along="x"
          halfFrac={half}
          width={width}
          height={48}
          seconds={seconds}
          label="Sideways path of the whole clip"
        />
        <svg width={width} height={48} className="pointer-events-none absolute inset-0" aria-hidden="true">
          <rect x={0} width={x(ends.in)} height={48} className="fill-ground opacity-70" />
          <rect x={x(ends.out)} width={Math.max(0, width - x(ends.out))} height={48} className="fill-ground opacity-70" />
          <line x1={x(ends.in)} x2={x(ends.in)} y1={0} y2={48} className="stroke-cool" strokeWidth={2} />
          <line x1={x(ends.out)} x2={x(ends.out)} y1={0} y2={48} className="stroke-cool" strokeWidth={2} />
        </svg>
      </div>
      <div className="mt-1 flex flex-wrap items-center gap-x-6 gap-y-2 text-sm">
        <label className="flex items-center gap-2">
          In{" "}
          <input
            type="range"
            className="accent-cool"
            min={0}
            max={ends.out - 2}
            value={ends.in}
            onChange={(e) => setEnds({ ...ends, in: Number(e.target.value) })}
          />
        </label>
        <label className="flex items-center gap-2">
          Out{" "}
          <input
            type="range"
            className="accent-cool"
            min={ends.in + 2}
            max={read.frames}
            value={ends.out}
            onChange={(e) => setEnds({ ...ends, out: Number(e.target.value) })}
          />
        </label>
        {changed && <Button onClick={keep}>Count only this part</Button>}
        {clip.part !== null && (
          <Button tone="quiet" onClick={giveBack}>
            No part of this clip after all
          </Button>
        )}
      </div>
      <Another {...{ id, seen, plan, take, clip, read, ends, msOf }} />
    </div>
  );
}

type AnotherProps = WaysProps & { ends: { in: number; out: number }; msOf: (frame: number) => number };

/** A setting was switched while the camera ran: the part between in and out is a take of another setup, and the longer rest stays this one's. */
function Another({ id, seen, plan, take, clip, read, ends, msOf }: AnotherProps) {
  const others = plan.setups.filter((s) => s.id !== take.setupId);
  const [setupId, setSetup] = useState(others[0]?.id ?? "");
  if (others.length === 0) return null;
  const rest = restOf(read, ends);
  const span = { fromMs: msOf(ends.in), toMs: msOf(ends.out) };
  const { sha256 } = clip;
  const cut = (kept: { in: number; out: number }): void => {
    const takeId = uuidv7();
    // A whole clip's take leaves out what is another's by itself; a part is cut shorter.
    const mine: Pressed[] =
      clip.part === null ? [] : [["segment", { sha256, takeId: take.id, fromMs: msOf(kept.in), toMs: msOf(kept.out) }]];
    void pressAll(id, seen.clock, [
      ["take", { setupId, moveId: take.moveId, unitId: take.unitId, untimed: true }, undefined, takeId],
      ["segment", { sha256, takeId, ...span }],
      ...mine,
    ]);
  };
  return (
    <details className="mt-1 text-sm">
      <summary className="cursor-pointer">A setting was switched while it ran</summary>
      <div className="mt-2 flex flex-wrap items-center gap-3">
        <label className="flex flex-wrap items-center gap-2">
          {`From ${cutWords(span.fromMs, span.toMs)} it is a take of `}
          <select value={setupId} onChange={(e) => setSetup(e.target.value)}>
            {others.map((s) => (
              <option key={s.id} value={s.id}>
                {s.name}
              </option>
            ))}
          </select>
        </label>
        <Button disabled={rest === null} onClick={() => rest !== null && cut(rest)}>
          Make that part a take of its own
        </Button>
        <span className="text-soft">
          {rest === null
            ? "Set In and Out to that part first: something must be left of this take."
            : `This take keeps ${cutWords(msOf(rest.in), msOf(rest.out))}.`}
        </span>
      </div>
    </details>
  );
}

/** The longer of what lies before and behind the part; null when less than a quarter of a second is left. */
function restOf(read: TakeRead, ends: { in: number; out: number }): { in: number; out: number } | null {
  const before = { in: read.inFrame, out: Math.min(ends.in, read.outFrame) };
  const behind = { in: Math.max(ends.out, read.inFrame), out: read.outFrame };
  const longer = before.out - before.in >= behind.out - behind.in ? before : behind;
  return longer.out - longer.in >= Math.max(8, read.measures.fps / 4) ? longer : null;
}
