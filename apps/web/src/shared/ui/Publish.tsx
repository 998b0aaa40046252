// Two buttons beside a stack of strips: the picture as SVG or as PNG.

import type { RefObject } from "react";
import { useState } from "react";
import { Button, Note } from "./parts.tsx";
import type { Caption } from "./publish.ts";
import { saveBlob, saveText } from "./saveFile.ts";

/** `stack`: what holds the drawings; those marked `data-publish` are taken, in their order. */
export function Publish({ stack, caption, name }: { stack: RefObject<HTMLElement | null>; caption: Caption; name: string }) {
  const [trouble, setTrouble] = useState<string | null>(null);
  const publish = async (as: "svg" | "png"): Promise<void> => {
    setTrouble(null);
    try {
      const { composeSvg, fontRules, pngOf } = await import("./publish.ts");
      const drawings = [...(stack.current?.querySelectorAll<SVGSVGElement>("svg[data-publish]") ?? [])];
      const svg = composeSvg(drawings, caption, await fontRules());
      if (as === "svg") saveText(`${fileName(name)}.svg`, "image/svg+xml", svg);
      else saveBlob(`${fileName(name)}.png`, await pngOf(svg));
    } catch (error) {
      setTrouble(`No picture was made: ${error instanceof Error ? error.message : "this browser refused"}.`);
    }
  };
  return (
    <p className="no-print flex flex-wrap items-center gap-x-3 text-sm text-soft">
      Picture, 1920 × 1080:
      <Button tone="quiet" onClick={() => void publish("png")}>
        Save as PNG
      </Button>
      <Button tone="quiet" onClick={() => void publish("svg")}>
        Save as SVG
      </Button>
      {trouble !== null && (
        <Note tone="alert" live>
          {trouble}
        </Note>
      )}
    </p>
  );
}

const fileName = (words: string): string =>
  words
    .toLowerCase()
    .replaceAll(/[^a-z0-9]+/g, "-")
    .replaceAll(/^-|-$/g, "") || "strips";
