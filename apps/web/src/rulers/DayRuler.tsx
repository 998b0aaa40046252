// A planned day on an hours ruler: one lane a unit, a block a run, drawn as the strip it is expected to become. What really ran is the
// strip itself, on the same ruler. Blocks can be dragged, or moved by arrow keys.

import type { DragEndEvent } from "@dnd-kit/core";
import { DndContext, PointerSensor, useDraggable, useSensor, useSensors } from "@dnd-kit/core";
import type { Block, Span } from "@keep-rolling/core/planning";
import type { HeatTrace, RunFold } from "@keep-rolling/core/runs";
import { scaleLinear } from "d3-scale";
import { useWidth } from "../ui/useWidth.ts";
import { heatColour } from "./colours.ts";
import type { Scale } from "./Strip.tsx";
import { Strip } from "./Strip.tsx";

export interface DayLane {
  unitId: string;
  name: string;
  /** Lines beneath the name. */
  note: readonly string[];
  blocks: readonly Block[];
  outs: readonly Span[];
  tauMs: number;
}
export interface RealRun {
  fold: RunFold;
  trace: HeatTrace;
}

interface Props {
  fromMs: number;
  toMs: number;
  nowMs: number | null;
  lanes: readonly DayLane[];
  sun: readonly Span[];
  breaks: readonly Span[];
  /** The run a block became, by its slot or, beside the plan, its start. */
  realRun: (block: Block) => RealRun | null;
  clockOf: (ms: number) => string;
  sentence: (block: Block) => string;
  selected?: Block | null;
  onSelect?: (block: Block) => void;
  /** Null: nothing can be moved (print). */
  onMove?: (block: Block, startMs: number) => void;
  widthPx?: number;
}

const LEFT = 132;
const RIGHT = 26;
const TOP = 36;
const LANE = 92;
const STRIP = 26;
const HOUR_MS = 3_600_000;
const STEP_MS = 5 * 60_000;
const LEAST_PX = 860;

export function DayRuler(props: Props) {
  const [ref, measured] = useWidth<HTMLDivElement>(props.widthPx ?? 1000);
  const width = props.widthPx ?? Math.max(LEAST_PX, measured);
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 6 } }));
  const x = scaleLinear([props.fromMs, props.toMs], [LEFT, width - RIGHT]);
  const perMs = (width - RIGHT - LEFT) / (props.toMs - props.fromMs);
  const height = TOP + LANE * Math.max(1, props.lanes.length) + 8;
  const dropped = ({ active, delta }: DragEndEvent): void => {
    const block = props.lanes.flatMap((l) => l.blocks).find((b) => b.slot === active.id);
    if (block !== undefined && delta.x !== 0) props.onMove?.(block, stepped(block.startMs + delta.x / perMs));
  };
  return (
    <div ref={ref} className="min-w-0 overflow-x-auto" tabIndex={0} role="region" aria-label="The day, one line a unit">
      <DndContext sensors={sensors} onDragEnd={dropped} accessibility={{ screenReaderInstructions: { draggable: "" } }}>
        <svg width={width} height={height} viewBox={`0 0 ${width} ${height}`} className="block select-none">
          <Hatch />
          <Bands {...props} x={x} height={height} />
          <HoursRuler x={x} fromMs={props.fromMs} toMs={props.toMs} clockOf={props.clockOf} height={height} />
          {props.lanes.map((lane, i) => (
            <Lane key={lane.unitId} lane={lane} y={TOP + i * LANE} x={x} {...props} />
          ))}
          {props.nowMs !== null && props.nowMs >= props.fromMs && props.nowMs <= props.toMs && (
            <path d={`M${x(props.nowMs)} ${TOP - 4}V${height}`} style={{ stroke: "var(--ink)" }} strokeDasharray="2 4" strokeWidth="1.6" />
          )}
        </svg>
      </DndContext>
    </div>
  );
}

const stepped = (ms: number): number => Math.round(ms / STEP_MS) * STEP_MS;

function Hatch() {
  return (
    <defs>
      <pattern id="hatch" width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
        <path d="M0 0V6" style={{ stroke: "var(--h2)" }} strokeWidth="2.4" />
      </pattern>
      <pattern id="break-hatch" width="5" height="5" patternUnits="userSpaceOnUse" patternTransform="rotate(-45)">
        <path d="M0 0V5" style={{ stroke: "var(--rule2)" }} strokeWidth="1.4" />
      </pattern>
    </defs>
  );
}

/** Sun and breaks lie behind everything; both are said in words beneath the ruler too. */
function Bands({ sun, breaks, x, height }: Pick<Props, "sun" | "breaks"> & { x: Scale; height: number }) {
  return (
    <g aria-hidden="true" pointerEvents="none">
      {sun.map((s) => (
        <rect
          key={s.fromMs}
          x={x(s.fromMs)}
          y={TOP}
          width={Math.max(0, x(s.toMs) - x(s.fromMs))}
          height={height - TOP}
          style={{ fill: "var(--h1)" }}
          opacity="0.18"
        />
      ))}
      {breaks.map((b) => (
        <rect
          key={b.fromMs}
          x={x(b.fromMs)}
          y={TOP}
          width={Math.max(1, x(b.toMs) - x(b.fromMs))}
          height={height - TOP}
          fill="url(#break-hatch)"
          opacity="0.45"
        />
      ))}
    </g>
  );
}

function HoursRuler({
  x,
  fromMs,
  toMs,
  clockOf,
  height,
}: {
  x: Scale;
  fromMs: number;
  toMs: number;
  clockOf: (ms: number) => string;
  height: number;
}) {
  const perHour = x(fromMs + HOUR_MS) - x(fromMs);
  const every = [1, 2, 3, 4, 6].find((n) => n * perHour >= 64) ?? 12;
  const first = Math.ceil(fromMs / (HOUR_MS / 4)) * (HOUR_MS / 4);
  const quarters = Array.from({ length: Math.floor((toMs - first) / (HOUR_MS / 4)) + 1 }, (_, i) => first + (i * HOUR_MS) / 4);
  const isHour = (ms: number): boolean => clockOf(ms).includes(":00");
  const hours = quarters.filter(isHour);
  return (
    <g aria-hidden="true">
      <path d={`M${x(fromMs)} ${TOP}H${x(toMs)}`} style={{ stroke: "var(--rule2)" }} />
      {quarters.map((ms) => (
        <path key={ms} d={`M${x(ms)} ${TOP}v${isHour(ms) ? -10 : -5}`} style={{ stroke: "var(--rule2)" }} />
      ))}
      {hours.map((ms, i) => (
        <g key={ms}>
          <path d={`M${x(ms)} ${TOP}V${height}`} style={{ stroke: "var(--rule)" }} />
          {i % every === 0 && (
            <text x={x(ms)} y={TOP - 16} fontSize="13" textAnchor="middle" className="num" style={{ fill: "var(--soft)" }}>
              {clockOf(ms)}
            </text>
          )}
        </g>
      ))}
    </g>
  );
}

function Lane({ lane, y, x, ...props }: { lane: DayLane; y: number; x: Scale } & Props) {
  return (
    <g>
      <text x={0} y={y + 44} fontSize="15" fontWeight="650" style={{ fill: "var(--ink)" }}>
        {lane.name}
      </text>
      {lane.note.map((words, i) => (
        <text key={words} x={0} y={y + 60 + 15 * i} fontSize="12.5" style={{ fill: "var(--soft)" }}>
          {words}
        </text>
      ))}
      {lane.outs.map((o) => {
        const [from, to] = [Math.max(o.fromMs, props.fromMs), Math.min(o.toMs, props.toMs)];
        return to <= from ? null : (
          <g key={o.fromMs}>
            <rect x={x(from)} y={y + 28} width={x(to) - x(from)} height={STRIP + 4} fill="url(#break-hatch)" />
            <text x={x(from) + 4} y={y + 24} fontSize="12" style={{ fill: "var(--soft)" }}>
              out of service
            </text>
          </g>
        );
      })}
      {lane.blocks.map((block, i) => (
        <BlockMark
          key={block.slot ?? block.startMs}
          block={block}
          next={lane.blocks[i + 1] ?? null}
          lane={lane}
          y={y + 30}
          x={x}
          {...props}
        />
      ))}
    </g>
  );
}

interface MarkProps extends Props {
  block: Block;
  next: Block | null;
  lane: DayLane;
  y: number;
  x: Scale;
}

function BlockMark(props: MarkProps) {
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
    else if (step !== 0 && movable) onMove(block, stepped(block.startMs) + step);
    else return;
    event.preventDefault();
  };
  return (
    <>
      <Rest {...props} />
      <g
        ref={setNodeRef as unknown as React.Ref<SVGGElement>}
        {...(movable ? listeners : {})}
        transform={`translate(${dx} 0)`}
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
        <Title {...props} words={words} />
        {real === null ? <Expected {...props} /> : <Real {...props} real={real} />}
      </g>
    </>
  );
}

const LETTER_PX = 7;

/** Words above a block, shortened to the room there is before the next one. */
function titleOf({ block, next, x }: Pick<MarkProps, "block" | "next" | "x">): string {
  const room = (next === null ? Number.POSITIVE_INFINITY : x(next.startMs)) - x(block.startMs) - 6;
  const words = `${block.pinned ? "▸ " : ""}${block.setup.mode.name}${block.setup.condition.sun === "direct" ? " · sun" : ""}`;
  const most = Math.max(3, Math.floor(room / LETTER_PX));
  return words.length > most ? `${words.slice(0, most - 1)}…` : words;
}

function Title({ words, block, x, y }: MarkProps & { words: string }) {
  return (
    <text x={x(block.startMs)} y={y - 11} fontSize="12.5" fontWeight="650" style={{ fill: "var(--ink)" }}>
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
  const level = (ms: number): number => block.heatAtStart + (block.heatAtEnd - block.heatAtStart) * curve(ms);
  const pieces = Array.from({ length: PIECES }, (_, i) => ({ fromMs: (lengthMs * i) / PIECES, toMs: (lengthMs * (i + 1)) / PIECES }));
  const end = x(endHiMs);
  // Paler where no run ever ended by heat: then heat is taken to level off just at shutdown, which is against us.
  const known = block.ahead.heat.ok && block.ahead.heat.range.events > 0;
  return (
    <>
      {pieces.map((p) => (
        <rect
          key={p.fromMs}
          x={x(startMs + p.fromMs)}
          y={y}
          width={Math.max(0.5, x(startMs + p.toMs) - x(startMs + p.fromMs) + 0.4)}
          height={STRIP}
          style={{ fill: heatColour(level((p.fromMs + p.toMs) / 2)) }}
          opacity={known ? (startMs + p.fromMs >= endLoMs ? 0.45 : 1) : 0.4}
        />
      ))}
      {endHiMs > endLoMs && <rect x={x(endLoMs)} y={y} width={Math.max(1, end - x(endLoMs))} height={STRIP} fill="url(#hatch)" />}
      {block.swapsAtMs.map((ms) => (
        <rect
          key={ms}
          x={x(ms) - 3}
          y={y + STRIP * 0.28}
          width={6}
          height={STRIP * 0.44}
          style={{ fill: "var(--ground)", stroke: "var(--ink)" }}
          strokeWidth="1.3"
        />
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
      <path d={`M${x - 5} ${y + 8}l10 10M${x - 5} ${y + 18}l10-10`} style={{ stroke: "var(--ground)", fill: "none" }} strokeWidth="5" />
      <path d={`M${x - 5} ${y + 8}l10 10M${x - 5} ${y + 18}l10-10`} style={{ stroke: "var(--ink)", fill: "none" }} strokeWidth="2.2" />
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
        <rect
          x={x(Math.max(nowMs ?? startMs, block.endLoMs))}
          y={y}
          width={Math.max(1, x(block.endHiMs) - x(Math.max(nowMs ?? startMs, block.endLoMs)))}
          height={STRIP}
          fill="url(#hatch)"
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
