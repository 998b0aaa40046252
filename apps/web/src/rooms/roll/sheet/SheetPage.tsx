// Old runs, quickly: a notebook as a table, typed, pasted or from a file. Each row is checked as it is left; all are stored or none.

import type { Kit } from "@keep-rolling/contract/kit";
import type { Column, NotebookRow } from "@keep-rolling/core/notebook";
import { COLUMNS, emptyRow, readSheet } from "@keep-rolling/core/notebook";
import { END_CAUSES, endWords } from "@keep-rolling/core/runs";
import { useMemo, useRef, useState } from "react";
import { Link } from "react-router";
import { recordApi } from "../../../record/api.ts";
import { benchNowMs, useDevice } from "../../../record/device.ts";
import { useRuns } from "../../../record/runs.ts";
import { formatDate } from "../../../shared/dates/dates.ts";
import { useKeptState } from "../../../shared/drafts/useKeptState.ts";
import { useSettings } from "../../../shared/settings/settings.ts";
import { SelectField } from "../../../shared/ui/fields.tsx";
import { Button, Note, PageHead } from "../../../shared/ui/parts.tsx";
import { saveText } from "../../../shared/ui/saveFile.ts";
import { KitGate } from "../KitGate.tsx";
import { Match } from "./Match.tsx";
import { LISTED, SheetTable } from "./SheetTable.tsx";
import type { StoredRun } from "./storeSheet.ts";
import { storeSheet, undoSheet } from "./storeSheet.ts";
import type { Loaded, Matching } from "./table.ts";
import { loadTable, MOST_ROWS, rowsOf, template } from "./table.ts";
import type { Stranger } from "./Unknown.tsx";
import { Unknown } from "./Unknown.tsx";

export const SheetPage = () => <KitGate>{(kit) => <Sheet kit={kit} />}</KitGate>;

interface Kept {
  rows: NotebookRow[];
  protocolId: string;
}

function Sheet({ kit }: { kit: Kit }) {
  const { temperature } = useSettings();
  const { ready } = useDevice();
  const { data: clocks } = recordApi.useClocksQuery();
  const protocols = kit.protocols.filter((p) => !p.archived);
  const units = useMemo(() => kit.units.filter((u) => !u.archived && u.bench !== "rehearsal"), [kit]);
  // A notebook is of one bench: a demo's bodies have a clock of their own.
  const bench = units.some((u) => u.bench === "real") ? "real" : "demo";
  const clock = clocks?.clocks.find((c) => c.id === bench);
  const [{ rows, protocolId }, setKept, forget] = useKeptState<Kept>("notebook", {
    rows: [emptyRow()],
    protocolId: protocols[0]?.id ?? "",
  });
  const [seen, setSeen] = useState<ReadonlySet<number>>(() => new Set());
  const [loaded, setLoaded] = useState<Loaded | null>(null);
  const [trouble, setTrouble] = useState<string | null>(null);
  const [stored, setStored] = useState<StoredRun[] | null>(null);
  const { runs } = useRuns({});
  const others = useMemo(
    () =>
      runs.flatMap(({ fold }) =>
        fold.startMs === null || fold.setup === null || fold.state === "void"
          ? []
          : [{ unitId: fold.setup.unit.id, fromMs: fold.startMs, toMs: fold.end?.hiMs ?? Number.POSITIVE_INFINITY }],
      ),
    [runs],
  );
  const read = useMemo(
    () =>
      readSheet(rows, {
        units: units.filter((u) => u.bench === bench),
        modes: kit.modes.filter((m) => !m.archived),
        conditions: kit.conditions.filter((c) => !c.archived),
        others,
        nowMs: benchNowMs(clock),
        utc: bench === "demo",
        unit: temperature,
      }),
    [rows, units, bench, kit, others, clock, temperature],
  );
  const setRows = (change: (rows: NotebookRow[]) => NotebookRow[]): void => setKept((k) => ({ ...k, rows: withLast(change(k.rows)) }));
  const fill = (from: Loaded, matching: Matching, at: number): void => {
    const filled = rowsOf(from, matching);
    setRows((before) => [...before.slice(0, at), ...filled, ...before.slice(at + filled.length).filter((r) => !isEmpty(r))]);
    setSeen((s) => new Set([...s, ...filled.map((_, i) => at + i)]));
    setLoaded(null);
  };
  const take = (text: string, at: number, column: Column): void => {
    const found = loadTable(text, column);
    if (found === null) return setTrouble("There is nothing in that. The table is as it was.");
    setTrouble(null);
    const known = found.heads === null ? found.matching : knownMatching(found.heads);
    if (known !== null) return fill(found, known, at);
    setLoaded(found);
  };
  const strangers = strangersOf(read, rows, kit);
  const filledRows = read.filter((r) => r.what !== "empty").length;
  const wrong = read.filter((r) => r.what === "trouble").length;
  const store = async (): Promise<void> => {
    setSeen(new Set(rows.keys()));
    setTrouble(null);
    if (filledRows === 0) return setTrouble("No row is filled in yet. Nothing was stored.");
    if (wrong > 0)
      return setTrouble(
        `${wrong === 1 ? "One row" : `${wrong} rows`} cannot be taken as written; nothing was stored. What is wrong stands under each.`,
      );
    if (!ready) return setTrouble("This device's store is not open yet. Press again in a moment; nothing was stored.");
    try {
      setStored(
        await storeSheet(
          read.map((r) => (r.what === "run" ? r.run : null)),
          kit,
          protocolId,
          clock,
        ),
      );
      setKept((k) => ({ ...k, rows: [emptyRow()] }));
      setSeen(new Set());
      forget();
    } catch (error) {
      setTrouble(`Nothing was stored: ${error instanceof Error ? error.message : "this device's store refused"}. The rows are still here.`);
    }
  };
  const lists: Readonly<Partial<Record<Column, readonly string[]>>> = {
    unit: units.filter((u) => u.bench === bench).map((u) => u.name),
    mode: [...new Set(kit.modes.filter((m) => !m.archived).map((m) => m.name))],
    condition: kit.conditions.filter((c) => !c.archived).map((c) => c.name),
    end: END_CAUSES.filter((c) => c !== "unknown").map(endWords),
  };
  return (
    <>
      <PageHead
        title="Enter a notebook"
        sub="One row a run. What is left empty is said by the row above, or not recorded. Paste rows from a spreadsheet anywhere into the table."
      >
        <FileButton onText={(text) => take(text, firstFree(rows), "date")} />
        <Button
          onClick={() =>
            saveText(
              "keep-rolling-notebook.csv",
              "text/csv",
              template(
                units[0]?.name ?? "Body",
                kit.modes[0]?.name ?? "Mode",
                kit.conditions[0]?.name ?? "Condition",
                formatDate(benchNowMs(clock), "long", bench),
              ),
            )
          }
        >
          Download a template
        </Button>
        <Link to="/roll/late">One run with its files</Link>
      </PageHead>
      {stored !== null && (
        <div className="mb-4 flex flex-wrap items-center gap-3">
          <Note live>{`${stored.length === 1 ? "One run" : `${stored.length} runs`} stored, from a notebook.`}</Note>
          <Button
            onClick={() => {
              void undoSheet(stored, clock).then(() => setStored(null));
            }}
          >
            Undo all of them
          </Button>
          <Link to={`/heat/${units[0]?.id ?? ""}`}>See them in Heat</Link>
        </div>
      )}
      {loaded !== null && (
        <Match
          loaded={loaded}
          onMatched={(matching) => {
            rememberMatching(loaded.heads ?? [], matching);
            fill(loaded, matching, firstFree(rows));
          }}
          onDrop={() => setLoaded(null)}
        />
      )}
      <SheetTable
        rows={rows}
        read={read}
        seen={seen}
        onChange={(index, column, text) => setRows((before) => before.map((r, i) => (i === index ? { ...r, [column]: text } : r)))}
        onLeave={(index) => setSeen((s) => (s.has(index) ? s : new Set([...s, index])))}
        onPaste={(index, column, text) => take(text, index, column)}
      />
      {LISTED.map((column) => (
        <datalist key={column} id={`sheet-${column}`}>
          {(lists[column] ?? []).map((name) => (
            <option key={name} value={name} />
          ))}
        </datalist>
      ))}
      <Unknown
        kit={kit}
        strangers={strangers}
        onMap={(stranger, name) =>
          setRows((before) =>
            before.map((r) =>
              r[stranger.what].trim().toLowerCase() === stranger.name.toLowerCase() ? { ...r, [stranger.what]: name } : r,
            ),
          )
        }
      />
      <div className="mt-5 flex flex-wrap items-end gap-4">
        <SelectField
          label="How these were tested"
          value={protocolId}
          options={protocols.map((p) => [p.id, p.name])}
          onChange={(e) => setKept((k) => ({ ...k, protocolId: e.target.value }))}
        />
        <Button tone="main" onClick={() => void store()}>
          {filledRows <= 1 ? "Store this run" : `Store these ${filledRows} runs`}
        </Button>
        {filledRows > 0 && (
          <Button
            onClick={() => {
              setRows(() => []);
              setSeen(new Set());
            }}
          >
            Empty the table
          </Button>
        )}
        {trouble !== null && (
          <Note tone="alert" live>
            {trouble}
          </Note>
        )}
      </div>
    </>
  );
}

const isEmpty = (row: NotebookRow): boolean => COLUMNS.every((c) => row[c].trim() === "");
const firstFree = (rows: readonly NotebookRow[]): number => rows.findLastIndex((r) => !isEmpty(r)) + 1;
/** There is always one free row to write into. */
const withLast = (rows: NotebookRow[]): NotebookRow[] =>
  rows.length < MOST_ROWS && (rows.length === 0 || !isEmpty(rows.at(-1) ?? emptyRow())) ? [...rows, emptyRow()] : rows;

function strangersOf(read: ReturnType<typeof readSheet>, rows: readonly NotebookRow[], kit: Kit): Stranger[] {
  const found = new Map<string, Stranger>();
  for (const [i, r] of read.entries()) {
    if (r.what !== "trouble") continue;
    const unitName = rows
      .slice(0, i + 1)
      .findLast((x) => x.unit !== "")
      ?.unit.trim()
      .toLowerCase();
    const modelId = kit.units.find((u) => u.name.toLowerCase() === unitName)?.modelId ?? null;
    const { mode, condition } = r.unknown;
    if (mode !== undefined) found.set(`mode ${mode.toLowerCase()} ${modelId ?? ""}`, { what: "mode", name: mode, modelId });
    if (condition !== undefined) found.set(`condition ${condition.toLowerCase()}`, { what: "condition", name: condition, modelId: null });
  }
  return [...found.values()];
}

const KEY = "keep-rolling-headings";
const signature = (heads: readonly string[]): string => heads.map((h) => h.trim().toLowerCase()).join("\t");
const matchings = (): Record<string, Matching> => {
  try {
    return JSON.parse(localStorage.getItem(KEY) ?? "{}") as Record<string, Matching>;
  } catch {
    return {};
  }
};
const knownMatching = (heads: readonly string[]): Matching | null => matchings()[signature(heads)] ?? null;
function rememberMatching(heads: readonly string[], matching: Matching): void {
  try {
    localStorage.setItem(KEY, JSON.stringify({ ...matchings(), [signature(heads)]: matching }));
  } catch {
    // Without a store it is asked again next time.
  }
}

function FileButton({ onText }: { onText: (text: string) => void }) {
  const input = useRef<HTMLInputElement>(null);
  return (
    <>
      <Button onClick={() => input.current?.click()}>Read a CSV or TSV file</Button>
      <input
        ref={input}
        type="file"
        accept=".csv,.tsv,.txt,text/csv,text/tab-separated-values"
        className="sr-only"
        tabIndex={-1}
        aria-label="CSV or TSV file"
        onChange={(event) => {
          const file = event.target.files?.[0];
          event.target.value = "";
          if (file !== undefined) void file.text().then(onText);
        }}
      />
    </>
  );
}
