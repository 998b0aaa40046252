// How a body stamps its clips: asked once, kept with the unit. What the files themselves speak for is said beside the question.

import { kitApi } from "../kit/api.ts";
import type { Kit } from "@keep-rolling/contract/kit";
import type { Clip, ClipConvention } from "@keep-rolling/core/clips";
import { stampEvidence } from "@keep-rolling/core/clips";
import { Note } from "../ui/parts.tsx";

type Unit = Kit["units"][number];

/** Keeps an answer with the unit; the clock's offset too, once it has been compared. */
export function useKeepClips(): (unit: Unit, clips: NonNullable<Unit["clips"]>) => Promise<boolean> {
  const [save] = kitApi.useSaveKitMutation();
  return async (unit, clips) => {
    const { rev, ...doc } = unit;
    return "data" in (await save({ entity: "units", doc: { ...doc, clips }, rev }));
  };
}

interface Props {
  unit: Unit;
  clips: readonly Clip[];
  value: Partial<ClipConvention>;
  onChange: (value: Partial<ClipConvention>) => void;
}

export function Convention({ unit, clips, value, onChange }: Props) {
  const says = stampEvidence(clips);
  const evidence =
    says.start === says.close
      ? "These clips fit both; the manual, or one clip beside a clock, tells."
      : `These clips follow on each other if the time is when a clip was ${says.start > says.close ? "begun" : "closed"}.`;
  return (
    <fieldset className="space-y-2">
      <legend className="font-head text-lg font-semibold">How {unit.name} stamps its clips</legend>
      <Choice
        ask="The creation time is when the clip was"
        name="stamp"
        options={[
          ["start", "begun"],
          ["close", "closed"],
        ]}
        value={value.stamp}
        onChange={(stamp) => onChange({ ...value, stamp })}
      />
      <Choice
        ask="It is written in"
        name="zone"
        options={[
          ["UTC", "UTC"],
          ["local", "local time"],
        ]}
        value={value.zone}
        onChange={(zone) => onChange({ ...value, zone })}
      />
      <Note>{evidence} Asked once; kept with this body.</Note>
    </fieldset>
  );
}

function Choice<V extends string>({
  ask,
  name,
  options,
  value,
  onChange,
}: {
  ask: string;
  name: string;
  options: readonly (readonly [V, string])[];
  value: V | undefined;
  onChange: (value: V) => void;
}) {
  return (
    <div role="radiogroup" aria-label={ask} className="flex flex-wrap items-center gap-x-4">
      <span>{ask}</span>
      {options.map(([v, words]) => (
        <label key={v} className="flex items-center gap-2">
          <input type="radio" name={name} checked={value === v} onChange={() => onChange(v)} />
          {words}
        </label>
      ))}
    </div>
  );
}
