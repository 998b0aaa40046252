// The run after this one, started by one key with everything filled in; or the refusal to run at all, recorded as zero.

import { kitApi } from "../../shared/kit/api.ts";
import type { Clock } from "@keep-rolling/contract/clocks";
import type { Kit } from "@keep-rolling/contract/kit";
import { modeSnapshot } from "@keep-rolling/core/kit";
import type { FollowUpKind } from "@keep-rolling/core/runs";
import { followUpStart } from "@keep-rolling/core/runs";
import { heatScore } from "@keep-rolling/core/planning";
import { useNavigate } from "react-router";
import { v7 as uuidv7 } from "uuid";
import { benchNowMs } from "../../record/device.ts";
import { presser } from "../../record/pressing.ts";
import type { SeenRun } from "../../record/runs.ts";

export interface FollowUps {
  /** Lighter modes of the model, the nearest first. */
  lighter: Kit["modes"];
  start: (kind: FollowUpKind, modeId?: string) => Promise<void>;
  refuse: () => Promise<void>;
}

export function useFollowUp(run: SeenRun, clock: Clock | undefined): FollowUps {
  const navigate = useNavigate();
  const { data: kit } = kitApi.useKitQuery();
  const lighter = kit === undefined ? [] : lighterModes(kit, run);
  const body = (kind: FollowUpKind, modeId?: string) => {
    const unit = kit?.units.find((u) => u.id === run.fold.setup?.unit.id);
    const setup = run.fold.setup;
    const mode = lighter.find((m) => m.id === modeId);
    return followUpStart({
      parentRunId: run.id,
      parent: run.fold,
      kind,
      nowMs: benchNowMs(clock),
      ...(unit === undefined || setup === null ? {} : { unit: { ...setup.unit, firmware: unit.firmware } }),
      ...(mode === undefined ? {} : { mode: modeSnapshot(mode) }),
    });
  };
  return {
    lighter,
    start: async (kind, modeId) => {
      const start = body(kind, modeId);
      if (start === null) return;
      const runId = uuidv7();
      await presser(runId, clock)("start", start);
      await navigate(`/roll/${runId}`);
    },
    refuse: async () => {
      const start = body("recovery");
      if (start === null) return;
      const runId = uuidv7();
      const press = presser(runId, clock);
      const { atMs } = await press("start", start);
      await press("end", { cause: "thermal shutdown" }, { atMs });
      await navigate(`/roll/${runId}`);
    },
  };
}

export function lighterModes(kit: Kit, run: Pick<SeenRun, "fold">): Kit["modes"] {
  const { setup } = run.fold;
  if (setup === null) return [];
  const modelId = kit.units.find((u) => u.id === setup.unit.id)?.modelId;
  const score = heatScore(setup.mode);
  return kit.modes.filter((m) => m.modelId === modelId && !m.archived && heatScore(m) < score).sort((a, b) => heatScore(b) - heatScore(a));
}
