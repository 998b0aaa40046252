// Where a kept picture can be shown from: this device when it has it, so that it is there without a network; else the server.

import { useEffect, useState } from "react";
import { ownPicture } from "./pictures.ts";

/** Null until this device has been asked: the server's "not here" would come in over the picture that is. `hash` null: none is wanted yet. */
export function usePictureUrl(hash: string | null): string | null {
  const [found, setFound] = useState<{ hash: string; src: string } | null>(null);
  useEffect(() => {
    if (hash === null) return;
    let url: string | null = null;
    let gone = false;
    void ownPicture(hash).then((blob) => {
      if (gone) return;
      url = blob === null ? null : URL.createObjectURL(blob);
      setFound({ hash, src: url ?? `/api/photos/${hash}` });
    });
    return () => {
      gone = true;
      if (url !== null) URL.revokeObjectURL(url);
    };
  }, [hash]);
  return found !== null && found.hash === hash ? found.src : null;
}
