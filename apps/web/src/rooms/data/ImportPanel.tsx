// Bringing an archive in: first what it would do, then the doing. All or nothing.

import { dataApi } from "./api.ts";
import type { ImportReport } from "@keep-rolling/contract/data";
import { useState } from "react";
import { sentenceOf } from "../../shared/api/api.ts";
import { formatDate } from "../../shared/dates/dates.ts";
import { Button, Note } from "../../shared/ui/parts.tsx";
import { tableWords } from "./words.ts";

export function ImportPanel() {
  const [file, setFile] = useState<File | null>(null);
  const [look, looked] = dataApi.usePreviewArchiveMutation();
  const [bring, brought] = dataApi.useImportArchiveMutation();
  const error = brought.error ?? looked.error;
  const report = brought.data ?? looked.data;
  const choose = (chosen: File | undefined): void => {
    if (chosen === undefined) return;
    setFile(chosen);
    brought.reset();
    void look(chosen);
  };
  const store = (conflicts: "refuse" | "set aside"): void => {
    if (file !== null && looked.data !== undefined) void bring({ file, sha256: looked.data.sha256, conflicts });
  };
  return (
    <div className="space-y-3">
      <label className="block">
        <span className="block text-sm font-semibold">Archive, or file of one run, to open</span>
        <input
          type="file"
          accept=".zip,.json,application/zip,application/json"
          className="mt-1 max-w-full"
          onChange={(e) => {
            choose(e.target.files?.[0]);
            e.target.value = "";
          }}
        />
      </label>
      {file !== null && <p className="text-sm text-soft">{file.name}</p>}
      {(looked.isLoading || brought.isLoading) && <p role="status">{looked.isLoading ? "Looking into it …" : "Bringing it in …"}</p>}
      {error !== undefined && (
        <Note tone="alert" live>
          {sentenceOf(error)}
        </Note>
      )}
      {report !== undefined && !brought.isLoading && <Report report={report} />}
      {looked.data !== undefined && brought.data === undefined && <Choices report={looked.data} busy={brought.isLoading} onStore={store} />}
    </div>
  );
}

const adds = (report: ImportReport): number => report.tables.reduce((n, t) => n + t.add, 0);

function Choices({ report, busy, onStore }: { report: ImportReport; busy: boolean; onStore: (conflicts: "refuse" | "set aside") => void }) {
  const conflicts = report.tables.reduce((n, t) => n + t.conflict, 0);
  if (adds(report) === 0 && conflicts === 0) return <p>Everything in it is here already. There is nothing to bring in.</p>;
  if (conflicts === 0)
    return (
      <Button tone="main" disabled={busy} onClick={() => onStore("refuse")}>
        Bring it in
      </Button>
    );
  return (
    <div className="space-y-2">
      <p>What contradicts stays as it is here. The archive's version can be kept aside, whole, to be looked at.</p>
      <Button tone="main" disabled={busy} onClick={() => onStore("set aside")}>
        {`Bring in the rest, keep ${conflicts} aside`}
      </Button>
    </div>
  );
}

function Report({ report }: { report: ImportReport }) {
  const rows = report.tables.filter((t) => t.lines > 0);
  const { fresh, grown } = report.runs;
  return (
    <div role="status" className="space-y-2">
      <p className="font-semibold">
        {report.stored ? "Brought in. " : "Nothing is changed yet. It would bring: "}
        {`${fresh === 1 ? "1 new run" : `${fresh} new runs`}, ${grown === 1 ? "1 run grows" : `${grown} runs grow`}; written ${formatDate(report.exportedAtMs, "dayTime")}.`}
      </p>
      <table className="w-full max-w-xl">
        <thead>
          <tr className="text-left text-sm text-soft">
            <th scope="col" className="py-1 font-normal">
              what
            </th>
            <th scope="col" className="text-right font-normal">
              {report.stored ? "added" : "to add"}
            </th>
            <th scope="col" className="text-right font-normal">
              here already
            </th>
            <th scope="col" className="text-right font-normal">
              contradicts
            </th>
          </tr>
        </thead>
        <tbody>
          {rows.map((t) => (
            <tr key={t.table} className="hairline">
              <td className="py-1">{tableWords(t.table)}</td>
              <td className="num text-right">{t.add}</td>
              <td className="num text-right text-soft">{t.same}</td>
              <td className={`num text-right ${t.conflict > 0 ? "text-alert" : "text-soft"}`}>{t.conflict}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {report.conflicts.length > 0 && (
        <ul className="text-sm text-alert">
          {report.conflicts.map((c) => (
            <li key={`${c.table} ${c.id}`}>{`${tableWords(c.table)} ${c.id}: ${c.reason}`}</li>
          ))}
        </ul>
      )}
      {report.notes.map((note) => (
        <Note key={note}>{note}</Note>
      ))}
    </div>
  );
}
