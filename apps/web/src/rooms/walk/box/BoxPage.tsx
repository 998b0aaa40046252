// The box check, guided: a target fixed to the camera's own frame, shaken with the stabiliser off and on. Nothing is kept: it answers one question.

import { measuresOf, unpackRecord } from "@keep-rolling/core/motion";
import type { MadeTake } from "@keep-rolling/core/stand-ins/takes";
import { PLAIN } from "@keep-rolling/core/stand-ins/takes";
import type { BoxCheck, BoxClip } from "@keep-rolling/core/walks";
import { boxCheck } from "@keep-rolling/core/walks";
import { useState } from "react";
import { Link } from "react-router";
import { Button, Note, PageHead } from "../../../shared/ui/parts.tsx";
import { pool } from "../../../workers/pool.ts";
import { troubleWords } from "../words.ts";
import { boxWords } from "./boxWords.ts";

type Side = "off" | "on";
interface Measured {
  name: string;
  clip: BoxClip;
}

export function BoxPage() {
  const [seen, setSeen] = useState<Partial<Record<Side, Measured>>>({});
  const [doing, setDoing] = useState("");
  const [trouble, setTrouble] = useState("");
  const measure = async (side: Side, file: File): Promise<void> => {
    setTrouble("");
    const told = (share: number): void => setDoing(`Measuring ${file.name}: ${Math.floor(100 * share)} %`);
    told(0);
    const result = await pool.call("measureClip", file, { onProgress: (done, of) => told(done / of) });
    setDoing("");
    if (!result.ok) return setTrouble(`${file.name} ${troubleWords(result.trouble)}.`);
    const record = unpackRecord(result.pack);
    if (record === null) return setTrouble(`${file.name} could not be measured.`);
    const { jitterRmsFrac, frames, fps } = measuresOf(record);
    setSeen((s) => ({ ...s, [side]: { name: file.name, clip: { jitterFrac: jitterRmsFrac, seconds: frames / fps } } }));
  };
  const tryIt = async (listens: boolean): Promise<void> => {
    setSeen({});
    for (const side of ["off", "on"] as const) {
      setDoing("Making the clips …");
      const made = madeBox(side === "on" && listens);
      await measure(
        side,
        await pool.call(
          "makeClip",
          { made, name: `MADE_${side.toUpperCase()}.webm` },
          { onProgress: (done, of) => setDoing(`Making the clip: ${Math.floor((100 * done) / of)} %`) },
        ),
      );
    }
  };
  const busy = doing !== "";
  const failed = (error: unknown): void => {
    setDoing("");
    setTrouble(error instanceof Error ? error.message : String(error));
  };
  const check: BoxCheck | null = seen.off === undefined || seen.on === undefined ? null : boxCheck(seen.off.clip, seen.on.clip);
  return (
    <>
      <PageHead title="Motion or picture?" sub="whether a stabiliser listens to motion sensors">
        <Link to="/walk">All walking tests</Link>
      </PageHead>
      <ol className="max-w-3xl list-decimal space-y-1 pl-6">
        <li>
          Fix a printed page or a box with texture to the camera&apos;s own cage or rig, in focus, so that it fills the picture and moves
          with the camera.
        </li>
        <li>
          Keep the strap on, and nothing loose. Shake camera and target together by hand, as in a brisk walk, for five seconds: once with
          the stabiliser off, once with it on.
        </li>
        <li>Choose both clips here. They are measured on this device and not kept.</li>
      </ol>
      <div className="mt-4 grid max-w-3xl gap-4 sm:grid-cols-2">
        {(["off", "on"] as const).map((side) => (
          <label key={side} className="hairline block py-2">
            <span className="block font-semibold">Stabiliser {side}</span>
            <input
              type="file"
              accept="video/*,.mov,.mp4,.webm"
              disabled={busy}
              onChange={(e) => {
                const [file] = e.target.files ?? [];
                if (file !== undefined) void measure(side, file).catch(failed);
              }}
            />
            <span className="block text-sm text-soft">{seen[side]?.name ?? ""}</span>
          </label>
        ))}
      </div>
      <p className="mt-3 flex flex-wrap items-center gap-3">
        <Button tone="quiet" disabled={busy} onClick={() => void tryIt(true).catch(failed)}>
          Try it: made clips of one that listens to motion
        </Button>
        <Button tone="quiet" disabled={busy} onClick={() => void tryIt(false).catch(failed)}>
          Try it: made clips of one that looks at the picture
        </Button>
      </p>
      {busy && <p role="status">{doing}</p>}
      {trouble !== "" && <Note tone="alert">{trouble}</Note>}
      {check !== null && (
        <p data-testid="box" role="status" className="mt-4 max-w-3xl text-xl leading-snug font-semibold">
          {boxWords(check)}
        </p>
      )}
    </>
  );
}

/** A target that moves with the camera: still, unless a stabiliser that listens to motion moves the picture. */
function madeBox(moves: boolean): MadeTake {
  return {
    ...PLAIN,
    seed: 7,
    width: 320,
    height: 180,
    rateHz: 25,
    frames: 100,
    moments: 3,
    gait: { stepHz: 1.9, vigour: moves ? 0.7 : 0, drift: 0 },
  };
}
