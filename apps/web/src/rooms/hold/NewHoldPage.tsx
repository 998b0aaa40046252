// Planning a shutter-speed test: lens, stance, who, and at which exposure times to shoot with the stabiliser off and on.

import type { Kit } from "@keep-rolling/contract/kit";
import { REFERENCES } from "@keep-rolling/core/exposure";
import { STANCES } from "@keep-rolling/core/holds";
import { useState } from "react";
import { useNavigate } from "react-router";
import { v7 as uuidv7 } from "uuid";
import { useClock } from "../../record/benchTime.ts";
import { pressAll } from "../../record/sessions.ts";
import { sentenceOf } from "../../shared/api/api.ts";
import { useKeptState } from "../../shared/drafts/useKeptState.ts";
import { kitApi } from "../../shared/kit/api.ts";
import { SelectField, TextField } from "../../shared/ui/fields.tsx";
import { Button, Loading, Note, PageHead, Trouble } from "../../shared/ui/parts.tsx";
import type { HoldDraft } from "./holdDraft.ts";
import { emptyHold, equivalentOf, plannedHold, remindersOf, withUsualTimes } from "./holdDraft.ts";
import { referenceWords } from "./words.ts";

export function NewHoldPage() {
  const { data: kit, error, refetch } = kitApi.useKitQuery();
  if (kit === undefined)
    return error === undefined ? <Loading what="the kit" /> : <Trouble sentence={sentenceOf(error)} retry={() => void refetch()} />;
  return <PlanForm kit={kit} />;
}

/** One pixel of blur and one's own limit need what this form does not ask yet. */
const OFFERED = REFERENCES.filter((r) => r !== "one-pixel");

function PlanForm({ kit }: { kit: Kit }) {
  const [d, change, forget] = useKeptState<HoldDraft>("hold plan new", emptyHold());
  const [errors, setErrors] = useState<readonly string[]>([]);
  const go = useNavigate();
  const set = (more: Partial<HoldDraft>): void => change((was) => ({ ...was, ...more }));
  const units = kit.units.filter((u) => !u.archived);
  const unit = units.find((u) => u.id === d.unitId);
  const clock = useClock(unit?.bench ?? "real");
  const made = plannedHold(d);
  const save = async (): Promise<void> => {
    if (!made.ok) return setErrors(made.errors);
    const id = uuidv7();
    const begin = {
      sessionKind: "hold",
      clockId: unit?.bench ?? "real",
      place: d.place.trim(),
      unitIds: d.unitId === "" ? [] : [d.unitId],
    };
    await pressAll(id, clock, [
      ["begin", begin],
      ["holdPlan", { hold: made.plan }],
    ]);
    forget();
    void go(`/hold/${id}/card`);
  };
  const time = (setting: "off" | "on", end: "fastest" | "slowest", label: string) => (
    <TextField
      label={label}
      value={d[setting][end]}
      placeholder={end === "fastest" ? "1/125" : "1/8"}
      onChange={(e) => set({ [setting]: { ...d[setting], [end]: e.target.value } })}
    />
  );
  return (
    <form
      className="max-w-5xl"
      onSubmit={(event) => {
        event.preventDefault();
        void save();
      }}
    >
      <PageHead
        title="New shutter-speed test"
        sub="One lens at one focal length, one stance, one pair of hands; off and on in turn, a new grip for every shot."
      />
      <div className="grid gap-x-6 gap-y-3 sm:grid-cols-2 lg:grid-cols-4">
        <TextField label="Place" value={d.place} maxLength={200} onChange={(e) => set({ place: e.target.value })} />
        <TextField label="Who holds it" value={d.by} maxLength={20} onChange={(e) => set({ by: e.target.value })} hint="initials" />
        <SelectField
          label="Body"
          value={d.unitId}
          onChange={(e) => set({ unitId: e.target.value, equivalentMm: equivalentOf(kit, e.target.value, d.focalMm) })}
          options={[["", "not in the kit"], ...units.map((u) => [u.id, u.name] as const)]}
        />
        <TextField
          label="Lens"
          value={d.lensName}
          maxLength={120}
          list="hold lenses"
          options={kit.items.filter((i) => !i.archived && i.spec.kind === "lens").map((i) => i.name)}
          onChange={(e) => set({ lensName: e.target.value })}
        />
        <TextField
          label="Focal length"
          unit="mm"
          inputMode="decimal"
          value={d.focalMm}
          onChange={(e) => set({ focalMm: e.target.value, equivalentMm: equivalentOf(kit, d.unitId, e.target.value) })}
        />
        <TextField
          label="Equivalent focal length"
          unit="mm"
          inputMode="decimal"
          value={d.equivalentMm}
          hint="by the diagonal, as for stills"
          onChange={(e) => set({ equivalentMm: e.target.value })}
        />
        <SelectField
          label="Stance"
          value={d.stance}
          onChange={(e) => set({ stance: STANCES.find((s) => s === e.target.value) ?? STANCES[0] })}
          options={STANCES.map((s) => [s, s] as const)}
        />
        <TextField label="Wind, cold, tired, coffee" value={d.state} maxLength={200} onChange={(e) => set({ state: e.target.value })} />
        <SelectField
          label="Rule of thumb to count from"
          value={d.reference}
          onChange={(e) => set({ reference: OFFERED.find((r) => r === e.target.value) ?? "1/equivalent" })}
          options={OFFERED.map((r) => [r, referenceWords(r)] as const)}
        />
        <TextField
          label="The maker's claim"
          unit="stops"
          inputMode="decimal"
          value={d.claimStops}
          hint="empty: none stated"
          onChange={(e) => set({ claimStops: e.target.value })}
        />
        <TextField
          label="Shots at each time"
          inputMode="numeric"
          value={d.shotsEach}
          onChange={(e) => set({ shotsEach: e.target.value })}
        />
      </div>
      <fieldset className="mt-6">
        <legend className="text-lg font-semibold">Exposure times, whole stops from the fastest to the slowest</legend>
        <p className="my-2">
          <Button onClick={() => change((was) => withUsualTimes(was))}>The usual ones for this focal length</Button>
        </p>
        <div className="grid gap-x-6 gap-y-3 sm:grid-cols-2 lg:grid-cols-4">
          {time("off", "fastest", "Off, fastest")}
          {time("off", "slowest", "Off, slowest")}
          {time("on", "fastest", "On, fastest")}
          {time("on", "slowest", "On, slowest")}
        </div>
      </fieldset>
      {made.ok && (
        <ul className="mt-4 list-disc pl-5 text-soft">
          <li>{`${made.shots} shots in all. With five at each of five times a limit is usually known to two or three stops; with more, better.`}</li>
          {remindersOf(made.plan).map((r) => (
            <li key={r}>{r}</li>
          ))}
        </ul>
      )}
      {errors.map((e) => (
        <Note key={e} tone="alert" live>
          {e}
        </Note>
      ))}
      <p className="mt-6 flex flex-wrap items-center gap-4">
        <Button type="submit" tone="main">
          Begin: to the shooting card
        </Button>
        <span className="text-sm text-soft">What is typed is kept on this device until then.</span>
      </p>
    </form>
  );
}
