// Beside the time: heat, warning, ambient, battery and card left, each with when it was said.

import { formatHms, formatSpan, formatTemperature } from "@keep-rolling/core/format";
import { useSettings } from "../../shared/settings/settings.ts";
import { Fact } from "../../shared/ui/parts.tsx";
import { lastValue } from "./lastValue.ts";

/** `beside`: other units share the screen, so that each fact takes one line. */
export function Facts({ run, nowMs, beside = false }: { run: Parameters<typeof lastValue>[0]; nowMs: number; beside?: boolean }) {
  const { temperature } = useSettings();
  const { fold } = run;
  const startMs = fold.startMs ?? 0;
  const at = (ms: number): string => `at ${formatHms(ms - startMs)}`;
  const gauge = lastValue(run, "gauge", "gauge", nowMs);
  const shell = lastValue(run, "shell", "shellC", nowMs);
  const ambient = lastValue(run, "ambient", "ambientC", nowMs);
  const battery = lastValue(run, "battery", "batteryPct", nowMs);
  const card = lastValue(run, "freeSpace", "freeGb", nowMs);
  const warning = fold.warnings.at(-1);
  const said = fold.setup?.ambient;
  const untilMs = fold.end?.hiMs ?? nowMs;
  return (
    <>
      <p className="mt-1 text-soft sm:hidden">
        {shortFacts(gauge?.value ?? null, warning === undefined, battery?.value ?? null, card?.value ?? null)}
      </p>
      <dl className={`hidden self-start border-b border-rule sm:block ${beside ? "[&_dd]:flex [&_dd]:items-baseline [&_dd]:gap-3" : ""}`}>
        <Fact
          label="heat"
          value={gauge === null ? "–" : `${gauge.value} of 10`}
          note={
            gauge === null
              ? "no gauge read yet"
              : `step ${at(gauge.atMs)}${shell === null ? "" : `, surface ${formatTemperature(shell.value, temperature)}`}`
          }
        />
        <Fact
          label="warning"
          value={
            warning === undefined
              ? "none"
              : warning.clearedMs === null
                ? `${formatSpan(Math.max(0, untilMs - warning.shownMs))} ago`
                : "cleared"
          }
          note={
            warning === undefined
              ? undefined
              : `shown ${at(warning.shownMs)}${warning.escalatedMs.length > 0 ? ", escalated" : ""}${warning.minutesLeft === null ? "" : `, camera said ${warning.minutesLeft} min left`}`
          }
        />
        <Fact
          label="ambient"
          value={
            ambient !== null
              ? formatTemperature(ambient.value, temperature)
              : said === undefined || said.basis === "not recorded"
                ? "–"
                : formatTemperature(said.valueC, temperature)
          }
          note={
            ambient !== null
              ? `read ${at(ambient.atMs)}`
              : said === undefined || said.basis === "not recorded"
                ? "not recorded; a reading (E) says it"
                : said.basis === "as in the last run"
                  ? said.basis
                  : `${said.basis} at the start`
          }
        />
        <Fact
          label="battery left"
          value={battery === null ? "–" : `${battery.value} %`}
          note={
            battery === null
              ? fold.setup?.condition.power === "internal"
                ? "not read yet"
                : fold.setup?.condition.power
              : at(battery.atMs)
          }
        />
        <Fact
          label="card left"
          value={card === null ? "–" : `${card.value} GB`}
          note={card === null ? "not read yet" : cardNote(card.value, fold.setup?.mode.mbps ?? 0)}
        />
      </dl>
    </>
  );
}

/** One line for a phone beside the camera; a warning stands under the time already. */
function shortFacts(gauge: number | null, unwarned: boolean, battery: number | null, card: number | null): string {
  const parts = [
    gauge === null ? null : `heat ${gauge} of 10`,
    unwarned ? "no warning" : null,
    battery === null ? null : `battery ${battery} %`,
    card === null ? null : `card ${card} GB`,
  ];
  return parts.filter((part) => part !== null).join(" · ");
}

/** Decimal gigabytes at the mode's bitrate. */
const cardNote = (gb: number, mbps: number): string | undefined =>
  mbps > 0 ? `about ${formatSpan((gb * 8e6) / mbps)} at ${mbps} Mbit/s` : undefined;
