// The pictures of the takes looked at: opened when they are asked for, closed when they are left.

import type { WalkTake } from "@keep-rolling/core/walks";
import { useEffect, useState } from "react";
import type { Numbers } from "../useWalk.ts";
import type { TakePicture } from "./takePictures.ts";
import { pictureOf } from "./takePictures.ts";

export interface Pictures {
  /** By take id; missing while it is being made ready. */
  ready: ReadonlyMap<string, TakePicture>;
  /** Of what is being drawn anew: share done, 0 to 1. */
  shares: ReadonlyMap<string, number>;
}
const NONE: Pictures = { ready: new Map(), shares: new Map() };

export function usePictures(takes: readonly WalkTake[], { rows, reading }: Numbers): Pictures {
  const [pictures, setPictures] = useState(NONE);
  const wanted = takes.map((t) => t.id).join();
  const known = rows.length > 0 && !reading;
  useEffect(() => {
    if (!known) return;
    let left = false;
    const opened: TakePicture[] = [];
    setPictures(NONE);
    for (const take of takes) {
      const onShare = (share: number): void => {
        if (!left) setPictures((p) => ({ ...p, shares: new Map([...p.shares, [take.id, share]]) }));
      };
      const put = (picture: TakePicture): void => {
        if (left && "frames" in picture) picture.frames.close();
        if (left) return;
        opened.push(picture);
        setPictures((p) => ({ ...p, ready: new Map([...p.ready, [take.id, picture]]) }));
      };
      pictureOf(take, rows, onShare).then(put, () => put({ none: "not-read" }));
    }
    return () => {
      left = true;
      for (const p of opened) if ("frames" in p) p.frames.close();
    };
    // Rows of other clips may come while one looks; these takes' own do not change.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [wanted, known]);
  return pictures;
}
