// Every picture with its place, its setting and whether it counts; what the camera did not say is said here, one by one or all at once.

import type { HoldPicture, HoldPlan, PictureFields, Setting } from "@keep-rolling/core/holds";
import { matchToPlan } from "@keep-rolling/core/holds";
import { Button } from "../../../shared/ui/parts.tsx";
import { dialWords } from "../words.ts";
import { misfitWords, sourceWords } from "./pictureWords.ts";

interface Props {
  plan: HoldPlan;
  pictures: readonly HoldPicture[];
  correct: (pictures: readonly HoldPicture[], fields: (p: HoldPicture, i: number) => PictureFields | null) => void;
}

export function PictureList({ plan, pictures, correct }: Props) {
  const unsaid = pictures.filter((p) => p.counts && p.setting === null);
  const misfits = [...new Set(pictures.flatMap((p) => p.misfit ?? []))];
  const by = (setting: Setting): void => correct(unsaid, () => ({ setting, settingBy: "hand" }));
  const inOrder = pictures.filter((p) => p.counts);
  const planned = matchToPlan(
    inOrder.map((p) => p.x),
    plan,
  ).settings;
  const asPlanned = (): void =>
    correct(inOrder, (p, i) => {
      const match = planned[i];
      return p.setting !== null || match == null ? null : { setting: match.setting, settingBy: "order" };
    });
  return (
    <section aria-labelledby="list" className="mt-6">
      <h2 id="list">{`${pictures.length} ${pictures.length === 1 ? "picture" : "pictures"}, as they were taken`}</h2>
      {unsaid.length > 0 && (
        <p className="my-2 flex flex-wrap items-center gap-3">
          <span>{`The ${unsaid.length} that do not say it were all taken with it`}</span>
          <Button onClick={() => by("off")}>off</Button>
          <Button onClick={() => by("on")}>on</Button>
          {planned.some((m, i) => m !== null && inOrder[i]?.setting === null) && <Button onClick={asPlanned}>in the plan’s order</Button>}
        </p>
      )}
      {misfits.map((m) => {
        const those = pictures.filter((p) => p.misfit === m && !p.counts);
        return (
          those.length > 0 && (
            <p key={m} className="my-1 flex flex-wrap items-center gap-3">
              <span>{`${those.length} not counted: ${misfitWords(m)}.`}</span>
              <Button tone="quiet" onClick={() => correct(those, () => ({ counted: true }))}>
                Count them all the same
              </Button>
            </p>
          )
        );
      })}
      <div className="max-h-[28rem] overflow-auto" tabIndex={0} role="region" aria-label="Pictures">
        <table className="w-full border-collapse text-left">
          <thead className="text-sm text-soft">
            <tr>
              {["picture", "time", "stabiliser", "counts"].map((h) => (
                <th key={h} scope="col" className="pr-4 font-normal">
                  {h}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {pictures.map((p) => (
              <tr key={p.id} className="hairline">
                <th scope="row" className="num py-1 pr-4 font-normal">
                  {p.name}
                </th>
                <td className="num pr-4">{`${dialWords(p.x)} s`}</td>
                <td className="pr-4">
                  <select
                    aria-label={`Stabiliser of ${p.name}`}
                    value={p.setting ?? ""}
                    onChange={(e) =>
                      correct([p], () => ({ setting: e.target.value === "" ? null : (e.target.value as Setting), settingBy: "hand" }))
                    }
                  >
                    <option value="">not said</option>
                    <option value="off">off</option>
                    <option value="on">on</option>
                  </select>{" "}
                  <span className="text-sm text-soft">{sourceWords(p)}</span>
                </td>
                <td>
                  <label>
                    <input
                      type="checkbox"
                      checked={p.counts}
                      aria-label={`${p.name} counts`}
                      onChange={(e) => correct([p], () => ({ counted: e.target.checked }))}
                    />{" "}
                    <span className="text-sm text-soft">{p.misfit === null ? "" : misfitWords(p.misfit)}</span>
                  </label>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </section>
  );
}
