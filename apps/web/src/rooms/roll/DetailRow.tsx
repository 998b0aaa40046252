// The inline row under the strip: details of the last mark. It never blocks; every other key still works while it is open.

import type { CorrectionBody, Mark } from "@keep-rolling/core/runs";
import { describeMark, gapEffect, isForeign } from "@keep-rolling/core/runs";
import type { ContinuityRule } from "@keep-rolling/core/kit";
import type { TemperatureUnit } from "@keep-rolling/core/format";
import { echoDuration, formatHms, parseDuration } from "@keep-rolling/core/format";
import { useEffect, useEffectEvent, useRef, useState } from "react";
import { useSettings } from "../../shared/settings/settings.ts";
import { Button, Key, Note } from "../../shared/ui/parts.tsx";
import { PhotoForm } from "../../shared/photos/PhotoForm.tsx";
import type { ValueField } from "./details.ts";
import { choicesOf, readValue, valuesOf } from "./details.ts";
import type { TypedAhead } from "./typedAhead.ts";

interface Props {
  mark: Mark;
  startMs: number;
  /** How the run's protocol reads its gaps. */
  rule: ContinuityRule;
  timing: boolean;
  typedAhead: TypedAhead;
  /** Plain number keys belong to the wall. */
  shifted: boolean;
  onCorrect: (fields: CorrectionBody) => void;
  onDone: () => void;
}

export function DetailRow({ mark, startMs, rule, timing, typedAhead, shifted, onCorrect, onDone }: Props) {
  const { temperature } = useSettings();
  const row = useRef<HTMLElement>(null);
  // Newer browsers answer with a promise, which an effect must not return.
  useEffect(() => void row.current?.scrollIntoView({ block: "nearest" }), []);
  return (
    <section ref={row} aria-label="Details of the last mark" className="hairline space-y-1.5 pt-1.5 pb-2">
      <p className="text-sm text-soft">
        <span className="num">{formatHms(mark.atMs - startMs)}</span> {describeMark(mark, temperature)}
      </p>
      {timing ? (
        <TimeForm mark={mark} startMs={startMs} onCorrect={onCorrect} onDone={onDone} />
      ) : (
        <Choices mark={mark} shifted={shifted} onCorrect={onCorrect} />
      )}
      {!timing && mark.kind === "gap" && !isForeign(mark) && <p className="text-sm text-soft">{gapEffect(rule, mark.body.power)}</p>}
      {!timing && valuesOf(mark).length > 0 && (
        <Values mark={mark} fields={valuesOf(mark)} typedAhead={typedAhead} onCorrect={onCorrect} onDone={onDone} />
      )}
      {!timing && mark.kind === "note" && <NoteForm key={mark.id} typedAhead={typedAhead} onCorrect={onCorrect} onDone={onDone} />}
      {!timing && mark.kind === "photo" && !isForeign(mark) && (
        <PhotoForm key={mark.id} mark={mark} onCorrect={onCorrect} onDone={onDone} />
      )}
      {!timing && mark.kind === "end" && <FoundOff mark={mark} startMs={startMs} onCorrect={onCorrect} />}
    </section>
  );
}

function Choices({ mark, shifted, onCorrect }: Pick<Props, "mark" | "shifted" | "onCorrect">) {
  let n = 0;
  return choicesOf(mark).map(({ ask, choices }) => (
    <div key={ask} role="group" aria-label={ask} className="flex flex-wrap items-center gap-2">
      <span className="mr-1 text-soft">{ask}</span>
      {choices.map((c) => {
        n++;
        return (
          <button
            key={c.words}
            type="button"
            aria-pressed={c.chosen}
            onClick={() => onCorrect(c.fields)}
            className={`flex items-center gap-2 rounded-md border px-3 py-1.5 ${c.chosen ? "border-cool bg-sheet font-semibold" : "border-rule2"}`}
          >
            {n <= 10 && (
              <span className="hidden sm:inline">
                <Key>{`${shifted ? "⇧" : ""}${n % 10}`}</Key>
              </span>
            )}
            {c.words}
          </button>
        );
      })}
    </div>
  ));
}

function Values({
  mark,
  fields,
  typedAhead,
  onCorrect,
  onDone,
}: Pick<Props, "mark" | "typedAhead" | "onCorrect" | "onDone"> & { fields: readonly ValueField[] }) {
  const { temperature } = useSettings();
  const [typed, setTyped] = useState<Record<string, string>>(() =>
    mark.kind === "reading" && fields[0] !== undefined ? { [fields[0].key]: typedAhead.give().text } : {},
  );
  const [trouble, setTrouble] = useState<string | null>(null);
  const save = (): void => {
    const result = readAll(fields, typed, temperature);
    setTrouble(result.trouble);
    if (result.trouble !== null || Object.keys(result.fields).length === 0) return;
    onCorrect(result.fields);
    onDone();
  };
  return (
    <form
      className="flex flex-wrap items-end gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        save();
      }}
      onKeyDown={(event) => event.key === "Escape" && onDone()}
    >
      {fields.map((f, i) => (
        <label key={f.key} className="text-sm">
          {f.label} <span className="text-soft">({f.unit === "°C" ? `°${temperature}` : f.unit})</span>
          <input
            className="num mt-0.5 block w-24"
            inputMode="decimal"
            autoFocus={i === 0 && mark.kind === "reading"}
            value={typed[f.key] ?? ""}
            onChange={(event) => setTyped((before) => ({ ...before, [f.key]: event.target.value }))}
          />
        </label>
      ))}
      <Button type="submit">Store</Button>
      {trouble !== null && (
        <Note tone="alert" live>
          {trouble}
        </Note>
      )}
    </form>
  );
}

function readAll(
  fields: readonly ValueField[],
  typed: Record<string, string>,
  unit: TemperatureUnit,
): { fields: CorrectionBody; trouble: string | null } {
  const out: Record<string, number> = {};
  for (const field of fields) {
    const text = typed[field.key];
    if (text === undefined || text.trim() === "") continue;
    const reading = readValue(field, text, unit);
    if (!reading.ok) return { fields: {}, trouble: reading.sentence };
    out[field.key] = reading.value;
  }
  return { fields: out, trouble: null };
}

function NoteForm({ typedAhead, onCorrect, onDone }: Pick<Props, "typedAhead" | "onCorrect" | "onDone">) {
  const [ahead] = useState(() => typedAhead.give());
  const [text, setText] = useState(ahead.text);
  const store = (words: string): void => {
    if (words.trim() !== "") onCorrect({ text: words.trim() });
    onDone();
  };
  const entered = useEffectEvent(() => ahead.entered && store(ahead.text));
  useEffect(() => void entered(), []);
  return (
    <form
      className="flex gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        store(text);
      }}
      onKeyDown={(event) => event.key === "Escape" && onDone()}
    >
      <input
        aria-label="Note"
        className="flex-1"
        autoFocus
        maxLength={4000}
        value={text}
        onChange={(event) => setText(event.target.value)}
      />
      <Button type="submit">Store</Button>
    </form>
  );
}

/** A typed time is echoed in words before it is stored. */
function TimeForm({ mark, startMs, onCorrect, onDone }: Omit<Props, "timing" | "typedAhead" | "shifted" | "rule">) {
  const [text, setText] = useState(formatHms(mark.atMs - startMs));
  const reading = parseDuration(text, "m:ss");
  const sentence = reading.ok
    ? `reads as ${reading.echo} after the start`
    : "Write it as 0:41:07, 41:07 (minutes and seconds) or 41 min 7 s. Nothing is stored yet.";
  return (
    <form
      className="flex flex-wrap items-center gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        if (!reading.ok) return;
        onCorrect({ atMs: startMs + reading.ms });
        onDone();
      }}
      onKeyDown={(event) => event.key === "Escape" && onDone()}
    >
      <input
        aria-label="Time after the start"
        className="num w-36"
        autoFocus
        value={text}
        onChange={(event) => setText(event.target.value)}
        onFocus={(event) => event.target.select()}
      />
      <span className="text-sm text-soft" role="status">
        {sentence}
      </span>
      <Button type="submit" disabled={!reading.ok}>
        Store
      </Button>
    </form>
  );
}

/** Nobody saw the end: when was it last seen running? The end becomes an interval. */
function FoundOff({ mark, startMs, onCorrect }: Pick<Props, "mark" | "startMs" | "onCorrect">) {
  const [text, setText] = useState("");
  const reading = parseDuration(text, "m:ss");
  const stands = mark.kind === "end" && "foundOff" in mark.body && mark.body.foundOff !== undefined;
  return (
    <form
      className="flex flex-wrap items-center gap-3 text-sm"
      onSubmit={(event) => {
        event.preventDefault();
        if (reading.ok) onCorrect({ lastSeenMs: startMs + reading.ms });
      }}
    >
      <label>
        Found off? Last seen running at{" "}
        <input className="num w-28" placeholder="0:38:00" value={text} onChange={(event) => setText(event.target.value)} />
      </label>
      <span className="text-soft" role="status">
        {text === ""
          ? stands
            ? "an interval is on record"
            : ""
          : reading.ok
            ? `reads as ${echoDuration(reading.ms)} after the start`
            : "not a time yet"}
      </span>
      <Button type="submit" disabled={!reading.ok}>
        Store the interval
      </Button>
      {stands && <Button onClick={() => onCorrect({ lastSeenMs: null })}>It was seen</Button>}
    </form>
  );
}
