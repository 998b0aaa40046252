// What can be taken out of a run: files for others, and two pages made to be printed.

import { parseDuration } from "@keep-rolling/core/format";
import { useState } from "react";
import { Link } from "react-router";
import type { SeenRun } from "../../record/runs.ts";
import { useSettings } from "../../shared/settings/settings.ts";
import { Button } from "../../shared/ui/parts.tsx";
import { SelectField, TextField } from "../../shared/ui/fields.tsx";
import { saveText } from "../../shared/ui/saveFile.ts";
import type { ChapterOptions } from "./runExports.ts";
import { chapterList, chaptersOf, chaptersVtt, runCsv } from "./runExports.ts";

/** Simulated bodies are named on every export. */
export const simulatedNote = (run: SeenRun): string => (run.fold.setup?.unit.simulated === true ? "From a simulated camera." : "");

export function ExportPanel({ run }: { run: SeenRun }) {
  const { temperature } = useSettings();
  const [scale, setScale] = useState<ChapterOptions["scale"]>("elapsed");
  const [lead, setLead] = useState("");
  const { setup } = run.fold;
  if (setup === null) return null;
  const reading = parseDuration(lead, "m:ss");
  const leadMs = lead.trim() === "" ? 0 : reading.ok ? reading.ms : null;
  const name = `${setup.unit.name} ${setup.mode.name}`.toLowerCase().replaceAll(/[^a-z0-9]+/g, "-");
  const chapters = leadMs === null ? [] : chaptersOf(run.fold, { scale, leadMs }, temperature);
  const note = simulatedNote(run);
  return (
    <section aria-labelledby="take-out" className="no-print">
      <h2 id="take-out">Take it out</h2>
      <p className="flex flex-wrap gap-x-5 gap-y-1">
        <Link to={`/runs/${run.id}/sheet`}>One page, to print</Link>
        <Link to={`/runs/${run.id}/settings`}>Settings card</Link>
        <a href={`/api/runs/${run.id}/file`} download>
          JSON, whole; comes in again through Data
        </a>
        <Button tone="quiet" className="p-0!" onClick={() => saveText(`${name}.csv`, "text/csv", runCsv(run.fold, note))}>
          CSV of its marks
        </Button>
      </p>
      <fieldset className="mt-3 flex flex-wrap items-end gap-3">
        <legend className="font-semibold">Chapters for a video of the test</legend>
        <SelectField
          label="The video"
          options={[
            ["elapsed", "shows the test, gaps and all"],
            ["recorded", "is the run's own clips, joined"],
          ]}
          value={scale}
          onChange={(event) => setScale(event.target.value as ChapterOptions["scale"])}
        />
        <TextField
          label="It begins before the start by"
          placeholder="0:20"
          value={lead}
          onChange={(event) => setLead(event.target.value)}
          {...(lead.trim() === "" ? {} : reading.ok ? { hint: `reads as ${reading.echo}` } : { error: "Write it as 0:20 or 20 s." })}
        />
        <Button disabled={chapters.length === 0} onClick={() => saveText(`${name}-chapters.vtt`, "text/vtt", chaptersVtt(chapters, note))}>
          WebVTT
        </Button>
        <Button disabled={chapters.length === 0} onClick={() => saveText(`${name}-chapters.txt`, "text/plain", chapterList(chapters))}>
          List to paste
        </Button>
      </fieldset>
    </section>
  );
}
