// Modes and conditions of a notebook that the kit does not know: each is mapped to one it knows, or made here.

import type { Kit } from "@keep-rolling/contract/kit";
import { AIRS, MODE_PRESETS, POWERS, presetMode, SCREENS, SUNS } from "@keep-rolling/core/kit";
import { useState } from "react";
import { v7 as uuidv7 } from "uuid";
import { sentenceOf } from "../../../shared/api/api.ts";
import { useKeptState } from "../../../shared/drafts/useKeptState.ts";
import { kitApi } from "../../../shared/kit/api.ts";
import { SelectField, TextField, wordsOf } from "../../../shared/ui/fields.tsx";
import { Button, Note } from "../../../shared/ui/parts.tsx";

export interface Stranger {
  what: "mode" | "condition";
  name: string;
  modelId: string | null;
}

export function Unknown({
  kit,
  strangers,
  onMap,
}: {
  kit: Kit;
  strangers: readonly Stranger[];
  onMap: (stranger: Stranger, name: string) => void;
}) {
  if (strangers.length === 0) return null;
  return (
    <section aria-labelledby="unknown" className="mt-5">
      <h2 id="unknown">Not in the kit yet</h2>
      <ul>
        {strangers.map((s) => (
          <li key={`${s.what} ${s.name} ${s.modelId ?? ""}`} className="hairline flex flex-wrap items-end gap-4 py-3">
            <p className="min-w-48">
              {s.what}: <strong>{s.name}</strong>
            </p>
            {s.what === "mode" ? <UnknownMode kit={kit} s={s} onMap={onMap} /> : <UnknownCondition kit={kit} s={s} onMap={onMap} />}
          </li>
        ))}
      </ul>
    </section>
  );
}

interface OneProps {
  kit: Kit;
  s: Stranger;
  onMap: (stranger: Stranger, name: string) => void;
}

function MapTo({ names, s, onMap }: { names: readonly string[]; s: Stranger; onMap: OneProps["onMap"] }) {
  if (names.length === 0) return null;
  return (
    <SelectField
      label={`${s.name} is`}
      value=""
      options={[["", "choose one"], ...wordsOf(names)]}
      onChange={(e) => e.target.value !== "" && onMap(s, e.target.value)}
    />
  );
}

function UnknownMode({ kit, s, onMap }: OneProps) {
  const [preset, setPreset] = useState("");
  const { make, trouble } = useMaking();
  const found = MODE_PRESETS.find((p) => p.name === preset);
  return (
    <>
      <MapTo names={kit.modes.filter((m) => m.modelId === s.modelId && !m.archived).map((m) => m.name)} s={s} onMap={onMap} />
      <SelectField
        label="or a new mode like"
        value={preset}
        options={[["", "choose one"], ...wordsOf(MODE_PRESETS.map((p) => p.name))]}
        onChange={(e) => setPreset(e.target.value)}
      />
      <Button
        disabled={found === undefined || s.modelId === null}
        onClick={() => found !== undefined && void make("modes", { ...presetMode(found), name: s.name, modelId: s.modelId ?? "" })}
      >
        Make it
      </Button>
      {trouble !== null && <Note tone="alert">{trouble}</Note>}
    </>
  );
}

function UnknownCondition({ kit, s, onMap }: OneProps) {
  const [c, keep, forget] = useKeptState(`new condition ${s.name}`, { ambient: "", sun: "", air: "", screen: "", power: "" });
  const set = (next: typeof c): void => keep(() => next);
  const { make, trouble } = useMaking();
  const ambientC = Number(c.ambient.replace(",", "."));
  const whole = c.ambient.trim() !== "" && Number.isFinite(ambientC) && [c.sun, c.air, c.screen, c.power].every((v) => v !== "");
  const choice = (key: "sun" | "air" | "screen" | "power", label: string, words: readonly string[]) => (
    <SelectField
      label={label}
      value={c[key]}
      options={[["", "choose"], ...wordsOf(words)]}
      onChange={(e) => set({ ...c, [key]: e.target.value })}
    />
  );
  return (
    <>
      <MapTo names={kit.conditions.filter((x) => !x.archived).map((x) => x.name)} s={s} onMap={onMap} />
      <div className="w-24">
        <TextField
          label="or new, at"
          unit="°C"
          inputMode="decimal"
          value={c.ambient}
          onChange={(e) => set({ ...c, ambient: e.target.value })}
        />
      </div>
      {choice("sun", "Sun", SUNS)}
      {choice("air", "Air", AIRS)}
      {choice("screen", "Screen", SCREENS)}
      {choice("power", "Power", POWERS)}
      <Button
        disabled={!whole}
        onClick={() =>
          void make("conditions", {
            name: s.name,
            ambientC,
            toleranceC: 3,
            sun: c.sun,
            air: c.air,
            screen: c.screen,
            power: c.power,
            powerOffSetting: "normal",
          }).then((made) => made && forget())
        }
      >
        Make it
      </Button>
      {trouble !== null && <Note tone="alert">{trouble}</Note>}
    </>
  );
}

function useMaking() {
  const [save] = kitApi.useSaveKitMutation();
  const [trouble, setTrouble] = useState<string | null>(null);
  /** Whether it was made. */
  const make = async (entity: "modes" | "conditions", fields: Record<string, unknown>): Promise<boolean> => {
    const { error } = await save({ entity, doc: { id: uuidv7(), archived: false, ...fields }, rev: 0 });
    setTrouble(error === undefined ? null : `Not made. ${sentenceOf(error)}`);
    return error === undefined;
  };
  return { make, trouble };
}
