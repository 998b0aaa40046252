// How a body stamps its clips: asked once, kept with the unit. What the files themselves speak for is said beside the question.

import { kitApi } from "../kit/api.ts";
import type { Kit } from "@keep-rolling/contract/kit";
import type { Clip, ClipConvention } from "@keep-rolling/core/clips";
import { stampEvidence } from "@keep-rolling/core/clips";
import { useState } from "react";
import { Button, Note } from "../ui/parts.tsx";

type Unit = Kit["units"][number];

/** Keeps an answer with the unit; the clock's offset too, once it has been compared. */
export function useKeepClips(): (unit: Unit, clips: NonNullable<Unit["clips"]>) => Promise<boolean> {
  const [save] = kitApi.useSaveKitMutation();
  const { refetch } = kitApi.useKitQuery();
  const stored = async ({ rev, ...doc }: Unit, clips: NonNullable<Unit["clips"]>): Promise<boolean> =>
    "data" in (await save({ entity: "units", doc: { ...doc, clips }, rev }));
  return async (unit, clips) => {
    if (await stored(unit, clips)) return true;
    // An answer given a moment ago is a version later than the page knows yet.
    const { data } = await refetch();
    const newest = data?.units.find((u) => u.id === unit.id);
    return newest !== undefined && newest.rev !== unit.rev && stored(newest, clips);
  };
}

interface Props {
  unit: Unit;
  clips: readonly Clip[];
  value: Partial<ClipConvention>;
  onChange: (value: Partial<ClipConvention>) => void;
}

export function Convention({ unit, clips, value, onChange }: Props) {
  // What was known when the page opened is not asked again; an answer given here stays in view.
  const [asking, setAsking] = useState(unit.clips == null);
  const keep = useKeepClips();
  const says = stampEvidence(clips);
  const answer = (next: Partial<ClipConvention>): void => {
    onChange(next);
    const { stamp, zone } = next;
    if (stamp !== undefined && zone !== undefined) void keep(unit, { stamp, zone, offsetMs: unit.clips?.offsetMs ?? null });
  };
  if (!asking)
    return (
      <p className="text-sm text-soft">
        {`${unit.name} stamps its clips when they are ${value.stamp === "start" ? "begun" : "closed"}, in ${value.zone === "UTC" ? "UTC" : "local time"}. `}
        <Button tone="quiet" onClick={() => setAsking(true)}>
          Change
        </Button>
      </p>
    );
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
        onChange={(stamp) => answer({ ...value, stamp })}
      />
      <Choice
        ask="It is written in"
        name="zone"
        options={[
          ["UTC", "UTC"],
          ["local", "local time"],
        ]}
        value={value.zone}
        onChange={(zone) => answer({ ...value, zone })}
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
