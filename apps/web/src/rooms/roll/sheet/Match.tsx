// Somebody's own headings, matched once to ours: which of their columns is which, with their first figures to see it by.

import type { Column } from "@keep-rolling/core/notebook";
import { COLUMNS, HEADINGS } from "@keep-rolling/core/notebook";
import { useState } from "react";
import { SelectField } from "../../../shared/ui/fields.tsx";
import { Button } from "../../../shared/ui/parts.tsx";
import type { Loaded, Matching } from "./table.ts";

const NONE = "";
const SAMPLES = 3;

export function Match({ loaded, onMatched, onDrop }: { loaded: Loaded; onMatched: (matching: Matching) => void; onDrop: () => void }) {
  const [matching, setMatching] = useState<Matching>(loaded.matching);
  const heads = loaded.heads ?? [];
  const samples = (column: Column): string => {
    const index = matching[column];
    if (index === null) return "left empty";
    return loaded.lines
      .slice(0, SAMPLES)
      .map((cells) => cells[index] ?? "")
      .filter((v) => v !== "")
      .join(" · ");
  };
  return (
    <section aria-labelledby="match" className="mb-5 border-l-4 border-here pl-4">
      <h2 id="match">{`${loaded.lines.length} rows under headings of your own`}</h2>
      <p className="text-sm text-soft">Say which column is which; the same headings are matched by themselves next time.</p>
      <div className="mt-3 grid gap-3 sm:grid-cols-3 lg:grid-cols-5">
        {COLUMNS.map((column) => (
          <SelectField
            key={column}
            label={HEADINGS[column]}
            value={matching[column] === null ? NONE : String(matching[column])}
            hint={samples(column)}
            options={[[NONE, "none of them"], ...heads.map((h, i) => [String(i), h] as const)]}
            onChange={(e) => setMatching({ ...matching, [column]: e.target.value === NONE ? null : Number(e.target.value) })}
          />
        ))}
      </div>
      <div className="mt-4 flex flex-wrap gap-3">
        <Button tone="main" onClick={() => onMatched(matching)}>
          Fill the table
        </Button>
        <Button onClick={onDrop}>Leave it</Button>
      </div>
    </section>
  );
}
