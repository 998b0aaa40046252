// The large buttons, each with its key drawn on it.

import type { RunState } from "@keep-rolling/core/runs";
import type { ReactNode } from "react";
import { Key } from "../../ui/parts.tsx";
import { EDIT_KEYS, MARK_ACTIONS } from "./actions.ts";
import type { Console } from "./useConsole.ts";

export function Keys({ desk, state }: { desk: Console; state: RunState }) {
  return (
    <div className="grid grid-cols-2 gap-2 sm:grid-cols-3 xl:grid-cols-4" role="group" aria-label="Marks">
      {MARK_ACTIONS.filter((a) => a.when.includes(state)).map((action) => (
        <Large key={action.key} letter={action.key.toUpperCase()} end={action.tone === "end"} onClick={() => desk.act(action)}>
          {action.label}
        </Large>
      ))}
      <Large letter="Z" onClick={desk.undo} disabled={!desk.canUndo}>
        Undo
      </Large>
      {desk.canRedo && (
        <Large letter="⇧Z" onClick={desk.redo}>
          Redo
        </Large>
      )}
      <Large letter={EDIT_KEYS.fiveEarlier.toUpperCase()} onClick={() => desk.earlier(5000)} disabled={!desk.canUndo}>
        5 s earlier
      </Large>
      <Large letter={EDIT_KEYS.thirtyEarlier.toUpperCase()} onClick={() => desk.earlier(30_000)} disabled={!desk.canUndo}>
        30 s earlier
      </Large>
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
      className={`flex min-h-14 items-center gap-3 rounded-md border border-b-[3px] bg-key px-3 py-2 text-left text-lg font-semibold disabled:opacity-45 ${end ? "border-here" : "border-rule2"}`}
      {...props}
    >
      <span className="hidden sm:inline">
        <Key>{letter}</Key>
      </span>
      {children}
    </button>
  );
}
