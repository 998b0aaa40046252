// What was read of each clip, and how it follows on the one before.

import type { Arranged, Clip } from "@keep-rolling/core/clips";
import { formatTimeCode } from "@keep-rolling/core/clips";
import { formatHms, formatSpan } from "@keep-rolling/core/format";
import { asWritten, sizeWords } from "./clipWords.ts";

export function ClipTable({ clips, arranged }: { clips: readonly Clip[]; arranged: Arranged | null }) {
  const rows = arranged === null ? clips : arranged.placed.map((p) => p.clip);
  return (
    <div className="overflow-x-auto" tabIndex={0} role="region" aria-label="What the files say">
      <table className="w-full text-left text-[0.95rem]">
        <thead className="text-sm text-soft">
          <tr>
            {["file", "size", "created, as written", "length", "time code", "picture", "codec", "Mbit/s", ""].map((h) => (
              <th key={h} className="py-1 pr-4 font-normal whitespace-nowrap">
                {h}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map((c, i) => (
            <Row key={c.name} clip={c} follows={arranged === null ? "" : followsWords(arranged, i)} />
          ))}
        </tbody>
      </table>
    </div>
  );
}

function Row({ clip, follows }: { clip: Clip; follows: string }) {
  const { read } = clip;
  const cells =
    read === null
      ? ["no index: cut off, or no film file"]
      : [
          asWritten(read.createdMs),
          formatHms(read.durationMs),
          read.timeCode === null ? "none" : formatTimeCode(read.timeCode),
          `${read.widthPx}×${read.heightPx}, ${Math.round((1000 * read.fpsNum) / read.fpsDen) / 1000}`,
          read.codec.split(".")[0] ?? read.codec,
          read.mbps < 1 ? read.mbps.toFixed(2) : Math.round(read.mbps * 10) / 10,
        ];
  return (
    <tr className="hairline">
      <td className="num py-1 pr-4">{clip.name}</td>
      <td className="num pr-4 whitespace-nowrap">{sizeWords(clip.bytes)}</td>
      {read === null ? (
        <td colSpan={6} className="pr-4 text-alert">
          {cells[0]}
        </td>
      ) : (
        cells.map((cell, i) => (
          // The cells of one row never change places.
          <td key={i} className="num pr-4 whitespace-nowrap">
            {cell}
          </td>
        ))
      )}
      <td className="text-sm whitespace-nowrap text-soft">{follows}</td>
    </tr>
  );
}

function followsWords({ joins, errMs }: Arranged, i: number): string {
  const join = joins.find((j) => j.after === i - 1);
  if (join === undefined) return "";
  return join.kind === "split" ? "follows on, no gap" : `after a gap of ${formatSpan(join.gapMs)}, ±${errMs < 1000 ? "1 frame" : "1 s"}`;
}
