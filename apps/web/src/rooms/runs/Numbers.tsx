// The numbers of one run: what was recorded, what counts and why.

import type { Observation } from "@keep-rolling/core/runs";
import { ambientWords, enteredLate, settingWords, observe, recordedAt, summarise, endWords } from "@keep-rolling/core/runs";
import { formatHms, formatSpan } from "@keep-rolling/core/format";
import type { SeenRun } from "../../record/runs.ts";
import { useSettings } from "../../shared/settings/settings.ts";
import { Fact } from "../../shared/ui/parts.tsx";
import { kindVerdict, verdictWords } from "./verdict.ts";

export function Numbers({ run, nowMs }: { run: SeenRun; nowMs: number }) {
  const { temperature } = useSettings();
  const { fold } = run;
  const { setup } = fold;
  if (setup === null) return null;
  const times = summarise(fold, nowMs);
  const seen = observe(fold, setup.protocol.continuity, "shutdown");
  const warned = observe(fold, setup.protocol.continuity, "firstWarning");
  const { lo, hi } = times.recordedMs;
  const kind = kindVerdict(fold, nowMs);
  const [firstWarning] = fold.warnings;
  // Of a run typed afterwards, what nobody wrote down may have been all the same.
  const none = enteredLate(fold) ? "none recorded" : "none";
  const unwarned = run.unmarked.length > 0 ? "none marked; the camera told of one" : none;
  return (
    <dl className="border-b border-rule" aria-label="Numbers of this run">
      <Fact
        label={setup.runKind === "idle" ? "powered on" : "recorded"}
        value={hi > lo && fold.end !== null ? `${formatHms(lo)} to ${formatHms(hi)}` : formatHms(fold.end === null ? hi : lo)}
        note={hi > lo && fold.end !== null ? "found off: the end lies between; claims use the shorter" : undefined}
      />
      {setup.origin === "notebook" && (
        <Fact label="entered from" value="a notebook" note="typed or pasted afterwards, not marked while it ran" />
      )}
      <Fact label="elapsed" value={formatHms(times.elapsedMs)} />
      <Fact
        label="gaps"
        value={fold.gaps.length === 0 ? none : formatSpan(times.gapMs)}
        note={
          fold.gaps
            .map((g) => `${g.cause}, ${g.power === "on" ? "body on" : "powered off"}, ${formatSpan((g.toMs ?? nowMs) - g.fromMs)}`)
            .join("; ") || undefined
        }
      />
      <Fact
        label="first warning"
        value={firstWarning === undefined ? unwarned : formatHms(recordedAt(fold, firstWarning.shownMs))}
        note={warningNote(fold.end === null || (warned.ok && warned.event === 1), firstWarning !== undefined, times.warningLeadMs)}
      />
      <Fact
        label="ended by"
        value={fold.end === null ? (fold.state === "void" ? "void" : "still under way") : endWords(fold.end.cause)}
        note={
          fold.end?.becauseHot === true ? "stopped because it was hot: no method repairs that; the time says less than it seems" : undefined
        }
      />
      <Fact
        label="counts as"
        value={kind?.value ?? verdictWords(seen, fold)}
        note={kind?.note ?? because(seen, setup.protocol.name, fold.end?.cause === "unknown")}
      />
      <Fact
        label="ambient"
        value={ambientWords(setup.ambient, temperature)}
        note={setup.ambient.basis === "not recorded" ? undefined : setup.ambient.basis}
      />
      <Fact label="settings" value={setup.settings === undefined ? "not recorded" : settingWords(setup.settings)} />
      <Fact
        label="start state"
        value={{ cold: "fully cooled", warm: "warm", unknown: "not known" }[setup.startState.state]}
        note={setup.startState.by === "not known" ? undefined : `by ${setup.startState.by}`}
      />
    </dl>
  );
}

function warningNote(counts: boolean, came: boolean, leadMs: number | null): string | undefined {
  const lead = leadMs === null ? [] : [`warning lead ${formatSpan(leadMs)} before the shutdown`];
  const late = came && !counts ? ["recorded time; it came after a gap that ends the record, so it does not count"] : [];
  return [...late, ...lead].join("; ") || undefined;
}

function because(seen: Observation, protocol: string, endUnsaid: boolean): string | undefined {
  if (!seen.ok) return undefined;
  if (seen.event === 1) return "it ended by heat, so this is its time";
  if (seen.brokenAtGap !== null) return `at least: ${seen.because} (protocol "${protocol}"); what follows is a warm start`;
  if (endUnsaid) return "at least; nobody said that it was not heat, and what is claimed of heat allows for that";
  return "at least: it did not end by heat, so the heat limit lies beyond";
}
