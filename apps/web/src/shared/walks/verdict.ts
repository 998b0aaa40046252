// What was recorded of a walk, in one sentence, and why it should be walked again: its own page and the list of limits say the same.

import { listWords } from "@keep-rolling/core/format";
import type { Use, WalkConclusion, WalkPlan, WalkRetest } from "@keep-rolling/core/walks";
import { intervalWords, moveWords, percentWords } from "./words.ts";

export const USE_WORDS: Readonly<Record<Use, string>> = {
  "everyday talk": "everyday talk",
  cinematic: "cinematic",
  action: "action",
  "event without a gimbal": "an event without a gimbal",
  "travel light": "travelling light",
};

export const nameOf = (plan: WalkPlan, id: string | null): string =>
  plan.setups.find((s) => s.id === id)?.name ?? "a setup no longer on the plan";
export const moveOf = (plan: WalkPlan, c: WalkConclusion): string => {
  const kind = plan.moves.find((m) => m.id === c.moveId)?.kind;
  return kind === undefined ? "a move no longer on the plan" : moveWords(kind);
};

/** The verdict in one sentence. */
export function verdictWords(c: WalkConclusion, plan: WalkPlan): string {
  const head = `${moveOf(plan, c)}, for ${USE_WORDS[c.use]}`;
  if (c.setupId === null) return `${head}: steadier is not wanted.`;
  const shake =
    c.shake === null
      ? ""
      : `, shake ${percentWords(c.shake.point)} % of the picture's width (90 % sure: ${intervalWords(c.shake.low90, c.shake.high90)} %)`;
  return `${head}: ${nameOf(plan, c.setupId)}${shake}.`;
}

export function retestWords(
  r: WalkRetest,
  c: WalkConclusion,
  plan: WalkPlan,
  today: { firmware: string | null; lensName: string },
): string {
  switch (r.code) {
    case "firmware-changed":
      return `Walk it again: the body now runs firmware ${today.firmware ?? ""}, this was recorded on ${c.firmware === "" ? "an unknown one" : c.firmware}.`;
    case "lens-changed":
      return `Walk it again: the plan now names ${today.lensName === "" ? "no lens" : today.lensName}, this was recorded with ${c.lensName === "" ? "none named" : c.lensName}.`;
    case "evidence-changed":
      return `Walk it again: ${r.ids.length} of the takes behind it no longer ${r.ids.length === 1 ? "counts" : "count"}.`;
    case "takes-disagree":
      return r.ids.length === 0
        ? "Walk it again: with later takes its shake lies outside what was recorded."
        : `Walk it again: with later takes ${listWords(r.ids.map((id) => nameOf(plan, id)))} ${r.ids.length === 1 ? "is" : "are"} told apart as steadier.`;
  }
}
