// Under the time: the warning as it stands, with the minutes the camera gave, and what of the surroundings is no longer as at the start.

import { conditionSpans, dutyDue, warningNow } from "@keep-rolling/core/runs";
import type { RunFold } from "@keep-rolling/core/runs";
import { formatHms, formatSpan } from "@keep-rolling/core/format";

export function States({ fold, nowMs }: { fold: RunFold; nowMs: number }) {
  if (fold.state !== "rolling" && fold.state !== "gap") return null;
  const lines = [dutyLine(fold, nowMs), warningLine(fold, nowMs), ...changedLines(fold)].filter((l) => l !== null);
  if (lines.length === 0) return null;
  return (
    <ul aria-label="States" className="space-y-0.5">
      {lines.map((l) => (
        <li key={l.words} className={l.urgent ? "font-semibold text-alert" : "text-soft"}>
          {l.words}
        </li>
      ))}
    </ul>
  );
}

interface Line {
  words: string;
  urgent: boolean;
}

function warningLine(fold: RunFold, nowMs: number): Line | null {
  const now = warningNow(fold, nowMs);
  if (now === null) return null;
  const since = `Warning ${now.level} for ${formatSpan(Math.max(0, nowMs - now.sinceMs))}`;
  return { words: `${since}${leftWords(now.saidLeftMs)}.`, urgent: true };
}

function leftWords(leftMs: number | null): string {
  if (leftMs === null) return "; the camera gives no time";
  return leftMs >= 0
    ? `; by the camera's word ${formatSpan(leftMs)} left`
    : `; it has recorded ${formatSpan(-leftMs)} longer than the camera said`;
}

function dutyLine(fold: RunFold, nowMs: number): Line | null {
  const due = dutyDue(fold, nowMs);
  if (due === null) return null;
  const when = due.overdue ? `due ${formatSpan(nowMs - due.dueMs)} ago` : `in ${formatSpan(due.dueMs - nowMs)}`;
  return { words: `Cycle ${due.cycle}: ${due.what} ${when} (${due.what === "stop" ? "P" : "R"}).`, urgent: due.overdue };
}

const SUN = { none: "no sun", shade: "in the shade", direct: "in direct sun" } as const;

/** Each of screen, sun and air that is not as at the start, with when it changed last. */
function changedLines(fold: RunFold): Line[] {
  const spans = conditionSpans(fold);
  const [said, now] = [spans[0], spans.at(-1)];
  if (said === undefined || now === undefined) return [];
  const since = (key: "screen" | "sun" | "air"): string => {
    const from = spans.findLast((s, i) => i > 0 && spans[i - 1]?.[key] !== s[key])?.fromMs ?? said.fromMs;
    return formatHms(from - said.fromMs);
  };
  const words = [
    now.screen === said.screen ? null : `Screen ${now.screen} since ${since("screen")}; it began ${said.screen}.`,
    now.sun === said.sun ? null : `Now ${SUN[now.sun]}, since ${since("sun")}; it began ${SUN[said.sun]}.`,
    now.air === said.air ? null : `Air: ${now.air} since ${since("air")}; it began ${said.air}.`,
  ];
  return words.flatMap((w) => (w === null ? [] : [{ words: w, urgent: false }]));
}
