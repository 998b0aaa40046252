// The inputs of a case, read with care: what a family does not know is a failure, not a skip.

import type { Lifetimes } from "@keep-rolling/core/statistics";

export class UnknownInput extends Error {}

export interface Inputs {
  number(key: string): number;
  numbers(key: string): number[];
  text(key: string): string;
  list(key: string): unknown[];
  has(key: string): boolean;
  isNull(key: string): boolean;
  lifetimes(): Lifetimes;
}

/** `known`: every key the family reads; one beyond them throws. */
export function readInputs(raw: Record<string, unknown>, known: readonly string[]): Inputs {
  const odd = Object.keys(raw).find((key) => !known.includes(key));
  if (odd !== undefined) throw new UnknownInput(`the input ${odd} is not known here`);
  const list = (key: string): unknown[] => {
    const value = raw[key];
    if (!Array.isArray(value)) throw new UnknownInput(`the input ${key} is no list`);
    return value as unknown[];
  };
  const numbers = (key: string): number[] =>
    list(key).map((v) => {
      if (typeof v !== "number") throw new UnknownInput(`the input ${key} holds something other than numbers`);
      return v;
    });
  return {
    list,
    numbers,
    number: (key) => {
      const value = raw[key];
      if (typeof value !== "number") throw new UnknownInput(`the input ${key} is no number`);
      return value;
    },
    text: (key) => {
      const value = raw[key];
      if (typeof value !== "string") throw new UnknownInput(`the input ${key} is no text`);
      return value;
    },
    has: (key) => key in raw,
    isNull: (key) => raw[key] === null || raw[key] === undefined,
    lifetimes: () => ({ time: numbers("time"), event: numbers("event").map((e) => (e === 1 ? 1 : 0)) }),
  };
}
