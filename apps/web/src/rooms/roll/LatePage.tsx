// A run entered late: a stopwatch, notes, or a body found off. Its marks say "late"; the echo of a typed time is seen before it is stored.

import { recordApi } from "../../record/api.ts";
import { zodResolver } from "@hookform/resolvers/zod";
import type { Kit } from "@keep-rolling/contract/kit";
import type { FileRun } from "@keep-rolling/core/clips";
import { modesThatFit, runFromFiles } from "@keep-rolling/core/clips";
import { END_CAUSES, endWords, overlapsAnother } from "@keep-rolling/core/runs";
import { formatHms } from "@keep-rolling/core/format";
import { useState } from "react";
import { useForm, useWatch } from "react-hook-form";
import { Link, useSearchParams } from "react-router";
import { useGoOn } from "../../shared/ui/useGoOn.ts";
import { v7 as uuidv7 } from "uuid";
import { filesNote } from "../../shared/clips/clipWords.ts";
import { useKeepClips } from "../../shared/clips/Convention.tsx";
import { formatDate } from "../../shared/dates/dates.ts";
import { useRuns } from "../../record/runs.ts";
import { benchNowMs, useDevice } from "../../record/device.ts";
import { presser } from "../../record/pressing.ts";
import { useSettings } from "../../shared/settings/settings.ts";
import { DraftNote, useFormDraft } from "../../shared/drafts/useFormDraft.tsx";
import { useKeptState } from "../../shared/drafts/useKeptState.ts";
import { SelectField, TextField } from "../../shared/ui/fields.tsx";
import { Button, Fact, Note, PageHead } from "../../shared/ui/parts.tsx";
import { KitGate } from "./KitGate.tsx";
import type { LateClips } from "./LateFiles.tsx";
import { LateFiles } from "./LateFiles.tsx";
import type { LateText } from "./late.ts";
import { echoOfLate, readLate } from "./late.ts";
import type { Setup } from "./setup.ts";
import { firstSetup, modesOf, setupSchema, startBody } from "./setup.ts";
import { StartStateFields, WhatFields, WhereFields } from "./SetupFields.tsx";

export const LatePage = () => <KitGate>{(kit) => <LateForm kit={kit} />}</KitGate>;

const NOTHING: LateText = { started: "", lasted: "", cause: "thermal shutdown", foundOff: false, lastSeen: "" };

function LateForm({ kit }: { kit: Kit }) {
  const [params] = useSearchParams();
  const { temperature } = useSettings();
  const { ready } = useDevice();
  const { data: clocks } = recordApi.useClocksQuery();
  const goOn = useGoOn();
  const form = useForm<Setup>({
    resolver: zodResolver(setupSchema),
    defaultValues: firstSetup(kit, { unitId: params.get("unit"), rehearse: false, cell: null }),
  });
  const unitId = useWatch({ control: form.control, name: "unitId" });
  const others = useRuns({ unit: unitId });
  const draft = useFormDraft(form, "late");
  const [late, setLate, forgetLate] = useKeptState<LateText>("late times", NOTHING);
  const [errors, setErrors] = useState<Partial<Record<keyof LateText, string>>>({});
  const [trouble, setTrouble] = useState<string | null>(null);
  const [files, setFiles] = useState<LateClips | null>(null);
  const keepClips = useKeepClips();
  const unit = kit.units.find((u) => u.id === unitId);
  const bench = unit?.bench;
  const clock = clocks?.clocks.find((c) => c.id === bench);
  const fromFiles = files === null ? null : runFromFiles(files.arranged, files.offsetMs, late.cause);
  const store = async (s: Setup): Promise<void> => {
    setTrouble(null);
    const body = startBody(kit, s, temperature);
    const read = readLate(late, benchNowMs(clock), bench === "demo");
    setErrors(read.ok || fromFiles !== null ? {} : Object.fromEntries(read.errors.map((e) => [e.field, e.message])));
    if (!read.ok && fromFiles === null) return;
    if (body === null || !ready)
      return setTrouble("Part of this set-up is no longer in the kit, or this device's store is not open yet. Nothing was stored.");
    const span = fromFiles !== null ? { fromMs: fromFiles.startMs, toMs: fromFiles.facts.at(-1)?.atMs ?? fromFiles.startMs } : null;
    const typedSpan = read.ok ? { fromMs: read.times.startMs, toMs: read.times.endMs } : null;
    const when = span ?? typedSpan;
    if (when !== null && overlapsAnother(others.runs, { unitId: s.unitId, ...when }))
      return setTrouble("Another run of this body overlaps it: correct the time, or the other run. Nothing was stored.");
    const runId = uuidv7();
    const press = presser(runId, clock);
    if (fromFiles !== null && files !== null) {
      await press("start", body, { atMs: fromFiles.startMs, source: "late" });
      for (const fact of fromFiles.facts) await press(fact.kind, fact.body, { atMs: fact.atMs, source: "late" });
      await press("note", { text: filesNote(files.clips) }, { source: "late" });
      if (unit !== undefined) await keepClips(unit, { ...files.convention, offsetMs: unit.clips?.offsetMs ?? null });
    } else if (read.ok) {
      const { startMs, endMs, lastSeenMs } = read.times;
      const foundOff = lastSeenMs === null ? {} : { foundOff: { lastSeenMs } };
      await press("start", body, { atMs: startMs, source: "late" });
      await press("end", { cause: late.cause, ...foundOff }, { atMs: endMs, source: "late" });
    }
    draft.forget();
    forgetLate();
    await goOn(`/runs/${runId}`);
  };
  const set = <K extends keyof LateText>(field: K, value: LateText[K]): void => setLate((l) => ({ ...l, [field]: value }));
  return (
    <form onSubmit={(event) => void form.handleSubmit(store)(event)} noValidate>
      <PageHead title="Enter a run late" sub="From a stopwatch or notes. It is kept as a run like any other, and marked as entered late.">
        <Link to="/roll/notebook">Enter many as a table</Link>
        <Link to="/roll">Start one live</Link>
      </PageHead>
      <DraftNote
        draft={{
          ...draft,
          startOver: () => {
            draft.startOver();
            setLate(() => NOTHING);
            forgetLate();
          },
        }}
      />
      {unit !== undefined && (
        <LateFiles
          key={unit.id}
          unit={unit}
          onClips={(found) => {
            setFiles(found);
            const [mode] = found === null ? [] : modesThatFit(found.arranged, modesOf(kit, unit.id));
            if (mode !== undefined) form.setValue("modeId", mode.id);
          }}
        />
      )}
      <div className="grid gap-x-12 gap-y-6 lg:grid-cols-2">
        <div className="space-y-6">
          <WhatFields form={form} kit={kit} />
          <WhereFields form={form} kit={kit} />
          <StartStateFields form={form} />
        </div>
        <fieldset className="space-y-4">
          <legend className="mb-2 font-head text-lg font-semibold">What happened</legend>
          {files !== null && (
            <FilesSay bench={bench} files={files} run={fromFiles} fits={modesThatFit(files.arranged, modesOf(kit, unitId)).length > 0} />
          )}
          {files === null && (
            <TextField
              label={bench === "demo" ? "It started (UTC)" : "It started"}
              type="datetime-local"
              step={1}
              value={late.started}
              onChange={(e) => set("started", e.target.value)}
              error={errors.started}
            />
          )}
          {files === null && (
            <TextField
              label={late.foundOff ? "Found off after" : "It recorded for"}
              value={late.lasted}
              onChange={(e) => set("lasted", e.target.value)}
              error={errors.lasted}
              hint={echoOfLate(late.lasted) ?? "As you write it: 67 min, 1h07m, 1:07."}
            />
          )}
          <SelectField
            label="It was ended by"
            options={END_CAUSES.map((c) => [c, endWords(c)])}
            value={late.cause}
            onChange={(e) => set("cause", e.target.value as LateText["cause"])}
          />
          {files === null && (
            <label className="flex items-start gap-3">
              <input type="checkbox" className="mt-1" checked={late.foundOff} onChange={(e) => set("foundOff", e.target.checked)} />
              Nobody saw it end: it was found off, so the end lies between two times
            </label>
          )}
          {files === null && late.foundOff && (
            <TextField
              label="Last seen rolling after"
              value={late.lastSeen}
              onChange={(e) => set("lastSeen", e.target.value)}
              error={errors.lastSeen}
              hint={echoOfLate(late.lastSeen)}
            />
          )}
          {trouble !== null && (
            <Note tone="alert" live>
              {trouble}
            </Note>
          )}
          <Button type="submit" tone="main">
            Store this run
          </Button>
        </fieldset>
      </div>
    </form>
  );
}

/** What the files alone make of it, before it is stored. */
function FilesSay({
  files,
  run,
  fits,
  bench,
}: {
  files: LateClips;
  run: FileRun | null;
  fits: boolean;
  bench: Kit["units"][number]["bench"] | undefined;
}) {
  if (run === null)
    return (
      <Note tone="alert">The last file was cut off and nothing tells how long it ran on. Type the times, or take that file away.</Note>
    );
  const endMs = run.facts.at(-1)?.atMs ?? run.startMs;
  const [read] = files.clips.flatMap((c) => (c.read === null ? [] : [c.read]));
  return (
    <>
      <dl>
        <Fact label="started" value={formatDate(run.startMs, "dayTime", bench)} note="by the first file" />
        <Fact
          label="elapsed"
          value={formatHms(endMs - run.startMs)}
          note="from the first file's start to the last one's end, gaps within"
        />
      </dl>
      {!fits && read !== undefined && (
        <Note tone="alert">
          {`No recording mode of this body is ${read.widthPx}×${read.heightPx} at ${Math.round((100 * read.fpsNum) / read.fpsDen) / 100} frames, ${read.codec.split(".")[0] ?? ""}, about ${Math.round(read.mbps)} Mbit/s. `}
          <Link to="/kit">Add it to the kit</Link> first, or choose by hand.
        </Note>
      )}
    </>
  );
}
