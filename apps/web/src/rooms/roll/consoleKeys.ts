// The keys of the console. One listener for the page; a key held down counts once. Keys wait in line until the mark before them is kept,
// so that a quick "gap, card swap, resume" loses nothing; each carries the time it went down. After a number key has called another
// unit's console, the keys behind it wait for that console: none ever lands on the unit before it.

import type { Clock } from "@keep-rolling/contract/clocks";
import { useEffect, useLayoutEffect } from "react";
import { benchNowMs } from "../../record/device.ts";
import type { PressOptions } from "../../record/pressing.ts";
import type { SeenRun } from "../../record/runs.ts";
import type { Settlement } from "../../record/settling.ts";
import { actionsFor, AFTER_KEYS, belongsToField, isNumberField, CLOCK_KEYS, EDIT_KEYS, MARK_ACTIONS } from "./actions.ts";
import { choicesOf } from "./details.ts";
import type { Offer } from "./offers.ts";
import { typedAhead } from "./typedAhead.ts";
import type { Console } from "./useConsole.ts";
import { troubleOf } from "./useConsole.ts";
import type { FollowUps } from "./useFollowUp.ts";

export interface KeyTargets {
  console: Console;
  run: SeenRun;
  clock: Clock;
  offers: readonly Offer[];
  toSettle: readonly Settlement[];
  clockKey: (key: "slower" | "faster" | "skip") => void;
  after: FollowUps;
  /** Run ids by number key 1 to 9; one or none: number keys pick details. */
  wall: readonly string[];
  go: (runId: string) => void;
  /** Says what could not be done. */
  onTrouble: (sentence: string) => void;
}

let current: KeyTargets | null = null;
/** The run a number key has called and whose console is not there yet. */
let called: string | null = null;
let line = Promise.resolve();
let waiting = 0;

/** The console in focus; the last one drawn counts. */
export function useKeyTargets(targets: KeyTargets): void {
  useLayoutEffect(() => {
    current = targets;
    if (called === targets.run.id) called = null;
  });
  const { id } = targets.run;
  useLayoutEffect(
    () => () => {
      if (current?.run.id === id) current = null;
    },
    [id],
  );
}

/** Once for the page that shows consoles, whichever unit is in focus. */
export function useConsoleKeys(): void {
  useEffect(() => {
    called = null;
    addEventListener("keydown", onKey);
    return () => removeEventListener("keydown", onKey);
  }, []);
}

function onKey(event: KeyboardEvent): void {
  if (event.repeat || event.ctrlKey || event.metaKey || event.altKey) return;
  if (event.key === "Escape") leaveField(event.target);
  const letterInNumber = isNumberField(event.target) && /^[a-z]$/i.test(event.key);
  if (belongsToField(event.target) && !letterInNumber) return;
  const key = keyOf(event);
  if (typedAhead.take(event.key)) return event.preventDefault();
  if (current === null ? called === null : !isOurs(key, current, waiting > 0 || called !== null)) return;
  event.preventDefault();
  // What stands in the field is stored first, as by Enter.
  if (letterInNumber) leaveField(event.target, true);
  const opensForm = FORM_KEYS.includes(key.toLowerCase());
  if (opensForm) typedAhead.begin();
  const madeAtMs = current === null ? undefined : benchNowMs(current.clock);
  waiting++;
  line = line
    .then(() => there())
    .then((targets) => (targets === null ? undefined : handle(key, targets, madeAtMs === undefined ? {} : { madeAtMs })))
    .catch((error: unknown) => current?.onTrouble(troubleOf(error)))
    .then(() => {
      waiting--;
      if (opensForm) typedAhead.end();
    });
}

/** Escape leaves a field; `store`: as Enter would, first. */
export function leaveField(target: EventTarget | null, store = false): void {
  if (!(target instanceof HTMLElement) || !belongsToField(target)) return;
  if (store && target instanceof HTMLInputElement && target.value.trim() !== "") target.form?.requestSubmit();
  target.blur();
}

/** By place on the keyboard: "1" or, with Shift, "⇧1", whatever the layout writes there. */
function keyOf(event: KeyboardEvent): string {
  const digit = /^(?:Digit|Numpad)(\d)$/.exec(event.code)?.[1];
  if (digit === undefined) return event.key;
  return event.shiftKey ? `⇧${digit}` : digit;
}

const ARRIVES_MS = 4000;
const LOOK_MS = 20;

/** The console a key is for: the one called, as soon as it is there. Null when it does not come: the key is dropped, not misplaced. */
async function there(): Promise<KeyTargets | null> {
  for (let waitedMs = 0; called !== null && waitedMs < ARRIVES_MS; waitedMs += LOOK_MS)
    await new Promise((done) => setTimeout(done, LOOK_MS));
  if (called === null) return current;
  // It did not come: what waited is dropped once, and the keys belong to the console on screen again.
  called = null;
  return null;
}

const EDITS: readonly string[] = [...Object.values(EDIT_KEYS), ...Object.values(CLOCK_KEYS)];
const AFTERS: readonly string[] = Object.values(AFTER_KEYS);
/** Keys whose mark opens a form to type in. */
const FORM_KEYS: readonly string[] = ["n", "e"];

const isWall = ({ wall }: Pick<KeyTargets, "wall">): boolean => wall.length > 1;

/** While a mark is being stored the state is about to change, so every known key is taken and judged when its turn comes. */
function isOurs(key: string, targets: KeyTargets, inLine: boolean): boolean {
  const { console, run, offers, toSettle } = targets;
  if (/^\d$/.test(key) && isWall(targets)) return true;
  if (/^⇧?\d$/.test(key) || key === "Escape") return inLine || console.detail !== null;
  if (key === EDIT_KEYS.accept) return inLine || offers.length > 0;
  if (key === EDIT_KEYS.settle) return inLine || toSettle.length > 0;
  if (EDITS.includes(key)) return true;
  if (AFTERS.includes(key.toLowerCase())) return inLine || run.fold.state === "ended";
  const can = inLine ? MARK_ACTIONS : actionsFor(run.fold);
  return can.some((a) => a.key === key.toLowerCase());
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
  const action = actionsFor(run.fold).find((a) => a.key === key.toLowerCase());
  const [offer] = offers;
  const way = toSettle[0]?.ways[0];
  const place = /^\d$/.test(key) && isWall(targets) ? targets.wall[Number(key) - 1] : undefined;
  if (/^\d$/.test(key) && isWall(targets)) call(place, targets);
  else if (/^⇧?\d$/.test(key)) await pick(Number(key.at(-1)), console);
  else if (key === EDIT_KEYS.redo) await console.redo(options);
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
  else if (action !== undefined) await console.act(action, options);
}

function call(runId: string | undefined, { run, go }: KeyTargets): void {
  if (runId === undefined || runId === run.id) return;
  called = runId;
  go(runId);
}

async function pick(digit: number, console: Console): Promise<void> {
  const mark = console.detail;
  const choice = mark === null ? undefined : choicesOf(mark).flatMap((g) => g.choices)[digit === 0 ? 9 : digit - 1];
  if (mark !== null && choice !== undefined) await console.correctMark(mark.id, choice.fields);
}
