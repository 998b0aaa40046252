// Old runs, quickly: a notebook as a table, typed, pasted or from a file. Each row is checked as it is left; all are stored or none.

import type { Kit } from "@keep-rolling/contract/kit";
import type { Column, NotebookRow } from "@keep-rolling/core/notebook";
import { COLUMNS, emptyRow, readSheet } from "@keep-rolling/core/notebook";
import { fahrenheitSpan } from "@keep-rolling/core/format";
import { END_CAUSES, endWords } from "@keep-rolling/core/runs";
import { useMemo, useRef, useState } from "react";
import { Link } from "react-router";
import { recordApi } from "../../../record/api.ts";
import { benchNowMs, useDevice } from "../../../record/device.ts";
import { useRuns } from "../../../record/runs.ts";
import { formatDate } from "../../../shared/dates/dates.ts";
import { useKeptState } from "../../../shared/drafts/useKeptState.ts";
import { useSettings } from "../../../shared/settings/settings.ts";
import { SelectField, TextField, wordsOf } from "../../../shared/ui/fields.tsx";
import { Button, Note, PageHead } from "../../../shared/ui/parts.tsx";
import { saveText } from "../../../shared/ui/saveFile.ts";
import { KitGate } from "../KitGate.tsx";
import { Match } from "./Match.tsx";
import { LISTED, SheetTable } from "./SheetTable.tsx";
import type { StoredRun } from "./storeSheet.ts";
import { storeSheet, undoSheet } from "./storeSheet.ts";
import type { Loaded, Matching } from "./table.ts";
import { filledRows, isOurs, loadTable, MOST_ROWS, template, textOf } from "./table.ts";
import type { Stranger } from "./Unknown.tsx";
import { Unknown } from "./Unknown.tsx";

export const SheetPage = () => <KitGate>{(kit) => <Sheet kit={kit} />}</KitGate>;

interface Kept {
  rows: NotebookRow[];
  protocolId: string;
  /** Of the ambients in it; empty until said. */
  basis: "" | "measured" | "guessed";
  plusMinus: string;
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
  const [kept, setKept, forget] = useKeptState<Kept>("notebook", {
    rows: [emptyRow()],
    protocolId: protocols[0]?.id ?? "",
    basis: "",
    plusMinus: "",
  });
  const { basis, plusMinus } = kept;
  // What a former version kept may lack a column of today's; a protocol may have been put away since.
  const rows = useMemo(() => kept.rows.map((r) => ({ ...emptyRow(), ...r })), [kept.rows]);
  const protocolId = protocols.some((p) => p.id === kept.protocolId) ? kept.protocolId : (protocols[0]?.id ?? "");
  const [seen, setSeen] = useState<ReadonlySet<number>>(() => new Set());
  const [loaded, setLoaded] = useState<Loaded | null>(null);
  const [trouble, setTrouble] = useState<string | null>(null);
  // Undo is there after a reload too.
  const [{ stored }, keepStored, forgetStored] = useKeptState<{ stored: StoredRun[] }>("notebook stored", { stored: [] }, UNDO_MS);
  const { runs, unread, error: unreadBecause } = useRuns({});
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
    setRows((before) => [
      ...before.slice(0, at),
      ...filledRows(from, matching, before.slice(at)),
      ...before.slice(at + from.lines.length).filter((r) => !isEmpty(r)),
    ]);
    setSeen((s) => new Set([...s, ...from.lines.map((_, i) => at + i)]));
    setLoaded(null);
    if (from.dropped > 0)
      setTrouble(
        `A sheet takes ${MOST_ROWS} rows: ${from.dropped === 1 ? "one more was" : `${from.dropped} more were`} left where they are. Store these, then bring in the rest.`,
      );
  };
  const take = (text: string, at: number, column: Column, pasted: boolean): void => {
    const found = loadTable(text, column, pasted);
    if (found === null) return setTrouble("There is nothing in that. The table is as it was.");
    setTrouble(null);
    const known = found.heads === null || isOurs(found.heads) ? found.matching : knownMatching(found.heads);
    if (known !== null) return fill(found, known, at);
    setLoaded(found);
  };
  const strangers = strangersOf(read, rows, kit);
  const many = read.filter((r) => r.what !== "empty").length;
  const anyAmbient = read.some((r) => r.what === "run" && r.run.ambientC !== null);
  const wrong = read.filter((r) => r.what === "trouble").length;
  const store = async (): Promise<void> => {
    setSeen(new Set(rows.keys()));
    setTrouble(null);
    if (many === 0) return setTrouble("No row is filled in yet. Nothing was stored.");
    if (wrong > 0)
      return setTrouble(
        `${wrong === 1 ? "One row" : `${wrong} rows`} cannot be taken as written; nothing was stored. What is wrong stands under each.`,
      );
    const span = readSpan(plusMinus, temperature);
    if (anyAmbient && (basis === "" || span === null))
      return setTrouble("Say of the ambients below whether they were measured or guessed, and within how much. Nothing was stored.");
    // Overlaps were not looked for in runs that are not here yet; without a network what this device knows must do.
    if (unread && unreadBecause === undefined)
      return setTrouble("The runs on record are still being read, to see that none overlaps. Press again in a moment; nothing was stored.");
    if (!ready) return setTrouble("This device's store is not open yet. Press again in a moment; nothing was stored.");
    try {
      const made = await storeSheet(
        read.map((r) => (r.what === "run" ? r.run : null)),
        kit,
        { protocolId, plusMinusC: span ?? 0, basis: basis === "" ? "guessed" : basis },
        clock,
      );
      keepStored(() => ({ stored: made }));
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
        <FileButton
          onFile={(file) =>
            void textOf(file).then((text) =>
              text === null
                ? setTrouble("That file is too large to be a notebook (5 MB at most). Nothing was read.")
                : take(text, firstFree(rows), "date", false),
            )
          }
        />
        <Button
          onClick={() =>
            saveText(
              "keep-rolling-notebook.csv",
              "text/csv",
              template(
                units[0]?.name ?? "Body",
                units[0]?.firmware ?? "1.0",
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
      {stored.length > 0 && (
        <div className="mb-4 flex flex-wrap items-center gap-3">
          <Note live>{`${stored.length === 1 ? "One run" : `${stored.length} runs`} stored, from a notebook.`}</Note>
          <Button
            onClick={() => {
              undoSheet(stored, clock).then(
                () => {
                  keepStored(() => ({ stored: [] }));
                  forgetStored();
                },
                (failure: unknown) =>
                  setTrouble(`Not undone: ${failure instanceof Error ? failure.message : "this device's store refused"}.`),
              );
            }}
          >
            Undo all of them
          </Button>
          <Link to={`/heat/${units[0]?.id ?? ""}`}>See them in Heat</Link>
        </div>
      )}
      {units.length === 0 && (
        <Note>
          No body is in the kit yet. <Link to="/kit/add">Add your camera</Link> first.
        </Note>
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
        onPaste={(index, column, text) => take(text, index, column, true)}
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
        {anyAmbient && (
          <>
            <SelectField
              label="Its ambients were"
              value={basis}
              options={[["", "choose"], ...wordsOf(["measured", "guessed"])]}
              onChange={(e) => setKept((k) => ({ ...k, basis: e.target.value as Kept["basis"] }))}
            />
            <div className="w-28">
              <TextField
                label="Within ±"
                unit={`°${temperature}`}
                inputMode="decimal"
                value={plusMinus}
                onChange={(e) => setKept((k) => ({ ...k, plusMinus: e.target.value }))}
              />
            </div>
          </>
        )}
        <Button tone="main" onClick={() => void store()}>
          {many <= 1 ? "Store this run" : `Store these ${many} runs`}
        </Button>
        {many > 0 && (
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

/** A day is enough to see that it was the wrong file. */
const UNDO_MS = 86_400_000;

/** °C; null: not a number, or too wide to be of use. */
function readSpan(text: string, unit: "C" | "F"): number | null {
  const value = Number(text.trim().replace(",", "."));
  const spanC = unit === "C" ? value : value / fahrenheitSpan(1);
  return text.trim() !== "" && spanC >= 0 && spanC <= 20 ? Math.round(10 * spanC) / 10 : null;
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
    return (JSON.parse(localStorage.getItem(KEY) ?? "{}") as Record<string, Matching> | null) ?? {};
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

function FileButton({ onFile }: { onFile: (file: File) => void }) {
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
          if (file !== undefined) onFile(file);
        }}
      />
    </>
  );
}
