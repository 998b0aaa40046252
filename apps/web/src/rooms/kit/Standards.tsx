// Named conditions and protocols: what a cell is made of besides body and mode.

import type { Kit } from "@keep-rolling/contract/kit";
import { protocolWords, settingWords } from "@keep-rolling/core/planning";
import { formatTemperatureRange } from "@keep-rolling/core/format";
import { Link } from "react-router";
import { useSettings } from "../../shared/settings/settings.ts";

export function Conditions({ kit, archived }: { kit: Kit; archived: boolean }) {
  const { temperature } = useSettings();
  return (
    <ul className="max-w-4xl">
      {kit.conditions
        .filter((c) => archived || !c.archived)
        .map((c) => (
          <li key={c.id} className="hairline py-2">
            <Link className="font-semibold" to={`/kit/conditions/${c.id}`}>
              {c.name}
            </Link>
            {c.archived && <span className="text-soft"> · put away</span>}
            <span className="num ml-3 text-sm">{formatTemperatureRange(c.ambientC, c.toleranceC, temperature)}</span>
            <span className="block text-sm text-soft">
              {[
                `sun ${c.sun}`,
                `air ${c.air}`,
                `screen ${c.screen}`,
                `power ${c.power}`,
                `power-off ${c.powerOffSetting}`,
                ...said(c),
              ].join(" · ")}
            </span>
          </li>
        ))}
    </ul>
  );
}

const said = (c: Kit["conditions"][number]): string[] =>
  settingWords(c)
    .filter(([, words]) => words !== "not said")
    .map(([what, words]) => `${what} ${words}`);

export function Protocols({ kit, archived }: { kit: Kit; archived: boolean }) {
  return (
    <ul className="max-w-4xl">
      {kit.protocols
        .filter((p) => archived || !p.archived)
        .map((p) => (
          <li key={p.id} className="hairline py-2">
            <Link className="font-semibold" to={`/kit/protocols/${p.id}`}>
              {p.name}
            </Link>
            {p.archived && <span className="text-soft"> · put away</span>}
            <span className="block text-sm text-soft">
              {protocolWords(p)
                .map(([what, words]) => `${what}: ${words}`)
                .join(" · ")}
            </span>
          </li>
        ))}
    </ul>
  );
}
