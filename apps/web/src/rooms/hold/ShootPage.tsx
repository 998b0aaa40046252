// The shooting card, on a phone beside the camera: what to set, which shot is next, and one key for what is seen on the camera's screen.

import type { Grade } from "@keep-rolling/core/holds";
import { Link } from "react-router";
import { pressAll, undoFacts } from "../../record/sessions.ts";
import { useOnce } from "../../shared/ui/useOnce.ts";
import { usePageKeys } from "../../shared/ui/usePageKeys.ts";
import { Button, Key, Note, PageHead } from "../../shared/ui/parts.tsx";
import type { OpenedHold } from "./useHold.tsx";
import { OpenHold } from "./useHold.tsx";
import { dialWords, gradeWords } from "./words.ts";

export const ShootPage = () => <OpenHold>{(opened) => <Card {...opened} />}</OpenHold>;

/** Beyond this a shot takes patience, and many of them an evening. */
const LONG_STOPS = 3;

function Card({ id, begun, clock, hold, plan }: OpenedHold) {
  const { next, shots, left } = hold;
  const [busy, once] = useOnce();
  const last = shots.at(-1);
  const press = (grade: Grade): void =>
    void once(async () => next !== null && pressAll(id, clock, [["shot", { setting: next.setting, x: next.x, grade }]]));
  const undo = (): void => void once(async () => last !== undefined && undoFacts(id, clock, [last.id]));
  usePageKeys({ k: () => press("kept"), l: () => press("lost"), b: () => press("bad"), Backspace: undo });
  const changed = last !== undefined && next !== null && (last.setting !== next.setting || last.x !== next.x);
  return (
    <div className="mx-auto flex max-w-xl flex-col gap-4">
      <PageHead
        title="Shooting card"
        sub={`${plan.lensName} at ${plan.focalMm} mm · ${plan.stance} · ${left === 0 ? "all shot" : `${left} to take`}`}
      >
        <Link to={`/hold/${id}`}>The test</Link>
      </PageHead>
      {next === null ? (
        <p className="text-2xl">
          All shots are taken. <Link to={`/hold/${id}`}>See what they say</Link>.
        </p>
      ) : (
        <>
          <p className="text-soft">{`Next: shot ${next.n} of ${plan.shotsEach}${changed ? ", set anew" : ""}`}</p>
          <h2 className="num text-6xl leading-tight font-semibold">{`${dialWords(next.x)} s`}</h2>
          <p className={`text-3xl ${changed ? "font-semibold" : ""}`}>{`stabiliser ${next.setting}`}</p>
          <p className="text-soft">Lower the camera and take a new grip before each shot. Then look at it as large as you would use it.</p>
          {next.x >= LONG_STOPS && <Note>A time this long is for a support, not for hands; it also costs its length for every shot.</Note>}
          <Note>Never aim at the sun, and mind where you stand while your eye is at the finder.</Note>
        </>
      )}
      <div className="sticky bottom-0 grid grid-cols-2 gap-3 bg-ground py-3">
        <Button tone="main" className="py-6 text-2xl" disabled={next === null || busy} onClick={() => press("kept")}>
          Kept <Key onMain>K</Key>
        </Button>
        <Button className="py-6 text-2xl" disabled={next === null || busy} onClick={() => press("lost")}>
          Lost <Key>L</Key>
        </Button>
        <Button className="py-4 text-lg" disabled={next === null || busy} onClick={() => press("bad")}>
          Bad, again <Key>B</Key>
        </Button>
        <Button className="py-4 text-lg" disabled={last === undefined || busy} onClick={undo}>
          {last === undefined ? "Undo" : `Undo: ${gradeWords(last.grade)}`}
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
                <span>{gradeWords(s.grade)}</span>
              </li>
            ))}
        </ol>
      )}
      {begun?.clockId !== "real" && <Note tone="alert">On a simulated clock: it says nothing about any real hands.</Note>}
    </div>
  );
}
const SHOWN = 30;
