// What was missed while it ran, or stands in the notes only: a warning, a gap, a reading or a note, at its time after the start. Entered late, and marked so.

import type { Clock } from "@keep-rolling/contract/clocks";
import { formatHms, parseDuration } from "@keep-rolling/core/format";
import { GAP_CAUSES, WARNING_PHASES } from "@keep-rolling/core/runs";
import { Collapsible } from "radix-ui";
import { useState } from "react";
import { theOutbox } from "../../record/device.ts";
import { draftMark } from "../../record/pressing.ts";
import type { SeenRun } from "../../record/runs.ts";
import { useKeptState } from "../../shared/drafts/useKeptState.ts";
import { SelectField, TextField, wordsOf } from "../../shared/ui/fields.tsx";
import { Button, Note } from "../../shared/ui/parts.tsx";

const WHAT = ["first warning", "gap", "note"] as const;
interface Typed {
  what: (typeof WHAT)[number];
  at: string;
  until: string;
  cause: (typeof GAP_CAUSES)[number];
  power: "on" | "off";
  phase: (typeof WARNING_PHASES)[number];
  text: string;
}
const NOTHING: Typed = { what: "first warning", at: "", until: "", cause: "battery swap", power: "off", phase: "shown", text: "" };

export function AddMark({ run, clock }: { run: SeenRun; clock: Clock | undefined }) {
  const [typed, setTyped, forget] = useKeptState<Typed>(`add ${run.id}`, NOTHING);
  const [trouble, setTrouble] = useState<string | null>(null);
  const set = (change: Partial<Typed>): void => setTyped((t) => ({ ...t, ...change }));
  const { startMs, end } = run.fold;
  const store = async (): Promise<void> => {
    const read = readTyped(typed, end === null ? null : end.hiMs - (startMs ?? 0));
    setTrouble(read.trouble);
    if (read.trouble !== null || startMs === null) return;
    const at = { atMs: startMs + read.atMs, source: "late" as const };
    const drafts =
      typed.what === "first warning"
        ? [draftMark(run.id, clock, "warning", { phase: typed.phase }, at)]
        : typed.what === "note"
          ? [draftMark(run.id, clock, "note", { text: typed.text.trim() }, at)]
          : [
              draftMark(run.id, clock, "gap", { cause: typed.cause, power: typed.power }, at),
              draftMark(run.id, clock, "resume", {}, { ...at, atMs: startMs + read.untilMs }),
            ];
    try {
      // A gap and its end are kept together.
      await theOutbox().press(drafts);
    } catch (error) {
      return setTrouble(`Nothing was added: ${error instanceof Error ? error.message : "this device's store refused"}.`);
    }
    forget();
    setTyped(() => ({ ...NOTHING, what: typed.what }));
  };
  const hint = (text: string): string => {
    const reading = parseDuration(text, "m:ss");
    return text.trim() === ""
      ? "after the start: 41:07 is minutes and seconds"
      : reading.ok
        ? `reads as ${reading.echo}`
        : "not a time yet";
  };
  return (
    <Collapsible.Root>
      <Collapsible.Trigger className="underline">Add what was missed</Collapsible.Trigger>
      <Collapsible.Content>
        <form
          className="mt-3 grid gap-4 sm:grid-cols-2"
          noValidate
          onSubmit={(event) => {
            event.preventDefault();
            void store();
          }}
        >
          <SelectField
            label="What"
            options={wordsOf(WHAT)}
            value={typed.what}
            onChange={(e) => set({ what: e.target.value as Typed["what"] })}
          />
          <TextField
            label={typed.what === "gap" ? "It stopped at" : "At"}
            placeholder={end === null || startMs === null ? "0:10:00" : formatHms((end.hiMs - startMs) / 2)}
            value={typed.at}
            hint={hint(typed.at)}
            onChange={(e) => set({ at: e.target.value })}
          />
          {typed.what === "gap" && (
            <>
              <TextField
                label="It recorded again at"
                value={typed.until}
                hint={hint(typed.until)}
                onChange={(e) => set({ until: e.target.value })}
              />
              <SelectField
                label="Why"
                options={wordsOf(GAP_CAUSES)}
                value={typed.cause}
                onChange={(e) => set({ cause: e.target.value as Typed["cause"] })}
              />
              <SelectField
                label="Meanwhile"
                options={[
                  ["off", "powered off"],
                  ["on", "body on"],
                ]}
                value={typed.power}
                onChange={(e) => set({ power: e.target.value as Typed["power"] })}
              />
            </>
          )}
          {typed.what === "first warning" && (
            <SelectField
              label="The warning was"
              options={wordsOf(WARNING_PHASES)}
              value={typed.phase}
              onChange={(e) => set({ phase: e.target.value as Typed["phase"] })}
            />
          )}
          {typed.what === "note" && <TextField label="Note" value={typed.text} onChange={(e) => set({ text: e.target.value })} />}
          <div className="space-y-2 sm:col-span-2">
            {trouble !== null && (
              <Note tone="alert" live>
                {trouble}
              </Note>
            )}
            <Button type="submit">Add it</Button>
          </div>
        </form>
      </Collapsible.Content>
    </Collapsible.Root>
  );
}

/** `lastMs`: elapsed at the end; null while it runs. */
function readTyped(t: Typed, lastMs: number | null): { trouble: string | null; atMs: number; untilMs: number } {
  const at = parseDuration(t.at, "m:ss");
  const until = t.what === "gap" ? parseDuration(t.until, "m:ss") : at;
  const none = { atMs: 0, untilMs: 0 };
  if (!at.ok || !until.ok) return { trouble: "Give the time after the start, e.g. 41:07 or 41 min. Nothing was added.", ...none };
  if (t.what === "gap" && until.ms <= at.ms) return { trouble: "It recorded again before it stopped. Nothing was added.", ...none };
  if (lastMs !== null && until.ms > lastMs) return { trouble: `The run was over after ${formatHms(lastMs)}. Nothing was added.`, ...none };
  if (t.what === "note" && t.text.trim() === "") return { trouble: "Write the note first. Nothing was added.", ...none };
  return { trouble: null, atMs: at.ms, untilMs: until.ms };
}
