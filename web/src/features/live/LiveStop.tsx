import { alongLine } from "./alongLine";
import { LiveBox } from "./LiveBox";
import { type Live, useLive } from "./useLive";

/** The attached receiver beside a stop's form: takes signal, depth and mode, and logs the stop on its own button. */
export function LiveStop(p: {
  lineId: number;
  units: "metric" | "imperial";
  onTake: (shown: Record<string, string>) => void;
  submit: () => void;
}) {
  const fill = async (live: Live) => {
    const r = live.receiver;
    if (!r) return;
    const focus = document.activeElement instanceof HTMLInputElement ? document.activeElement.name : "";
    if (focus === "depth_lifted") return p.onTake({ depth_lifted: r.depth });
    p.onTake({ signal: r.signal, depth: r.depth, mode: r.mode, ...(await alongLine(p.lineId, live)) });
  };
  const live = useLive(p.units, (now) => {
    void fill(now).then(p.submit);
  });
  if (!live) return null;
  return <LiveBox live={live} what="Receiver" shows={live.receiver?.text} onTake={() => void fill(live)} />;
}
