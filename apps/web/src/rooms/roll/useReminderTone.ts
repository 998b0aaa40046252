// The checkpoint tone: scheduled ahead on the audio clock, because hidden tabs throttle timers. Sound needs a key press first.

import { useEffect, useRef, useState } from "react";

const TONE_SEC = 0.35;
const PITCH_HZ = 660;

/**
 * `due` names the checkpoint, so that each sounds once; null for none. `dueInSec`: wall seconds until then. A change of volume, of the
 * clock's rate or of the page's right to sound schedules it anew.
 */
export function useReminderTone(due: number | null, dueInSec: number | null, rate: number, volume: number): void {
  const audio = useAudio();
  const inSec = useRef(dueInSec);
  useEffect(() => {
    inSec.current = dueInSec;
  });
  useEffect(() => {
    if (audio === null || due === null || inSec.current === null || inSec.current < 0 || volume === 0) return;
    const tone = schedule(audio, audio.currentTime + inSec.current, volume);
    return () => tone.disconnect();
  }, [audio, due, rate, volume]);
}

/** The page's audio once it may sound, else null. */
function useAudio(): AudioContext | null {
  const [running, setRunning] = useState<AudioContext | null>(null);
  useEffect(() => {
    if (typeof AudioContext === "undefined") return;
    const context = new AudioContext();
    const follow = (): void => setRunning(context.state === "running" ? context : null);
    const wake = (): void => void context.resume();
    context.addEventListener("statechange", follow);
    addEventListener("keydown", wake);
    addEventListener("pointerdown", wake);
    return () => {
      removeEventListener("keydown", wake);
      removeEventListener("pointerdown", wake);
      context.removeEventListener("statechange", follow);
      void context.close();
    };
  }, []);
  return running;
}

function schedule(audio: AudioContext, at: number, volume: number): GainNode {
  const oscillator = audio.createOscillator();
  const gain = audio.createGain();
  oscillator.frequency.value = PITCH_HZ;
  gain.gain.setValueAtTime(0, at);
  gain.gain.linearRampToValueAtTime(volume * 0.4, at + 0.03);
  gain.gain.linearRampToValueAtTime(0, at + TONE_SEC);
  oscillator.connect(gain).connect(audio.destination);
  oscillator.start(at);
  oscillator.stop(at + TONE_SEC);
  return gain;
}
