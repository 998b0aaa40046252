// @vitest-environment jsdom
// Whose runs speak for a cell: only its own unit's, never those of a unit chosen before, and none while they are not read.

import { renderHook, waitFor } from "@testing-library/react";
import type { Kit } from "@keep-rolling/contract/kit";
import type { StoredMark } from "@keep-rolling/contract/marks";
import type { CellSetup } from "@keep-rolling/core/kit";
import type { StartBody } from "@keep-rolling/core/runs";
import { builtInKit, practiceStart } from "@keep-rolling/demo";
import type { ReactNode } from "react";
import { Provider } from "react-redux";
import { v7 as uuidv7 } from "uuid";
import { afterEach, describe, expect, it, vi } from "vitest";
import { createStore } from "../../app/store.ts";
import { standInBrowser } from "../../testing/dom.ts";
import { configureApi, Refused } from "../../testing/requests.ts";
import { useCellEvidence } from "./useDay.ts";

const NOW_MS = 1_760_000_000_000;
const kit = { ...builtInKit, plans: [], days: [] } as unknown as Kit;

/** A unit with one run that ended by heat half an hour before now. */
function unitWithRun(name: string) {
  const like = practiceStart({ clockId: "real" });
  const setup: StartBody = { ...like, unit: { ...like.unit, id: uuidv7(), name } };
  const runId = uuidv7();
  const startMs = NOW_MS - 3_600_000;
  const stored = (seq: number, kind: string, atMs: number, body: object): StoredMark => {
    const at = { atMs, madeAtMs: atMs, deviceMs: atMs, offsetMs: 0, offsetErrMs: 0 };
    const mark = { id: uuidv7(), runId, deviceId: DEVICE, deviceSeq: seq, v: 1, kind, source: "pressed", ...at, body };
    return { seq, receivedAtMs: atMs, mark } as StoredMark;
  };
  const marks = [stored(1, "start", startMs, setup), stored(2, "end", startMs + 1_800_000, { cause: "thermal shutdown" })];
  const row = {
    ...{ id: runId, clockId: "real", clockKind: "real", provenance: "live", unitId: setup.unit.id, modeId: setup.mode.id },
    ...{ status: "ended", lastSeq: 2, startedMs: startMs, endedMs: startMs + 1_800_000 },
    ...{ recordedMs: { lo: 1_800_000, hi: 1_800_000 }, endCause: "thermal shutdown", struck: null },
  };
  return { setup: setup as CellSetup, id: setup.unit.id, runId, marks, row };
}
const DEVICE = uuidv7();

/** Which units were asked for, null for all; `late`: what the answer for one of them waits for. */
function served(units: readonly ReturnType<typeof unitWithRun>[], late: Promise<unknown>, lateUnit: string | null): (string | null)[] {
  const askedFor: (string | null)[] = [];
  configureApi({
    "GET /runs": async (_body: unknown, search: URLSearchParams) => {
      const unit = search.get("unit");
      askedFor.push(unit);
      if (unit !== null && unit === lateUnit) {
        const instead = await late;
        if (instead instanceof Refused) return instead;
      }
      return { runs: units.filter((u) => unit === null || u.id === unit).map((u) => u.row), next: null };
    },
    "GET /marks": (_body: unknown, search: URLSearchParams) => ({
      runs: units.filter((u) => search.get("runs")?.includes(u.runId)).map((u) => ({ id: u.runId, marks: u.marks, gauge: [], told: [] })),
    }),
  });
  return askedFor;
}

function evidenceFor(cell: CellSetup) {
  standInBrowser();
  const store = createStore();
  const wrapper = ({ children }: { children: ReactNode }) => <Provider store={store}>{children}</Provider>;
  return renderHook(({ of }) => useCellEvidence(kit, of), { wrapper, initialProps: { of: cell } });
}

afterEach(() => vi.unstubAllGlobals());

describe("the evidence for a cell", () => {
  it("is silent while another unit is being read, and never says that it is cold", async () => {
    const [a, b] = [unitWithRun("A"), unitWithRun("B")];
    let arrive: (value: unknown) => void = () => undefined;
    const askedFor = served([a, b], new Promise((done) => (arrive = done)), b.id);
    const { result, rerender } = evidenceFor(a.setup);
    await waitFor(() => expect(result.current.evidence?.runs.map((r) => r.id)).toEqual([a.runId]));
    const share = result.current.evidence?.body(a.id, NOW_MS).share ?? 0;
    expect(share).toBeGreaterThan(0.2);
    rerender({ of: b.setup });
    expect(result.current.evidence).toBeNull();
    arrive(null);
    await waitFor(() => expect(result.current.evidence?.runs.map((r) => r.id)).toEqual([b.runId]));
    expect(result.current.evidence?.body(b.id, NOW_MS).share).toBeCloseTo(share, 6);
    // The first unit's runs have nothing to say of the second: that is no reason to read the whole bench.
    expect(askedFor).toEqual([a.id, b.id]);
  });
  it("is an error, not an empty bench, when its runs cannot be read", async () => {
    const a = unitWithRun("A");
    served([a], Promise.resolve(new Refused(503, { title: "away" })), a.id);
    const { result } = evidenceFor(a.setup);
    await waitFor(() => expect(result.current.error).toBeDefined());
    expect(result.current.evidence).toBeNull();
  });
  it("asks all units only where the own has nothing to say of the mode", async () => {
    const [a, b] = [unitWithRun("A"), unitWithRun("B")];
    const askedFor = served([b], Promise.resolve(null), null);
    const { result } = evidenceFor(a.setup);
    await waitFor(() => expect(result.current.evidence?.runs.map((r) => r.id)).toEqual([b.runId]));
    const expected = result.current.evidence?.expected(a.setup);
    expect(expected?.ok === true && expected.range.basis).toBe("another unit");
    expect(askedFor).toEqual([a.id, null]);
  });
});
