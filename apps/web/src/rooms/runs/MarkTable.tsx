// Every mark of the run as a table, with late correction of its time and the way to take it back.

import type { Clock } from "@keep-rolling/contract/clocks";
import type { Mark } from "@keep-rolling/core/runs";
import { describeMark } from "@keep-rolling/core/runs";
import { formatHms, parseDuration } from "@keep-rolling/core/format";
import { useState } from "react";
import { Photo } from "../../shared/photos/Photo.tsx";
import { correct, presser } from "../../record/pressing.ts";
import type { SeenRun } from "../../record/runs.ts";
import { Button } from "../../shared/ui/parts.tsx";
import { useSettings } from "../../shared/settings/settings.ts";

export function MarkTable({ run, clock }: { run: SeenRun; clock: Clock | undefined }) {
  const { temperature } = useSettings();
  const [open, setOpen] = useState<string | null>(null);
  const startMs = run.fold.startMs ?? 0;
  const undone = run.marks.filter((m) => m.kind !== "undo" && m.kind !== "correction" && !run.fold.effective.some((e) => e.id === m.id));
  return (
    <section aria-labelledby="marks">
      <h2 id="marks">Marks</h2>
      <p className="text-sm text-soft">Times are elapsed from the start. A correction never erases what was pressed.</p>
      <table className="mt-1 w-full">
        <thead className="sr-only">
          <tr>
            <th scope="col">Elapsed</th>
            <th scope="col">What</th>
            <th scope="col">Change</th>
          </tr>
        </thead>
        <tbody>
          {run.fold.effective.map((mark) => (
            <tr key={mark.id} className="hairline align-baseline">
              <td className="num w-20 py-1.5">{formatHms(mark.atMs - startMs)}</td>
              <td>
                {describeMark(mark, temperature)}
                <span className="text-sm text-soft">
                  {mark.source !== "pressed" && ` · ${mark.source === "accepted" ? "taken from the camera" : mark.source}`}
                  {(run.fold.corrections.get(mark.id) ?? 0) > 0 && " · corrected"}
                </span>
                <Photo mark={mark} />
                {open === mark.id && <TimeEdit run={run} mark={mark} clock={clock} onDone={() => setOpen(null)} />}
              </td>
              <td className="text-right">
                <Button
                  tone="quiet"
                  className="text-sm"
                  aria-expanded={open === mark.id}
                  onClick={() => setOpen(open === mark.id ? null : mark.id)}
                >
                  correct<span className="sr-only">{` ${describeMark(mark, temperature)}`}</span>
                </Button>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {undone.length > 0 && (
        <p className="mt-2 text-sm text-soft">{`Undone: ${undone.map((m) => `${formatHms(m.atMs - startMs)} ${describeMark(m, temperature)}`).join("; ")}`}</p>
      )}
    </section>
  );
}

function TimeEdit({ run, mark, clock, onDone }: { run: SeenRun; mark: Mark; clock: Clock | undefined; onDone: () => void }) {
  const startMs = run.fold.startMs ?? 0;
  const [text, setText] = useState(formatHms(mark.atMs - startMs));
  const reading = parseDuration(text, "m:ss");
  const press = presser(run.id, clock);
  return (
    <form
      className="flex flex-wrap items-center gap-2 py-1 text-sm"
      onSubmit={(event) => {
        event.preventDefault();
        if (!reading.ok) return;
        void correct(press, run.marks, mark.id, { atMs: startMs + reading.ms }).then(onDone);
      }}
    >
      <input aria-label="Elapsed time" className="num w-28" autoFocus value={text} onChange={(event) => setText(event.target.value)} />
      <span role="status" className="text-soft">
        {reading.ok ? `reads as ${reading.echo}` : "not a time yet; nothing is stored"}
      </span>
      <Button type="submit" disabled={!reading.ok}>
        Store
      </Button>
      <Button onClick={() => void press("undo", {}, { target: mark.id }).then(onDone)}>Undo this mark</Button>
    </form>
  );
}
