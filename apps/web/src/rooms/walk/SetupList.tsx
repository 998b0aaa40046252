// The setups of a plan: what is on where, one a row. What cannot exist on this body with this lens says so and is not added.

import type { Kit } from "@keep-rolling/contract/kit";
import type { WalkSetup } from "@keep-rolling/core/walks";
import { AFTERWARDS, ALL_OFF, ELECTRONIC_MODES, impossibleBecause, SENSOR_MODES, setupWords, SUPPORTS } from "@keep-rolling/core/walks";
import { useState } from "react";
import { v7 as uuidv7 } from "uuid";
import { SelectField, TextField, wordsOf } from "../../shared/ui/fields.tsx";
import { Button } from "../../shared/ui/parts.tsx";
import type { PlanDraft } from "./planDraft.ts";
import { lensOf, shutterSecOf, traitsOf } from "./planDraft.ts";

interface Props {
  kit: Kit;
  d: PlanDraft;
  change: (next: (was: PlanDraft) => PlanDraft) => void;
}

export function SetupList({ kit, d, change }: Props) {
  const because = (s: Omit<WalkSetup, "id" | "name">): string => impossibleBecause(traitsOf(kit, d.unitId), lensOf(kit, d.lensId), s);
  const without = (id: string): void =>
    change((was) => ({ ...was, setups: was.setups.filter((s) => s.id !== id), controlId: was.controlId === id ? "" : was.controlId }));
  return (
    <>
      {d.setups.length === 0 && <p className="text-soft">None yet.</p>}
      <ul className="mt-2 max-w-3xl">
        {d.setups.map((s) => (
          <li key={s.id} className="hairline flex flex-wrap items-baseline gap-x-4 gap-y-1 py-1.5">
            <label className="flex items-center gap-1.5 text-sm text-soft">
              <input
                type="radio"
                name="control"
                checked={d.controlId === s.id}
                onChange={() => change((was) => ({ ...was, controlId: s.id }))}
              />
              control
            </label>
            <span className="min-w-0 flex-1 font-semibold">{s.name}</span>
            {because(s) !== "" && <span className="text-sm text-alert">cannot exist: {because(s)}</span>}
            <Button tone="quiet" onClick={() => without(s.id)} aria-label={`Take off ${s.name}`}>
              Take off
            </Button>
          </li>
        ))}
      </ul>
      <AddSetup
        because={because}
        add={(s) => change((was) => ({ ...was, setups: [...was.setups, s] }))}
        taken={d.setups.map((s) => s.name)}
      />
    </>
  );
}

interface AddProps {
  because: (s: Omit<WalkSetup, "id" | "name">) => string;
  add: (s: WalkSetup) => void;
  taken: readonly string[];
}

function AddSetup({ because, add, taken }: AddProps) {
  const [parts, setParts] = useState<Omit<WalkSetup, "id" | "name">>(ALL_OFF);
  const [shutter, setShutter] = useState("");
  const words = setupWords(parts);
  const why = because(parts);
  const known = taken.includes(words) || (words === "all off" && taken.includes("control: all off"));
  return (
    <fieldset className="mt-3 grid items-end gap-x-5 gap-y-3 sm:grid-cols-3 lg:grid-cols-6">
      <legend className="font-semibold">Another setup</legend>
      <label className="flex items-center gap-2 pb-2">
        <input type="checkbox" checked={parts.lens} onChange={(e) => setParts({ ...parts, lens: e.target.checked })} /> Lens
      </label>
      <label className="flex items-center gap-2 pb-2">
        <input type="checkbox" checked={parts.horizon} onChange={(e) => setParts({ ...parts, horizon: e.target.checked })} /> Horizon
        levelling
      </label>
      <SelectField
        label="Sensor"
        value={parts.sensor}
        options={wordsOf(SENSOR_MODES)}
        onChange={(e) => setParts({ ...parts, sensor: e.target.value as WalkSetup["sensor"] })}
      />
      <SelectField
        label="Electronic"
        value={parts.electronic}
        options={wordsOf(ELECTRONIC_MODES)}
        onChange={(e) => setParts({ ...parts, electronic: e.target.value as WalkSetup["electronic"] })}
      />
      <SelectField
        label="Held by"
        value={parts.support}
        options={wordsOf(SUPPORTS)}
        onChange={(e) => setParts({ ...parts, support: e.target.value as WalkSetup["support"] })}
      />
      <SelectField
        label="Corrected afterwards"
        value={parts.afterwards}
        options={wordsOf(AFTERWARDS)}
        onChange={(e) => setParts({ ...parts, afterwards: e.target.value as WalkSetup["afterwards"] })}
      />
      <TextField
        label="Its own shutter, as 1/50"
        value={shutter}
        maxLength={20}
        error={shutter.trim() !== "" && shutterSecOf(shutter) === null ? "As 1/50, or empty." : undefined}
        onChange={(e) => {
          setShutter(e.target.value);
          setParts({ ...parts, shutterSec: shutterSecOf(e.target.value) ?? undefined });
        }}
      />
      <SelectField
        label="Its own sharpening"
        value={parts.sharpening ?? ""}
        options={[
          ["", "as locked"],
          ["off", "off"],
          ["on", "on"],
        ]}
        onChange={(e) => setParts({ ...parts, sharpening: e.target.value === "" ? undefined : (e.target.value as "off" | "on") })}
      />
      {parts.afterwards !== "none" && (
        <TextField
          label="Its crop and settings"
          value={parts.note}
          maxLength={500}
          onChange={(e) => setParts({ ...parts, note: e.target.value })}
        />
      )}
      <div className="col-span-full flex flex-wrap items-center gap-3">
        <Button disabled={why !== "" || known} onClick={() => add({ id: uuidv7(), name: words, ...parts })}>
          Add {words}
        </Button>
        {why !== "" && <span className="text-sm text-alert">Cannot exist: {why}.</span>}
        {known && <span className="text-sm text-soft">Already on the list.</span>}
      </div>
    </fieldset>
  );
}
