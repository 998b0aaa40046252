// In a rehearsal nobody shot: the pictures of the planned shots are made and go the way of any picture.

import type { HoldPlan } from "@keep-rolling/core/holds";
import { plannedVisits } from "@keep-rolling/core/holds";
import type { MadeHands } from "@keep-rolling/core/stand-ins/hands";
import type { MadeCamera } from "@keep-rolling/core/stand-ins/pictures";
import { MADE_CAMERAS } from "@keep-rolling/core/stand-ins/pictures";
import { useState } from "react";
import { SelectField } from "../../../shared/ui/fields.tsx";
import { Button } from "../../../shared/ui/parts.tsx";
import { clipPool } from "../../../workers/pool.ts";
import type { PictureQueue } from "./queue.ts";

const SEED = 71;
/** Hands as the rule of thumb presumes them, and a stabiliser of about three stops. */
function handsFor({ focalMm, equivalentMm, seed }: HoldPlan): MadeHands {
  const off = -Math.log2(equivalentMm ?? focalMm) - 0.3;
  return { seed: SEED + (seed % 1000), threshold: { off, on: off + 3.2 }, slope: 1.6, lapse: 0.02, badShare: 0 };
}

const HABITS: Readonly<Record<MadeCamera["time"], string>> = {
  label: "times as on its dial",
  exact: "times as it reckons them, like 1/15.6 s",
  apex: "times as logarithms only",
};

export function MakePictures({ id, plan, queue, has }: { id: string; plan: HoldPlan; queue: PictureQueue; has: number }) {
  const [state, setState] = useState<string | null>(null);
  const [camera, setCamera] = useState(MADE_CAMERAS[0]?.name ?? "");
  const making = state?.startsWith("Making") === true;
  const shots = plannedVisits(plan).length * plan.shotsEach;
  const make = async (): Promise<void> => {
    const hands = handsFor(plan);
    for (let n = 0; n < shots; n++) {
      setState(`Making ${n + 1} of ${shots} …`);
      const file = await clipPool.call("makePicture", { plan, hands, camera, n, begunMs: Date.UTC(2031, 5, 14, 9) }).catch(() => null);
      if (file === null) return setState("This browser could not make the picture.");
      queue.add([file]);
    }
    setState(null);
  };
  if (has >= shots) return null;
  return (
    <div className="mt-3 flex flex-wrap items-end gap-4" key={id}>
      <SelectField
        label="Written by"
        value={camera}
        disabled={making}
        onChange={(e) => setCamera(e.target.value)}
        options={MADE_CAMERAS.map((c) => [c.name, `${c.name}: ${HABITS[c.time]}`] as const)}
      />
      <Button disabled={making} onClick={() => void make()}>
        {`Make the pictures of these ${shots} shots`}
      </Button>
      <span role="status" className="text-soft">
        {state ?? "A rehearsal: made pictures stand in for those of a card. Off and on follow the card, or the plan’s order."}
      </span>
    </div>
  );
}
