import { Map as MapIcon } from "lucide-react";
import type { Schemas } from "../api/client";

const W = 72;
const H = 48;
const EDGE = 5;

/** The lines of a plan as small as a stamp, north up; a sign where nothing is drawn. */
export function PlanSketch({ lines }: { lines: Schemas["SketchedLine"][] }) {
  const all = lines.flatMap((l) => l.corners);
  const east = all.map(([x = 0]) => x);
  const north = all.map(([, y = 0]) => y);
  const [left, low] = [Math.min(...east), Math.min(...north)];
  const wide = Math.max(...east) - left;
  const high = Math.max(...north) - low;
  const scale = Math.min((W - 2 * EDGE) / Math.max(wide, 1), (H - 2 * EDGE) / Math.max(high, 1));
  const x = (v: number) => W / 2 + (v - left - wide / 2) * scale;
  const y = (v: number) => H / 2 - (v - low - high / 2) * scale;
  return (
    <svg width={W} height={H} className="shrink-0 rounded bg-paper" aria-hidden>
      {lines.length ? (
        lines.map((l, i) => (
          <polyline
            key={i}
            points={l.corners.map(([e = 0, n = 0]) => `${x(e)},${y(n)}`).join(" ")}
            fill="none"
            stroke={l.hex}
            strokeWidth={2.5}
          />
        ))
      ) : (
        <MapIcon x={W / 2 - 11} y={H / 2 - 11} width={22} height={22} color="var(--edge)" />
      )}
    </svg>
  );
}
