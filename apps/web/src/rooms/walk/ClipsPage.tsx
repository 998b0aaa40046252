// Bringing in the clips of a walking test: drop them, watch them being measured, and see which clip is which take.

import type { WalkClip, WalkPlan, WalkTake } from "@keep-rolling/core/walks";
import { proposeTakes } from "@keep-rolling/core/walks";
import { useEffect, useMemo, useState, useSyncExternalStore } from "react";
import { Link, useParams } from "react-router";
import { madeOf } from "@keep-rolling/core/stand-ins/takes";
import { clipPool } from "../../workers/pool.ts";
import { pressAll } from "../../record/sessions.ts";
import { sentenceOf as troubleOf } from "../../shared/api/api.ts";
import { kitApi } from "../../shared/kit/api.ts";
import { Button, Loading, Note, PageHead, Trouble } from "../../shared/ui/parts.tsx";
import { walkApi } from "./api.ts";
import { DropZone } from "../../shared/clips/DropZone.tsx";
import { filesIn } from "./dropped.ts";
import type { ImportQueue, Item } from "./importQueue.ts";
import { queueOf } from "./importQueue.ts";
import { useCrops } from "./useCrops.ts";
import type { SeenWalk } from "./useWalk.ts";
import { useWalk } from "./useWalk.ts";
import { leftWords, moveWords, troubleWords } from "./words.ts";

export function ClipsPage() {
  const { sessionId = "" } = useParams();
  const seen = useWalk(sessionId);
  if (!seen.known)
    return seen.isLoading ? (
      <Loading what="the walking test" />
    ) : (
      <Trouble sentence={troubleOf(seen.error)} retry={() => void seen.refetch()} />
    );
  return <Shown id={sessionId} seen={seen} />;
}

function Shown({ id, seen }: { id: string; seen: SeenWalk }) {
  const { walk, begun } = seen;
  const queue = useQueue(id, seen);
  useCrops(id, walk);
  return (
    <div className="max-w-5xl">
      <PageHead
        title={`Clips of ${begun?.place || "this test"}`}
        sub="They are measured on this device and stay where they are; kept are their path, a few small stills and a fingerprint."
      >
        <Link to={`/walk/${id}`}>The test</Link>
      </PageHead>
      <Drop queue={queue} />
      {seen.clock?.kind === "rehearsal" && <MakeClips seen={seen} queue={queue} />}
      <Queue queue={queue} />
      <Assignments id={id} seen={seen} />
    </div>
  );
}

/** Ties the queue to this session as it stands now. */
function useQueue(id: string, { walk, begun, press }: SeenWalk): ImportQueue {
  const queue = queueOf(id);
  const { data: kit } = kitApi.useKitQuery();
  const { data } = walkApi.useWalkClipsQuery(id);
  const [save] = walkApi.useSaveWalkClipMutation();
  const habits = kit?.units.find((u) => u.id === begun?.unitIds[0])?.clips;
  useEffect(() => {
    // Before the rows are read nobody can say what is known already.
    if (data === undefined) return;
    queue.hook({
      measured: new Set(data.clips.map((c) => c.sha256)),
      inSession: new Set(walk.clips.map((c) => c.sha256)),
      habits,
      press,
      save: (clip) => save({ session: id, clip }).unwrap(),
    });
  }, [queue, id, data, walk, habits, press, save]);
  return queue;
}

const useItems = (queue: ImportQueue): readonly Item[] => useSyncExternalStore(queue.subscribe, queue.items);

function Drop({ queue }: { queue: ImportQueue }) {
  return (
    <DropZone onDrop={(data) => void filesIn(data).then(queue.add)}>
      <label>
        Drop clips or folders here (MP4, MOV, WebM), or choose them:{" "}
        <input
          className="max-w-full"
          type="file"
          multiple
          accept="video/*,.mp4,.mov,.m4v,.webm"
          onChange={(event) => {
            queue.add([...(event.target.files ?? [])]);
            event.target.value = "";
          }}
        />
      </label>
      <p className="mt-1 text-sm text-soft">After a reload drop the same files again: what is measured already is known by its content.</p>
    </DropZone>
  );
}

const MADE_SEC = 5;

/** In a rehearsal nobody filmed: the clips of the walked takes are made, encoded by this browser, and go the way of any clip. */
function MakeClips({ seen, queue }: { seen: SeenWalk; queue: ImportQueue }) {
  const { walk } = seen;
  const [state, setState] = useState<string | null>(null);
  const waiting = walk.takes.filter((t) => t.endMs !== null && t.bad === null && t.clips.length === 0);
  const make = async (): Promise<void> => {
    for (const [i, take] of waiting.entries()) {
      const setup = walk.plan?.setups.find((s) => s.id === take.setupId);
      const move = walk.plan?.moves.find((m) => m.id === take.moveId);
      if (setup === undefined || move === undefined) continue;
      const name = `MADE${String(walk.takes.indexOf(take) + 1).padStart(4, "0")}.webm`;
      const made = madeOf(setup, move.kind, MADE_SEC, 100 + walk.takes.indexOf(take));
      setState(`Making ${i + 1} of ${waiting.length} …`);
      try {
        queue.add([
          await clipPool.call(
            "makeClip",
            { made, name },
            { onProgress: (done, of) => setState(`Making ${i + 1} of ${waiting.length}, ${Math.floor((100 * done) / of)} %`) },
          ),
        ]);
      } catch (error) {
        return setState(`This browser could not make the clip: ${error instanceof Error ? error.message : String(error)}.`);
      }
    }
    setState(null);
  };
  if (waiting.length === 0) return null;
  return (
    <p className="mt-3 flex flex-wrap items-center gap-4">
      <Button disabled={state?.startsWith("Making") === true} onClick={() => void make()}>
        {waiting.length === 1 ? "Make the clip of the take" : `Make the clips of these ${waiting.length} takes`}
      </Button>
      <span role="status" className="text-soft">
        {state ?? "A rehearsal: made clips stand in for filmed ones."}
      </span>
    </p>
  );
}

const OVER: readonly Item["stage"][] = ["done", "known already", "failed", "stopped"];

function Queue({ queue }: { queue: ImportQueue }) {
  const items = useItems(queue);
  const paused = useSyncExternalStore(queue.subscribe, queue.paused);
  if (items.length === 0) return null;
  const over = items.filter((i) => OVER.includes(i.stage)).length;
  const share = items.reduce((sum, i) => sum + (OVER.includes(i.stage) ? 1 : i.stage === "measuring" ? i.share : 0), 0) / items.length;
  return (
    <section aria-labelledby="queue" className="mt-6">
      <div className="flex flex-wrap items-baseline gap-4">
        <h2 id="queue">
          {over === items.length ? `${items.length} ${items.length === 1 ? "clip" : "clips"}` : `${over} of ${items.length} clips`}
        </h2>
        <progress aria-label="All clips" value={share} max={1} className="w-56 accent-cool" />
        {over < items.length && <Button onClick={() => queue.pause(!paused)}>{paused ? "Go on" : "Pause after these"}</Button>}
      </div>
      <ul aria-live="polite">
        {items.map((item) => (
          <li key={item.key} className="hairline flex flex-wrap items-baseline gap-x-4 py-1">
            <span className="num min-w-0 flex-1 truncate">{item.file.name}</span>
            <span className={item.stage === "failed" ? "text-alert" : "text-soft"}>{stageWords(item)}</span>
            {!OVER.includes(item.stage) && (
              <Button tone="quiet" onClick={() => queue.cancel(item.key)} aria-label={`Stop ${item.file.name}`}>
                Stop
              </Button>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}

function stageWords({ stage, share, trouble }: Item): string {
  if (stage === "failed")
    return /^[a-z-]+$/.test(trouble ?? "") ? `It ${troubleWords(trouble ?? "")}.` : (trouble ?? "It could not be measured.");
  if (stage === "measuring") return `measuring, ${Math.floor(100 * share)} %`;
  if (stage === "sending to the server") return "this browser cannot decode it; the server does";
  return stage;
}

function Assignments({ id, seen }: { id: string; seen: SeenWalk }) {
  const { walk, clock } = seen;
  const proposals = useMemo(() => proposeTakes(walk.clips, walk.takes), [walk]);
  const fitting = proposals.filter((p) => p.takeId !== null);
  if (walk.clips.length === 0 || walk.plan === null) return null;
  const { plan } = walk;
  const store = (): void =>
    void pressAll(
      id,
      clock,
      fitting.map(({ sha256, takeId, by }) => ["assign", { sha256, takeId, by }] as const),
    );
  const byHand = (sha256: string, takeId: string | null): void => void pressAll(id, clock, [["assign", { sha256, takeId, by: "hand" }]]);
  return (
    <section aria-labelledby="which" className="mt-8">
      <h2 id="which">Which clip is which take</h2>
      {fitting.length > 0 && (
        <div className="my-2 flex flex-wrap items-center gap-4">
          <Button tone="main" onClick={store}>
            {fitting.length === 1 ? "Take the proposal" : `Take these ${fitting.length} proposals`}
          </Button>
          <span className="text-soft">
            {fitting.some((p) => p.by === "order")
              ? "by the order of names against the order of takes"
              : "by the times of the files against the walk card"}
          </span>
        </div>
      )}
      {walk.takes.length === 0 && <Note>No take was walked by the card. Walk them there, or add takes by hand below.</Note>}
      <ul>
        {[...walk.clips]
          .sort((a, b) => a.name.localeCompare(b.name, "en", { numeric: true }))
          .map((clip) => (
            <ClipRow
              key={clip.sha256}
              clip={clip}
              plan={plan}
              takes={walk.takes}
              proposal={proposals.find((p) => p.sha256 === clip.sha256)}
              set={(takeId) => byHand(clip.sha256, takeId)}
            />
          ))}
      </ul>
      <AddTake seen={seen} plan={plan} />
    </section>
  );
}

interface RowProps {
  clip: WalkClip;
  plan: WalkPlan;
  takes: readonly WalkTake[];
  proposal: ReturnType<typeof proposeTakes>[number] | undefined;
  set: (takeId: string | null) => void;
}

function ClipRow({ clip, plan, takes, proposal, set }: RowProps) {
  const proposed = takes.find((t) => t.id === proposal?.takeId);
  return (
    <li className="hairline grid items-baseline gap-x-4 gap-y-1 py-1.5 sm:grid-cols-[minmax(8rem,14rem)_4rem_1fr]">
      <span className="num truncate">{clip.name}</span>
      <span className="num text-soft">{Math.round(clip.durationMs / 1000)} s</span>
      <span className="flex min-w-0 flex-wrap items-baseline gap-x-3">
        <select
          className="w-full min-w-0 sm:w-auto sm:max-w-full"
          aria-label={`Take of ${clip.name}`}
          value={clip.takeId ?? ""}
          onChange={(e) => set(e.target.value === "" ? null : e.target.value)}
        >
          <option value="">no take</option>
          {takes.map((t) => (
            <option key={t.id} value={t.id}>
              {takeName(t, plan)}
            </option>
          ))}
        </select>
        {clip.by !== null && <span className="text-sm text-soft">{`by ${clip.by}`}</span>}
        {clip.by === null && proposed !== undefined && <span className="text-sm text-soft">{`proposed: ${takeName(proposed, plan)}`}</span>}
        {clip.by === null && proposal?.because != null && (
          <span className="text-sm text-alert">{`left: ${leftWords(proposal.because)}`}</span>
        )}
      </span>
    </li>
  );
}

function takeName(t: WalkTake, plan: WalkPlan): string {
  const setup = plan.setups.find((s) => s.id === t.setupId)?.name ?? "a setup no longer on the plan";
  const kind = plan.moves.find((m) => m.id === t.moveId)?.kind;
  return `${setup}, ${kind === undefined ? "" : moveWords(kind).toLowerCase()}, take ${t.n}${t.bad === null ? "" : " (bad)"}`;
}

/** Takes walked without the card: said afterwards, so that their clips have a place. */
function AddTake({ seen, plan }: { seen: SeenWalk; plan: WalkPlan }) {
  const { begun, clock, press } = seen;
  const [setupId, setSetup] = useState(plan.setups[0]?.id ?? "");
  const [moveId, setMove] = useState(plan.moves[0]?.id ?? "");
  const add = (): void => void press("take", { setupId, moveId, unitId: begun?.unitIds[0] ?? null, untimed: true });
  if (clock === undefined || plan.setups.length === 0 || plan.moves.length === 0) return null;
  return (
    <details className="mt-4">
      <summary className="cursor-pointer">A take walked without the card</summary>
      <div className="mt-2 flex flex-wrap items-center gap-3">
        <select className="max-w-full" aria-label="Its setup" value={setupId} onChange={(e) => setSetup(e.target.value)}>
          {plan.setups.map((s) => (
            <option key={s.id} value={s.id}>
              {s.name}
            </option>
          ))}
        </select>
        <select aria-label="Its move" value={moveId} onChange={(e) => setMove(e.target.value)}>
          {plan.moves.map((m) => (
            <option key={m.id} value={m.id}>
              {moveWords(m.kind)}
            </option>
          ))}
        </select>
        <Button onClick={add}>Add the take</Button>
      </div>
    </details>
  );
}
