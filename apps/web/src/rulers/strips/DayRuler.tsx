// A planned day on an hours ruler: one lane a unit, a block a run, drawn as the strip it is expected to become. What really ran is the
// strip itself, on the same ruler. Blocks can be dragged, or moved by arrow keys.

import type { DragEndEvent } from "@dnd-kit/core";
import { DndContext, PointerSensor, useSensor, useSensors } from "@dnd-kit/core";
import { useWidth } from "../../shared/ui/useWidth.ts";
import { HoursRuler } from "../axis/HoursRuler.tsx";
import type { Scale } from "../axis/linear.ts";
import { linear } from "../axis/linear.ts";
import { Hatch } from "../glyphs/Hatch.tsx";
import { BlockMark, STRIP, stepped } from "./DayBlock.tsx";
import type { DayLane, DayRulerProps } from "./dayLane.ts";

const LEFT = 132;
const RIGHT = 26;
const TOP = 36;
const LANE = 92;
const LEAST_PX = 860;

export function DayRuler(props: DayRulerProps) {
  const [ref, measured] = useWidth<HTMLDivElement>(props.widthPx ?? 1000);
  const width = props.widthPx ?? Math.max(LEAST_PX, measured);
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 6 } }));
  const x = linear([props.fromMs, props.toMs], [LEFT, width - RIGHT]);
  const perMs = (width - RIGHT - LEFT) / (props.toMs - props.fromMs);
  const height = TOP + LANE * Math.max(1, props.lanes.length) + 8;
  const dropped = ({ active, delta }: DragEndEvent): void => {
    const block = props.lanes.flatMap((l) => l.blocks).find((b) => b.slot === active.id);
    if (block !== undefined && delta.x !== 0) props.onMove?.(block, stepped(block.startMs + delta.x / perMs));
  };
  return (
    <div ref={ref} className="min-w-0 overflow-x-auto" tabIndex={0} role="region" aria-label="The day, one line a unit">
      <DndContext sensors={sensors} onDragEnd={dropped} accessibility={{ screenReaderInstructions: { draggable: "" } }}>
        <svg data-publish width={width} height={height} viewBox={`0 0 ${width} ${height}`} className="block select-none">
          <Bands {...props} x={x} height={height} />
          <HoursRuler x={x} fromMs={props.fromMs} toMs={props.toMs} clockOf={props.clockOf} y={TOP} height={height} />
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

/** Sun and breaks lie behind everything; both are said in words beneath the ruler too. */
function Bands({ sun, breaks, x, height }: Pick<DayRulerProps, "sun" | "breaks"> & { x: Scale; height: number }) {
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
        <g key={b.fromMs} opacity="0.45">
          <Hatch x={x(b.fromMs)} y={TOP} width={Math.max(1, x(b.toMs) - x(b.fromMs))} height={height - TOP} kind="away" />
        </g>
      ))}
    </g>
  );
}

function Lane({ lane, y, x, ...props }: { lane: DayLane; y: number; x: Scale } & DayRulerProps) {
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
            <Hatch x={x(from)} y={y + 28} width={x(to) - x(from)} height={STRIP + 4} kind="away" />
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
