// Whose grades are read, for which use, what counts as kept there; and how far two judges agree.

import type { KeptFrom, Use } from "@keep-rolling/core/holds";
import { gradesAgreement, SHARPNESS, USES } from "@keep-rolling/core/holds";
import { pressAll } from "../../../record/sessions.ts";
import { SelectField } from "../../../shared/ui/fields.tsx";
import type { OpenedHold } from "../useHold.tsx";
import { agreementWords } from "./readingWords.ts";
import type { Chosen } from "./useSeen.ts";

const WORST = SHARPNESS.filter((g) => g !== "lost");

export function Judges({ id, clock, hold, by, use, choose }: OpenedHold & Chosen & { choose: (more: Partial<Chosen>) => void }) {
  const done = hold.judges.filter((j) => j.left === 0).map((j) => j.by);
  const others = hold.judges.map((j) => j.by).filter((j) => j !== by);
  const keep = (worst: KeptFrom[Use]): void => void pressAll(id, clock, [["keptFrom", { keptFrom: { ...hold.keptFrom, [use]: worst } }]]);
  const atOnce = hold.shots.filter((s) => s.grade === "kept" || s.grade === "lost").length;
  return (
    <section aria-label="What is read" className="my-2">
      <div className="flex flex-wrap items-end gap-x-6 gap-y-2">
        {done.length > 1 && (
          <SelectField
            label="As judged by"
            value={by}
            onChange={(e) => choose({ by: e.target.value })}
            options={done.map((j) => [j, j] as const)}
          />
        )}
        <SelectField
          label="For"
          value={use}
          onChange={(e) => choose({ use: USES.find((u) => u === e.target.value) ?? "half size" })}
          options={USES.map((u) => [u, u] as const)}
        />
        <SelectField
          label="Kept is"
          value={hold.keptFrom[use]}
          onChange={(e) => keep(WORST.find((w) => w === e.target.value) ?? "usable")}
          options={WORST.map((w) => [w, w === "sharp" ? "sharp only" : `${w} and better`] as const)}
        />
      </div>
      {others.map((other) => (
        <p key={other} className="mt-1 text-soft">
          {agreementWords(by, other, gradesAgreement(hold.pictures, [by, other], hold.keptFrom[use]))}
        </p>
      ))}
      {atOnce > 0 && (
        <p className="mt-1 text-soft">{`What was said of ${atOnce} shots at once, on the card, is not counted beside their pictures.`}</p>
      )}
    </section>
  );
}
