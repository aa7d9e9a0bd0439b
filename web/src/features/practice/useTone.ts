import { useEffect, useRef } from "react";

const LOW_HZ = 160;
const OCTAVES = 3;
const NULL_HZ = 90;

interface Voice {
  audio: AudioContext;
  tone: OscillatorNode;
  loud: GainNode;
}

/** The receiver's sound: it rises with a peak; listening for the null it growls and falls silent over the line. */
export function useTone(on: boolean, level: number | null, listening: "peak" | "null") {
  const voice = useRef<Voice | null>(null);
  useEffect(() => {
    if (!on) return;
    const audio = new AudioContext();
    const [tone, loud] = [audio.createOscillator(), audio.createGain()];
    loud.gain.value = 0;
    tone.connect(loud).connect(audio.destination);
    tone.start();
    voice.current = { audio, tone, loud };
    return () => {
      voice.current = null;
      void audio.close();
    };
  }, [on]);
  useEffect(() => {
    const v = voice.current;
    if (!v) return;
    const share = Math.min(Math.max(level ?? 0, 0), 1);
    v.tone.type = listening === "null" ? "sawtooth" : "sine";
    const pitch = listening === "null" ? NULL_HZ * (1 + share) : LOW_HZ * 2 ** (OCTAVES * share);
    v.tone.frequency.setTargetAtTime(pitch, v.audio.currentTime, 0.03);
    const volume = level === null ? 0 : listening === "null" ? 0.2 * share : 0.04 + 0.16 * share;
    v.loud.gain.setTargetAtTime(volume, v.audio.currentTime, 0.03);
  }, [level, listening]);
}
