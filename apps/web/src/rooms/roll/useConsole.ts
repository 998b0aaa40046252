// What the console does: presses, corrections, undo and redo, the keys. State here is interface state only.

import type { Clock } from "@keep-rolling/contract";
import type { CorrectionBody, Mark } from "@keep-rolling/core/runs";
import { asCorrected, redoTarget, undoTarget } from "@keep-rolling/core/runs";
import { useEffect, useRef, useState } from "react";
import { benchNowMs, useDevice } from "../../app/device.ts";
import type { Press } from "../../app/pressing.ts";
import { correct, presser } from "../../app/pressing.ts";
import type { SeenRun } from "../../app/runs.ts";
import type { MarkAction } from "./actions.ts";
import { belongsToField, CLOCK_KEYS, EDIT_KEYS, MARK_ACTIONS } from "./actions.ts";
import { choicesOf } from "./details.ts";
import type { Offer } from "./offers.ts";

export interface Console {
  press: Press;
  act: (action: MarkAction) => void;
  undo: () => void;
  redo: () => void;
  earlier: (ms: number) => void;
  correctMark: (id: string, fields: CorrectionBody) => void;
  accept: (offer: Offer) => void;
  /** The mark whose details are open. */
  detail: Mark | null;
  openDetail: (id: string | null) => void;
  timing: boolean;
  setTiming: (on: boolean) => void;
  canUndo: boolean;
  canRedo: boolean;
}

export function useConsole(run: SeenRun, clock: Clock | undefined, lastGauge: number | null): Console {
  const { outbox } = useDevice();
  const [detailId, setDetailId] = useState<string | null>(null);
  const [timing, setTiming] = useState(false);
  const press = presser(run.id, clock);
  const detail = detailId === null ? null : (run.fold.effective.find((m) => m.id === detailId) ?? null);
  const mine = undoTarget(run.marks, outbox.deviceId);
  const redoable = redoTarget(run.marks, outbox.deviceId);
  const openDetail = (id: string | null): void => {
    setDetailId(id);
    setTiming(false);
  };
  return {
    press,
    detail,
    openDetail,
    timing,
    setTiming,
    canUndo: mine !== null,
    canRedo: redoable !== null,
    act: (action) => {
      const { kind, body } = action.press(run.fold, lastGauge);
      void press(kind, body as never).then((mark) => openDetail(mark.id));
    },
    undo: () => {
      if (mine !== null) void press("undo", {}, { target: mine.id }).then(() => openDetail(null));
    },
    redo: () => {
      if (redoable !== null) void press("undo", {}, { target: redoable.id });
    },
    earlier: (ms) => {
      const rootId = mine?.kind === "correction" ? mine.target : mine?.id;
      const mark = rootId === undefined ? null : asCorrected(run.marks, rootId);
      if (mark !== null) void correct(press, run.marks, mark.id, { atMs: mark.atMs - ms });
    },
    correctMark: (id, fields) => void correct(press, run.marks, id, fields),
    accept: (offer) => {
      const options = { atMs: offer.event.atMs, source: "accepted" as const, accepts: offer.event.id };
      void press(offer.kind, offer.body as never, options).then((mark) => openDetail(mark.id));
    },
  };
}

export interface KeyTargets {
  console: Console;
  run: SeenRun;
  offers: readonly Offer[];
  clockKey: (key: "slower" | "faster" | "skip") => void;
}

/** One listener for the page; a key held down counts once. */
export function useConsoleKeys(targets: KeyTargets): void {
  const latest = useRef(targets);
  useEffect(() => {
    latest.current = targets;
  });
  useEffect(() => {
    const onKey = (event: KeyboardEvent): void => {
      if (event.repeat || event.ctrlKey || event.metaKey || event.altKey || belongsToField(event.target)) return;
      if (handle(event.key, latest.current)) event.preventDefault();
    };
    addEventListener("keydown", onKey);
    return () => removeEventListener("keydown", onKey);
  }, []);
}

function handle(key: string, { console, run, offers, clockKey }: KeyTargets): boolean {
  const action = MARK_ACTIONS.find((a) => a.key === key.toLowerCase() && a.when.includes(run.fold.state));
  const [offer] = offers;
  if (key === EDIT_KEYS.redo) console.redo();
  else if (key === EDIT_KEYS.undo) console.undo();
  else if (key === EDIT_KEYS.fiveEarlier) console.earlier(5000);
  else if (key === EDIT_KEYS.thirtyEarlier) console.earlier(30_000);
  else if (key === EDIT_KEYS.typeTime) openTime(console, run);
  else if (key === EDIT_KEYS.accept && offer !== undefined) console.accept(offer);
  else if (key === CLOCK_KEYS.slower) clockKey("slower");
  else if (key === CLOCK_KEYS.faster) clockKey("faster");
  else if (key === CLOCK_KEYS.skip) clockKey("skip");
  else if (key === "Escape" && console.detail !== null) console.openDetail(null);
  else if (/^\d$/.test(key) && console.detail !== null) return pick(Number(key), console, console.detail);
  else if (action !== undefined) console.act(action);
  else return false;
  return true;
}

function openTime(console: Console, run: SeenRun): void {
  const last = console.detail ?? run.fold.effective.at(-1);
  if (last === undefined) return;
  console.openDetail(last.id);
  console.setTiming(true);
}

function pick(digit: number, console: Console, mark: Mark): boolean {
  const choice = choicesOf(mark).flatMap((g) => g.choices)[digit === 0 ? 9 : digit - 1];
  if (choice === undefined) return false;
  console.correctMark(mark.id, choice.fields);
  return true;
}

/** Bench time now, for handlers. */
export const nowOn = (clock: Clock | undefined): number => benchNowMs(clock);
