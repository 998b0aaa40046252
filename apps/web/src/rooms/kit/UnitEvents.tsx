// What happened to a body: firmware, repairs, faults, times out of service. Out of service moves the plan.

import { kitApi } from "../../shared/kit/api.ts";
import { kitRoomApi } from "./api.ts";
import type { Kit } from "@keep-rolling/contract/kit";
import { UNIT_EVENT_KINDS } from "@keep-rolling/contract/kit";
import { useState } from "react";
import { sentenceOf } from "../../shared/api/api.ts";
import { useBenchNow, useClock } from "../../record/benchTime.ts";
import { formatDate } from "../../shared/dates/dates.ts";
import { liveEvents } from "../../shared/day/evidence.ts";
import { SelectField, TextField, wordsOf } from "../../shared/ui/fields.tsx";
import { Button, Note } from "../../shared/ui/parts.tsx";

type EventKind = (typeof UNIT_EVENT_KINDS)[number];

export function UnitEvents({ kit, unitId }: { kit: Kit; unitId: string }) {
  const { data } = kitApi.useUnitEventsQuery();
  const [note, noting] = kitRoomApi.useNoteUnitEventMutation();
  const [after, ending] = kitRoomApi.useEndUnitEventMutation();
  const [kind, setKind] = useState<EventKind>("fault");
  const [text, setText] = useState("");
  const [from, setFrom] = useState("");
  const [until, setUntil] = useState("");
  const clock = useClock(kit.units.find((u) => u.id === unitId)?.bench);
  const nowMs = useBenchNow(clock, 30_000);
  const events = liveEvents(data?.events ?? [], unitId).reverse();
  const error = noting.error ?? ending.error;
  return (
    <section aria-labelledby="events" className="mt-8 max-w-3xl space-y-2">
      <h2 id="events">What happened to it</h2>
      <ul>
        {events.map((e) => (
          <li key={e.id} className="hairline flex flex-wrap items-baseline gap-x-4 py-1.5">
            <span className="num text-sm text-soft">{formatDate(e.atMs, "dayTime", clock?.kind)}</span>
            <span className="flex-1">
              {e.kind}
              {e.text !== "" && `: ${e.text}`}
              {e.kind === "out of service" &&
                (e.toMs === null ? ", until further notice" : `, until ${formatDate(e.toMs, "dayTime", clock?.kind)}`)}
            </span>
            {e.kind === "out of service" && (e.toMs === null || e.toMs > nowMs) && (
              <Button tone="quiet" onClick={() => void after({ eventId: e.id, event: "ended", atMs: Math.round(nowMs) })}>
                Back in service
              </Button>
            )}
            {e.kind !== "firmware" && (
              <Button tone="quiet" onClick={() => void after({ eventId: e.id, event: "taken back", atMs: Math.round(nowMs) })}>
                Undo
              </Button>
            )}
          </li>
        ))}
        {events.length === 0 && <li className="hairline py-1.5 text-soft">Nothing noted. A change of firmware is noted by itself.</li>}
      </ul>
      <form
        className="flex flex-wrap items-end gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          const atMs = momentOf(from, clock?.kind) ?? Math.round(nowMs);
          void note({ unitId, kind, atMs, toMs: kind === "out of service" ? momentOf(until, clock?.kind) : null, text }).then((made) => {
            if (made.error !== undefined) return;
            setText("");
            setFrom("");
            setUntil("");
          });
        }}
      >
        <SelectField label="What" options={wordsOf(UNIT_EVENT_KINDS)} value={kind} onChange={(e) => setKind(e.target.value as EventKind)} />
        <TextField label="In a few words" value={text} onChange={(e) => setText(e.target.value)} />
        <TextField label="When, if not now" type="datetime-local" value={from} onChange={(e) => setFrom(e.target.value)} />
        {kind === "out of service" && (
          <TextField label="Until, if known" type="datetime-local" value={until} onChange={(e) => setUntil(e.target.value)} />
        )}
        <Button type="submit">Note it</Button>
      </form>
      {error !== undefined && (
        <Note tone="alert" live>
          {sentenceOf(error)}
        </Note>
      )}
    </section>
  );
}

/** A typed local date and time; the demo's clock reads UTC. Null when nothing was typed. */
function momentOf(text: string, clockKind: string | undefined): number | null {
  const ms = Date.parse(clockKind === "demo" ? `${text}Z` : text);
  return Number.isFinite(ms) ? ms : null;
}
