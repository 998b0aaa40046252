// Takes looked at side by side: frame for frame, at matched field, laid on each other, with the measured path over the picture.

import type { MeasuredTake, WalkPlan, WalkTake } from "@keep-rolling/core/walks";
import { fieldLeft, rowsOf, togetherWith } from "@keep-rolling/core/walks";
import { useSearchParams } from "react-router";
import { Loading, Note, PageHead } from "../../../shared/ui/parts.tsx";
import { useSync } from "../useSync.ts";
import { measuredOf } from "../useWalk.ts";
import { OpenWalk } from "../OpenWalk.tsx";
import type { Numbers } from "../useWalk.ts";
import { WalkTabs } from "../WalkTabs.tsx";
import { Stage } from "./Stage.tsx";
import type { NoPicture } from "./takePictures.ts";
import type { LookedAt } from "./lookedAt.ts";
import { usePictures } from "./usePictures.ts";
import { moveWords } from "../../../shared/walks/words.ts";

export const LookPage = () => (
  <OpenWalk>
    {({ id, seen, plan, numbers }) => <Looked id={id} plan={plan} takes={measuredOf(seen.walk, numbers)} numbers={numbers} />}
  </OpenWalk>
);

const MOST = 4;

function Looked({ id, plan, takes, numbers }: { id: string; plan: WalkPlan; takes: readonly MeasuredTake[]; numbers: Numbers }) {
  const [params, setParams] = useSearchParams();
  const move = plan.moves.find((m) => m.id === params.get("move")) ?? plan.moves[0];
  const shown = takes.filter((t) => t.take.moveId === move?.id && t.take.clips.length > 0);
  const asked = params.getAll("take").flatMap((takeId) => shown.filter((t) => t.take.id === takeId));
  const chosen = asked.length > 0 ? asked.slice(0, MOST) : usual(plan, move?.id ?? "", shown);
  const choose = (ids: readonly string[]): void =>
    setParams(
      (before) => {
        const next = new URLSearchParams(before);
        next.delete("take");
        for (const takeId of ids) next.append("take", takeId);
        return next;
      },
      { replace: true },
    );
  const pictures = usePictures(
    chosen.map((c) => c.take),
    numbers,
  );
  const name = ({ take }: MeasuredTake): string => `${plan.setups.find((s) => s.id === take.setupId)?.name ?? "a setup"}, take ${take.n}`;
  const ids = chosen.map((c) => c.take.id);
  const ready = chosen.map((c): LookedAt | null => {
    const picture = pictures.ready.get(c.take.id);
    const read = numbers.reads.get(c.take.clips[0]?.key ?? "");
    return picture !== undefined && "frames" in picture && read !== undefined
      ? { id: c.take.id, name: name(c), read, frames: picture.frames, cropFactor: c.cropFactor }
      : null;
  });
  const without = chosen.flatMap((c) => {
    const picture = pictures.ready.get(c.take.id);
    return picture !== undefined && "none" in picture ? [`${name(c)}: ${NO_PICTURE[picture.none]}.`] : [];
  });
  const drawing = chosen.flatMap((c) => {
    const share = pictures.shares.get(c.take.id);
    return pictures.ready.has(c.take.id) || share === undefined ? [] : [`${name(c)} ${Math.floor(100 * share)} %`];
  });
  const usable = ready.flatMap((r) => r ?? []);
  return (
    <>
      <PageHead title="Look at takes" sub={move === undefined ? "" : `${moveWords(move.kind)}, frame for frame`} />
      <WalkTabs id={id} plan={plan} at="look" moveId={move?.id ?? ""} />
      {shown.length === 0 && !numbers.reading && <p>No take of this move has a clip yet.</p>}
      <Chooser shown={shown} ids={ids} name={name} choose={choose} />
      {without.map((words) => (
        <Note key={words} tone="alert">
          {words}
        </Note>
      ))}
      {drawing.length > 0 && <p className="text-soft" role="status">{`Drawing made takes anew: ${drawing.join(" · ")}`}</p>}
      {usable.length >= 1 && usable.length === chosen.length - without.length && (
        <Laid key={usable.map((u) => u.id).join()} takes={usable} chosen={chosen} numbers={numbers} />
      )}
    </>
  );
}

interface LaidProps {
  takes: readonly LookedAt[];
  chosen: readonly MeasuredTake[];
  numbers: Numbers;
}
/** Two bodies' takes of one walk are laid by its sound, or by how both go up and down; others share neither. */
function Laid({ takes, chosen, numbers }: LaidProps) {
  const [a, b] = chosen.map((c) => c.take);
  const together = takes.length === 2 && a !== undefined && b !== undefined && togetherWith([a, b], a).length === 1;
  return together ? <Together takes={takes} a={a} b={b} numbers={numbers} /> : <Stage takes={takes} />;
}
function Together({ takes, a, b, numbers }: { takes: readonly LookedAt[]; a: WalkTake; b: WalkTake; numbers: Numbers }) {
  const sync = useSync(a, b, numbers);
  return sync === undefined ? (
    <Loading what="when both clips began" />
  ) : (
    <Stage takes={takes} lagSec={typeof sync === "string" ? null : sync.lagSec} />
  );
}

const NO_PICTURE: Readonly<Record<NoPicture, string>> = {
  "no-clip": "it has no clip",
  "no-copy": "no small copy of its clip was kept, so there is nothing to look at",
  "not-decoded": "its small copy cannot be decoded by this browser",
  "not-read": "its small copy could not be read just now; reload the page when the server answers",
};

/** The steadiest setup's first take beside the control's. */
function usual(plan: WalkPlan, moveId: string, shown: readonly MeasuredTake[]): MeasuredTake[] {
  const rows = rowsOf(plan, moveId, shown).filter((r) => r.takes.length > 0);
  const control = rows.find((r) => r.isControl);
  const best = rows.find((r) => r !== control && r.jitterFrac !== null) ?? rows.find((r) => r !== control);
  return [best, control].flatMap((r) => r?.takes[0] ?? []);
}

interface ChooserProps {
  shown: readonly MeasuredTake[];
  ids: readonly string[];
  name: (t: MeasuredTake) => string;
  choose: (ids: readonly string[]) => void;
}
/** Which take stands where, two to four. */
function Chooser({ shown, ids, name, choose }: ChooserProps) {
  const places = Math.min(MOST, shown.length, Math.max(2, ids.length + 1));
  return (
    <p className="no-print mb-3 flex flex-wrap gap-x-4 gap-y-2 text-sm">
      {Array.from({ length: places }, (_, i) => (
        <label key={i} className="flex items-center gap-2">
          {i + 1}
          <select
            className="max-w-80"
            value={ids[i] ?? ""}
            aria-label={`Take in place ${i + 1}`}
            onChange={(e) => choose([...ids.slice(0, i), ...(e.target.value === "" ? [] : [e.target.value]), ...ids.slice(i + 1)])}
          >
            <option value="">none</option>
            {shown.map((t) => (
              <option key={t.take.id} value={t.take.id}>
                {name(t)}
                {t.cropFactor === null ? "" : `, ${Math.round(100 * fieldLeft(t.cropFactor))} % of the field`}
                {t.take.bad === null ? "" : " (bad)"}
              </option>
            ))}
          </select>
        </label>
      ))}
    </p>
  );
}
