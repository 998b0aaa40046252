// Where a run's clips are dropped. Only their indexes are read, in a worker; nothing of the picture leaves the file.

import { clipApi } from "./api.ts";
import type { Clip } from "@keep-rolling/core/clips";
import { useState } from "react";
import { Button, Note } from "../ui/parts.tsx";
import type { ClipSource } from "../../workers/jobs/readClips.ts";
import { pool } from "../../workers/pool.ts";
import { sizeWords } from "./clipWords.ts";
import { DropZone } from "./DropZone.tsx";

interface Props {
  /** A run on a simulated body has a card to read. */
  cardOf: string | null;
  onRead: (clips: Clip[]) => void;
}

export function ClipDrop({ cardOf, onRead }: Props) {
  const [state, setState] = useState<string | null>(null);
  const [trouble, setTrouble] = useState<string | null>(null);
  const take = async (sources: ClipSource[]): Promise<void> => {
    setTrouble(null);
    if (sources.length === 0) return;
    try {
      setState(`Reading ${sources.length === 1 ? "one file" : `${sources.length} files`} …`);
      const { clips, bytesRead } = await pool.call("readClips", sources, { onProgress: (done, of) => setState(`Read ${done} of ${of} …`) });
      const whole = clips.reduce((sum, c) => sum + c.bytes, 0);
      setState(`Read ${sizeWords(bytesRead)} of ${sizeWords(whole)}: the index of each file, not its picture.`);
      onRead(clips);
    } catch (error) {
      setState(null);
      setTrouble(
        `The files could not be read: ${error instanceof Error ? error.message : String(error)}. Nothing was changed; drop them again.`,
      );
    }
  };
  const takeFiles = (files: FileList | null): void => void take([...(files ?? [])].map((file) => ({ kind: "file", file })));
  return (
    <DropZone onDrop={(data) => takeFiles(data.files)}>
      <p className="flex flex-wrap items-center gap-x-4 gap-y-2">
        <label className="min-w-0">
          Drop the run's clips here (MP4, MOV), or choose them:{" "}
          <input
            className="max-w-full"
            type="file"
            multiple
            accept=".mp4,.mov,.m4v,video/mp4,video/quicktime"
            onChange={(event) => takeFiles(event.target.files)}
          />
        </label>
        {cardOf !== null && <CardButton runId={cardOf} onSources={(sources) => void take(sources)} />}
      </p>
      <p role="status" className="mt-1 text-sm text-soft">
        {state ?? "Only what the files say of themselves is read. They stay where they are."}
      </p>
      {trouble !== null && (
        <Note tone="alert" live>
          {trouble}
        </Note>
      )}
    </DropZone>
  );
}

/** The card of the stand-in, as a card reader would give it. */
function CardButton({ runId, onSources }: { runId: string; onSources: (sources: ClipSource[]) => void }) {
  const { data, refetch } = clipApi.useCardQuery(runId);
  const files = data?.files ?? [];
  if (files.length === 0) return null;
  const read = async (): Promise<void> => {
    const card = await refetch();
    onSources(
      (card.data?.files ?? files).map((f) => ({
        kind: "address",
        url: `/api/runs/${runId}/card/${encodeURIComponent(f.name)}`,
        ...f,
      })),
    );
  };
  return (
    <>
      <Button onClick={() => void read()}>{`Read the stand-in's card (${files.length === 1 ? "1 clip" : `${files.length} clips`})`}</Button>
      <span className="text-sm text-soft">
        Small copies to save:{" "}
        {files.map((f) => (
          <a key={f.name} className="mr-2" href={`/api/runs/${runId}/card/${encodeURIComponent(f.name)}?small=1`} download={f.name}>
            {f.name}
          </a>
        ))}
      </span>
    </>
  );
}
