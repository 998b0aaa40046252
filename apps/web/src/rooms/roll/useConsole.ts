// What the console does: presses, corrections, undo and redo. State here is interface state only.

import type { Clock } from "@keep-rolling/contract/clocks";
import type { CorrectionBody, KnownKind, Mark, MarkBodies } from "@keep-rolling/core/runs";
import { asCorrected, redoTarget, undoTarget } from "@keep-rolling/core/runs";
import { useCallback, useMemo, useState } from "react";
import { flushSync } from "react-dom";
import { useDevice } from "../../record/device.ts";
import type { Press, PressOptions } from "../../record/pressing.ts";
import { correct, presser } from "../../record/pressing.ts";
import type { SeenRun } from "../../record/runs.ts";
import type { Settlement } from "../../record/settling.ts";
import { settle } from "../../record/settling.ts";
import type { MarkAction } from "./actions.ts";
import type { Offer } from "./offers.ts";
import { typedAhead } from "./typedAhead.ts";
import type { TypedAhead } from "./typedAhead.ts";

/** A failure of the device's store or of the page; what the server refuses is told by the line about saved marks. */
export const troubleOf = (error: unknown): string =>
  `That did not work: ${error instanceof Error && error.message !== "" ? error.message : "no reason was given"}. Press it again; what was kept before is safe.`;

/** Everything that makes a mark resolves once the mark is kept. `options.madeAtMs`: when the key went down. */
export interface Console {
  press: Press;
  act: (action: MarkAction, options?: PressOptions) => Promise<void>;
  undo: (options?: PressOptions) => Promise<void>;
  redo: (options?: PressOptions) => Promise<void>;
  earlier: (ms: number) => Promise<void>;
  correctMark: (id: string, fields: CorrectionBody) => Promise<void>;
  accept: (offer: Offer) => Promise<void>;
  settle: (way: Settlement["ways"][number]) => Promise<void>;
  /** The mark whose details are open. */
  detail: Mark | null;
  openDetail: (id: string | null) => void;
  timing: boolean;
  /** Opens the time of the open mark, else of this device's last one. */
  typeTime: () => void;
  /** What was typed while the mark it belongs to was still being stored; a form takes it once, when it opens. */
  typedAhead: TypedAhead;
  /** The mark of this device that undo and "earlier" work on; null when there is none. */
  lastId: string | null;
  canRedo: boolean;
}

/** `onTrouble`: says what could not be stored. */
export function useConsole(
  run: SeenRun,
  clock: Clock | undefined,
  lastGauge: number | null,
  onTrouble: (sentence: string) => void,
): Console {
  const { outbox } = useDevice();
  const [detailId, setDetailId] = useState<string | null>(null);
  const [timing, setTiming] = useState(false);
  const press = useMemo(() => {
    const store = presser(run.id, clock);
    const spoken: Press = (kind, body, options) =>
      store(kind, body, options).catch((error: unknown) => {
        onTrouble(troubleOf(error));
        throw error;
      });
    return spoken;
  }, [run.id, clock, onTrouble]);
  const detail = detailId === null ? null : (run.fold.effective.find((m) => m.id === detailId) ?? null);
  const { deviceId } = outbox;
  const mine = useMemo(() => undoTarget(run.marks, deviceId), [run.marks, deviceId]);
  const redoable = useMemo(() => redoTarget(run.marks, deviceId), [run.marks, deviceId]);
  const lastRootId = mine?.kind === "correction" ? mine.target : mine?.id;
  const openDetail = useCallback(
    (id: string | null): void =>
      // At once: the next key in line asks which mark is open.
      flushSync(() => {
        setDetailId(id);
        setTiming(false);
      }),
    [],
  );
  return {
    press,
    detail,
    openDetail,
    timing,
    typedAhead,
    lastId: lastRootId ?? null,
    canRedo: redoable !== null,
    typeTime: () => {
      const id = detail?.id ?? lastRootId;
      if (id === undefined) return;
      setDetailId(id);
      setTiming(true);
    },
    act: async (action, options) => {
      const { kind, body } = action.press(run.fold, lastGauge);
      const mark = await press(kind, body as never, options);
      openDetail(needsDetails(kind, body) ? mark.id : null);
    },
    undo: async (options) => {
      if (mine === null) return;
      await press("undo", {}, { ...options, target: mine.id });
      openDetail(null);
    },
    redo: async (options) => {
      if (redoable !== null) await press("undo", {}, { ...options, target: redoable.id });
    },
    earlier: async (ms) => {
      const mark = lastRootId === undefined ? null : asCorrected(run.marks, lastRootId);
      if (mark !== null) await correct(press, run.marks, mark.id, { atMs: mark.atMs - ms });
    },
    correctMark: async (id, fields) => void (await correct(press, run.marks, id, fields)),
    accept: async (offer) => {
      const options = { atMs: offer.event.atMs, source: "accepted" as const, accepts: offer.event.id };
      await press(offer.kind, offer.body as never, options);
      openDetail(null);
    },
    settle: (way) => settle(press, way.presses),
  };
}

/** A heat shutdown, a resume and a new file say all there is; the log's "correct" opens them if not. */
const needsDetails = (kind: KnownKind, body: MarkBodies[KnownKind]): boolean =>
  "cause" in body && body.cause === "planned pause"
    ? false
    : kind === "end"
      ? "cause" in body && body.cause === "unknown"
      : kind !== "resume" && kind !== "split";
