// The shooting card, on a phone beside the camera: what to set, which shot is next, and one key for what is seen on the camera's screen.

import type { Grade } from "@keep-rolling/core/holds";
import { eachOf, GRADES, setAt } from "@keep-rolling/core/holds";
import { Link } from "react-router";
import { pressAll, undoFacts } from "../../record/sessions.ts";
import { useInTurn } from "../../shared/ui/useInTurn.ts";
import { usePageKeys } from "../../shared/ui/usePageKeys.ts";
import { Button, Key, Note, PageHead } from "../../shared/ui/parts.tsx";
import type { OpenedHold } from "./useHold.tsx";
import { OpenHold } from "./useHold.tsx";
import { toSetWords } from "./planWords.ts";
import { dialWords, gradeWords } from "./words.ts";

export const ShootPage = () => <OpenHold>{(opened) => <Card {...opened} />}</OpenHold>;

/** Beyond this a shot takes patience, and many of them an evening. */
const LONG_STOPS = 3;

function Card({ id, begun, clock, hold, plan }: OpenedHold) {
  const { next, shots, left } = hold;
  const last = shots.at(-1);
  const shot = (grade: Grade) => async () => next !== null && pressAll(id, clock, [["shot", { setting: next.setting, x: next.x, grade }]]);
  const press = useInTurn(
    {
      kept: shot("kept"),
      lost: shot("lost"),
      taken: shot("taken"),
      bad: shot("bad"),
      undo: async () => last !== undefined && undoFacts(id, clock, [last.id]),
    },
    shots.length,
  );
  const later = plan.judged === "from pictures";
  const keys = later ? { t: () => press("taken") } : { k: () => press("kept"), l: () => press("lost") };
  usePageKeys({ ...keys, b: () => press("bad"), Backspace: () => press("undo") });
  const set = next === null ? null : setAt(plan, next.x);
  const changed = last !== undefined && next !== null && (last.setting !== next.setting || last.x !== next.x);
  return (
    <div className="mx-auto flex max-w-xl flex-col gap-4">
      <PageHead
        title="Shooting card"
        sub={`${plan.lensName} at ${plan.focalMm} mm · ${plan.stance} · ${left === 0 ? "all shot" : left === null ? `${shots.length} taken` : `${left} to take`}`}
      >
        <Link to={`/hold/${id}`}>The test</Link>
      </PageHead>
      {next === null ? (
        <p className="text-2xl">
          All shots are taken.{" "}
          {later ? <Link to={`/hold/${id}/pictures`}>Bring in the pictures</Link> : <Link to={`/hold/${id}`}>See what they say</Link>}.
        </p>
      ) : (
        <>
          <p className="text-soft">{`Next: shot ${next.n} of ${eachOf(plan)}${changed ? ", set anew" : ""}`}</p>
          <h2 className="num text-6xl leading-tight font-semibold">{`${dialWords(next.x)} s`}</h2>
          <p className={`text-3xl ${changed ? "font-semibold" : ""}`}>{`stabiliser ${next.setting}`}</p>
          {set !== null && <p className="num text-xl">{toSetWords(set)}</p>}
          {next.repeats && <Note>The single one kept here counts only once it is repeated.</Note>}
          <p className="text-soft">
            {later
              ? "Lower the camera and take a new grip before each shot. It is judged later, from the pictures."
              : "Lower the camera and take a new grip before each shot. Then look at it as large as you would use it."}
          </p>
          {next.x >= LONG_STOPS && <Note>A time this long is for a support, not for hands; it also costs its length for every shot.</Note>}
          <Note>Never aim at the sun, and mind where you stand while your eye is at the finder.</Note>
        </>
      )}
      <div className="sticky bottom-0 grid grid-cols-2 gap-3 bg-ground py-3">
        {later ? (
          <Button tone="main" className="col-span-2 py-6 text-2xl" disabled={next === null} onClick={() => press("taken")}>
            Taken <Key onMain>T</Key>
          </Button>
        ) : (
          <>
            <Button tone="main" className="py-6 text-2xl" disabled={next === null} onClick={() => press("kept")}>
              Kept <Key onMain>K</Key>
            </Button>
            <Button className="py-6 text-2xl" disabled={next === null} onClick={() => press("lost")}>
              Lost <Key>L</Key>
            </Button>
          </>
        )}
        <Button className="py-4 text-lg" disabled={next === null} onClick={() => press("bad")}>
          Bad, again <Key>B</Key>
        </Button>
        <Button className="py-4 text-lg" disabled={last === undefined} onClick={() => press("undo")}>
          {last === undefined ? "Undo" : `Undo: ${gradeWords(last.grade)}`} <Key>Backspace</Key>
        </Button>
      </div>
      {shots.length > 0 && (
        <ol className="text-soft" aria-label="Shots, newest first">
          {[...shots]
            .reverse()
            .slice(0, SHOWN)
            .map((s) => (
              <li key={s.id} className="hairline flex justify-between py-1">
                <span>{`${dialWords(s.x)} s, ${s.setting}`}</span>
                <select
                  aria-label={`Shot ${shots.indexOf(s) + 1}, ${dialWords(s.x)} s, stabiliser ${s.setting}`}
                  value={s.grade}
                  onChange={(e) => {
                    const grade = GRADES.find((g) => g === e.target.value);
                    if (grade !== undefined) void pressAll(id, clock, [["correction", { grade }, s.id]]);
                  }}
                >
                  {gradesFor(later, s.grade).map((g) => (
                    <option key={g} value={g}>
                      {gradeWords(g)}
                    </option>
                  ))}
                </select>
              </li>
            ))}
        </ol>
      )}
      {begun !== null && begun.clockId !== "real" && <Note tone="alert">On a simulated clock: it says nothing about any real hands.</Note>}
    </div>
  );
}
const SHOWN = 30;
/** What may be said of a shot, and what is said of it, should the plan have changed since. */
function gradesFor(later: boolean, said: Grade): Grade[] {
  const offered: Grade[] = later ? ["taken", "bad"] : ["kept", "lost", "bad"];
  return offered.includes(said) ? offered : [said, ...offered];
}
