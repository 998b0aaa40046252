// The one legend of the strip, drawn with the strip's own glyphs. It says which witness the shade comes from.

import type { Endpoint, HeatWitness } from "@keep-rolling/core/runs";
import type { ReactNode } from "react";
import { heatColour } from "../glyphs/colours.ts";
import { AtLeast, EventEnd } from "../glyphs/End.tsx";
import { Hollow } from "../glyphs/FigureMarks.tsx";
import { GapOff, GapOn } from "../glyphs/Gap.tsx";
import { Flag, Standing } from "../glyphs/Warning.tsx";

const SHADE: Readonly<Record<HeatWitness, string>> = {
  gauge: "shade: heat gauge",
  "surface temperature": "shade: surface temperature",
  touch: "shade: touch",
  warnings: "shade: warnings only",
  none: "shade: no heat noted",
};

/** What a solid end means, by the endpoint asked about. */
const WORDS: Readonly<Record<Endpoint, string>> = {
  shutdown: "ended by heat",
  firstWarning: "a warning came before the end",
  batteryEmpty: "ended by an empty battery",
};

interface Props {
  witnesses: readonly HeatWitness[];
  outside?: boolean;
  endpoint?: Endpoint | null;
}

export function Legend({ witnesses, outside = false, endpoint = null }: Props) {
  const shown = [...new Set(witnesses)];
  return (
    <ul className="flex flex-wrap gap-x-5 gap-y-1 text-sm text-soft" aria-label="Legend">
      <li className="flex items-center gap-2">
        <svg width="44" height="12" aria-hidden="true">
          {[0, 0.25, 0.5, 0.75, 1].map((level, i) => (
            <rect key={level} x={i * 9} width="9" height="12" style={{ fill: heatColour(level) }} />
          ))}
        </svg>
        {shown.length === 0 ? SHADE.none : shown.map((w) => SHADE[w]).join("; ")}
      </li>
      <Item label="first warning">
        <Flag x={4} y={8} height={4} />
      </Item>
      <Item label="warning stands; heavier once escalated">
        <Standing from={1} to={10} y={8} escalated={false} />
        <Standing from={10} to={19} y={8} escalated />
      </Item>
      <Item label={WORDS[endpoint ?? "shutdown"]}>
        <EventEnd at={3} y={4} height={8} />
      </Item>
      <Item label="ended otherwise: at least this long">
        <AtLeast at={0} y={2} height={12} width={7} />
      </Item>
      <Item label="gap, body on">
        <GapOn from={3} to={15} y={1} height={14} />
      </Item>
      <Item label="gap, powered off">
        <GapOff from={9} to={9} y={3} height={10} />
      </Item>
      {outside && (
        <Item label="another tester's time">
          <Hollow at={9} y={8} />
        </Item>
      )}
    </ul>
  );
}

function Item({ label, children }: { label: string; children: ReactNode }) {
  return (
    <li className="flex items-center gap-2">
      <svg width="20" height="16" aria-hidden="true">
        {children}
      </svg>
      {label}
    </li>
  );
}
