// A take left out with a reason, and counted again: only the tester does either.

import type { WalkTake } from "@keep-rolling/core/walks";
import { useState } from "react";
import { undoFacts } from "../../record/sessions.ts";
import { Button } from "../../shared/ui/parts.tsx";
import type { SeenWalk } from "./useWalk.ts";

export function LeaveOut({ id, seen, take }: { id: string; seen: SeenWalk; take: WalkTake }) {
  const [reason, setReason] = useState("");
  const { badFactId } = take;
  if (take.bad !== null)
    return badFactId === null ? null : (
      <Button tone="quiet" onClick={() => void undoFacts(id, seen.clock, [badFactId])}>
        Count this take again
      </Button>
    );
  return (
    <form
      className="no-print flex flex-wrap items-center gap-2 text-sm"
      onSubmit={(event) => {
        event.preventDefault();
        if (reason.trim() !== "") void seen.press("takeBad", { reason: reason.trim() }, { target: take.id });
      }}
    >
      <label className="flex items-center gap-2">
        Leave this take out because
        <input value={reason} maxLength={200} onChange={(e) => setReason(e.target.value)} className="w-56" />
      </label>
      <Button type="submit" tone="quiet" disabled={reason.trim() === ""}>
        Leave it out
      </Button>
    </form>
  );
}
