import { formatHms } from "@keep-rolling/core/format";
import { Key } from "../../shared/ui/parts.tsx";
import type { Offer } from "./offers.ts";

/** What the camera says and nobody marked yet. One key takes it over, with the camera's own time. */
export function Offers({ offers, startMs, onAccept }: { offers: readonly Offer[]; startMs: number; onAccept: (offer: Offer) => void }) {
  return (
    <div role="status" className="min-h-0">
      {offers.slice(0, 2).map((offer, i) => (
        <p key={offer.event.id} className="mb-1 flex flex-wrap items-center gap-x-4 gap-y-1 border-l-4 border-here bg-sheet px-3 py-1.5">
          <span>
            <span className="num">{formatHms(offer.event.atMs - startMs)}</span> {offer.words}. Nobody has marked it.
          </span>
          <button
            type="button"
            className="flex items-center gap-2 rounded-md border border-rule2 px-3 py-1 font-semibold"
            onClick={() => onAccept(offer)}
          >
            {i === 0 && <Key>A</Key>} Take it as a mark
          </button>
        </p>
      ))}
    </div>
  );
}
