import type { Schemas } from "../../api/client";
import { usePlanView } from "./planView";
import { Pin, Way } from "./shapes";

type Strip = Schemas["StripView"];

/** The grid of the passive sweep on the ground: walked strips full, those to walk dashed, the next one bold. */
export function StripWays({ strips }: { strips: Strip[] }) {
  return strips.map((s) => (
    <Way
      key={s.id}
      corners={[s.start, s.end]}
      stroke={s.walked ? "var(--mark)" : s.next ? "var(--deep)" : "var(--quiet)"}
      strokeWidth={s.next ? 5 : s.walked ? 3 : 1}
      strokeDasharray={s.walked || s.next ? "" : "3 6"}
      opacity={s.walked ? 0.55 : 1}
    />
  ));
}

/** Where the next strip begins, and which way it goes. */
export function NextStrip({ strips }: { strips: Strip[] }) {
  const { toPicture } = usePlanView();
  const next = strips.find((s) => s.next);
  if (!next) return null;
  const [[x, y], [x2, y2]] = [toPicture(next.start), toPicture(next.end)];
  const turn = (Math.atan2(y2 - y, x2 - x) * 180) / Math.PI;
  return (
    <Pin at={next.start} text={`Start of ${next.text}`} size={34} above={3}>
      <svg width="34" height="34" aria-hidden>
        <g transform={`rotate(${turn} 17 17)`}>
          <circle cx="17" cy="17" r="11" fill="var(--deep)" />
          <path d="M26 9l9 8-9 8z" fill="var(--deep)" />
        </g>
        <text x="17" y="21" textAnchor="middle" fontSize="11" fontWeight="700" fill="var(--sheet)">
          {next.id}
        </text>
      </svg>
    </Pin>
  );
}
