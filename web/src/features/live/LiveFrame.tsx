import { alongLine } from "./alongLine";
import { LiveBox } from "./LiveBox";
import { type Live, useLive } from "./useLive";

interface Shown {
  arrow: string;
  level: string;
  distance?: string;
}

/** The attached frame beside the form of its readings: takes direction and level, and logs on the log button. */
export function LiveFrame(p: {
  lineId: number;
  units: "metric" | "imperial";
  onTake: (shown: Shown) => void;
  submit: () => void;
}) {
  const fill = async (live: Live) => {
    if (live.frame)
      p.onTake({
        arrow: live.frame.arrow,
        level: live.frame.level,
        ...(await alongLine(p.lineId, live)),
      });
  };
  const live = useLive(p.units, (now) => {
    if (now.frame) void fill(now).then(p.submit);
  });
  if (!live) return null;
  return (
    <LiveBox
      live={live}
      what="Frame"
      shows={live.frame?.text}
      note="Hold its front to the far end."
      onTake={() => void fill(live)}
    />
  );
}
