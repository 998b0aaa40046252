// Planning a shutter-speed test: lens, stance, who, and at which exposure times to shoot with the stabiliser off and on.

import type { Kit } from "@keep-rolling/contract/kit";
import { REFERENCES } from "@keep-rolling/core/exposure";
import { JUDGED, LIGHTS, ORDERS, STANCES } from "@keep-rolling/core/holds";
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
import { draftOfPlan, emptyHold, plannedHold, withLens, withUsualTimes } from "./holdDraft.ts";
import { LightFields } from "./LightFields.tsx";
import { Planned } from "./Planned.tsx";
import { OpenHold } from "./useHold.tsx";
import { referenceWords } from "./words.ts";

export function NewHoldPage() {
  const { data: kit, error, refetch } = kitApi.useKitQuery();
  if (kit === undefined)
    return error === undefined ? <Loading what="the kit" /> : <Trouble sentence={sentenceOf(error)} retry={() => void refetch()} />;
  return <PlanForm kit={kit} sessionId={null} first={emptyHold()} />;
}

/** Body and place were said at the beginning, and stay. */
export const ChangeHoldPage = () => (
  <OpenHold>
    {({ id, begun, plan }) => <Change key={id} id={id} first={draftOfPlan(plan, begun?.place ?? "", begun?.unitIds[0] ?? "")} />}
  </OpenHold>
);
function Change({ id, first }: { id: string; first: HoldDraft }) {
  const { data: kit, error, refetch } = kitApi.useKitQuery();
  if (kit === undefined)
    return error === undefined ? <Loading what="the kit" /> : <Trouble sentence={sentenceOf(error)} retry={() => void refetch()} />;
  return <PlanForm kit={kit} sessionId={id} first={first} />;
}

const ORDER_WORDS = {
  balanced: "off and on in turn",
  shuffled: "all shuffled",
  adaptive: "next by what was seen",
} as const;
const JUDGED_WORDS = { "at once": "at once, on the camera", "from pictures": "later, from the pictures" } as const;

function PlanForm({ kit, sessionId, first }: { kit: Kit; sessionId: string | null; first: HoldDraft }) {
  const [d, change, forget] = useKeptState<HoldDraft>(`hold plan ${sessionId ?? "new"}`, first);
  const [errors, setErrors] = useState<readonly string[]>([]);
  const go = useNavigate();
  const set = (more: Partial<HoldDraft>): void => change((was) => ({ ...was, ...more }));
  const units = kit.units.filter((u) => !u.archived);
  const unit = units.find((u) => u.id === d.unitId);
  const clock = useClock(unit?.bench ?? "real");
  const made = plannedHold(d);
  const adaptive = d.order === "adaptive";
  const save = async (): Promise<void> => {
    if (!made.ok) return setErrors(made.errors);
    const id = sessionId ?? uuidv7();
    const begin = {
      sessionKind: "hold",
      clockId: unit?.bench ?? "real",
      place: d.place.trim(),
      unitIds: d.unitId === "" ? [] : [d.unitId],
    };
    await pressAll(id, clock, [...(sessionId === null ? [["begin", begin] as const] : []), ["holdPlan", { hold: made.plan }]]);
    forget();
    void go(sessionId === null ? `/hold/${id}/card` : `/hold/${id}`);
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
        title={sessionId === null ? "New shutter-speed test" : "Change the plan"}
        sub="One lens at one focal length, one stance, one pair of hands; off and on in turn, a new grip for every shot."
      />
      <div className="grid gap-x-6 gap-y-3 sm:grid-cols-2 lg:grid-cols-4">
        <TextField
          label="Place"
          value={d.place}
          maxLength={200}
          disabled={sessionId !== null}
          onChange={(e) => set({ place: e.target.value })}
        />
        <TextField label="Who holds it" value={d.by} maxLength={20} onChange={(e) => set({ by: e.target.value })} hint="initials" />
        <SelectField
          label="Body"
          value={d.unitId}
          disabled={sessionId !== null}
          onChange={(e) => change((was) => withLens(kit, was, { unitId: e.target.value }))}
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
          onChange={(e) => change((was) => withLens(kit, was, { focalMm: e.target.value }))}
        />
        <TextField
          label="Equivalent focal length"
          unit="mm"
          inputMode="decimal"
          value={d.equivalentMm}
          hint={d.equivalentMm !== "" && !d.equivalentTyped ? "from the body's sensor, by the diagonal" : "by the diagonal, as for stills"}
          onChange={(e) => set({ equivalentMm: e.target.value, equivalentTyped: e.target.value.trim() !== "" })}
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
          onChange={(e) => set({ reference: REFERENCES.find((r) => r === e.target.value) ?? "1/equivalent" })}
          options={REFERENCES.map((r) => [r, referenceWords(r)] as const)}
        />
        <TextField
          label="The maker's claim"
          unit="stops"
          inputMode="decimal"
          value={d.claimStops}
          hint="empty: none stated"
          onChange={(e) => set({ claimStops: e.target.value })}
        />
        {d.reference === "one-pixel" && (
          <TextField
            label="Pixels across"
            inputMode="numeric"
            value={d.pixelsWide}
            hint={d.sensorMm === null ? "choose a body of the kit: its sensor is needed too" : `on ${d.sensorMm.width} mm`}
            onChange={(e) => set({ pixelsWide: e.target.value })}
          />
        )}
      </div>
      <fieldset className="mt-6">
        <legend className="text-lg font-semibold">How it is shot and judged</legend>
        <div className="mt-2 grid gap-x-6 gap-y-3 sm:grid-cols-2 lg:grid-cols-4">
          <SelectField
            label="Order"
            value={d.order}
            onChange={(e) => set({ order: ORDERS.find((o) => o === e.target.value) ?? "balanced" })}
            options={ORDERS.map((o) => [o, ORDER_WORDS[o]] as const)}
          />
          {adaptive ? null : (
            <>
              <SelectField
                label="Judged"
                value={d.judged}
                onChange={(e) => set({ judged: JUDGED.find((j) => j === e.target.value) ?? "at once" })}
                options={JUDGED.map((j) => [j, JUDGED_WORDS[j]] as const)}
              />
              <TextField
                label="Shots at each time"
                inputMode="numeric"
                value={d.shotsEach}
                onChange={(e) => set({ shotsEach: e.target.value })}
              />
            </>
          )}
          <TextField
            label="Kept of 100 at the dependable time"
            inputMode="numeric"
            value={d.share}
            onChange={(e) => set({ share: e.target.value })}
          />
        </div>
      </fieldset>
      <fieldset className="mt-6">
        <legend className="text-lg font-semibold">
          {adaptive ? "Exposure times to begin at" : "Exposure times, from the fastest to the slowest"}
        </legend>
        <p className="my-2">
          <Button onClick={() => change((was) => withUsualTimes(was))}>The usual ones for this focal length</Button>
        </p>
        <div className="grid gap-x-6 gap-y-3 sm:grid-cols-2 lg:grid-cols-5">
          {time("off", "fastest", adaptive ? "Off, first" : "Off, fastest")}
          {!adaptive && time("off", "slowest", "Off, slowest")}
          {time("on", "fastest", adaptive ? "On, first" : "On, fastest")}
          {!adaptive && time("on", "slowest", "On, slowest")}
          {!adaptive && (
            <SelectField
              label="Steps"
              value={String(d.step)}
              onChange={(e) => set({ step: e.target.value === "1" ? 1 : e.target.value === "2" ? 2 : 0 })}
              options={[
                ["0", "whole stops"],
                ["1", "half stops"],
                ["2", "thirds of a stop"],
              ]}
            />
          )}
        </div>
      </fieldset>
      <fieldset className="mt-6">
        <legend className="text-lg font-semibold">Light</legend>
        <div className="mt-2 grid gap-x-6 gap-y-3 sm:grid-cols-2 lg:grid-cols-4">
          <SelectField
            label="What lights the scene"
            value={d.light}
            onChange={(e) => set({ light: LIGHTS.find((l) => l === e.target.value) ?? "not said" })}
            options={LIGHTS.map((l) => [l, l] as const)}
          />
          <SelectField
            label="The subject"
            value={d.subjectMoves ? "moves" : "stands still"}
            onChange={(e) => set({ subjectMoves: e.target.value === "moves" })}
            options={[
              ["stands still", "stands still"],
              ["moves", "moves"],
            ]}
          />
        </div>
        <LightFields light={d.metered} set={(more) => change((was) => ({ ...was, metered: { ...was.metered, ...more } }))} />
      </fieldset>
      {made.ok && <Planned plan={made.plan} shots={made.shots} sharedSwitch={sharesSwitch(kit, d.lensName)} />}
      {sessionId !== null && (
        <Note>
          Shots already taken stay as they are. Other times or another number of shots, once some are there, hold everything back a little
          more.
        </Note>
      )}
      {errors.map((e) => (
        <Note key={e} tone="alert" live>
          {e}
        </Note>
      ))}
      <p className="mt-6 flex flex-wrap items-center gap-4">
        <Button type="submit" tone="main">
          {sessionId === null ? "Begin: to the shooting card" : "Keep this plan"}
        </Button>
        <span className="text-sm text-soft">What is typed is kept on this device until then.</span>
      </p>
    </form>
  );
}

/** Whether the kit has this lens as one whose switch is the body's too. */
function sharesSwitch(kit: Kit, lensName: string): boolean {
  const lens = kit.items.find((i) => i.name.trim().toLowerCase() === lensName.trim().toLowerCase());
  return lens?.spec.kind === "lens" && lens.spec.stabiliser === "switch shared with the body";
}
