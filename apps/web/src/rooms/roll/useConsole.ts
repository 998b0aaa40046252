// What the console does: presses, corrections, undo and redo, the keys. State here is interface state only.

import type { Clock } from "@keep-rolling/contract";
import type { CorrectionBody, KnownKind, Mark, MarkBodies } from "@keep-rolling/core/runs";
import { asCorrected, redoTarget, undoTarget } from "@keep-rolling/core/runs";
import { useEffect, useLayoutEffect, useRef, useState } from "react";
import { flushSync } from "react-dom";
import { benchNowMs, useDevice } from "../../app/device.ts";
import type { Press, PressOptions } from "../../app/pressing.ts";
import { correct, presser } from "../../app/pressing.ts";
import type { SeenRun } from "../../app/runs.ts";
import type { Settlement } from "../../app/settling.ts";
import { settle } from "../../app/settling.ts";
import type { MarkAction } from "./actions.ts";
import { AFTER_KEYS, belongsToField, CLOCK_KEYS, EDIT_KEYS, MARK_ACTIONS } from "./actions.ts";
import { choicesOf } from "./details.ts";
import type { Offer } from "./offers.ts";
import type { FollowUps } from "./useFollowUp.ts";

/** Keys after "note" or "reading" are words for its form, even before the form is there. */
export class TypedAhead {
  private text = "";
  private waiting = 0;

  begin(): void {
    this.waiting++;
  }
  end(): void {
    this.waiting--;
  }
  /** True when the key was taken as words. */
  take(key: string): boolean {
    if (this.waiting === 0) return false;
    if (key === "Backspace") this.text = this.text.slice(0, -1);
    else if (key === "Enter") this.text += "\n";
    else if (key.length === 1) this.text += key;
    else return false;
    return true;
  }
  /** The words so far, and whether Enter ended them. */
  give(): { text: string; entered: boolean } {
    const [line = "", ...rest] = this.text.split("\n");
    this.text = "";
    return { text: line, entered: rest.length > 0 };
  }
}

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
  canUndo: boolean;
  canRedo: boolean;
}

export function useConsole(run: SeenRun, clock: Clock | undefined, lastGauge: number | null): Console {
  const { outbox } = useDevice();
  const [detailId, setDetailId] = useState<string | null>(null);
  const [timing, setTiming] = useState(false);
  const [typedAhead] = useState(() => new TypedAhead());
  const press = presser(run.id, clock);
  const detail = detailId === null ? null : (run.fold.effective.find((m) => m.id === detailId) ?? null);
  const mine = undoTarget(run.marks, outbox.deviceId);
  const redoable = redoTarget(run.marks, outbox.deviceId);
  const lastRootId = mine?.kind === "correction" ? mine.target : mine?.id;
  const openDetail = (id: string | null): void =>
    // At once: the next key in line asks which mark is open.
    flushSync(() => {
      setDetailId(id);
      setTiming(false);
    });
  return {
    press,
    detail,
    openDetail,
    timing,
    typedAhead,
    canUndo: mine !== null,
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
  kind === "end" ? "cause" in body && body.cause === "unknown" : kind !== "resume" && kind !== "split";

export interface KeyTargets {
  console: Console;
  run: SeenRun;
  clock: Clock;
  offers: readonly Offer[];
  toSettle: readonly Settlement[];
  clockKey: (key: "slower" | "faster" | "skip") => void;
  after: FollowUps;
}

/**
 * One listener for the page; a key held down counts once. Keys wait in line until the mark before them is kept, so that a quick
 * "gap, card swap, resume" loses nothing; each carries the time it went down.
 */
export function useConsoleKeys(targets: KeyTargets): void {
  const latest = useRef(targets);
  useLayoutEffect(() => {
    latest.current = targets;
  });
  useEffect(() => {
    let line = Promise.resolve();
    let waiting = 0;
    const onKey = (event: KeyboardEvent): void => {
      if (event.repeat || event.ctrlKey || event.metaKey || event.altKey || belongsToField(event.target)) return;
      const { console } = latest.current;
      if (console.typedAhead.take(event.key)) return event.preventDefault();
      if (!isOurs(event.key, latest.current, waiting > 0)) return;
      event.preventDefault();
      const opensForm = FORM_KEYS.includes(event.key.toLowerCase());
      if (opensForm) console.typedAhead.begin();
      const madeAtMs = benchNowMs(latest.current.clock);
      waiting++;
      line = line
        .then(() => handle(event.key, latest.current, { madeAtMs }))
        .catch(() => undefined)
        .then(() => {
          waiting--;
          if (opensForm) console.typedAhead.end();
        });
    };
    addEventListener("keydown", onKey);
    return () => removeEventListener("keydown", onKey);
  }, []);
}

const EDITS: readonly string[] = [...Object.values(EDIT_KEYS), ...Object.values(CLOCK_KEYS)];

const AFTERS: readonly string[] = Object.values(AFTER_KEYS);

/** Keys whose mark opens a form to type in. */
const FORM_KEYS: readonly string[] = ["n", "e"];

/** While a mark is being stored the state is about to change, so every known key is taken and judged when its turn comes. */
function isOurs(key: string, { console, run, offers, toSettle }: KeyTargets, inLine: boolean): boolean {
  if (/^\d$/.test(key) || key === "Escape") return inLine || console.detail !== null;
  if (key === EDIT_KEYS.accept) return inLine || offers.length > 0;
  if (key === EDIT_KEYS.settle) return inLine || toSettle.length > 0;
  if (EDITS.includes(key)) return true;
  if (AFTERS.includes(key.toLowerCase())) return inLine || run.fold.state === "ended";
  return MARK_ACTIONS.some((a) => a.key === key.toLowerCase() && (inLine || a.when.includes(run.fold.state)));
}

/** The run after the rest; a fallback takes the nearest lighter mode. */
async function startAfter(key: string, { run, after }: KeyTargets): Promise<void> {
  if (run.fold.state !== "ended") return;
  const [nearest] = after.lighter;
  if (key === AFTER_KEYS.recovery) await after.start("recovery");
  else if (key === AFTER_KEYS.refuse) await after.refuse();
  else if (nearest !== undefined) await after.start("fallback", nearest.id);
}

async function handle(key: string, targets: KeyTargets, options: PressOptions): Promise<void> {
  const { console, run, offers, toSettle, clockKey } = targets;
  const action = MARK_ACTIONS.find((a) => a.key === key.toLowerCase() && a.when.includes(run.fold.state));
  const [offer] = offers;
  const way = toSettle[0]?.ways[0];
  if (key === EDIT_KEYS.redo) await console.redo(options);
  else if (key === EDIT_KEYS.undo) await console.undo(options);
  else if (key === EDIT_KEYS.fiveEarlier) await console.earlier(5000);
  else if (key === EDIT_KEYS.thirtyEarlier) await console.earlier(30_000);
  else if (key === EDIT_KEYS.typeTime) console.typeTime();
  else if (key === EDIT_KEYS.accept && offer !== undefined) await console.accept(offer);
  else if (key === EDIT_KEYS.settle && way !== undefined) await console.settle(way);
  else if (AFTERS.includes(key.toLowerCase())) await startAfter(key.toLowerCase(), targets);
  else if (key === CLOCK_KEYS.slower) clockKey("slower");
  else if (key === CLOCK_KEYS.faster) clockKey("faster");
  else if (key === CLOCK_KEYS.skip) clockKey("skip");
  else if (key === "Escape") console.openDetail(null);
  else if (/^\d$/.test(key)) await pick(Number(key), console);
  else if (action !== undefined) await console.act(action, options);
}

async function pick(digit: number, console: Console): Promise<void> {
  const mark = console.detail;
  const choice = mark === null ? undefined : choicesOf(mark).flatMap((g) => g.choices)[digit === 0 ? 9 : digit - 1];
  if (mark !== null && choice !== undefined) await console.correctMark(mark.id, choice.fields);
}
