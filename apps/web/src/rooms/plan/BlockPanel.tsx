// One block opened: the arithmetic before its start, and the fixes one can choose.

import type { Block } from "@keep-rolling/core/planning";
import { fitsIn, isCard } from "@keep-rolling/core/kit";
import { gbPerHour, placesOf, tauMsOf, writeVerdict } from "@keep-rolling/core/planning";
import { lastedWords } from "@keep-rolling/core/runs";
import { formatHms, formatTick } from "@keep-rolling/core/format";
import { Link } from "react-router";
import { stockOf, traitsOf } from "../../shared/day/cells.ts";
import { choiceOf } from "../../shared/day/dayRequest.ts";
import { clockOf } from "../../shared/day/frame.ts";
import type { PlannedDay } from "../../shared/day/useDay.ts";
import { AheadStrip } from "../../rulers/strips/AheadStrip.tsx";
import { SelectField } from "../../shared/ui/fields.tsx";
import { Button, Fact, Note } from "../../shared/ui/parts.tsx";
import { realRunOf } from "./dayView.ts";
import type { useSaveDay } from "./useSaveDay.ts";
import { withChoice } from "./useSaveDay.ts";
import { aheadWords, expectedWords, heatBasisWords, needsWords } from "./words.ts";

interface Props {
  planned: PlannedDay;
  block: Block;
  saveDay: ReturnType<typeof useSaveDay>;
  startAddress: string;
  onClose: () => void;
}

export function BlockPanel({ planned, block, saveDay, startAddress, onClose }: Props) {
  const { kit, day } = planned;
  const unit = kit.units.find((u) => u.id === block.unitId);
  const real = realRunOf(planned, block);
  const { mode, condition, protocol } = block.setup;
  const watts = block.wh === null ? null : block.wh / ((block.endHiMs - block.startMs) / 3_600_000);
  return (
    <section aria-labelledby="block" className="my-4 border-l-4 border-here bg-sheet px-4 py-3">
      <div className="flex flex-wrap items-baseline gap-x-4">
        <h2 id="block">{`${unit?.name ?? ""}, ${mode.name}, ${condition.name}`}</h2>
        <span className="text-soft">{protocol.name}</span>
        <Button tone="quiet" className="ml-auto" onClick={onClose}>
          Close
        </Button>
      </div>
      {block.state === "planned" && (
        <AheadStrip
          ahead={block.ahead}
          tauMs={planned.question.request.units.find((u) => u.id === block.unitId)?.tauMs ?? tauMsOf(protocol)}
          heatAtStart={block.heatAtStart}
        />
      )}
      <div className="mt-2 grid gap-x-10 gap-y-3 md:grid-cols-2">
        <dl>
          <Fact label="Starts" value={clockOf(day, block.startMs)} note={block.pinned ? "where you put it" : "where the planner put it"} />
          <Fact
            label="Lasts"
            value={`${formatTick(block.endLoMs - block.startMs)} to ${formatTick(block.endHiMs - block.startMs)}`}
            note={expectedWords(block)}
          />
          <Fact label="Ends known" value={aheadWords(block.ahead)} />
          <Fact
            label="Heat at start"
            value={`${Math.ceil(block.heatAtStart * 100 - 1e-9)} %`}
            note={block.warm ? "a warm start" : "a cold start: below 10 % of the rise to shutdown"}
          />
        </dl>
        <dl>
          <Fact
            label="Storage"
            value={`${Math.round(gbPerHour(mode.mbps) * 10) / 10} GB/h`}
            note={`${Math.ceil(block.gb)} GB to its latest end; ${mode.mbps} Mbit/s are ${mode.mbps / 8} MB/s`}
          />
          <Fact
            label="Card"
            value={block.ahead.cardMs === null ? "not known" : `full at ${formatHms(block.ahead.cardMs)}`}
            note={speedNote(planned, block)}
          />
          <Fact
            label="Battery"
            value={
              block.ahead.batteryMs === null
                ? condition.power === "dummy or mains"
                  ? "on mains"
                  : "not known"
                : `empty at ${formatHms(block.ahead.batteryMs)}`
            }
            note={
              [
                watts === null ? null : `${watts.toFixed(1)} W, the hungriest earlier run`,
                block.batteriesNeeded === null ? null : `${block.batteriesNeeded} to outlast the heat`,
              ]
                .filter(Boolean)
                .join("; ") || undefined
            }
          />
          <Fact label="With" value={needsWords(block) || "nothing in the kit fits or is needed"} />
        </dl>
      </div>
      <Behind planned={planned} block={block} />
      {block.state === "planned" &&
        block.flags.map((f) => (
          <Note key={f.text} tone="alert">
            {f.text}
          </Note>
        ))}
      {block.state === "planned" && block.slot !== null ? (
        <Choices planned={planned} block={block} slot={block.slot} saveDay={saveDay} startAddress={startAddress} />
      ) : (
        real !== null && (
          <Link to={block.state === "rolling" ? `/roll/${real.id}` : `/runs/${real.id}`}>
            {block.state === "rolling" ? "To its console" : "To the run"}
          </Link>
        )
      )}
    </section>
  );
}

/** Every number opens to what it was computed from: the runs, and how. */
function Behind({ planned, block }: { planned: PlannedDay; block: Block }) {
  const { evidence, kit } = planned;
  const range = block.ahead.heat.ok ? block.ahead.heat.range : null;
  const measured = evidence.wattsRuns(block.setup);
  const unit = planned.question.request.units.find((u) => u.id === block.unitId);
  const constant = planned.question.constants.find((c) => c.unitId === block.unitId)?.constant ?? null;
  const timeOf = (id: string): string => {
    const fold = evidence.runs.find((r) => r.id === id)?.fold;
    return fold === undefined ? "a run" : lastedWords(fold, "shutdown");
  };
  return (
    <details className="mt-2 text-sm">
      <summary className="cursor-pointer underline decoration-rule2">What these numbers stand on</summary>
      <dl className="mt-1 space-y-1">
        <div>
          <dt className="font-semibold">How long: where earlier runs ended by heat, or what they outlasted; nothing scaled</dt>
          <dd className="flex flex-wrap gap-x-4">
            {range === null ? "no earlier run; two hours are kept free" : range.basisWords}
            {range?.runIds.map((id) => (
              <Link key={id} className="num" to={`/runs/${id}`}>
                {timeOf(id)}
              </Link>
            ))}
          </dd>
        </div>
        <div>
          <dt className="font-semibold">Watts: the hungriest run of this mode on this unit, by its battery's per cent</dt>
          <dd className="flex flex-wrap gap-x-4">
            {measured.length === 0 && "no run tells"}
            {measured.map(({ id, watts }) => (
              <Link key={id} className="num" to={`/runs/${id}`}>{`${watts.toFixed(1)} W`}</Link>
            ))}
          </dd>
        </div>
        <div>
          <dt className="font-semibold">Heat left at its start, by our estimate</dt>
          <dd>
            {`${heatBasisWords(unit?.heat.length ?? 0, constant)} `}
            <Link to={`/heat/${block.unitId}`}>{`All runs of ${kit.units.find((u) => u.id === block.unitId)?.name ?? "the unit"}`}</Link>
          </dd>
        </div>
      </dl>
    </details>
  );
}

function speedNote({ kit }: PlannedDay, block: Block): string | undefined {
  const used = block.needs
    .map((n) => kit.items.find((i) => i.id === n.itemId))
    .filter((i) => i?.spec.kind === "card" || i?.spec.kind === "recorder");
  const words = used.map((i) => {
    const speed = i?.spec.kind === "card" || i?.spec.kind === "recorder" ? i.spec.writeMBps : null;
    return `${i?.name ?? ""}${speed === null ? "" : ` writes ${speed} MB/s`}: ${writeVerdict(speed, block.setup.mode.mbps)}`;
  });
  return words.length === 0 ? undefined : words.join("; ");
}

function Choices({ planned, block, slot, saveDay, startAddress }: Omit<Props, "onClose"> & { slot: string }) {
  const { kit, day } = planned;
  const choice = choiceOf(day, slot);
  const { slots } = traitsOf(
    kit,
    kit.units.find((u) => u.id === block.unitId),
  );
  const places = placesOf(block.setup.mode.target);
  const cards = stockOf(kit).filter((i) => isCard(i) && slots.some((s) => fitsIn(i.fits, s)));
  const set = (more: Parameters<typeof withChoice>[2], said: string): void => saveDay((d) => withChoice(d, slot, more), said);
  const swaps = block.swapsAtMs.length > 0;
  return (
    <div className="mt-3 flex flex-wrap items-end gap-3">
      <Link className="rounded-md border border-cool bg-cool px-4 py-2 font-semibold text-ground no-underline" to={startAddress}>
        Start this run
      </Link>
      {places.cards === 1 && cards.length > 0 && (
        <SelectField
          label="Card"
          value={choice?.cardId ?? ""}
          options={[["", "the smallest that lasts"], ...cards.map((c) => [c.id, c.name] as const)]}
          onChange={(e) => set({ cardId: e.target.value === "" ? null : e.target.value }, "Another card; the rest follows.")}
        />
      )}
      {places.cards === 1 && (swaps || (block.ahead.cardMs !== null && cards.reduce((sum, c) => sum + c.count, 0) > 1)) && (
        <Button onClick={() => set({ swaps: !swaps }, swaps ? "No swaps planned." : "Swaps planned where the card would end it.")}>
          {swaps ? "Without swaps" : "Plan swaps, body on"}
        </Button>
      )}
      {block.pinned && (
        <Button onClick={() => set({ startMin: null }, "The planner chooses its start again.")}>Let the planner choose the start</Button>
      )}
      <Button onClick={() => set({ out: true }, "Left out of this day; its trial stays wanted.")}>Leave out today</Button>
    </div>
  );
}
