// Grading by keys: one picture in hand, a grade a key, arrows, undo. A key moves on at once, however long keeping the grade takes: fast fingers lose none.

import type { HoldPicture, Sharpness } from "@keep-rolling/core/holds";
import { useRef, useState } from "react";
import { v7 as uuidv7 } from "uuid";
import { pressAll, undoFacts } from "../../../record/sessions.ts";
import { usePageKeys } from "../../../shared/ui/usePageKeys.ts";
import type { OpenedHold } from "../useHold.tsx";

export const GRADE_KEYS = { s: "sharp", d: "usable", f: "soft", g: "lost" } as const satisfies Record<string, Sharpness>;
const LETTERS: Readonly<Record<Sharpness, string>> = { sharp: "S", usable: "D", soft: "F", lost: "G" };
export const letterOf = (grade: Sharpness): string => LETTERS[grade];

interface Grading {
  id: string;
  clock: OpenedHold["clock"];
  judge: string;
  blind: boolean;
  /** In the order they are gone through. */
  pictures: readonly HoldPicture[];
  /** Pictures in a row, for the arrows up and down. */
  perRow: number;
}
interface Given {
  factId: string;
  pictureId: string;
}

export function useGrading({ id, clock, judge, blind, pictures, perRow }: Grading) {
  const [at, setAt] = useState(() =>
    Math.max(
      0,
      pictures.findIndex((p) => !p.grades.has(judge)),
    ),
  );
  // What was pressed and may not be shown yet.
  const [given, setGiven] = useState<readonly Given[]>([]);
  const chain = useRef<Promise<unknown>>(Promise.resolve());
  const now = useRef({ at, given });
  const move = (to: number, more: readonly Given[] = now.current.given): void => {
    now.current = { at: Math.min(pictures.length - 1, Math.max(0, to)), given: more };
    setAt(now.current.at);
    setGiven(more);
  };
  const isGraded = (p: HoldPicture, of: readonly Given[]): boolean => p.grades.has(judge) || of.some((g) => g.pictureId === p.id);
  const next = (work: () => Promise<unknown>): void => void (chain.current = chain.current.then(work, work));

  const grade = (sharpness: Sharpness): void => {
    const picture = pictures[now.current.at];
    // After the last one there is no next: a key too many must not grade it again.
    if (picture === undefined || (blind && now.current.given.at(-1)?.pictureId === picture.id)) return;
    const one = { factId: uuidv7(), pictureId: picture.id };
    const all = [...now.current.given, one];
    const later = pictures.findIndex((p, i) => i > now.current.at && !isGraded(p, all));
    const open = later >= 0 ? later : pictures.findIndex((p) => !isGraded(p, all));
    move(!blind ? now.current.at + 1 : open >= 0 ? open : now.current.at, all);
    next(() => pressAll(id, clock, [["sharpness", { by: judge, sharpness, blind }, picture.id, one.factId]]));
  };
  const before = pictures
    .flatMap((p) => {
      const said = p.grades.get(judge);
      return said === undefined ? [] : [{ factId: said.factId, pictureId: p.id }];
    })
    .reduce<Given | undefined>((a, b) => (a === undefined || b.factId > a.factId ? b : a), undefined);
  const undo = (): void => {
    const last = now.current.given.at(-1) ?? before;
    if (last === undefined) return;
    const place = pictures.findIndex((p) => p.id === last.pictureId);
    move(place >= 0 ? place : now.current.at, now.current.given.slice(0, -1));
    next(() => undoFacts(id, clock, [last.factId]));
  };
  usePageKeys({
    s: () => grade(GRADE_KEYS.s),
    d: () => grade(GRADE_KEYS.d),
    f: () => grade(GRADE_KEYS.f),
    g: () => grade(GRADE_KEYS.g),
    ArrowLeft: () => move(now.current.at - 1),
    ArrowRight: () => move(now.current.at + 1),
    ArrowUp: () => move(now.current.at - perRow),
    ArrowDown: () => move(now.current.at + perRow),
    Backspace: undo,
  });
  const canUndo = given.length > 0 || before !== undefined;
  return { at: Math.min(at, Math.max(0, pictures.length - 1)), go: move, grade, undo, canUndo };
}
