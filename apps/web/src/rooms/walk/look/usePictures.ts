// The pictures of the takes looked at: opened when they are asked for, closed when they are left.

import type { WalkTake } from "@keep-rolling/core/walks";
import { useEffect, useRef, useState } from "react";
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
  const [pictures, setPictures] = useState<{ of: string; seen: Pictures }>({ of: "", seen: NONE });
  const known = rows.length > 0 && !reading;
  const wanted = known ? takes.map((t) => t.id).join() : "";
  // Rows of other clips may come while one looks; these takes' own do not change.
  const latest = useRef({ takes, rows });
  useEffect(() => {
    latest.current = { takes, rows };
  });
  useEffect(() => {
    if (wanted === "") return;
    let left = false;
    const opened: TakePicture[] = [];
    const change = (next: (p: Pictures) => Pictures): void =>
      setPictures(({ of, seen }) => ({ of: wanted, seen: next(of === wanted ? seen : NONE) }));
    for (const take of latest.current.takes) {
      const onShare = (share: number): void => {
        if (!left) change((p) => ({ ...p, shares: new Map([...p.shares, [take.id, share]]) }));
      };
      const put = (picture: TakePicture): void => {
        if (left && "frames" in picture) picture.frames.close();
        if (left) return;
        opened.push(picture);
        change((p) => ({ ...p, ready: new Map([...p.ready, [take.id, picture]]) }));
      };
      pictureOf(take, latest.current.rows, onShare).then(put, () => put({ none: "not-read" }));
    }
    return () => {
      left = true;
      for (const p of opened) if ("frames" in p) p.frames.close();
      setPictures({ of: "", seen: NONE });
    };
  }, [wanted]);
  return pictures.of === wanted ? pictures.seen : NONE;
}
