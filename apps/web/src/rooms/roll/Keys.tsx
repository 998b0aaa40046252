// The large buttons, each with its key drawn on it.

import type { RunFold } from "@keep-rolling/core/runs";
import type { ReactNode } from "react";
import { Key } from "../../shared/ui/parts.tsx";
import { actionsFor, EDIT_KEYS } from "./actions.ts";
import type { Console } from "./useConsole.ts";

export function Keys({ desk, fold }: { desk: Console; fold: RunFold }) {
  return (
    <div className="space-y-2">
      <div className="grid grid-cols-2 gap-2 sm:grid-cols-3 xl:grid-cols-5" role="group" aria-label="Marks">
        {actionsFor(fold).map((action) => (
          <Large key={action.key} letter={action.key.toUpperCase()} end={action.tone === "end"} onClick={() => void desk.act(action)}>
            {action.label}
          </Large>
        ))}
      </div>
      <div className="grid grid-cols-2 gap-2 sm:grid-cols-5" role="group" aria-label="Last mark">
        <Large letter="Z" onClick={() => void desk.undo()} disabled={!desk.canUndo}>
          Undo
        </Large>
        <Large letter="⇧Z" onClick={() => void desk.redo()} disabled={!desk.canRedo}>
          Redo
        </Large>
        <Large letter={EDIT_KEYS.fiveEarlier.toUpperCase()} onClick={() => void desk.earlier(5000)} disabled={!desk.canUndo}>
          5 s earlier
        </Large>
        <Large letter={EDIT_KEYS.thirtyEarlier.toUpperCase()} onClick={() => void desk.earlier(30_000)} disabled={!desk.canUndo}>
          30 s earlier
        </Large>
        <Large letter={EDIT_KEYS.typeTime.toUpperCase()} onClick={desk.typeTime} disabled={!desk.canUndo}>
          Type its time
        </Large>
      </div>
    </div>
  );
}

function Large({
  letter,
  children,
  end = false,
  ...props
}: {
  letter: string;
  children: ReactNode;
  end?: boolean;
  onClick: () => void;
  disabled?: boolean;
}) {
  return (
    <button
      type="button"
      className={`flex min-h-13 items-center gap-2 rounded-md border border-b-[3px] bg-key px-2.5 py-1.5 text-left text-[1.05rem] leading-tight font-semibold disabled:opacity-45 ${end ? "border-here" : "border-rule2"}`}
      {...props}
    >
      <span className="hidden sm:inline">
        <Key>{letter}</Key>
      </span>
      {children}
    </button>
  );
}
