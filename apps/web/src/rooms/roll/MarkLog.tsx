// The marks of the run, newest first; each can be opened to correct its time or details.

import { describeMark } from "@keep-rolling/core/runs";
import { findingText } from "@keep-rolling/core/runs";
import { formatHms } from "@keep-rolling/core/format";
import { memo } from "react";
import { Photo } from "../../shared/photos/Photo.tsx";
import { useDevice } from "../../record/device.ts";
import { useSettings } from "../../shared/settings/settings.ts";
import type { SeenRun } from "../../record/runs.ts";
import { Key } from "../../shared/ui/parts.tsx";
import { EDIT_KEYS } from "./actions.ts";

/** What can be done to the last mark of this device, by a key or here beside it. */
export interface LastMark {
  id: string | null;
  canRedo: boolean;
  undo: () => void;
  redo: () => void;
  earlier: (ms: number) => void;
  typeTime: () => void;
}

/** `openId`: the mark whose details are being given; what is missing there is not held against it yet. */
export const MarkLog = memo(function MarkLog({
  run,
  openId,
  last,
  onOpen,
}: {
  run: SeenRun;
  openId: string | null;
  last: LastMark;
  onOpen: (id: string) => void;
}) {
  const { temperature } = useSettings();
  const startMs = run.fold.startMs ?? 0;
  const { outbox } = useDevice();
  const waiting = new Set(outbox.entries.filter((e) => e.delivery === "waiting" || e.delivery === "keeping").map((e) => e.mark.id));
  const findings = new Map(run.fold.findings.flatMap((f) => f.markIds.map((id) => [id, f.code] as const)));
  return (
    <section aria-label="Marks so far">
      {last.canRedo && (
        <Small letter={`⇧${EDIT_KEYS.undo.toUpperCase()}`} onClick={last.redo}>
          Redo what was undone
        </Small>
      )}
      <ol className="relative max-h-96 overflow-y-auto" tabIndex={0} aria-label="Marks, newest first">
        {[...run.fold.effective].reverse().map((mark) => {
          const finding = findings.get(mark.id);
          const corrected = run.fold.corrections.get(mark.id) ?? 0;
          return (
            <li key={mark.id} className="hairline grid grid-cols-[4.6rem_1fr_auto] gap-x-3 py-1.5 text-[0.95rem]">
              <span className="num">{formatHms(mark.atMs - startMs)}</span>
              <span>
                {describeMark(mark, temperature)}
                {corrected > 0 && <span className="text-soft"> · corrected</span>}
                {mark.source === "accepted" && <span className="text-soft"> · from the camera</span>}
                {waiting.has(mark.id) && <span className="text-soft"> · waiting</span>}
                <Photo mark={mark} />
                {finding !== undefined && mark.id !== openId && <span className="block text-sm text-alert">{findingText(finding)}</span>}
              </span>
              <button type="button" className="self-start text-sm text-soft underline" onClick={() => onOpen(mark.id)}>
                correct<span className="sr-only">{` ${describeMark(mark, temperature)}`}</span>
              </button>
              {mark.id === last.id && <Corrections last={last} />}
            </li>
          );
        })}
      </ol>
    </section>
  );
});

function Corrections({ last }: { last: LastMark }) {
  return (
    <span className="col-span-3 flex flex-wrap gap-x-4 gap-y-1" role="group" aria-label="Last mark">
      <Small letter={EDIT_KEYS.fiveEarlier.toUpperCase()} onClick={() => last.earlier(5000)}>
        5 s earlier
      </Small>
      <Small letter={EDIT_KEYS.thirtyEarlier.toUpperCase()} onClick={() => last.earlier(30_000)}>
        30 s earlier
      </Small>
      <Small letter={EDIT_KEYS.typeTime.toUpperCase()} onClick={last.typeTime}>
        Type its time
      </Small>
      <Small letter={EDIT_KEYS.undo.toUpperCase()} onClick={last.undo}>
        Undo
      </Small>
    </span>
  );
}

function Small({ letter, children, onClick }: { letter: string; children: string; onClick: () => void }) {
  return (
    <button type="button" className="flex min-h-8 items-center gap-1.5 text-sm underline" onClick={onClick}>
      <span className="hidden sm:inline">
        <Key>{letter}</Key>
      </span>
      {children}
    </button>
  );
}
