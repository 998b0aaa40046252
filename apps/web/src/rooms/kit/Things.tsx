// Lenses, cards, batteries and the rest, by kind.

import type { Kit } from "@keep-rolling/contract/kit";
import type { ItemKind } from "@keep-rolling/core/kit";
import { ITEM_KINDS } from "@keep-rolling/core/kit";
import { Link } from "react-router";

const PLURAL: Readonly<Record<ItemKind, string>> = {
  lens: "Lenses",
  card: "Cards",
  battery: "Batteries",
  "power supply": "Power supplies",
  recorder: "Recorders",
  rig: "Tripods and rigs",
  filter: "Filters",
};

type Item = Kit["items"][number];

function specWords({ spec }: Item): string {
  switch (spec.kind) {
    case "lens":
      return `${spec.focalMinMm === spec.focalMaxMm ? spec.focalMinMm : `${spec.focalMinMm} to ${spec.focalMaxMm}`} mm, stabiliser: ${spec.stabiliser}`;
    case "card":
    case "recorder":
      return `${spec.capacityGb} GB, ${spec.writeMBps === null ? "write speed not known" : `writes ${spec.writeMBps} MB/s`}`;
    case "battery":
      return `${spec.wh} Wh${spec.chargeMin === null ? "" : `, charged in ${spec.chargeMin} min`}`;
    case "power supply":
      return `${spec.watts} W`;
    case "rig":
      return spec.type;
    case "filter":
      return `${spec.diameterMm} mm, ${spec.stops === 0 ? "clear" : `${spec.stops} stops`}`;
  }
}

export function Things({ kit, archived }: { kit: Kit; archived: boolean }) {
  return (
    <div className="grid gap-x-12 gap-y-6 lg:grid-cols-2">
      {ITEM_KINDS.map((kind) => {
        const items = kit.items.filter((i) => i.spec.kind === kind && (archived || !i.archived));
        return (
          <section key={kind} aria-labelledby={`things-${kind}`}>
            <div className="flex items-baseline justify-between">
              <h2 id={`things-${kind}`}>{PLURAL[kind]}</h2>
              <Link className="text-sm" to={`/kit/items/new?kind=${encodeURIComponent(kind)}`}>{`Add a ${kind}`}</Link>
            </div>
            <ul>
              {items.map((i) => (
                <li key={i.id} className="hairline grid grid-cols-[3rem_1fr] items-baseline py-1.5">
                  <span className="num text-soft">{`${i.count} ×`}</span>
                  <span>
                    <Link to={`/kit/items/${i.id}`}>{i.name}</Link>
                    {i.archived && <span className="text-soft"> · put away</span>}
                    <span className="block text-sm text-soft">
                      {specWords(i)}
                      {i.fits !== "" && ` · fits ${i.fits}`}
                    </span>
                  </span>
                </li>
              ))}
              {items.length === 0 && <li className="hairline py-1.5 text-sm text-soft">none in the kit</li>}
            </ul>
          </section>
        );
      })}
    </div>
  );
}
