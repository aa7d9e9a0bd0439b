import { bisector } from "d3-array";
import { line } from "d3-shape";
import type { Schemas } from "../../api/client";
import { VERDICTS } from "../Verdict";
import { BOTTOM, CURRENT_TOP, GROUND, type Scale } from "./sizes";

type Station = Schemas["TraceView"]["stations"][number];

/**
 * More stations than there is room for: stretches of one verdict above ground, depth and current as lines. A tap takes
 * the station nearest to it.
 */
export function Crowd(p: {
  stations: Station[];
  at: (m: number) => number;
  d: Scale;
  c: Scale;
  onChoose: (id: number) => void;
}) {
  const runs = runsOf(p.stations);
  const depth = line<Station>()
    .defined((s) => s.depth_m !== null)
    .x((s) => p.at(s.distance_m))
    .y((s) => p.d(s.depth_m ?? 0));
  const current = line<Station>()
    .defined((s) => s.current_a !== null)
    .x((s) => p.at(s.distance_m))
    .y((s) => p.c(s.current_a ?? 0));
  const first = p.at(p.stations[0]?.distance_m ?? 0);
  const last = p.at(p.stations.at(-1)?.distance_m ?? 0);
  const choose = (x: number) => {
    const near = nearest(p.stations, p.at, x);
    if (near) p.onChoose(near.id);
  };
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: the station table below offers the same by keyboard
    <g
      data-crowd={p.stations.length}
      className="cursor-pointer"
      onClick={(e) =>
        choose(e.clientX - (e.currentTarget.ownerSVGElement?.getBoundingClientRect().left ?? 0))
      }
    >
      <rect x={first} y={0} width={Math.max(last - first, 1)} height={BOTTOM} fill="transparent" />
      {runs.map((r) => {
        const v = VERDICTS[r.verdict];
        const [x0, x1] = [p.at(r.from), p.at(r.to)];
        const wide = x1 - x0 > 22;
        const Icon = v.icon;
        return (
          <g key={`${r.verdict}-${r.from}`} data-verdict={r.verdict}>
            <title>{`${v.label}: ${r.count} stations`}</title>
            <rect
              x={x0}
              y={4}
              width={Math.max(x1 - x0, 1.5)}
              height={28}
              fill={`var(--${v.token}-bg)`}
              stroke={`var(--${v.token})`}
              strokeWidth={1.5}
            />
            {wide ? (
              <Icon
                x={(x0 + x1) / 2 - 9}
                y={9}
                width={18}
                height={18}
                color={`var(--${v.token})`}
                strokeWidth={2.6}
                aria-hidden
              />
            ) : null}
            <rect
              x={x0}
              y={34}
              width={Math.max(x1 - x0, 1.5)}
              height={GROUND - 36}
              fill={`var(--${v.token})`}
              opacity={0.35}
            />
          </g>
        );
      })}
      {p.stations
        .filter((s) => s.mark_id !== null)
        .map((s) => (
          <path key={s.id} d={`M${p.at(s.distance_m) - 5} ${GROUND} l5 -7 l5 7 z`} fill="var(--ink)" />
        ))}
      <path d={depth(p.stations) ?? ""} fill="none" stroke="var(--ink)" strokeWidth={2} />
      <path d={current(p.stations) ?? ""} fill="none" stroke="var(--ink)" strokeWidth={2} />
      <text x={last} y={CURRENT_TOP - 20} textAnchor="end" fontSize={12.5} fill="var(--quiet)">
        {p.stations.length} stations
      </text>
    </g>
  );
}

type Run = { verdict: Station["verdict"]; from: number; to: number; count: number };

/** Stretches of one verdict, each up to half way to the next. */
function runsOf(stations: Station[]): Run[] {
  const found: Run[] = [];
  for (const s of stations) {
    const last = found.at(-1);
    if (last) last.to = (last.to + s.distance_m) / 2;
    if (last && last.verdict === s.verdict) {
      last.to = s.distance_m;
      last.count += 1;
    } else
      found.push({ verdict: s.verdict, from: last ? last.to : s.distance_m, to: s.distance_m, count: 1 });
  }
  return found;
}

function nearest(stations: Station[], at: (m: number) => number, x: number): Station | undefined {
  const k = bisector((s: Station) => at(s.distance_m)).left(stations, x);
  const [a, b] = [stations[k - 1], stations[k]];
  if (!a || !b) return a ?? b;
  return x - at(a.distance_m) < at(b.distance_m) - x ? a : b;
}

export function StationFlag(p: {
  station: Station;
  x: number;
  depthY: number | null;
  currentY: number | null;
  size: number;
  chosen: boolean;
  onChoose: () => void;
}) {
  const v = VERDICTS[p.station.verdict];
  const Icon = v.icon;
  const ink = `var(--${v.token})`;
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: the station table below offers the same by keyboard
    <g data-station={p.station.id} onClick={p.onChoose} className="cursor-pointer">
      <title>{`${p.station.distance_text}: ${v.label}`}</title>
      <rect x={p.x - p.size / 2} y={0} width={p.size} height={BOTTOM} fill="transparent" />
      <line x1={p.x} x2={p.x} y1={32} y2={GROUND} stroke={ink} strokeWidth={p.chosen ? 4 : 2} />
      <rect
        x={p.x - p.size / 2}
        y={4}
        width={p.size}
        height={28}
        rx={Math.min(5, p.size / 4)}
        fill={`var(--${v.token}-bg)`}
        stroke={ink}
        strokeWidth={p.chosen ? 3 : 1.5}
      />
      <Icon
        x={p.x - (p.size * 0.7) / 2}
        y={18 - (p.size * 0.7) / 2}
        width={p.size * 0.7}
        height={p.size * 0.7}
        color={ink}
        strokeWidth={2.6}
        aria-hidden
      />
      {p.station.mark_id !== null ? (
        <path d={`M${p.x - 7} ${GROUND} l7 -8 l7 8 z`} fill="var(--ink)">
          <title>marked</title>
        </path>
      ) : null}
      {p.depthY === null ? null : (
        <circle cx={p.x} cy={p.depthY} r={6} fill="var(--sheet)" stroke={ink} strokeWidth={3} />
      )}
      {p.currentY === null ? null : (
        <rect
          x={p.x - 5}
          y={p.currentY - 5}
          width={10}
          height={10}
          fill="var(--sheet)"
          stroke={ink}
          strokeWidth={3}
          transform={`rotate(45 ${p.x} ${p.currentY})`}
        />
      )}
    </g>
  );
}
