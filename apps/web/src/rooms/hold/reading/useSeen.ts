// Which shots of a test are read: as a judge graded its pictures, for a use; or as they were seen at once.

import type { Seen, Use } from "@keep-rolling/core/holds";
import { seenInPictures, seenUsually } from "@keep-rolling/core/holds";
import { useMemo } from "react";
import { useKeptState } from "../../../shared/drafts/useKeptState.ts";
import type { OpenedHold } from "../useHold.tsx";

export interface Chosen {
  by: string;
  use: Use;
}

export function useSeen({ id, hold, plan }: Pick<OpenedHold, "id" | "hold" | "plan">) {
  const [kept, change] = useKeptState<{ by: string; use: Use | "" }>(`hold read ${id}`, { by: "", use: "" });
  const found = useMemo((): { seen: Seen; by: string | null; use: Use | null } => {
    const usual = seenUsually(plan, hold);
    if (usual.by === null || usual.use === null) return { seen: usual, by: null, use: null };
    const judge = hold.judges.find((j) => j.by === kept.by && j.left === 0)?.by ?? usual.by;
    const use = kept.use === "" ? usual.use : kept.use;
    return { seen: seenInPictures(plan, hold, judge, use), by: judge, use };
  }, [plan, hold, kept]);
  return { ...found, choose: (more: Partial<Chosen>): void => change((was) => ({ ...was, ...more })) };
}
