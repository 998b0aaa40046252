// In too little light: raise the sensitivity, or hold longer and take several? By these hands, and by what the tester tolerates.

import { placeOfLabel } from "@keep-rolling/core/exposure";
import type { HoldPlan, HoldRead } from "@keep-rolling/core/holds";
import { isoOrSlower } from "@keep-rolling/core/holds";
import { useKeptState } from "../../../shared/drafts/useKeptState.ts";
import { TextField } from "../../../shared/ui/fields.tsx";
import { numberIn } from "../typed.ts";
import { isoWords } from "./readingWords.ts";

export function DimLight({ id, plan, read }: { id: string; plan: HoldPlan; read: HoldRead }) {
  const [d, change] = useKeptState(`hold dim light ${id}`, {
    time: "",
    iso: plan.metered === null ? "" : String(Math.round(plan.metered.iso)),
    most: "",
  });
  const [x, iso, isoTolerated] = [placeOfLabel(d.time, "third"), numberIn(d.iso), numberIn(d.most)];
  const told =
    x === null || iso === null || isoTolerated === null || iso <= 0 || isoTolerated <= 0
      ? []
      : read.settings.flatMap((s) =>
          s.claim.claim === null || s.claim.flags.includes("faster-than-any-shot")
            ? []
            : [`With it ${s.setting}: ${isoWords(isoOrSlower(s.claim.claim, s.ladder, s.share, { x, iso, isoTolerated }))}`],
        );
  return (
    <details className="mt-6">
      <summary>Too little light: higher ISO, or slower?</summary>
      <div className="mt-2 grid max-w-3xl gap-x-6 gap-y-3 sm:grid-cols-3">
        <TextField
          label="The light asks for"
          unit="s"
          placeholder="1/8"
          value={d.time}
          onChange={(e) => change((was) => ({ ...was, time: e.target.value }))}
        />
        <TextField label="at ISO" inputMode="numeric" value={d.iso} onChange={(e) => change((was) => ({ ...was, iso: e.target.value }))} />
        <TextField
          label="ISO you tolerate"
          inputMode="numeric"
          value={d.most}
          onChange={(e) => change((was) => ({ ...was, most: e.target.value }))}
        />
      </div>
      {told.map((w) => (
        <p key={w} className="mt-2">
          {w}
        </p>
      ))}
      {d.time !== "" && told.length === 0 && (
        <p className="mt-2 text-soft">
          {x === null ? "The time as on the dial, such as 1/8." : "Both ISO values are needed, and a dependable time."}
        </p>
      )}
    </details>
  );
}
