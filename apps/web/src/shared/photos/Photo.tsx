// The picture of a photo mark, small; a press opens it whole. From this device when it has it, so that it is there without a network.

import type { Mark } from "@keep-rolling/core/runs";
import { isForeign } from "@keep-rolling/core/runs";
import { useState } from "react";
import { usePictureUrl } from "./usePictureUrl.ts";

export function Photo({ mark }: { mark: Mark }) {
  const hash = isForeign(mark) || mark.kind !== "photo" ? undefined : mark.body.sha256;
  if (hash === undefined || isForeign(mark) || mark.kind !== "photo") return null;
  return <Picture key={hash} hash={hash} words={mark.body.caption ?? "photo of the test"} />;
}

function Picture({ hash, words }: { hash: string; words: string }) {
  const src = usePictureUrl(hash);
  const [missing, setMissing] = useState(false);
  if (missing) return <span className="block text-sm text-soft">The picture is still on the device that took it.</span>;
  if (src === null) return null;
  return (
    <a href={src} target="_blank" rel="noreferrer" className="mt-1 block w-fit">
      <img src={src} alt={words} className="max-h-28 rounded border border-rule2" onError={() => setMissing(true)} />
    </a>
  );
}
