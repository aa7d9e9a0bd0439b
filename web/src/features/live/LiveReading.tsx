import type { Job } from "../../api/client";
import { hertz } from "../../api/units";
import { LiveBox } from "./LiveBox";
import { useLive } from "./useLive";

/** The attached transmitter beside the form of its readings: one tap takes what it shows. */
export function LiveReading(p: {
  units: Job["units"];
  onTake: (reading: { volts: string; milliamps: string; freq: string }) => void;
}) {
  const live = useLive(p.units);
  if (!live) return null;
  const t = live.transmitter;
  return (
    <LiveBox
      live={live}
      what="Transmitter"
      shows={t?.text}
      ready={Boolean(t?.volts)}
      onTake={() => t && p.onTake({ volts: t.volts, milliamps: t.milliamps, freq: hertz(t.freq_hz) })}
    />
  );
}
