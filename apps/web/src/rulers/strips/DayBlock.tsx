// One block of a day on its lane: the strip it is expected to become, or the run it was, with its words, its rest and what ends it. It
// can be dragged, or moved by arrow keys.

import { useDraggable } from "@dnd-kit/core";
import type { Block } from "@keep-rolling/core/planning";
import type { Scale } from "../axis/linear.ts";
import { GapOn } from "../glyphs/Gap.tsx";
import { Haloed } from "../glyphs/Haloed.tsx";
import { Hatch } from "../glyphs/Hatch.tsx";
import { piecesOf, Shade } from "../glyphs/Shade.tsx";
import type { DayLane, DayRulerProps, RealRun } from "./dayLane.ts";
import { Strip } from "./Strip.tsx";

/** Height of a strip, px. */
export const STRIP = 26;
const STEP_MS = 5 * 60_000;
/** Blocks are moved in steps of five minutes. */
export const stepped = (ms: number): number => Math.round(ms / STEP_MS) * STEP_MS;

export interface MarkProps extends DayRulerProps {
  block: Block;
  next: Block | null;
  lane: DayLane;
  y: number;
  x: Scale;
}

export function BlockMark(props: MarkProps) {
  const { block, y, x, onMove, onSelect, selected, sentence } = props;
  const movable = block.state === "planned" && block.slot !== null && onMove !== undefined;
  const { setNodeRef, listeners, transform } = useDraggable({ id: block.slot ?? `run ${block.startMs}`, disabled: !movable });
  const real = props.realRun(block);
  const dx = transform?.x ?? 0;
  const words = titleOf(props);
  const isSelected = selected != null && selected.slot === block.slot && selected.startMs === block.startMs;
  const onKeyDown = (event: React.KeyboardEvent): void => {
    const step = event.key === "ArrowLeft" ? -STEP_MS : event.key === "ArrowRight" ? STEP_MS : 0;
    if (event.key === "Enter" || event.key === " ") onSelect?.(block);
    else if (step !== 0 && movable) onMove(block, block.startMs + step);
    else return;
    event.preventDefault();
  };
  return (
    <>
      <Rest {...props} />
      <g transform={`translate(${dx} 0)`}>
        <g
          ref={setNodeRef as unknown as React.Ref<SVGGElement>}
          {...(movable ? listeners : {})}
          role="button"
          tabIndex={onSelect === undefined ? -1 : 0}
          aria-label={sentence(block)}
          aria-pressed={isSelected}
          onClick={() => onSelect?.(block)}
          onKeyDown={onKeyDown}
          style={{ cursor: movable ? "grab" : "pointer", touchAction: movable ? "none" : "auto" }}
        >
          {/* What can be hit: the strip and its words, at least 24 px wide. */}
          <rect
            x={x(block.startMs) - 2}
            y={y - 24}
            width={Math.max(26, x(block.endHiMs) - x(block.startMs) + 4, LETTER_PX * words.length)}
            height={STRIP + 30}
            fill="transparent"
          />
          {isSelected && (
            <rect
              x={x(block.startMs) - 3}
              y={y - 3}
              width={x(block.endHiMs) - x(block.startMs) + 6}
              height={STRIP + 6}
              fill="none"
              style={{ stroke: "var(--h2)" }}
              strokeWidth="2"
            />
          )}
          {real === null ? <Expected {...props} /> : <Real {...props} real={real} />}
        </g>
        <Title {...props} words={words} />
      </g>
    </>
  );
}

const LETTER_PX = 7;

/** Right of the ruler's end there is this much room for words. */
const MARGIN_PX = 26;

/** Words above a block, shortened to the room there is before the next one, or before the edge. */
function titleOf({ block, next, x, toMs }: Pick<MarkProps, "block" | "next" | "x" | "toMs">): string {
  const room = (next === null ? x(toMs) + MARGIN_PX : x(next.startMs)) - x(block.startMs) - 6;
  const words = `${block.pinned ? "▸ " : ""}${block.setup.mode.name}${block.setup.condition.sun === "direct" ? " · sun" : ""}`;
  const most = Math.max(3, Math.floor(room / LETTER_PX));
  return words.length > most ? `${words.slice(0, most - 1)}…` : words;
}

/** Not in the control: the control's name says all of it, this may be shortened to "UHD 50 o…". */
function Title({ words, block, x, y }: MarkProps & { words: string }) {
  return (
    <text
      x={x(block.startMs)}
      y={y - 11}
      fontSize="12.5"
      fontWeight="650"
      style={{ fill: "var(--ink)", pointerEvents: "none" }}
      aria-hidden="true"
    >
      {words}
    </text>
  );
}

const PIECES = 12;

/** The expected run: heat deepening to the middle of its range, hatched to the latest end, with whatever ends it first. */
function Expected({ block, lane, x, y }: MarkProps) {
  const { startMs, endLoMs, endHiMs } = block;
  const lengthMs = Math.max(1, endHiMs - startMs);
  const curve = (ms: number): number => -Math.expm1(-ms / lane.tauMs) / -Math.expm1(-lengthMs / lane.tauMs);
  const level = (ms: number): number => block.heatAtStart + (block.heatAtEnd - block.heatAtStart) * curve(ms - startMs);
  const end = x(endHiMs);
  // Paler where no run ever ended by heat: then heat is taken to level off just at shutdown, which is against us.
  const known = block.ahead.heat.ok && block.ahead.heat.range.events > 0;
  const pieces = piecesOf(startMs, startMs + lengthMs, PIECES, level);
  return (
    <>
      <Shade pieces={pieces.map((p) => ({ ...p, opacity: known ? (p.fromMs >= endLoMs ? 0.45 : 1) : 0.4 }))} x={x} y={y} height={STRIP} />
      {endHiMs > endLoMs && <Hatch x={x(endLoMs)} y={y} width={Math.max(1, end - x(endLoMs))} height={STRIP} kind="expected" />}
      {block.swapsAtMs.map((ms) => (
        <GapOn key={ms} from={x(ms)} to={x(ms)} y={y} height={STRIP} />
      ))}
      {block.endKind !== "heat" && block.endKind !== "tester" && <EndWords block={block} x={end} y={y} />}
      {block.warm && (
        <text x={x(startMs) + 3} y={y + STRIP + 13} fontSize="12" fontWeight="650" style={{ fill: "var(--alert)" }}>
          warm
        </text>
      )}
    </>
  );
}

const END_WORDS = {
  card: "card full",
  recorder: "recorder full",
  battery: "battery",
  "clip limit": "clip limit",
  heat: "",
  tester: "",
} as const;

function EndWords({ block, x, y }: { block: Block; x: number; y: number }) {
  return (
    <g>
      <Haloed d={`M${x - 5} ${y + 8}l10 10M${x - 5} ${y + 18}l10-10`} width={2.2} halo={5} />
      <text
        x={x + 6}
        y={y + STRIP + 13}
        fontSize="12"
        textAnchor="end"
        fontWeight="650"
        style={{ fill: "var(--ink)", stroke: "var(--ground)", strokeWidth: 4, paintOrder: "stroke" }}
      >
        {END_WORDS[block.endKind]}
      </text>
    </g>
  );
}

function Real({ block, real, x, y, nowMs }: MarkProps & { real: RealRun }) {
  const startMs = real.fold.startMs ?? block.startMs;
  const shifted: Scale = (ms) => x(startMs + ms);
  const rolls = block.state === "rolling";
  return (
    <>
      {rolls && block.endHiMs > (nowMs ?? startMs) && (
        <Hatch
          x={x(Math.max(nowMs ?? startMs, block.endLoMs))}
          y={y}
          width={Math.max(1, x(block.endHiMs) - x(Math.max(nowMs ?? startMs, block.endLoMs)))}
          height={STRIP}
          kind="expected"
        />
      )}
      <Strip fold={real.fold} trace={real.trace} nowMs={nowMs ?? startMs} x={shifted} y={y} height={STRIP} />
    </>
  );
}

/** The rest after a block, as dots, until it is cold or the next one starts. */
function Rest({ block, next, x, y, toMs, nowMs }: MarkProps) {
  const fromMs = block.endHiMs;
  const untilMs = Math.min(block.restUntilMs, next?.startMs ?? toMs, toMs);
  if (untilMs <= fromMs || (nowMs !== null && untilMs < nowMs)) return null;
  const [from, to] = [x(fromMs) + (block.state === "ended" ? 20 : 6), x(untilMs)];
  if (to - from < 8) return null;
  return (
    <g aria-hidden="true">
      <path
        d={`M${from} ${y + STRIP / 2}H${to}`}
        style={{ stroke: "var(--cool)" }}
        strokeWidth="2.2"
        strokeDasharray="0.1 5"
        strokeLinecap="round"
      />
      {to - from > 40 && (
        <text x={(from + to) / 2} y={y + STRIP + 13} fontSize="12" textAnchor="middle" style={{ fill: "var(--cool)" }}>
          cool
        </text>
      )}
    </g>
  );
}
