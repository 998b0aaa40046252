// A place that takes dropped files; the field to choose them stands inside, for keyboards.

import type { ReactNode } from "react";
import { useState } from "react";

export function DropZone({ onDrop, children }: { onDrop: (data: DataTransfer) => void; children: ReactNode }) {
  const [over, setOver] = useState(false);
  return (
    <div
      className={`rounded-md border border-dashed px-4 py-3 ${over ? "border-here bg-sheet" : "border-rule2"}`}
      onDragOver={(event) => {
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={(event) => {
        event.preventDefault();
        setOver(false);
        onDrop(event.dataTransfer);
      }}
    >
      {children}
    </div>
  );
}
