// The checkpoint tone: scheduled ahead on the audio clock, because hidden tabs throttle timers. Sound needs a key press first.

import { useEffect, useRef } from "react";

const TONE_SEC = 0.35;

/** `dueInSec`: wall seconds until the tone, null for none; `due` names the checkpoint, so that each sounds once. */
export function useReminderTone(due: number | null, dueInSec: number | null, volume: number): void {
  const context = useRef<AudioContext | null>(null);
  useEffect(() => {
    const wake = (): void => {
      if (typeof AudioContext === "undefined") return;
      context.current ??= new AudioContext();
      void context.current.resume();
    };
    addEventListener("keydown", wake);
    addEventListener("pointerdown", wake);
    return () => {
      removeEventListener("keydown", wake);
      removeEventListener("pointerdown", wake);
      void context.current?.close();
      context.current = null;
    };
  }, []);
  const inSec = useRef(dueInSec);
  useEffect(() => {
    inSec.current = dueInSec;
  });
  useEffect(() => {
    const audio = context.current;
    if (audio === null || due === null || inSec.current === null || inSec.current < 0 || volume === 0) return;
    const oscillator = audio.createOscillator();
    const gain = audio.createGain();
    const at = audio.currentTime + inSec.current;
    oscillator.frequency.value = 660;
    gain.gain.setValueAtTime(0, at);
    gain.gain.linearRampToValueAtTime(volume * 0.4, at + 0.03);
    gain.gain.linearRampToValueAtTime(0, at + TONE_SEC);
    oscillator.connect(gain).connect(audio.destination);
    oscillator.start(at);
    oscillator.stop(at + TONE_SEC);
    return () => oscillator.disconnect();
  }, [due, volume]);
}
