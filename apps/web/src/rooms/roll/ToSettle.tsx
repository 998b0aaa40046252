import { Key } from "../../shared/ui/parts.tsx";
import type { Settlement } from "../../record/settling.ts";
import { EDIT_KEYS } from "./actions.ts";

/** The first thing the record has to settle, with its one key; the rest waits on the run's page. */
export function ToSettle({ items, onSettle }: { items: readonly Settlement[]; onSettle: (way: Settlement["ways"][number]) => void }) {
  const [item] = items;
  if (item === undefined) return null;
  return (
    <div role="status" className="flex flex-wrap items-center gap-x-4 gap-y-1 border-l-4 border-claim bg-sheet px-3 py-1.5">
      <p className="min-w-0 flex-1 basis-72">
        {item.sentence} <span className="text-soft">{item.about}</span>
        {items.length > 1 && <span className="text-soft">{` · ${items.length - 1} more after this`}</span>}
      </p>
      {item.ways.map((way, i) => (
        <button
          key={way.label}
          type="button"
          className="flex items-center gap-2 rounded-md border border-rule2 px-3 py-1 text-left font-semibold"
          onClick={() => onSettle(way)}
        >
          {i === 0 && (
            <span className="hidden sm:inline">
              <Key>{EDIT_KEYS.settle.toUpperCase()}</Key>
            </span>
          )}{" "}
          {way.label}
        </button>
      ))}
    </div>
  );
}
