import { scaleLinear } from "d3-scale";
import type { Schemas } from "../api/client";
import type { Formatter } from "../api/units";
import { DistanceAxis } from "./Axes";
import { useWidth } from "./shared";
import { VERDICTS } from "./Verdict";

type Sonde = Schemas["SondeView"];
type Stop = Sonde["stops"][number];

const LEFT = 58;
const GROUND = 56;
const DEPTH = 150;
const FLAG = 26;

/** A cut along the pipe: verdicts above ground, heads below with how far they may be off, and the fall they show. */
export function SondeRun(p: {
  sonde: Pick<Sonde, "length_m" | "depth_min_m" | "depth_max_m" | "stops">;
  startM: number;
  way: "on" | "back";
  format: Formatter;
  chosen: number | null;
  onChoose: (id: number) => void;
}) {
  const [box, width] = useWidth();
  const { sonde: s, format } = p;
  const [from, to] = shownOf(p);
  const x = scaleLinear()
    .domain([format.toUnit(from), format.toUnit(to)])
    .range([LEFT, Math.max(width - 16, LEFT + 80)]);
  const at = (m: number) => x(format.toUnit(m));
  const places = s.stops.map((t) => at(t.distance_m));
  const size = Math.max(9, Math.min(FLAG, ...places.slice(1).map((v, i) => v - (places[i] ?? 0) - 1)));
  const right = x.range()[1] ?? 0;
  const deepest = Math.max(s.depth_max_m, ...s.stops.map((t) => (t.head_m ?? 0) + (t.head_pm_m ?? 0))) * 1.2;
  const d = scaleLinear()
    .domain([0, deepest])
    .range([GROUND, GROUND + DEPTH]);
  const ahead = p.way === "on" ? 1 : -1;
  const found = s.stops.filter((t) => t.head_m !== null && t.x_m !== null && t.proved);
  const path = found.map((t) => `${at(t.x_m ?? 0)},${d(t.head_m ?? 0)}`).join(" L");
  return (
    <div ref={box}>
      <svg
        width={width}
        height={GROUND + DEPTH + 28}
        role="group"
        aria-label="Sonde run: stops and depth of the head along the pipe"
      >
        <rect x={LEFT} y={GROUND} width={Math.max(right - LEFT, 0)} height={DEPTH} fill="var(--soil)" />
        <rect
          x={LEFT}
          y={d(s.depth_min_m)}
          width={Math.max(at(Math.min(s.length_m, to)) - LEFT, 0)}
          height={d(s.depth_max_m) - d(s.depth_min_m)}
          fill="var(--soil-line)"
          opacity={0.35}
        >
          <title>Expected depth</title>
        </rect>
        <line x1={LEFT} x2={right} y1={GROUND} y2={GROUND} stroke="var(--soil-line)" strokeWidth={4} />
        {[s.depth_min_m, s.depth_max_m].map((v) => (
          <text key={v} x={LEFT - 6} y={d(v) + 5} textAnchor="end" fontSize={12.5} fill="var(--ink)">
            {format.depth(v)}
          </text>
        ))}
        <text x={LEFT - 6} y={GROUND + 5} textAnchor="end" fontSize={12.5} fill="var(--ink)">
          ground
        </text>
        <text x={right} y={GROUND + DEPTH - 6} textAnchor="end" fontSize={12.5} fill="var(--ink)">
          depth of the head; band: expected
        </text>
        {found.length > 1 ? <path d={`M${path}`} fill="none" stroke="var(--deep)" strokeWidth={3} /> : null}
        <path
          d={`M${at(p.startM)} ${GROUND + 3} v10 m0 0 l${7 * ahead} 0 m${-5 * ahead} -5 l${5 * ahead} 5 l${-5 * ahead} 5`}
          fill="none"
          stroke="var(--ink)"
          strokeWidth={2.5}
          data-entry
        >
          <title>Put in here</title>
        </path>
        {s.stops.map((t) => (
          <Flag
            key={t.id}
            stop={t}
            x={at(t.distance_m)}
            headX={at(t.x_m ?? t.distance_m)}
            d={d}
            size={size}
            chosen={p.chosen === t.id}
            onChoose={() => p.onChoose(t.id)}
          />
        ))}
        <DistanceAxis scale={x} y={GROUND + DEPTH} width={width} format={format} />
      </svg>
    </div>
  );
}

/** From where to where the cut goes [m]: what the rod has passed and a little beyond; without a stop the whole line. */
function shownOf(p: Parameters<typeof SondeRun>[0]): [number, number] {
  const passed = [p.startM, ...p.sonde.stops.map((t) => t.distance_m)];
  const [first, last] = [Math.min(...passed), Math.max(...passed)];
  const more = 0.2 * Math.max(last - first, 5);
  if (!p.sonde.stops.length) return [0, p.sonde.length_m];
  return [Math.max(first - (p.way === "on" ? 0 : more), 0), last + (p.way === "on" ? more : 0)];
}

function Flag(p: {
  stop: Stop;
  x: number;
  headX: number;
  d: (m: number) => number;
  size: number;
  chosen: boolean;
  onChoose: () => void;
}) {
  const { stop: t, d, size } = p;
  const v = VERDICTS[t.verdict];
  const Icon = v.icon;
  const ink = `var(--${v.token})`;
  const head = t.head_m;
  const pm = t.head_pm_m ?? 0;
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: the table of stops below offers the same by keyboard
    <g data-stop={t.id} onClick={p.onChoose} className="cursor-pointer">
      <title>{`${t.distance_text}: ${v.label}`}</title>
      <rect x={p.x - size / 2 - 2} y={0} width={size + 4} height={GROUND + DEPTH} fill="transparent" />
      <line x1={p.x} x2={p.x} y1={34} y2={GROUND} stroke={ink} strokeWidth={p.chosen ? 4 : 2} />
      <rect
        x={p.x - size / 2}
        y={6}
        width={size}
        height={28}
        rx={Math.min(5, size / 4)}
        fill={`var(--${v.token}-bg)`}
        stroke={ink}
        strokeWidth={p.chosen ? 3 : 1.5}
      />
      <Icon
        x={p.x - 0.35 * size}
        y={20 - 0.35 * size}
        width={0.7 * size}
        height={0.7 * size}
        color={ink}
        strokeWidth={2.6}
        aria-hidden
      />
      {t.mark_id !== null ? (
        <path d={`M${p.x - 7} ${GROUND} l7 -8 l7 8 z`} fill="var(--ink)">
          <title>marked</title>
        </path>
      ) : null}
      {head === null ? null : (
        <>
          <path
            d={`M${p.headX} ${d(Math.max(head - pm, 0))} V${d(head + pm)} M${p.headX - 5} ${d(Math.max(head - pm, 0))} h10 M${p.headX - 5} ${d(head + pm)} h10`}
            stroke="var(--ink)"
            strokeWidth={1.5}
          />
          <g transform={`translate(${p.headX} ${d(head)}) rotate(${-t.tilt_deg})`}>
            <rect
              x={-9}
              y={-5}
              width={18}
              height={10}
              rx={5}
              fill="var(--sheet)"
              stroke={ink}
              strokeWidth={3}
            />
          </g>
        </>
      )}
    </g>
  );
}
