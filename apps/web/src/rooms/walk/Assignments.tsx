// Which clip is which take: proposals, a list for the keyboard, dragging for the mouse. Nothing is assigned before somebody says so.

import { DndContext, PointerSensor, useDraggable, useDroppable, useSensor, useSensors } from "@dnd-kit/core";
import type { WalkClip, WalkPlan, WalkTake } from "@keep-rolling/core/walks";
import { parentOf, proposeTakes } from "@keep-rolling/core/walks";
import { GripVertical } from "lucide-react";
import { useMemo, useState } from "react";
import { v7 as uuidv7 } from "uuid";
import type { Pressed } from "../../record/sessions.ts";
import { pressAll } from "../../record/sessions.ts";
import { Button, Note } from "../../shared/ui/parts.tsx";
import type { Body } from "./useBodies.ts";
import { bodyNameOf, useBodies } from "./useBodies.ts";
import type { FoundCopy } from "./useCopies.ts";
import { useCopies } from "./useCopies.ts";
import type { SeenWalk } from "./useWalk.ts";
import { cutWords, leftWords } from "./words.ts";
import { moveWords } from "../../shared/walks/words.ts";

type Proposal = ReturnType<typeof proposeTakes>[number];

export function Assignments({ id, seen }: { id: string; seen: SeenWalk }) {
  const { walk, clock } = seen;
  const copies = useCopies(id, walk);
  const proposals = useMemo(() => {
    const others = walk.clips.filter((c) => !copies.some((f) => f.sha256 === c.sha256));
    return proposeTakes(others, walk.takes, walk.parts);
  }, [walk, copies]);
  const bodies = useBodies(seen.begun?.unitIds ?? []);
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 6 } }));
  if (walk.clips.length === 0 || walk.plan === null) return null;
  const { plan } = walk;
  const name: NameTake = (t) => takeName(t, plan, bodies);
  const fitting = proposals.filter((p) => p.takeId !== null);
  const clear = copies.filter((c) => c.setupId !== null);
  const put = (facts: readonly Pressed[]): void => void pressAll(id, clock, facts);
  const byHand = (sha256: string, takeId: string | null): void => put([["assign", { sha256, takeId, by: "hand" }]]);
  const store = (): void =>
    put([
      ...fitting.map(({ sha256, takeId, by }) => ["assign", { sha256, takeId, by }] as const),
      ...clear.flatMap((c) => copyFacts(c.sha256, c.setupId ?? "", c.parent, "picture")),
    ]);
  const bare = walk.takes.filter((t) => t.clips.length === 0 && t.endMs !== null);
  const count = fitting.length + clear.length;
  return (
    <section aria-labelledby="which" className="mt-8">
      <h2 id="which">Which clip is which take</h2>
      {count > 0 && (
        <div className="my-2 flex flex-wrap items-center gap-4">
          <Button tone="main" onClick={store}>
            {count === 1 ? "Take the proposal" : `Take these ${count} proposals`}
          </Button>
          <span className="text-soft">{basisWords(fitting, clear)}</span>
        </div>
      )}
      {walk.takes.length === 0 && <Note>No take was walked by the card. Walk them there, or add takes by hand below.</Note>}
      <DndContext
        sensors={sensors}
        onDragEnd={({ active, over }) => {
          if (over !== null) byHand(String(active.id), over.id === NOWHERE ? null : String(over.id));
        }}
      >
        <Targets bare={bare} name={name} />
        <ul>
          {[...walk.clips]
            .sort((a, b) => a.name.localeCompare(b.name, "en", { numeric: true }))
            .map((clip) => (
              <ClipRow
                key={clip.sha256}
                clip={clip}
                parts={walk.parts.filter((p) => p.sha256 === clip.sha256)}
                plan={plan}
                name={name}
                takes={walk.takes}
                proposal={proposals.find((p) => p.sha256 === clip.sha256)}
                copy={copies.find((c) => c.sha256 === clip.sha256)}
                set={(takeId) => byHand(clip.sha256, takeId)}
                put={put}
              />
            ))}
        </ul>
      </DndContext>
      <p className="mt-2 text-sm text-soft">A clip taken out comes back when it is dropped again: what was measured of it is kept.</p>
      <AddTake seen={seen} plan={plan} />
    </section>
  );
}

function basisWords(fitting: readonly Proposal[], clear: readonly FoundCopy[]): string {
  const of = [
    fitting.some((p) => p.by === "time") ? "by the times of the files against the walk card" : "",
    fitting.some((p) => p.by === "order") ? "by the order of names against the order of takes" : "",
    clear.length > 0 ? "corrected copies by their picture" : "",
  ];
  return of.filter((w) => w !== "").join("; ");
}

/** A copy is a take that nobody walked: it and its clip are entered together. */
function copyFacts(sha256: string, setupId: string, parent: WalkTake, by: "picture" | "hand"): Pressed[] {
  const takeId = uuidv7();
  return [
    ["take", { setupId, moveId: parent.moveId, unitId: parent.unitId, untimed: true, of: parent.id }, undefined, takeId],
    ["assign", { sha256, takeId, by }],
  ];
}

const NOWHERE = "no take";

/** Where a dragged clip can be put down: takes that have none, and "no take". */
function Targets({ bare, name }: { bare: readonly WalkTake[]; name: NameTake }) {
  if (bare.length === 0) return null;
  return (
    <details className="my-2">
      <summary className="cursor-pointer">
        {bare.length === 1 ? "One take has no clip" : `${bare.length} takes have no clip`}: drag clips onto them
      </summary>
      <ul className="mt-2 flex flex-wrap gap-2">
        {bare.map((t) => (
          <Target key={t.id} id={t.id} words={name(t)} />
        ))}
        <Target id={NOWHERE} words="no take" />
      </ul>
    </details>
  );
}

function Target({ id, words }: { id: string; words: string }) {
  const { setNodeRef, isOver } = useDroppable({ id });
  return (
    <li
      ref={setNodeRef}
      className={`rounded-md border border-dashed px-3 py-1.5 text-sm ${isOver ? "border-here bg-sheet" : "border-rule2"}`}
    >
      {words}
    </li>
  );
}

interface RowProps {
  clip: WalkClip;
  parts: readonly WalkClip[];
  plan: WalkPlan;
  name: NameTake;
  takes: readonly WalkTake[];
  proposal: Proposal | undefined;
  copy: FoundCopy | undefined;
  set: (takeId: string | null) => void;
  put: (facts: readonly Pressed[]) => void;
}

function ClipRow({ clip, parts, plan, name, takes, proposal, copy, set, put }: RowProps) {
  const { setNodeRef, listeners, transform } = useDraggable({ id: clip.sha256 });
  const nameOf = (takeId: string | null): string => {
    const take = takes.find((t) => t.id === takeId);
    return take === undefined ? "no take" : name(take);
  };
  const free = clip.by === null && parts.length === 0;
  const choose = (value: string): void => {
    const [setupId, parentId] = value.split(" copy of ");
    const parent = takes.find((t) => t.id === parentId);
    if (setupId !== undefined && parent !== undefined) put(copyFacts(clip.sha256, setupId, parent, "hand"));
    else set(value === "" ? null : value);
  };
  return (
    <li className="hairline grid items-baseline gap-x-4 gap-y-1 py-1.5 sm:grid-cols-[minmax(8rem,14rem)_4rem_1fr]">
      <span
        className="num flex min-w-0 items-center gap-1"
        style={transform === null ? undefined : { transform: `translate(${transform.x}px, ${transform.y}px)` }}
      >
        <span
          ref={setNodeRef}
          {...listeners}
          className="shrink-0 cursor-grab touch-none p-1 text-soft"
          title={`Drag ${clip.name} onto a take`}
        >
          <GripVertical size={16} aria-hidden="true" />
        </span>
        <span className="truncate">{clip.name}</span>
      </span>
      <span className="num text-soft">{(clip.durationMs / 1000).toFixed(clip.durationMs < 9950 ? 1 : 0)} s</span>
      <span className="flex min-w-0 flex-wrap items-baseline gap-x-3">
        <select
          className="w-full min-w-0 sm:w-auto sm:max-w-full"
          aria-label={`Take of ${clip.name}`}
          value={clip.takeId ?? ""}
          onChange={(e) => choose(e.target.value)}
        >
          <option value="">{parts.length > 0 ? "in parts" : "no take"}</option>
          {takes.map((t) => (
            <option key={t.id} value={t.id}>
              {name(t)}
            </option>
          ))}
          <CopyOptions plan={plan} takes={takes} name={name} />
        </select>
        {clip.by !== null && clip.takeId !== null && <span className="text-sm text-soft">{`by ${clip.by}`}</span>}
        {parts.map((p) => (
          <span
            key={p.key}
            className="text-sm text-soft"
          >{`${cutWords(p.part?.fromMs ?? 0, p.part?.toMs ?? null)}: ${nameOf(p.takeId)}`}</span>
        ))}
        {free && proposal?.takeId != null && <span className="text-sm text-soft">{`proposed: ${nameOf(proposal.takeId)}`}</span>}
        {free && copy !== undefined && <span className="text-sm text-soft">{copyWords(copy, plan, name)}</span>}
        {free && proposal?.because != null && <span className="text-sm text-alert">{`left: ${leftWords(proposal.because)}`}</span>}
        {free && proposal !== undefined && proposal.cuts.length > 0 && (
          <>
            <Button onClick={() => put(proposal.cuts.map((c) => ["segment", { sha256: clip.sha256, ...c }] as const))}>
              Cut it at the times of the card
            </Button>
            <span className="text-sm text-soft">
              {proposal.cuts.map((c) => `${cutWords(c.fromMs, c.toMs)}: ${nameOf(c.takeId)}`).join("; ")}
            </span>
          </>
        )}
        <Button
          tone="quiet"
          aria-label={`Take it out: ${clip.name}`}
          onClick={() => put(clip.factIds.map((target) => ["undo", {}, target] as const))}
        >
          Take it out
        </Button>
      </span>
    </li>
  );
}

function copyWords({ parent, setupId, correlation }: FoundCopy, plan: WalkPlan, name: NameTake): string {
  const like = `looks like a corrected copy of ${name(parent)} (${(Math.floor(100 * correlation) / 100).toFixed(2)} alike)`;
  return setupId === null
    ? `${like}; which correction, choose`
    : `proposed: ${plan.setups.find((s) => s.id === setupId)?.name ?? ""}, ${like}`;
}

/** Every correction on the plan with every walked take it can have been made of. */
function CopyOptions({ plan, takes, name }: { plan: WalkPlan; takes: readonly WalkTake[]; name: NameTake }) {
  const pairs = plan.setups.flatMap((s) => {
    const parent = parentOf(plan.setups, s);
    return parent === null ? [] : takes.filter((t) => t.setupId === parent.id && t.of === null).map((t) => ({ setup: s, take: t }));
  });
  if (pairs.length === 0) return null;
  return (
    <optgroup label="a corrected copy">
      {pairs.map(({ setup, take }) => (
        <option key={`${setup.id} ${take.id}`} value={`${setup.id} copy of ${take.id}`}>
          {`${setup.name}, copy of ${name(take)}`}
        </option>
      ))}
    </optgroup>
  );
}

export type NameTake = (t: WalkTake) => string;

/** Setup, move, number; the body where there are two. */
export function takeName(t: WalkTake, plan: WalkPlan, bodies: readonly Body[]): string {
  const setup = plan.setups.find((s) => s.id === t.setupId)?.name ?? "a setup no longer on the plan";
  const kind = plan.moves.find((m) => m.id === t.moveId)?.kind;
  const body = bodyNameOf(bodies, t.unitId);
  return `${setup}, ${kind === undefined ? "" : moveWords(kind).toLowerCase()}, take ${t.n}${body === "" ? "" : `, ${body}`}${t.bad === null ? "" : " (bad)"}`;
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
