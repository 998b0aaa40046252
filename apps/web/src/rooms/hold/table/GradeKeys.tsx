import type { Sharpness } from "@keep-rolling/core/holds";
import { Button, Key } from "../../../shared/ui/parts.tsx";
import { GRADE_KEYS } from "./useGrading.ts";

/** The four grades and undo, for fingers as for keys. */
export function GradeKeys({ grade, undo, canUndo }: { grade: (g: Sharpness) => void; undo: () => void; canUndo: boolean }) {
  return (
    <div className="flex flex-wrap gap-2 py-2">
      {Object.entries(GRADE_KEYS).map(([key, g]) => (
        <Button key={key} onClick={() => grade(g)}>
          {g} <Key>{key.toUpperCase()}</Key>
        </Button>
      ))}
      <Button tone="quiet" disabled={!canUndo} onClick={undo}>
        Undo
      </Button>
    </div>
  );
}
