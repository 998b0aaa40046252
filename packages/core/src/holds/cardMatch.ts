// Which setting a picture was taken with, where it does not say so itself: from the shooting card's list, or from the plan's order. Camera clocks may be
// wrong, their order is not.

import type { HoldPlan, PlannedVisit, Setting } from "./plan.ts";
import { plannedVisits } from "./plan.ts";
import type { HoldPicture } from "./pictures.ts";
import type { ShotBody } from "./shots.ts";

export interface Matched {
  setting: Setting;
  /** The card says that the try went wrong. */
  bad: boolean;
}
export interface CardMatch {
  /** One for each picture, in their order; null: nobody can say. */
  settings: readonly (Matched | null)[];
  /** Times at which card and pictures differ in number: nothing is concluded there. */
  unequal: readonly { x: number; card: number; pictures: number }[];
}
type Listed = PlannedVisit & { bad: boolean };
const key = (x: number): string => x.toFixed(4);

/** @param xs places of the pictures in the order they were taken */
export function matchToCard(xs: readonly number[], shots: readonly ShotBody[]): CardMatch {
  return match(
    xs,
    shots.map((s) => ({ setting: s.setting, x: s.x, bad: s.grade === "bad" })),
  );
}
/** As if the plan had been shot from its first to its last shot, none more and none less. */
export const matchToPlan = (
  xs: readonly number[],
  plan: Pick<HoldPlan, "spans" | "stepStops" | "shotsEach" | "order" | "seed">,
): CardMatch =>
  match(
    xs,
    plannedVisits(plan).flatMap((v) => Array.from({ length: plan.shotsEach }, () => ({ ...v, bad: false }))),
  );

/** Time by time, in order: where both have as many there, the first is the first. */
function match(xs: readonly number[], list: readonly Listed[]): CardMatch {
  const listed = new Map<string, Listed[]>();
  for (const shot of list) listed.set(key(shot.x), [...(listed.get(key(shot.x)) ?? []), shot]);
  const count = new Map<string, number>();
  for (const x of xs) count.set(key(x), (count.get(key(x)) ?? 0) + 1);
  const used = new Map<string, number>();
  const settings = xs.map((x): Matched | null => {
    const there = listed.get(key(x)) ?? [];
    const one = alike(there);
    const nth = used.get(key(x)) ?? 0;
    used.set(key(x), nth + 1);
    if (there.length === count.get(key(x))) return { setting: (there[nth] as Listed).setting, bad: (there[nth] as Listed).bad };
    // Shot with one setting only, and no try went wrong: how many there are does not matter.
    return one === null ? null : { setting: one, bad: false };
  });
  const places = new Map([...list.map((s) => s.x), ...xs].map((x) => [key(x), x]));
  const unequal = [...places].flatMap(([k, x]) => {
    const [card, pictures] = [listed.get(k)?.length ?? 0, count.get(k) ?? 0];
    return card === pictures ? [] : [{ x, card, pictures }];
  });
  return { settings, unequal: unequal.sort((a, b) => a.x - b.x) };
}
function alike(there: readonly Listed[]): Setting | null {
  const [first] = there;
  return first !== undefined && there.every((s) => s.setting === first.setting && !s.bad) ? first.setting : null;
}

/** Pictures with what the card knows of them: their setting, where they do not say it themselves, and that a try went wrong. */
export function withCard(
  pictures: readonly HoldPicture[],
  shots: readonly ShotBody[],
): { pictures: HoldPicture[]; unequal: CardMatch["unequal"] } {
  const ofTest = pictures.filter((p) => p.misfit === null || p.misfit === "unplanned-time" || p.counts);
  if (shots.length === 0 || ofTest.length === 0) return { pictures: [...pictures], unequal: [] };
  const { settings, unequal } = matchToCard(
    ofTest.map((p) => p.x),
    shots,
  );
  const matched = new Map(ofTest.map((p, i) => [p.id, settings[i] ?? null]));
  return {
    unequal,
    pictures: pictures.map((p): HoldPicture => {
      const card = matched.get(p.id) ?? null;
      if (card === null) return p;
      const said = p.setting === null ? { setting: card.setting, settingBy: "card" as const } : {};
      return { ...p, ...said, ...(card.bad ? { misfit: "bad-try" as const, counts: p.counted ?? false } : {}) };
    }),
  };
}
