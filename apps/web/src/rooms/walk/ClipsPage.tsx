// Bringing in the clips of a walking test: drop them, watch them being measured, and see which clip is which take.

import { memo, useEffect, useState, useSyncExternalStore } from "react";
import { Link, useParams } from "react-router";
import { madeOf } from "@keep-rolling/core/stand-ins/takes";
import { clipPool } from "../../workers/pool.ts";
import { sentenceOf as troubleOf } from "../../shared/api/api.ts";
import { kitApi } from "../../shared/kit/api.ts";
import { SelectField } from "../../shared/ui/fields.tsx";
import { Assignments } from "./Assignments.tsx";
import { Button, Loading, PageHead, Trouble } from "../../shared/ui/parts.tsx";
import { walkApi } from "./api.ts";
import { Progress } from "../../shared/ui/Progress.tsx";
import { DropZone } from "../../shared/clips/DropZone.tsx";
import { filesIn } from "../../shared/clips/dropped.ts";
import type { ImportQueue, Item } from "./importQueue.ts";
import { queueOf } from "./importQueue.ts";
import { useBodies } from "./useBodies.ts";
import { useCrops } from "./useCrops.ts";
import type { SeenWalk } from "./useWalk.ts";
import { useWalk } from "./useWalk.ts";
import { troubleWords } from "./words.ts";

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
  const bodies = useBodies(begun?.unitIds ?? []);
  const [card, setCard] = useState<string | null>(null);
  const add = (files: readonly File[]): void => queue.add(files, bodies.length < 2 ? null : card);
  return (
    <div className="max-w-5xl">
      <PageHead
        title={`Clips of ${begun?.place || "this test"}`}
        sub="They are measured on this device and stay where they are; kept are their path, a small copy to look at, a few stills and a fingerprint."
      >
        <Link to={`/walk/${id}`}>The test</Link>
      </PageHead>
      {bodies.length > 1 && (
        <div className="mb-3 max-w-xs">
          <SelectField
            label="Whose card"
            value={card ?? ""}
            onChange={(e) => setCard(e.target.value === "" ? null : e.target.value)}
            options={[["", "not said: times then fit two takes"], ...bodies.map((b) => [b.id, b.name] as const)]}
          />
        </div>
      )}
      <Drop add={add} />
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
  const bodies = begun?.unitIds;
  useEffect(() => {
    // Before the rows are read nobody can say what is known already.
    if (data === undefined) return;
    queue.hook({
      measured: new Map(data.clips.map((c) => [c.sha256, c.packSha256])),
      inSession: new Set(walk.clips.map((c) => c.sha256)),
      // One body: its card. Two, and nobody said which: no clock to go by.
      habits: (unitId) => kit?.units.find((u) => u.id === (unitId ?? (bodies?.length === 1 ? bodies[0] : undefined)))?.clips,
      press,
      save: (clip) => save({ session: id, clip }).unwrap(),
    });
  }, [queue, id, data, walk, kit, bodies, press, save]);
  return queue;
}

const useItems = (queue: ImportQueue): readonly Item[] => useSyncExternalStore(queue.subscribe, queue.items);

function Drop({ add }: { add: (files: readonly File[]) => void }) {
  return (
    <DropZone onDrop={(data) => void filesIn(data).then(add)}>
      <label>
        Drop clips or folders here (MP4, MOV, WebM), or choose them:{" "}
        <input
          className="max-w-full"
          type="file"
          multiple
          accept="video/*,.mp4,.mov,.m4v,.webm"
          onChange={(event) => {
            add([...(event.target.files ?? [])]);
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
        <Progress label="All clips" value={share} max={1} />
        {over < items.length && <Button onClick={() => queue.pause(!paused)}>{paused ? "Go on" : "Pause after these"}</Button>}
      </div>
      <ul aria-live="polite">
        {items.map((item) => (
          <QueueRow key={item.key} item={item} queue={queue} />
        ))}
      </ul>
    </section>
  );
}

/** Drawn anew only when its own clip gets on: a hundred may wait. */
const QueueRow = memo(function QueueRow({ item, queue }: { item: Item; queue: ImportQueue }) {
  return (
    <li className="hairline flex flex-wrap items-baseline gap-x-4 py-1">
      <span className="num min-w-0 flex-1 truncate">{item.file.name}</span>
      <span className={item.stage === "failed" ? "text-alert" : "text-soft"}>{stageWords(item)}</span>
      {!OVER.includes(item.stage) && (
        <Button tone="quiet" onClick={() => queue.cancel(item.key)} aria-label={`Stop ${item.file.name}`}>
          Stop
        </Button>
      )}
    </li>
  );
});

function stageWords({ stage, share, trouble }: Item): string {
  if (stage === "failed")
    return /^[a-z-]+$/.test(trouble ?? "") ? `It ${troubleWords(trouble ?? "")}.` : (trouble ?? "It could not be measured.");
  if (stage === "measuring") return `measuring, ${Math.floor(100 * share)} %`;
  if (stage === "sending to the server") return `this browser cannot decode it; on its way to the server, ${Math.floor(100 * share)} %`;
  if (stage === "decoded by the server") return `the server decodes it, ${Math.floor(100 * share)} %`;
  if (stage === "waiting for the server's decoder") return "the server decodes another clip first";
  return stage;
}
