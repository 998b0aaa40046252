// The picture and the words of a photo mark. On a phone the camera opens; the mark keeps the time of the key, not of the shutter.

import type { CorrectionBody, MarkOf } from "@keep-rolling/core/runs";
import { useEffect, useRef, useState } from "react";
import { Button, Note } from "../ui/parts.tsx";
import { keepPicture } from "./pictures.ts";

interface Props {
  mark: MarkOf<"photo">;
  onCorrect: (fields: CorrectionBody) => void;
  onDone: () => void;
}

export function PhotoForm({ mark, onCorrect, onDone }: Props) {
  const [caption, setCaption] = useState(mark.body.caption ?? "");
  const [trouble, setTrouble] = useState<string | null>(null);
  const kept = useRef(Promise.resolve(true));
  const shown = useRef(true);
  useEffect(() => {
    shown.current = true;
    return () => void (shown.current = false);
  }, []);
  const take = (file: File | undefined): void => {
    if (file === undefined) return;
    setTrouble(null);
    kept.current = keepPicture(file).then(
      (sha256) => {
        onCorrect({ sha256 });
        return true;
      },
      (error: unknown) => {
        setTrouble(error instanceof Error ? error.message : "The picture could not be kept on this device.");
        return false;
      },
    );
  };
  return (
    <form
      className="flex flex-wrap items-end gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        if (caption.trim() !== "") onCorrect({ caption: caption.trim() });
        // Not before the picture is kept: its trouble is told here, and nowhere else.
        void kept.current.then((well) => well && shown.current && onDone());
      }}
      onKeyDown={(event) => event.key === "Escape" && onDone()}
    >
      <label className="text-sm">
        Picture <span className="text-soft">(position and serial number are taken away)</span>
        <input
          className="mt-0.5 block"
          type="file"
          accept="image/*"
          capture="environment"
          onChange={(event) => take(event.target.files?.[0])}
        />
      </label>
      <label className="flex-1 text-sm">
        In words
        <input className="mt-0.5 block w-full" maxLength={500} value={caption} onChange={(event) => setCaption(event.target.value)} />
      </label>
      <Button type="submit">Store</Button>
      {trouble !== null && (
        <Note tone="alert" live>
          {trouble}
        </Note>
      )}
    </form>
  );
}
