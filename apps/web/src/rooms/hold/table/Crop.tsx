// One crop at the common scale: the middle of the kept square, and more of it the smaller the scale. Drawn only while it is near the window, so that a
// table of hundreds holds no more pictures in memory than can be seen.

import { useEffect, useRef, useState } from "react";
import { usePictureUrl } from "../../../shared/photos/usePictureUrl.ts";

interface Props {
  sha256: string | null;
  /** Side of the kept square in original pixels, and page pixels for each of them. */
  sidePx: number;
  factor: number;
  tile: number;
  words: string;
}

const NEAR = "300px";

export function Crop({ sha256, sidePx, factor, tile, words }: Props) {
  const box = useRef<HTMLDivElement>(null);
  const [near, setNear] = useState(false);
  useEffect(() => {
    if (box.current === null) return;
    const seen = new IntersectionObserver((entries) => setNear(entries.some((e) => e.isIntersecting)), { rootMargin: NEAR });
    seen.observe(box.current);
    return () => seen.disconnect();
  }, []);
  return (
    <div ref={box} data-factor={factor} className="relative overflow-hidden bg-rule" style={{ width: tile, height: tile }}>
      {sha256 === null ? (
        <span className="text-xs text-soft">this spot was not kept</span>
      ) : (
        near && <Square key={sha256} sha256={sha256} shown={sidePx * factor} factor={factor} tile={tile} words={words} />
      )}
    </div>
  );
}

/** The magnifier's place and strength are properties of the whole table, in pixels of the original from the middle: every crop follows without being drawn anew. */
function Square({ sha256, shown, factor, tile, words }: { sha256: string; shown: number; factor: number; tile: number; words: string }) {
  const src = usePictureUrl(sha256);
  const [missing, setMissing] = useState(false);
  if (missing) return <span className="text-xs text-soft">not to be had now: on another device, or no server</span>;
  if (src === null) return null;
  const moved = (way: "x" | "y"): string => `calc(var(--glass-${way}, 0) * ${-factor}px)`;
  return (
    <img
      src={src}
      alt={words}
      decoding="async"
      draggable={false}
      onError={() => setMissing(true)}
      className="absolute max-w-none"
      style={{
        width: shown,
        height: shown,
        left: (tile - shown) / 2,
        top: (tile - shown) / 2,
        transform: `scale(var(--glass, 1)) translate(${moved("x")}, ${moved("y")})`,
      }}
    />
  );
}
