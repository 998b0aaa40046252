// Planning a walking test: place, body, lens, what is locked, moves, setups, control. Says beforehand what testers forget.

import type { Kit } from "@keep-rolling/contract/kit";
import type { WalkPlan } from "@keep-rolling/core/walks";
import { AUTOMATIC, forgottenIn, LOCKED, MOVES } from "@keep-rolling/core/walks";
import { useState } from "react";
import { useNavigate, useParams } from "react-router";
import { v7 as uuidv7 } from "uuid";
import { useClock } from "../../record/benchTime.ts";
import { pressAll } from "../../record/sessions.ts";
import { sentenceOf as troubleOf } from "../../shared/api/api.ts";
import { useKeptState } from "../../shared/drafts/useKeptState.ts";
import { kitApi } from "../../shared/kit/api.ts";
import { SelectField, TextField } from "../../shared/ui/fields.tsx";
import { Button, Loading, Note, PageHead, Trouble } from "../../shared/ui/parts.tsx";
import { CAUTIONS } from "./cautions.ts";
import { Calculators } from "./Calculators.tsx";
import type { PlanDraft } from "./planDraft.ts";
import { draftOf, emptyDraft, lensOf, planned, usualFor } from "./planDraft.ts";
import { SetupList } from "./SetupList.tsx";
import { useWalk } from "./useWalk.ts";
import { lockedWords, reminderWords } from "./words.ts";
import { moveWords } from "../../shared/walks/words.ts";

export function NewWalkPage() {
  const { data: kit, error, refetch } = kitApi.useKitQuery();
  if (kit === undefined)
    return error === undefined ? <Loading what="the kit" /> : <Trouble sentence={troubleOf(error)} retry={() => void refetch()} />;
  return <PlanForm kit={kit} sessionId={null} before={null} first={emptyDraft()} />;
}

export function ChangeWalkPage() {
  const { sessionId = "" } = useParams();
  const { walk, begun, known, isLoading, error, refetch } = useWalk(sessionId);
  const { data: kit } = kitApi.useKitQuery();
  if (kit === undefined || (!known && isLoading)) return <Loading what="the plan" />;
  if (!known) return <Trouble sentence={troubleOf(error)} retry={() => void refetch()} />;
  const first = walk.plan === null ? emptyDraft() : draftOf(walk.plan, begun?.place ?? "");
  const lensId = kit.items.find((i) => i.name === walk.plan?.lensName)?.id ?? "";
  const unitId = begun?.unitIds[0] ?? "";
  const modeId =
    kit.modes.find((m) => m.name === walk.plan?.locked.mode && m.modelId === kit.units.find((u) => u.id === unitId)?.modelId)?.id ?? "";
  return (
    <PlanForm
      key={sessionId}
      kit={kit}
      sessionId={sessionId}
      before={walk.plan}
      first={{ ...first, unitId, secondId: begun?.unitIds[1] ?? "", lensId, modeId }}
    />
  );
}

interface FormProps {
  kit: Kit;
  sessionId: string | null;
  before: WalkPlan | null;
  first: PlanDraft;
}

function PlanForm({ kit, sessionId, before, first }: FormProps) {
  const [d, change, forget] = useKeptState<PlanDraft>(`walk plan ${sessionId ?? "new"}`, first);
  const [errors, setErrors] = useState<readonly string[]>([]);
  const go = useNavigate();
  const set = (more: Partial<PlanDraft>): void => change((was) => ({ ...was, ...more }));
  const unit = kit.units.find((u) => u.id === d.unitId);
  const clock = useClock(unit?.bench ?? "real");
  const made = planned(kit, d, before);
  const save = async (): Promise<void> => {
    if (!made.ok) return setErrors(made.errors);
    const place = d.place.trim();
    if (sessionId === null && place === "") return setErrors(["Say where: a name for the route, so that it is found again."]);
    const id = sessionId ?? uuidv7();
    const begin = {
      sessionKind: "walk",
      clockId: unit?.bench ?? "real",
      place,
      unitIds: [...new Set([d.unitId, d.secondId])].filter((u) => u !== ""),
    };
    await pressAll(id, clock, [...(sessionId === null ? [["begin", begin] as const] : []), ["plan", { walk: made.plan }]]);
    forget();
    void go(sessionId === null ? `/walk/${id}/card` : `/walk/${id}`);
  };
  return (
    <form
      className="max-w-5xl"
      onSubmit={(event) => {
        event.preventDefault();
        void save();
      }}
    >
      <PageHead
        title={sessionId === null ? "New walking test" : "Change the plan"}
        sub="One route, one lens, one walker; only the setup changes from take to take."
      />
      <Where kit={kit} d={d} set={set} fixed={sessionId !== null} />
      <LockedSettings kit={kit} d={d} set={set} />
      <Moves d={d} set={set} />
      <section aria-labelledby="setups" className="mt-8">
        <div className="flex flex-wrap items-baseline gap-4">
          <h2 id="setups">Setups</h2>
          <Button onClick={() => change((was) => withUsual(kit, was))}>Add the usual ones for this body and lens</Button>
        </div>
        <SetupList kit={kit} d={d} change={change} />
      </section>
      <Calculators d={d} plan={made.ok ? made.plan : null} />
      {made.ok && <Reminders plan={made.plan} bodies={d.secondId === "" ? 1 : 2} />}
      {errors.map((e) => (
        <Note key={e} tone="alert" live>
          {e}
        </Note>
      ))}
      <div className="mt-6 flex flex-wrap items-center gap-4">
        <Button type="submit" tone="main">
          {sessionId === null ? "Begin: to the walk card" : "Keep this plan"}
        </Button>
        <span className="text-sm text-soft">What is typed is kept on this device until then.</span>
      </div>
    </form>
  );
}

/** The usual ones that are not on the list yet; the control named when there is none. */
function withUsual(kit: Kit, d: PlanDraft): PlanDraft {
  const fresh = usualFor(kit, d).filter((u) => !d.setups.some((s) => s.name === u.name));
  const setups = [...d.setups, ...fresh];
  const control = setups.find((s) => s.name === "control: all off");
  return { ...d, setups, controlId: d.controlId === "" ? (control?.id ?? "") : d.controlId };
}

interface PartProps {
  kit: Kit;
  d: PlanDraft;
  set: (more: Partial<PlanDraft>) => void;
}

function Where({ kit, d, set, fixed }: PartProps & { fixed: boolean }) {
  const units = kit.units.filter((u) => !u.archived);
  const lenses = kit.items.filter((i) => !i.archived && i.spec.kind === "lens");
  const modelId = kit.units.find((u) => u.id === d.unitId)?.modelId;
  const modes = kit.modes.filter((m) => !m.archived && m.modelId === modelId);
  const lens = lensOf(kit, d.lensId);
  const range =
    lens === null
      ? undefined
      : lens.spec.focalMinMm === lens.spec.focalMaxMm
        ? `${lens.spec.focalMinMm}`
        : `${lens.spec.focalMinMm} to ${lens.spec.focalMaxMm}`;
  return (
    <div className="grid gap-x-6 gap-y-3 sm:grid-cols-2 lg:grid-cols-4">
      <TextField
        label="Place"
        value={d.place}
        disabled={fixed}
        onChange={(e) => set({ place: e.target.value })}
        hint="as it is called among you"
      />
      <TextField label="Route" unit="m" inputMode="decimal" value={d.routeM} onChange={(e) => set({ routeM: e.target.value })} />
      <TextField label="Ground" value={d.ground} onChange={(e) => set({ ground: e.target.value })} />
      <TextField label="Who walks" value={d.walker} maxLength={20} onChange={(e) => set({ walker: e.target.value })} hint="initials" />
      <SelectField
        label="Body"
        value={d.unitId}
        disabled={fixed}
        onChange={(e) => set({ unitId: e.target.value, modeId: "" })}
        options={[["", "not in the kit"], ...units.map((u) => [u.id, u.name] as const)]}
      />
      <SelectField
        label="Second body"
        value={d.secondId}
        disabled={fixed || d.unitId === ""}
        onChange={(e) => set({ secondId: e.target.value })}
        options={[
          ["", "none: one body"],
          ...units
            .filter((u) => u.id !== d.unitId && u.bench === units.find((b) => b.id === d.unitId)?.bench)
            .map((u) => [u.id, u.name] as const),
        ]}
      />
      <SelectField
        label="Recording mode"
        value={d.modeId}
        onChange={(e) => set({ modeId: e.target.value })}
        options={[["", "not said"], ...modes.map((m) => [m.id, m.name] as const)]}
      />
      <SelectField
        label="Lens"
        value={d.lensId}
        onChange={(e) => {
          const spec = lensOf(kit, e.target.value)?.spec;
          const only = spec !== undefined && spec.focalMinMm === spec.focalMaxMm ? String(spec.focalMinMm) : d.focalMm;
          set({ lensId: e.target.value, focalMm: only });
        }}
        options={[["", "not in the kit"], ...lenses.map((l) => [l.id, l.name] as const)]}
      />
      <TextField
        label="Focal length"
        unit="mm"
        inputMode="decimal"
        value={d.focalMm}
        onChange={(e) => set({ focalMm: e.target.value })}
        {...(range === undefined ? {} : { hint: `the lens: ${range} mm` })}
      />
    </div>
  );
}

const HINTS: Readonly<Record<string, string>> = { shutter: "1/50", aperture: "4", ISO: "800" };

function LockedSettings({ d, set }: PartProps) {
  return (
    <fieldset className="mt-8">
      <legend className="text-lg font-semibold">Locked settings</legend>
      <p className="text-sm text-soft">Empty: not said. "{AUTOMATIC}" where the camera decides: it is allowed, and flagged.</p>
      <div className="mt-2 grid gap-x-6 gap-y-3 sm:grid-cols-3 lg:grid-cols-5">
        {LOCKED.filter((l) => l !== "mode").map((l) => (
          <TextField
            key={l}
            label={lockedWords(l)}
            value={d.locked[l]}
            list={`locked ${l}`}
            options={[AUTOMATIC, ...(l === "sharpening" || l === "noise reduction" ? ["off", "low", "standard"] : [])]}
            maxLength={40}
            placeholder={HINTS[l]}
            onChange={(e) => set({ locked: { ...d.locked, [l]: e.target.value } })}
          />
        ))}
      </div>
    </fieldset>
  );
}

function Moves({ d, set }: Omit<PartProps, "kit">) {
  return (
    <fieldset className="mt-8">
      <legend className="text-lg font-semibold">Moves</legend>
      <div className="mt-1 flex flex-wrap gap-x-6 gap-y-1">
        {MOVES.map((kind) => (
          <label key={kind} className="flex items-center gap-2">
            <input
              type="checkbox"
              checked={d.moves.some((m) => m.kind === kind)}
              onChange={(e) =>
                set({ moves: e.target.checked ? [...d.moves, { id: uuidv7(), kind }] : d.moves.filter((m) => m.kind !== kind) })
              }
            />
            {moveWords(kind)}
          </label>
        ))}
      </div>
      {[...new Set(d.moves.flatMap((m) => CAUTIONS[m.kind] ?? []))].map((caution) => (
        <div key={caution} className="mt-2">
          <Note>{caution}</Note>
        </div>
      ))}
      <div className="mt-3 w-40">
        <TextField label="Takes of each" inputMode="numeric" value={d.takesWanted} onChange={(e) => set({ takesWanted: e.target.value })} />
      </div>
    </fieldset>
  );
}

function Reminders({ plan, bodies }: { plan: WalkPlan; bodies: number }) {
  const all = forgottenIn(plan, bodies);
  if (all.length === 0) return null;
  return (
    <section aria-labelledby="forgotten" className="mt-8 max-w-4xl">
      <h2 id="forgotten" className="text-lg">
        Before the first step
      </h2>
      <ul className="list-disc pl-5">
        {all.map((r) => (
          <li key={r.code}>{reminderWords(r)}</li>
        ))}
      </ul>
    </section>
  );
}
