// The notebook's table: one row a run, every cell by keyboard. Arrows move between rows; a cell left empty shows what the row above says.

import type { Column, NotebookRow, ReadRow } from "@keep-rolling/core/notebook";
import { carries, COLUMNS, HEADINGS } from "@keep-rolling/core/notebook";
import type { ClipboardEvent, KeyboardEvent } from "react";
import { memo, useRef } from "react";

const WIDTHS: Readonly<Record<Column, string>> = {
  date: "w-36",
  unit: "w-28",
  mode: "w-44",
  condition: "w-36",
  ambient: "w-18",
  start: "w-24",
  warning: "w-24",
  recorded: "w-24",
  end: "w-28",
  gaps: "w-44",
  note: "w-44",
  firmware: "w-20",
  recovery: "w-20",
};
const EXAMPLE: Readonly<Partial<Record<Column, string>>> = {
  date: "4 Jun 10:00",
  start: "cold, 45 min",
  warning: "52 min",
  recorded: "1:07:30",
  end: "heat",
  gaps: "31 min for 40 s off",
  recovery: "yes",
};
/** Told by a list of names as one types. */
export const LISTED: readonly Column[] = ["unit", "mode", "condition", "end"];

interface Props {
  rows: readonly NotebookRow[];
  read: readonly ReadRow[];
  /** Rows that have been left once: their troubles are shown. */
  seen: ReadonlySet<number>;
  onChange: (index: number, column: Column, text: string) => void;
  onLeave: (index: number) => void;
  onPaste: (index: number, column: Column, text: string) => void;
}

export function SheetTable({ rows, read, seen, onChange, onLeave, onPaste }: Props) {
  const table = useRef<HTMLTableElement>(null);
  const go = (index: number, column: Column): void =>
    table.current?.querySelector<HTMLInputElement>(`[data-cell="${index} ${column}"]`)?.focus();
  return (
    <div className="relative overflow-x-auto" role="region" aria-label="Rows of the notebook" tabIndex={0}>
      <table ref={table} className="text-sm">
        <thead>
          <tr className="text-left text-soft">
            <th scope="col" className="pr-2 font-normal">
              <span className="sr-only">Row</span>
            </th>
            {COLUMNS.map((c) => (
              <th key={c} scope="col" className="py-1 pr-1 align-bottom font-normal">
                {HEADINGS[c]}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map((row, index) => (
            <Row
              // Rows have no identity but their place.
              key={index}
              index={index}
              row={row}
              above={aboveOf(rows, index)}
              read={read[index] ?? { what: "empty" }}
              shown={seen.has(index)}
              onChange={onChange}
              onLeave={onLeave}
              onPaste={onPaste}
              onMove={(by, column) => go(index + by, column)}
            />
          ))}
        </tbody>
      </table>
    </div>
  );
}

/** What an empty cell of a row stands for. */
function aboveOf(rows: readonly NotebookRow[], index: number): Partial<Record<Column, string>> {
  return Object.fromEntries(
    COLUMNS.filter(carries).map((c) => {
      const said = rows.slice(0, index).findLast((r) => r[c] !== "" && r[c] !== "-")?.[c] ?? "";
      return [c, c === "date" ? said.replace(/[ T,]*\d{1,2}:\d{2}(:\d{2})?$/, "") : said];
    }),
  );
}

interface RowProps extends Pick<Props, "onChange" | "onLeave" | "onPaste"> {
  index: number;
  row: NotebookRow;
  above: Partial<Record<Column, string>>;
  read: ReadRow;
  shown: boolean;
  onMove: (by: 1 | -1, column: Column) => void;
}

const Row = memo(function Row({ index, row, above, read, shown, onChange, onLeave, onPaste, onMove }: RowProps) {
  const troubles = read.what === "trouble" && shown ? read.troubles : [];
  const keys = (event: KeyboardEvent<HTMLInputElement>, column: Column): void => {
    const by = event.key === "ArrowDown" || event.key === "Enter" ? 1 : event.key === "ArrowUp" ? -1 : null;
    // A list that is open has the arrows to itself.
    if (by === null || (event.key !== "Enter" && LISTED.includes(column))) return;
    event.preventDefault();
    onMove(by, column);
  };
  const pasted = (event: ClipboardEvent<HTMLInputElement>, column: Column): void => {
    const text = event.clipboardData.getData("text/plain");
    if (!/[\t\n]/.test(text.trim())) return;
    event.preventDefault();
    onPaste(index, column, text);
  };
  return (
    <>
      <tr
        className="align-top"
        onBlur={(event) => {
          if (!event.currentTarget.contains(event.relatedTarget)) onLeave(index);
        }}
      >
        <th scope="row" className="num pt-2 pr-2 font-normal text-soft">
          {index + 1}
        </th>
        {COLUMNS.map((column) => {
          const wrong = troubles.some((t) => t.column === column);
          return (
            <td key={column} className="pr-1 pb-1">
              <input
                data-cell={`${index} ${column}`}
                aria-label={`${HEADINGS[column]}, row ${index + 1}`}
                aria-invalid={wrong}
                className={`${WIDTHS[column]} min-h-9 px-1.5 py-1 text-sm placeholder:text-soft ${wrong ? "border-alert" : ""}`}
                list={LISTED.includes(column) ? `sheet-${column}` : undefined}
                placeholder={above[column] ?? (index === 0 ? EXAMPLE[column] : undefined)}
                value={row[column]}
                onChange={(event) => onChange(index, column, event.target.value)}
                onKeyDown={(event) => keys(event, column)}
                onPaste={(event) => pasted(event, column)}
              />
            </td>
          );
        })}
      </tr>
      {(troubles.length > 0 || read.what === "run") && (
        <tr>
          <td />
          <td colSpan={COLUMNS.length} className={`pb-2 ${troubles.length > 0 ? "text-alert" : "text-soft"}`}>
            {read.what === "run" ? read.echo : troubles.map((t) => `${HEADINGS[t.column]}: ${t.message}`).join(" ")}
          </td>
        </tr>
      )}
    </>
  );
});
