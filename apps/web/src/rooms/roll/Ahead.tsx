// Before the start: what is expected to end this run, drawn ahead on the strip, and what the ledger says of the body's heat.

import { kitApi } from "../../shared/kit/api.ts";
import { timeConstantWords } from "@keep-rolling/core/heat";
import type { TimeConstant } from "@keep-rolling/core/heat";
import type { Kit } from "@keep-rolling/contract/kit";
import { WARM_SHARE } from "@keep-rolling/core/heat";
import type { Block } from "@keep-rolling/core/planning";
import type { CellSetup } from "@keep-rolling/core/kit";
import { DEFAULT_RULES, planDay, schoolsOf, warmed } from "@keep-rolling/core/planning";
import type { StartBody } from "@keep-rolling/core/runs";
import { formatSpan } from "@keep-rolling/core/format";
import { useEffect, useMemo } from "react";
import type { UseFormReturn } from "react-hook-form";
import { useBenchNow, useClock } from "../../record/benchTime.ts";
import { stockOf, traitsOf } from "../../shared/day/cells.ts";
import { outsOf } from "../../shared/day/evidence.ts";
import type { Evidence } from "../../shared/day/evidence.ts";
import { useCellEvidence } from "../../shared/day/useDay.ts";
import { useSettings } from "../../shared/settings/settings.ts";
import { AheadStrip } from "../../rulers/strips/AheadStrip.tsx";
import { Note } from "../../shared/ui/parts.tsx";
import { AheadRoom } from "./AheadRoom.tsx";
import type { Setup } from "./setup.ts";
import { startBody } from "./setup.ts";

const MINUTE_MS = 60_000;
const HOUR_MS = 3_600_000;

interface Props {
  kit: Kit;
  setup: Setup;
  form: UseFormReturn<Setup>;
}

export function Ahead({ kit, setup, form }: Props) {
  const { data } = kitApi.useUnitEventsQuery();
  const unit = kit.units.find((u) => u.id === setup.unitId);
  const clock = useClock(unit?.bench);
  const nowMs = Math.floor(useBenchNow(clock, 10_000) / MINUTE_MS) * MINUTE_MS;
  const { temperature } = useSettings();
  const { unitId } = setup;
  // What is asked for, ad hoc conditions included; typing an ambient does not ask anew unless it changes the cell.
  const start = startBody(kit, setup, temperature);
  const cell = start === null ? null : JSON.stringify(cellOf(start));
  const wanted = useMemo(() => (cell === null ? null : (JSON.parse(cell) as CellSetup)), [cell]);
  const { evidence, error } = useCellEvidence(kit, wanted);
  const block = useMemo(
    () => (evidence === null || wanted === null ? null : aheadOf(kit, evidence, wanted, nowMs)),
    [kit, evidence, wanted, nowMs],
  );
  const body = useMemo(
    () => (evidence === null || wanted === null ? null : evidence.body(unitId, nowMs, [tauMinOf(wanted)])),
    [evidence, wanted, unitId, nowMs],
  );
  const lastMs = body?.lastPoweredMs ?? null;
  useLedgerStart(form, block, lastMs, nowMs);
  const out = outsOf(data?.events ?? [], unitId).some((o) => o.fromMs <= nowMs && nowMs < o.toMs);
  if (block === null || body === null) return <AheadRoom waiting={cell !== null} failed={error !== undefined} />;
  const { constant } = body;
  const flags = block.flags.filter((f) => f.code !== "pushed");
  return (
    <section aria-label="What will end it" className="mb-5">
      <AheadStrip ahead={block.ahead} tauMs={constant.tauMin * MINUTE_MS} heatAtStart={block.heatAtStart} />
      <p className="text-sm text-soft">
        {block.ahead.heat.ok
          ? `Heat: ${block.ahead.heat.range.basisWords}, ${block.ahead.heat.range.n === 1 ? "one run, and a second can be far shorter" : `${block.ahead.heat.range.n} runs`}. `
          : ""}
        {ledgerWords(block, constant, lastMs, nowMs)}
      </p>
      {out && <Note tone="alert">This unit is noted as out of service.</Note>}
      {flags.map((f) => (
        <Note key={f.text} tone="alert">
          {f.text}
        </Note>
      ))}
    </section>
  );
}

const tauMinOf = (setup: CellSetup): number => schoolsOf(setup.protocol).tauMin;
const cellOf = ({ clockId, unit, mode, condition, protocol }: StartBody): CellSetup => ({ clockId, unit, mode, condition, protocol });

/** One run put on the board now: the planner's own arithmetic, no second one. */
function aheadOf(kit: Kit, evidence: Evidence, setup: CellSetup, nowMs: number): Block | null {
  const unitId = setup.unit.id;
  const { intervals, tauMs, share } = evidence.body(unitId, nowMs, [tauMinOf(setup)]);
  const cold = evidence.expected(setup);
  const heat = cold.ok ? { ...cold, range: warmed(cold.range, share, tauMs) } : cold;
  const unit = kit.units.find((u) => u.id === unitId);
  const plan = planDay({
    fromMs: nowMs,
    toMs: nowMs + 48 * HOUR_MS,
    nowMs: null,
    units: [
      {
        id: unitId,
        name: unit?.name ?? "",
        traits: traitsOf(kit, unit),
        outs: [],
        heat: [...intervals],
        tauMs,
      },
    ],
    wantedRuns: [
      {
        slot: "now",
        unitId,
        cellId: "",
        setup: { ...setup, condition: { ...setup.condition, sun: "none" } },
        heat,
        watts: evidence.watts(setup),
        pinMs: nowMs,
        cardId: null,
        swaps: schoolsOf(setup.protocol).swaps === "as needed",
      },
    ],
    stock: stockOf(kit),
    sun: [],
    breaks: [],
    underway: [],
    rules: { ...DEFAULT_RULES, prepMs: 0 },
  });
  return plan.blocks[0] ?? null;
}

function ledgerWords(block: Block, constant: TimeConstant, lastMs: number | null, nowMs: number): string {
  // Without a powered time on record a stand-in is cold; of a real body nothing is known.
  if (lastMs === null && !block.setup.unit.simulated) return "Nothing on record tells how warm the body is: say its start state yourself.";
  const percent = Math.ceil(block.heatAtStart * 100 - 1e-9);
  const since = lastMs === null ? "no powered time on record" : `last powered ${agoWords(Math.max(0, nowMs - lastMs))} ago`;
  const left = percent === 0 ? "the body is cold" : `${percent} % of the heat of a shutdown is left in the body`;
  return `By our estimate ${left}, ${since}; time constant ${timeConstantWords(constant)}.`;
}

/** The start state follows the ledger until somebody says otherwise. */
function useLedgerStart(form: UseFormReturn<Setup>, block: Block | null, lastMs: number | null, nowMs: number): void {
  const { isDirty } = form.getFieldState("state", form.formState);
  const hours = lastMs === null ? null : Math.max(0, (nowMs - lastMs) / HOUR_MS);
  const warm = block === null ? null : block.heatAtStart >= WARM_SHARE;
  useEffect(() => {
    // Without any powered time on record nothing is known of the body's heat: what the form began with stands.
    if (warm === null || hours === null || isDirty || form.getFieldState("said").isDirty || form.getFieldState("by").isDirty) return;
    form.resetField("state", { defaultValue: warm ? "warm" : "cold" });
    form.resetField("said", { defaultValue: hours > 1000 ? "" : String(Math.floor(hours * 10) / 10) });
  }, [form, warm, hours, isDirty]);
}

const DAY_MS = 86_400_000;
/** Beyond two days the hours tell nothing. */
const agoWords = (ms: number): string => (ms < 2 * DAY_MS ? formatSpan(ms) : `${Math.floor(ms / DAY_MS)} days`);
