// What was metered once, and how far sensitivity, aperture and filters can go.

import { SelectField, TextField } from "../../shared/ui/fields.tsx";
import type { LightDraft } from "./lightDraft.ts";

export function LightFields({ light, set }: { light: LightDraft; set: (more: Partial<LightDraft>) => void }) {
  const field = (key: Exclude<keyof LightDraft, "brightness">, label: string, hint?: string) => (
    <TextField label={label} hint={hint} value={light[key]} onChange={(e) => set({ [key]: e.target.value })} />
  );
  return (
    <details className="mt-3" open={light.time !== ""}>
      <summary>What to set at each time: say what is metered once</summary>
      <div className="mt-2 grid gap-x-6 gap-y-3 sm:grid-cols-2 lg:grid-cols-4">
        {field("time", "Metered time", "as on the dial, such as 1/60; empty: nothing is worked out")}
        {field("iso", "at ISO")}
        {field("fNumber", "at aperture", "f-number")}
        <SelectField
          label="Brightness"
          value={light.brightness}
          onChange={(e) => set({ brightness: e.target.value === "fixed" ? "fixed" : "equal" })}
          options={[
            ["equal", "kept equal"],
            ["fixed", "ISO and aperture stay (in the dark)"],
          ]}
        />
        {light.brightness === "equal" && (
          <>
            {field("isoLeast", "Lowest ISO")}
            {field("isoMost", "Highest ISO to be used")}
            {field("fWidest", "Widest aperture", "empty: the one metered")}
            {field("fNarrowest", "Narrowest aperture")}
            {field("filters", "Filters in the bag", "stops of each, such as 3, 6")}
          </>
        )}
      </div>
    </details>
  );
}
