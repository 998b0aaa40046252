import type { Clock } from "@keep-rolling/contract/clocks";
import { useBenchNow } from "../../record/benchTime.ts";
import type { RunFold } from "@keep-rolling/core/runs";
import { summarise, endWords } from "@keep-rolling/core/runs";
import { formatHms, formatSpan } from "@keep-rolling/core/format";

/** The recorded time, the largest thing on the screen; elapsed and gaps in words beneath. It alone is drawn ten times a second. `beside`: other units share the screen. */
export function BigTime({ fold, clock, beside = false }: { fold: RunFold; clock: Clock; beside?: boolean }) {
  const nowMs = useBenchNow(clock, 100);
  const times = summarise(fold, nowMs);
  const recordedMs = fold.end === null ? times.recordedMs.hi : times.recordedMs.lo;
  return (
    <section aria-label="Recorded time" className="bg-ground max-sm:sticky max-sm:top-0 max-sm:z-10">
      <p
        className={`num text-[min(23.2vw,6.2rem)] leading-none font-semibold tracking-[-0.06em] ${beside ? "sm:text-[clamp(6.2rem,8.6vw,9rem)]" : "sm:text-[clamp(6.2rem,12.6vw,12rem)]"} ${fold.state === "rolling" ? "" : "text-soft"}`}
        data-testid="recorded"
        data-ms={recordedMs}
        data-now={nowMs}
      >
        {formatHms(recordedMs)}
      </p>
      <p className="mt-1 text-soft" data-testid="beneath">
        {fold.setup?.runKind === "idle" ? "powered on, not recording" : "recorded"}
        {fold.end !== null && times.recordedMs.hi > times.recordedMs.lo ? ` at least, at most ${formatHms(times.recordedMs.hi)}` : ""} ·
        elapsed <span className="num">{formatHms(times.elapsedMs)}</span>
        {fold.gaps.length > 0 &&
          ` · ${fold.gaps.length === 1 ? "one gap" : `${fold.gaps.length} gaps`} of ${formatSpan(times.gapMs)}${fold.gaps.length === 1 ? "" : " in all"}, ${fold.gaps.at(-1)?.power === "on" ? "body on" : "powered off"}`}
        {stateWords(fold)}
      </p>
    </section>
  );
}

function stateWords(fold: RunFold): string {
  if (fold.state === "gap") return " · not recording";
  if (fold.state === "void") return " · start undone: this run is void, kept, and still heated the body";
  if (fold.end !== null) return ` · ended: ${endWords(fold.end.cause)}`;
  return "";
}
