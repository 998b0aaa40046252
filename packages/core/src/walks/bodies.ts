// What the facts of a walking test say.

import type { Answer } from "./judging/answers.ts";

export interface TakeBody {
  setupId: string;
  moveId: string;
  unitId: string | null;
  /** Walked without the card and said afterwards: when, nobody knows. The fact's own time is that of the telling. */
  untimed?: boolean | undefined;
  /** The take of which this is a corrected copy: nobody walked it again. */
  of?: string | undefined;
}
export interface ClipBody {
  sha256: string;
  name: string;
  bytes: number;
  /** When its first frame was taken, bench clock; null: the file does not say, or the camera's clock is not known. */
  startMs: number | null;
  durationMs: number;
  /** Whose card it came from; absent: not said. */
  unitId?: string | undefined;
}
export const ASSIGNED_BY = ["time", "order", "picture", "hand"] as const;
export interface AssignBody {
  sha256: string;
  /** The fact that began the take; null: to none. */
  takeId: string | null;
  by: (typeof ASSIGNED_BY)[number];
}
export interface TrimBody {
  sha256: string;
  inFrame: number;
  /** The first frame left out; null: to the end. */
  outFrame: number | null;
}
export interface SegmentBody {
  sha256: string;
  takeId: string;
  /** From the clip's first frame; null: no part of the clip is this take's after all. */
  fromMs: number | null;
  /** Null: to the end. */
  toMs: number | null;
}

export const QUESTIONS = ["steadier", "better picture", "would use"] as const;
export type Question = (typeof QUESTIONS)[number];
/** A pair of takes of one move shown blind, and what the judge said of it. */
export interface JudgementBody {
  moveId: string;
  /** Initials. */
  judge: string;
  /** The facts that began the takes. */
  left: string;
  right: string;
  answers: Readonly<Record<Question, Answer>>;
}

export const PRICES = [
  "field kept",
  "corner wobble",
  "leap at pan start",
  "soft footfalls",
  "roll",
  "drift",
  "detail",
  "microphone",
  "battery per hour",
  "rendering",
  "storage",
  "kit weight",
  "set-up time",
] as const;
export type Price = (typeof PRICES)[number];
/** What a setup costs, typed where nothing measured it. */
export interface PriceBody {
  setupId: string;
  price: Price;
  /** In the price's unit; null: taken back. */
  value: number | null;
}

export const USES = ["everyday talk", "cinematic", "action", "event without a gimbal", "travel light"] as const;
export type Use = (typeof USES)[number];
export const VERDICTS = ["use it", "steadier not wanted"] as const;
/** What is recorded for a move and a use, with what it stood on then; a later one of the same move and use takes its place. */
export interface ConclusionBody {
  use: Use;
  moveId: string;
  verdict: (typeof VERDICTS)[number];
  /** Null: no setup is wanted. */
  setupId: string | null;
  why: string;
  unitId: string | null;
  firmware: string;
  lensName: string;
  /** The sentence of the comparison as it read then. */
  said: string;
  /** Shake of the setup as a share of the width, 90 % interval; null: not measured. */
  shake: { point: number; low90: number; high90: number } | null;
  /** Setups that could not be told apart from it. */
  notToldApart: readonly string[];
  /** Setups that were told apart as steadier, and not taken all the same. */
  steadierThen: readonly string[];
  /** Takes it rests on: the facts that began them. */
  takeIds: readonly string[];
  judgements: number;
  method: string;
}
