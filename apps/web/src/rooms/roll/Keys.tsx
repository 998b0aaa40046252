// The large buttons, each with its key drawn on it, in a place of their own that does not change while it rolls: a thumb finds it unseen.

import type { RunFold } from "@keep-rolling/core/runs";
import { Key } from "../../shared/ui/parts.tsx";
import type { MarkAction } from "./actions.ts";
import { actionsFor } from "./actions.ts";
import type { Console } from "./useConsole.ts";

/** Two keys in one place are never offered together; the last rows are the ones that end or stop the recording. */
const PLACES: readonly (readonly string[])[] = [["e"], ["u"], ["t"], ["w"], ["y"], ["n"], ["c"], ["l"], ["g", "r"], ["p"], ["q"], ["x"]];

/** Pressed in haste: higher on a phone. */
const STOPPING: readonly string[] = ["g", "r", "p", "q"];

export function Keys({ desk, fold }: { desk: Console; fold: RunFold }) {
  const actions = actionsFor(fold);
  const underWay = fold.state === "rolling" || fold.state === "gap";
  const duty = fold.setup?.runKind === "duty";
  return (
    <div className="grid grid-cols-4 gap-1.5 sm:grid-cols-6 sm:gap-2" role="group" aria-label="Marks">
      {PLACES.filter(([first]) => first !== "p" || duty).map((keys) => {
        const action = actions.find((a) => keys.includes(a.key));
        if (action !== undefined) return <Large key={keys[0]} action={action} onClick={() => void desk.act(action)} />;
        return underWay ? <span key={keys[0]} aria-hidden="true" className={keys[0] === "p" ? "hidden" : ""} /> : null;
      })}
    </div>
  );
}

function Large({ action, onClick }: { action: MarkAction; onClick: () => void }) {
  const size =
    action.key === "x"
      ? "col-span-2 min-h-16 sm:min-h-13 sm:text-[1.15rem]"
      : STOPPING.includes(action.key)
        ? "min-h-16 sm:min-h-13"
        : "min-h-12 sm:min-h-13";
  return (
    <button
      type="button"
      className={`flex items-center justify-center gap-2 rounded-md border border-b-[3px] bg-key px-1 py-1 text-center text-[0.95rem] leading-tight font-semibold sm:justify-start sm:px-2.5 sm:text-left sm:text-[1.05rem] ${size} ${action.tone === "end" ? "border-here" : "border-rule2"}`}
      onClick={onClick}
    >
      <span className="hidden sm:inline">
        <Key>{action.key.toUpperCase()}</Key>
      </span>
      {action.label}
    </button>
  );
}
