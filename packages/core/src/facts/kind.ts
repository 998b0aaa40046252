// What every kind of fact says about itself, whatever it belongs to.

/** Chance as a kind's generator draws it: for the laws, from a test library; for anything else, from a seed. */
export interface Draw {
  oneOf<T>(words: readonly T[]): T;
  /** Inclusive. */
  int(min: number, max: number): number;
  number(min: number, max: number): number;
  maybe(): boolean;
}

/** One field that a correction may replace. */
export interface Corrigible<Body, Value> {
  /** The body with the value in it; null when a fact of this kind does not take it. */
  set(body: Body, value: Value): Body | null;
  words(value: Value, unit: "C" | "F"): string;
}

export interface FactKind<Body extends object = object, Fields extends object = object> {
  /** Order of facts of one millisecond, lowest first. */
  rank: number;
  /** It names another fact, and is nothing without. */
  aimed: boolean;
  /** Besides the time, which every fact's correction may replace. */
  corrects: { readonly [F in keyof Fields]-?: Corrigible<Body, Exclude<Fields[F], undefined>> };
  /** A body for the laws. */
  sample(draw: Draw): Body;
}

/** Kinds by name, as the machinery sees them. */
export type FactKinds = Readonly<Record<string, FactKind<never, never> | undefined>>;

/** Rank of the kinds whose order at one millisecond does not matter. */
export const OTHER_RANK = 2;

/** The field is simply replaced. */
export const replaced = <Body extends object, F extends keyof Body>(
  field: F,
  words: (value: Exclude<Body[F], undefined>, unit: "C" | "F") => string,
): Corrigible<Body, Exclude<Body[F], undefined>> => ({ set: (body, value) => ({ ...body, [field]: value }), words });
