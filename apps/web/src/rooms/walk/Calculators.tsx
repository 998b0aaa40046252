// Small sums beside the plan: equivalent focal length with every crop, and what correction afterwards takes.

import type { WalkPlan } from "@keep-rolling/core/walks";
import { fieldLeft, hfovDegOf, PORTRAIT_FROM_LANDSCAPE, renderingHours, storageGb } from "@keep-rolling/core/walks";
import { useState } from "react";
import { TextField } from "../../shared/ui/fields.tsx";
import type { PlanDraft } from "./planDraft.ts";

const positive = (text: string): number | null => {
  const value = Number(text.replace(",", "."));
  return text.trim() !== "" && Number.isFinite(value) && value > 0 ? value : null;
};

export function Calculators({ d, plan }: { d: PlanDraft; plan: WalkPlan | null }) {
  const [typed, setTyped] = useState({ electronic: "1", portrait: false, takeSec: "", minutes: "", mbps: "" });
  const electronic = positive(typed.electronic);
  const delivery = typed.portrait ? PORTRAIT_FROM_LANDSCAPE : 1;
  const base = plan?.equivalentMm ?? null;
  const whole = base === null || electronic === null ? null : base * electronic * delivery;
  const takes = d.setups.length * d.moves.length * (positive(d.takesWanted) ?? 0);
  const corrected = d.setups.filter((s) => s.afterwards !== "none").length * d.moves.length * (positive(d.takesWanted) ?? 0);
  const [sec, minutes, mbps] = [positive(typed.takeSec), positive(typed.minutes), positive(typed.mbps)];
  const set = (more: Partial<typeof typed>): void => setTyped({ ...typed, ...more });
  return (
    <details className="mt-8 max-w-5xl">
      <summary className="cursor-pointer text-lg font-semibold">Sums</summary>
      <div className="mt-2 grid items-end gap-x-6 gap-y-3 sm:grid-cols-3 lg:grid-cols-5">
        <TextField
          label="Electronic crop"
          inputMode="decimal"
          value={typed.electronic}
          onChange={(e) => set({ electronic: e.target.value })}
          hint="1 for none"
        />
        <label className="flex items-center gap-2 pb-7">
          <input type="checkbox" checked={typed.portrait} onChange={(e) => set({ portrait: e.target.checked })} /> Portrait from landscape
        </label>
        <TextField
          label="Length of a take"
          unit="s"
          inputMode="decimal"
          value={typed.takeSec}
          onChange={(e) => set({ takeSec: e.target.value })}
        />
        <TextField
          label="Rendering, minutes a minute"
          inputMode="decimal"
          value={typed.minutes}
          onChange={(e) => set({ minutes: e.target.value })}
        />
        <TextField
          label="Corrected copies"
          unit="Mbit/s"
          inputMode="decimal"
          value={typed.mbps}
          onChange={(e) => set({ mbps: e.target.value })}
        />
      </div>
      <ul className="mt-2 text-soft">
        <li>
          {whole === null || electronic === null
            ? "Equivalent focal length: needs the body, the focal length and the crop."
            : `Equivalent ${whole.toFixed(0)} mm, ${hfovDegOf(whole).toFixed(0)}° wide; ${Math.floor(100 * fieldLeft(electronic, delivery))} % of the width is left of what the mode shows.`}
        </li>
        <li>{`${takes} takes in all, and the control once more${sec === null ? "" : `: ${Math.ceil((takes * sec) / 60)} minutes of walking at least`}.`}</li>
        {sec !== null && minutes !== null && (
          <li>{`Rendering the ${corrected} corrected ones: ${renderingHours(corrected * sec, minutes).toFixed(1)} h.`}</li>
        )}
        {sec !== null && mbps !== null && <li>{`Their copies: ${storageGb(corrected * sec, mbps, 1).toFixed(1)} GB.`}</li>}
      </ul>
    </details>
  );
}
