// The one legend of the strip. It says which witness the shade comes from.

import type { Endpoint, HeatWitness } from "@keep-rolling/core/runs";
import { heatColour } from "./colours.ts";

const SHADE: Readonly<Record<HeatWitness, string>> = {
  gauge: "shade: heat gauge",
  "surface temperature": "shade: surface temperature, 20 to 60 °C",
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
  asked?: Endpoint | null;
}

export function Legend({ witnesses, outside = false, asked = null }: Props) {
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
      <Item label="first warning" d="M4 13V1h8l-3 3 3 3H4" filled />
      <Item label="warning stands; heavier once escalated" d="M1 9h7v-2h7v3H8v-1z" filled />
      <Item label={WORDS[asked ?? "shutdown"]} d="M3 1h3l7 6-7 6H3z" filled />
      <Item label="ended otherwise: at least this long" d="M2 1l6 6-6 6M8 1l6 6-6 6" />
      <Item label="gap, body on" d="M2 4h11v6H2z" />
      <Item label="gap, powered off" d="M4 14l4-14M9 14l4-14" />
      {outside && <Item label="another tester's figure" d="M8 2a5 5 0 1 0 .01 0z" />}
    </ul>
  );
}

function Item({ label, d, filled = false }: { label: string; d: string; filled?: boolean }) {
  return (
    <li className="flex items-center gap-2">
      <svg width="16" height="14" aria-hidden="true">
        <path d={d} style={{ stroke: "var(--ink)", fill: filled ? "var(--ink)" : "none" }} strokeWidth="1.4" />
      </svg>
      {label}
    </li>
  );
}
