// What the files propose, each to be left out or taken over; one key presses them all as marks.

import type { Clock } from "@keep-rolling/contract/clocks";
import type { Kit } from "@keep-rolling/contract/kit";
import type { Clip, ClipConvention, Proposal, Witness } from "@keep-rolling/core/clips";
import { liveCorrectionOf } from "@keep-rolling/core/runs";
import { formatHms, formatSpan } from "@keep-rolling/core/format";
import { useEffect, useEffectEvent, useRef, useState } from "react";
import { EDGE_WORDS, filesNote } from "../../shared/clips/clipWords.ts";
import { useKeepClips } from "../../shared/clips/Convention.tsx";
import type { Press } from "../../record/pressing.ts";
import { presser } from "../../record/pressing.ts";
import type { SeenRun } from "../../record/runs.ts";
import { Button, Key } from "../../shared/ui/parts.tsx";

interface ProposalsProps {
  run: SeenRun;
  seen: Witness;
  clips: readonly Clip[];
  unit: Kit["units"][number] | null;
  convention: ClipConvention;
  clock: Clock | undefined;
}

export function Proposals({ run, seen, clips, unit, convention, clock }: ProposalsProps) {
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  const [done, setDone] = useState<string | null>(null);
  const keep = useKeepClips();
  const chosen = seen.proposals.filter((p) => !left.has(p.key));
  // Pressed twice while the first is being stored, each mark is still made once.
  const busy = useRef(false);
  const accept = async (): Promise<void> => {
    if (busy.current) return;
    busy.current = true;
    const press = presser(run.id, clock);
    for (const p of chosen) await pressProposal(press, run, p);
    if (chosen.length > 0) await press("note", { text: filesNote(clips) }, { source: "accepted" });
    const kept = unit === null || (await keep(unit, { ...convention, offsetMs: seen.clock.offsetMs }));
    setDone(
      `${chosen.length === 1 ? "One mark" : `${chosen.length} marks`} taken over.${kept ? "" : " The clock of this body could not be kept; it will be asked again."}`,
    );
  };
  const take = (): void => void accept().catch(() => (busy.current = false));
  useAcceptKey(take, chosen.length > 0);
  if (seen.proposals.length === 0)
    return (
      <p className="flex flex-wrap items-center gap-4">
        <strong>
          {seen.clock.unwitnessed.length === 0
            ? "The files and the marks agree; nothing to take over."
            : "The files propose nothing. What they do not show, only you can settle: correct the mark, or undo it."}
        </strong>
        {unit !== null && <KeepOnly unit={unit} keep={() => keep(unit, { ...convention, offsetMs: seen.clock.offsetMs })} />}
      </p>
    );
  const startMs = run.fold.startMs ?? 0;
  return (
    <section aria-labelledby="proposals">
      <h2 id="proposals">What the files propose</h2>
      <ul>
        {seen.proposals.map((p) => (
          <li key={p.key} className="hairline py-1.5">
            <label className="flex gap-3">
              <input
                type="checkbox"
                className="mt-1"
                checked={!left.has(p.key)}
                onChange={(event) => setLeft(event.target.checked ? without(left, p.key) : new Set([...left, p.key]))}
              />
              <span>
                {proposalWords(p, run, startMs)} <span className="text-sm text-soft">{p.why}</span>
              </span>
            </label>
          </li>
        ))}
      </ul>
      <p className="mt-3 flex flex-wrap items-center gap-4">
        <Button tone="main" disabled={chosen.length === 0} onClick={take}>
          Take {chosen.length === 1 ? "it" : `these ${chosen.length}`} over as marks <Key onMain>A</Key>
        </Button>
        <span role="status">{done}</span>
      </p>
    </section>
  );
}

function KeepOnly({ unit, keep }: { unit: Kit["units"][number]; keep: () => Promise<boolean> }) {
  const [kept, setKept] = useState(false);
  if (kept) return <span role="status">Kept with {unit.name}.</span>;
  return <Button onClick={() => void keep().then(setKept)}>Keep how {unit.name} stamps its clips, and its clock</Button>;
}

const without = (set: ReadonlySet<string>, key: string): ReadonlySet<string> => new Set([...set].filter((k) => k !== key));

function proposalWords(p: Proposal, run: SeenRun, startMs: number): string {
  if (p.kind === "mark") {
    const words = { gap: "A gap", resume: "Recording again", split: "A new file", end: "The end" }[p.mark];
    return `${words} at ${formatHms(p.atMs - startMs)}`;
  }
  const now = run.fold.effective.find((m) => m.id === p.target)?.atMs ?? startMs;
  const to = p.body.atMs ?? now;
  const between = p.body.lastSeenMs == null ? "" : `${formatHms(p.body.lastSeenMs - startMs)} to `;
  const moved =
    p.what === "start"
      ? `${formatSpan(Math.abs(to - now))} ${to < now ? "earlier" : "later"}`
      : `from ${formatHms(now - startMs)} to ${between}${formatHms(to - startMs)}`;
  return `The ${EDGE_WORDS[p.what]} moves ${moved}`;
}

async function pressProposal(press: Press, run: SeenRun, p: Proposal): Promise<void> {
  if (p.kind === "mark") await press(p.mark, p.body, { atMs: p.atMs, source: "accepted" });
  else {
    const replaces = liveCorrectionOf(run.marks, p.target);
    await press("correction", p.body, { target: p.target, source: "accepted", ...(replaces === undefined ? {} : { replaces }) });
  }
}

/** A, as on the console; not while typing. */
function useAcceptKey(onAccept: () => void, active: boolean): void {
  const accept = useEffectEvent(onAccept);
  useEffect(() => {
    if (!active) return;
    const onKey = (event: KeyboardEvent): void => {
      const typing =
        event.target instanceof HTMLElement &&
        event.target.matches("input:not([type=checkbox], [type=radio], [type=file]), textarea, select");
      if (event.key.toLowerCase() === "a" && !event.repeat && !event.ctrlKey && !event.metaKey && !event.altKey && !typing) accept();
    };
    addEventListener("keydown", onKey);
    return () => removeEventListener("keydown", onKey);
  }, [active]);
}
