import { useEffect } from "react";
import type { Verdict } from "../../api/client";

/** How each verdict sounds, tone after tone [Hz], and feels, buzz after pause [ms]: told apart without looking. */
const SOUND: Record<Verdict, number[]> = {
  mark: [660, 990],
  mark_with_care: [660, 660],
  need_more: [520, 440, 520],
  hold: [220, 220, 220],
};
const BUZZ: Record<Verdict, number[]> = {
  mark: [70],
  mark_with_care: [70, 90, 70],
  need_more: [70, 90, 70, 90, 70],
  hold: [600],
};
const TONE_S = 0.16;

export function sound(verdict: Verdict) {
  const audio = new AudioContext();
  SOUND[verdict].forEach((hertz, k) => {
    const [tone, level] = [audio.createOscillator(), audio.createGain()];
    const from = audio.currentTime + k * TONE_S * 1.25;
    tone.frequency.value = hertz;
    level.gain.setValueAtTime(0.25, from);
    level.gain.exponentialRampToValueAtTime(0.001, from + TONE_S);
    tone.connect(level).connect(audio.destination);
    tone.start(from);
    tone.stop(from + TONE_S);
  });
  setTimeout(() => audio.close(), 2000);
}

export function buzz(verdict: Verdict) {
  navigator.vibrate?.(BUZZ[verdict]);
}

/** Keeps the screen awake while this is shown, where the device lets a page do so. */
export function useAwake() {
  useEffect(() => {
    let lock: WakeLockSentinel | null = null;
    let gone = false;
    const ask = () => {
      if (document.visibilityState !== "visible") return;
      navigator.wakeLock
        ?.request("screen")
        .then((got) => {
          lock = got;
          if (gone) void got.release();
        })
        .catch(() => undefined); // a low battery may refuse it
    };
    ask();
    document.addEventListener("visibilitychange", ask);
    return () => {
      gone = true;
      document.removeEventListener("visibilitychange", ask);
      void lock?.release();
    };
  }, []);
}
