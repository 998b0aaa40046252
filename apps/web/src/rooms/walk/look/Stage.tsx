// The canvas with the takes on it, its keys, and beneath it each take's curve under one playhead.

import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import { saveBlob } from "../../../shared/ui/saveFile.ts";
import { Button, Note } from "../../../shared/ui/parts.tsx";
import { useWidth } from "../../../shared/ui/useWidth.ts";
import { ownsKey } from "../../../shared/ui/usePageKeys.ts";
import { SharpnessCurve, SpectrumChart } from "../TakeCharts.tsx";
import type { Pane } from "./compose.ts";
import { compose, inksOf, sheetOf } from "./compose.ts";
import { Curves } from "./Curves.tsx";
import { clipOf } from "./exportClip.ts";
import type { LaidBy } from "./lay.ts";
import type { LookedAt } from "./lookedAt.ts";
import { fields, laid, pathBefore, spanOf } from "./lay.ts";
import type { Player, PlayerKey, Span } from "./player.ts";
import { frameAt, later, playerKey, pressed, SPEEDS, STOPPED } from "./player.ts";

/** `lagSec`: two takes of one walk, heard or seen together; null: nobody can say, or they are not of one walk. */
export function Stage({ takes, lagSec = null }: { takes: readonly LookedAt[]; lagSec?: number | null }) {
  const [wanted, setWanted] = useState<LaidBy>(lagSec === null ? "footfall" : "sound");
  const [match, setMatch] = useState(true);
  const [nudges, setNudges] = useState<readonly number[]>(takes.map(() => 0));
  const reads = useMemo(() => takes.map((t) => t.read), [takes]);
  const lays = useMemo(() => laid(reads, wanted, nudges, lagSec), [reads, wanted, nudges, lagSec]);
  const span = useMemo(() => spanOf(reads, lays, takes[0]?.frames.timesSec ?? []), [reads, lays, takes]);
  const shown = useMemo(
    () =>
      fields(
        takes.map((t) => t.cropFactor),
        match,
      ),
    [takes, match],
  );
  const panesAt = useCallback(
    async (sec: number): Promise<Pane[]> =>
      Promise.all(
        takes.map(async (t, i) => {
          const own = sec + (lays[i]?.zeroSec ?? 0);
          const frame = await t.frames.at(frameAt(t.frames.timesSec, own));
          return { frame, shown: shown[i]?.shown ?? 1, name: t.name, note: shown[i]?.note ?? "", path: pathBefore(t.read, own) };
        }),
      ),
    [takes, lays, shown],
  );
  if (span === null) return <Note tone="alert">Laid like this the takes share no moment. Choose another way, or move one less.</Note>;
  return (
    <>
      <p className="no-print mb-2 flex flex-wrap items-center gap-x-5 gap-y-2 text-sm">
        <label className="flex items-center gap-2">
          Laid on each other by
          <select value={lays[0]?.by ?? wanted} onChange={(e) => setWanted(e.target.value as LaidBy)}>
            <option value="footfall" disabled={takes.some((t) => t.read.footfallsSec.length === 0)}>
              first footfall
            </option>
            {lagSec !== null && <option value="sound">the sound or the path of their common walk</option>}
            <option value="start">where they begin to count</option>
          </select>
        </label>
        <label className="flex items-center gap-2">
          <input type="checkbox" checked={match} onChange={(e) => setMatch(e.target.checked)} />
          Matched field
        </label>
        {takes.slice(1).map((t, i) => (
          <Nudge
            key={t.id}
            take={t}
            by={nudges[i + 1] ?? 0}
            move={(sec) => setNudges((n) => n.map((v, k) => (k === i + 1 ? v + sec : v)))}
          />
        ))}
      </p>
      <Screen takes={takes} span={span} zeros={lays.map((l) => l.zeroSec)} panesAt={panesAt} />
    </>
  );
}

/** A take moved by hand, a frame at a time. */
function Nudge({ take, by, move }: { take: LookedAt; by: number; move: (sec: number) => void }) {
  const frame = 1 / take.read.measures.fps;
  const frames = Math.round(by / frame);
  return (
    <span className="flex items-center gap-1">
      <Button tone="quiet" onClick={() => move(-frame)} aria-label={`${take.name}: a frame earlier`}>
        −
      </Button>
      {frames === 0 ? take.name : `${take.name} ${frames > 0 ? "+" : "−"}${Math.abs(frames)}`}
      <Button tone="quiet" onClick={() => move(frame)} aria-label={`${take.name}: a frame later`}>
        +
      </Button>
    </span>
  );
}

interface ScreenProps {
  takes: readonly LookedAt[];
  span: Span;
  zeros: readonly number[];
  panesAt: (sec: number) => Promise<Pane[]>;
}

const EXPORT_WIDTH = 1280;
const WIPE_WIDTH = 720;

function Screen({ takes, span, zeros, panesAt }: ScreenProps) {
  const [player, setPlayer] = useState<Player>(() => ({ ...STOPPED, atSec: Math.min(span.toSec, Math.max(span.fromSec, 0)) }));
  const [box, width] = useWidth<HTMLDivElement>(1100);
  const canvas = useRef<HTMLCanvasElement>(null);
  const wiping = player.wipe && takes.length > 1;
  // One picture over the whole width would push its own keys off the page.
  const sheet = sheetOf(takes.length, wiping ? Math.min(width, WIPE_WIDTH) : width, wiping);
  const atSec = Math.min(span.toSec, Math.max(span.fromSec, player.atSec));
  useDrawing(canvas, sheet, player, atSec, panesAt);
  useRunning(player, span, setPlayer);
  const press = useCallback((key: PlayerKey): void => setPlayer((p) => pressed(p, key, span)), [span]);
  useKeys(press, () => void canvas.current?.parentElement?.requestFullscreen?.().catch(() => undefined));
  const frame = frameAt(takes[0]?.frames.timesSec ?? [], atSec + (zeros[0] ?? 0));
  return (
    <>
      <div ref={box} className="bg-ground">
        <canvas
          ref={canvas}
          width={sheet.width}
          height={sheet.height}
          role="img"
          data-frame={frame}
          aria-label={`${takes.map((t) => t.name).join(" beside ")}, frame ${frame}`}
          className="block h-auto max-w-full"
        />
      </div>
      <Curves
        takes={takes}
        span={span}
        zeros={zeros}
        atSec={atSec}
        frame={frame}
        loop={player.loop}
        seek={(sec) => setPlayer((p) => ({ ...p, running: false, atSec: sec }))}
      />
      <Keys player={player} press={press} several={takes.length > 1} />
      <Leave takes={takes} span={span} player={player} atSec={atSec} panesAt={panesAt} />
      <details className="mt-4">
        <summary className="cursor-pointer">Spectra and sharpness of each</summary>
        <div className="mt-2 grid gap-6 lg:grid-cols-2">
          {takes.map((t) => (
            <section key={t.id} aria-label={t.name}>
              <h2 className="text-base">{t.name}</h2>
              <SpectrumChart spectrum={t.read.spectrum} measures={t.read.measures} />
              <SharpnessCurve sharpness={t.read.sharpness} measures={t.read.measures} />
            </section>
          ))}
        </div>
      </details>
    </>
  );
}

/** Draws what is asked for last; frames that come after a newer question are not shown, so takes never stand at different moments. */
function useDrawing(
  canvas: React.RefObject<HTMLCanvasElement | null>,
  sheet: { width: number; height: number },
  player: Player,
  atSec: number,
  panesAt: ScreenProps["panesAt"],
) {
  const { wipe, wipeAt, path } = player;
  const { width, height } = sheet;
  useEffect(() => {
    let old = false;
    void panesAt(atSec).then((panes) => {
      const element = canvas.current;
      const c = element?.getContext("2d");
      if (old || element === null || c == null) return;
      compose(c, { width, height }, panes, { wipe, wipeAt, path }, inksOf(element));
    });
    return () => {
      old = true;
    };
  }, [canvas, width, height, wipe, wipeAt, path, atSec, panesAt]);
}

function useRunning({ running }: Player, span: Span, setPlayer: (next: (p: Player) => Player) => void) {
  useEffect(() => {
    if (!running) return;
    let last = performance.now();
    let asked = 0;
    const tick = (now: number): void => {
      const wallSec = (now - last) / 1000;
      last = now;
      setPlayer((p) => later(p, span, wallSec));
      asked = requestAnimationFrame(tick);
    };
    asked = requestAnimationFrame(tick);
    return () => cancelAnimationFrame(asked);
  }, [running, span, setPlayer]);
}

/** Keys of the player, but not while something is typed or chosen. */
function useKeys(press: (key: PlayerKey) => void, full: () => void) {
  useEffect(() => {
    const listen = (event: KeyboardEvent): void => {
      if (event.defaultPrevented || event.ctrlKey || event.metaKey || event.altKey || ownsKey(event.target, event.key)) return;
      if (event.key.toLowerCase() === "f") return full();
      const key = playerKey(event.key);
      if (key === null) return;
      event.preventDefault();
      press(key);
    };
    addEventListener("keydown", listen);
    return () => removeEventListener("keydown", listen);
  }, [press, full]);
}

const SPEED_WORDS = ["an eighth", "a quarter", "half", "full"];

function Keys({ player, press, several }: { player: Player; press: (key: PlayerKey) => void; several: boolean }) {
  const loop = player.loop === null ? "loop from here" : player.loop.toSec === null ? "loop to here" : "no loop";
  const keys: readonly (readonly [string, PlayerKey, string])[] = [
    ["Space", "run", player.running ? "stop" : "run"],
    ["←", "back", "a frame back"],
    ["→", "forward", "a frame on"],
    ["[", "slower", "slower"],
    ["]", "faster", "faster"],
    ["L", "loop", loop],
    ["P", "path", player.path ? "no path" : "path"],
    ...(several ? ([["W", "wipe", player.wipe ? "side by side" : "wipe"]] as const) : []),
    ...(player.wipe && several
      ? ([
          [",", "wipe left", "wipe left"],
          [".", "wipe right", "wipe right"],
        ] as const)
      : []),
  ];
  return (
    <p className="no-print mt-3 flex flex-wrap items-center gap-x-2 gap-y-2 border-t border-rule pt-3">
      {keys.map(([key, does, words]) => (
        <Button
          key={does}
          tone="quiet"
          onClick={() => press(does)}
          disabled={(does === "slower" && player.speed === 0) || (does === "faster" && player.speed === SPEEDS.length - 1)}
        >
          <kbd className="num mr-1 text-soft">{key}</kbd>
          {words}
        </Button>
      ))}
      <span className="text-sm text-soft">{SPEED_WORDS[player.speed]} speed · F full screen</span>
    </p>
  );
}

/** The comparison as files: testers publish. */
function Leave({ takes, span, player, atSec, panesAt }: Omit<ScreenProps, "zeros"> & { player: Player; atSec: number }) {
  const [share, setShare] = useState<number | null>(null);
  const [trouble, setTrouble] = useState("");
  const stop = useRef<AbortController>(null);
  useEffect(() => () => stop.current?.abort(), []);
  const sheet = sheetOf(takes.length, EXPORT_WIDTH, player.wipe && takes.length > 1);
  const draw = async (c: OffscreenCanvasRenderingContext2D, sec: number): Promise<void> =>
    compose(c, sheet, await panesAt(sec), player, inksOf(document.documentElement));
  const still = async (): Promise<void> => {
    const canvas = new OffscreenCanvas(sheet.width, sheet.height);
    const c = canvas.getContext("2d");
    if (c === null) return;
    await draw(c, atSec);
    saveBlob("takes.png", await canvas.convertToBlob({ type: "image/png" }));
  };
  const clip = async (): Promise<void> => {
    stop.current = new AbortController();
    setTrouble("");
    setShare(0);
    const [from, to] = player.loop?.toSec == null ? [span.fromSec, span.toSec] : [player.loop.fromSec, player.loop.toSec];
    const timesSec = span.timesSec.filter((t) => t >= from - 1e-6 && t <= to + 1e-6);
    const made = await clipOf({ ...sheet, timesSec, draw, onShare: setShare, signal: stop.current.signal }).catch(() => null);
    setShare(null);
    if (made !== null) saveBlob("takes.webm", made);
    else if (!stop.current.signal.aborted) setTrouble("This browser could not encode the clip. The still can be saved all the same.");
  };
  return (
    <p className="no-print mt-3 flex flex-wrap items-center gap-3">
      <Button onClick={() => void still()}>Save this still (PNG)</Button>
      {share === null ? (
        <Button onClick={() => void clip()}>
          {player.loop?.toSec == null ? "Save as a clip (WebM)" : "Save the loop as a clip (WebM)"}
        </Button>
      ) : (
        <>
          <span role="status">{`Making the clip: ${Math.floor(100 * share)} %`}</span>
          <Button tone="quiet" onClick={() => stop.current?.abort()}>
            Stop
          </Button>
        </>
      )}
      {trouble !== "" && <Note tone="alert">{trouble}</Note>}
    </p>
  );
}
