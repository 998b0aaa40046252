// The checkpoint tone: scheduled ahead on the audio clock, because hidden tabs throttle timers. Sound needs a key press first. Each
// unit on the wall has its own voice.

import { useEffect, useRef, useSyncExternalStore } from "react";

const TONE_SEC = 0.35;
const BEEP_SEC = 0.16;

/** A pitch and how many times it sounds. */
export interface Voice {
  pitchHz: number;
  beeps: number;
}
export const PLAIN_VOICE: Voice = { pitchHz: 660, beeps: 1 };

/**
 * `due` names the checkpoint, so that each sounds once; null for none. `dueInSec`: wall seconds until then. A change of volume, of the
 * clock's rate or of the page's right to sound schedules it anew.
 */
export function useReminderTone(due: number | null, dueInSec: number | null, rate: number, volume: number, voice = PLAIN_VOICE): void {
  const audio = useAudio();
  const inSec = useRef(dueInSec);
  useEffect(() => {
    inSec.current = dueInSec;
  });
  const { pitchHz, beeps } = voice;
  useEffect(() => {
    if (audio === null || due === null || inSec.current === null || inSec.current < 0 || volume === 0) return;
    const tone = schedule(audio, audio.currentTime + inSec.current, volume, { pitchHz, beeps });
    return () => tone.disconnect();
  }, [audio, due, rate, volume, pitchHz, beeps]);
}

let shared: AudioContext | null = null;
const listeners = new Set<() => void>();

/** One audio for the page: browsers allow few, and every unit's tone shares it. */
function watch(listener: () => void): () => void {
  listeners.add(listener);
  if (shared === null && typeof AudioContext !== "undefined") {
    shared = new AudioContext();
    const wake = (): void => void shared?.resume();
    shared.addEventListener("statechange", () => listeners.forEach((tell) => tell()));
    addEventListener("keydown", wake);
    addEventListener("pointerdown", wake);
  }
  return () => void listeners.delete(listener);
}

/** The page's audio once it may sound, else null. */
const useAudio = (): AudioContext | null => useSyncExternalStore(watch, () => (shared?.state === "running" ? shared : null));

function schedule(audio: AudioContext, at: number, volume: number, { pitchHz, beeps }: Voice): GainNode {
  const oscillator = audio.createOscillator();
  const gain = audio.createGain();
  oscillator.frequency.value = pitchHz;
  const lengthSec = beeps === 1 ? TONE_SEC : BEEP_SEC;
  for (let i = 0; i < beeps; i++) {
    const from = at + 1.5 * lengthSec * i;
    gain.gain.setValueAtTime(0, from);
    gain.gain.linearRampToValueAtTime(volume * 0.4, from + 0.03);
    gain.gain.linearRampToValueAtTime(0, from + lengthSec);
  }
  oscillator.connect(gain).connect(audio.destination);
  oscillator.start(at);
  oscillator.stop(at + 1.5 * lengthSec * beeps);
  return gain;
}
