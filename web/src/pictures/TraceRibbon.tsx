import { scaleLinear } from "d3-scale";
import { area, line } from "d3-shape";
import type { Schemas } from "../api/client";
import { type Formatter, milliamps } from "../api/units";
import { DistanceAxis, ValueAxis } from "./Axes";
import { Crowd, StationFlag } from "./ribbon/Stations";
import { BOTTOM, CURRENT_TOP, DEPTH, GROUND, HAPPENED, LEFT, type Scale } from "./ribbon/sizes";
import { useWidth } from "./shared";

type Trace = Schemas["TraceView"];
const DASHES = ["2 4", "9 4", "9 3 2 3"];
/** Stations closer than this on the screen are drawn as stretches and lines [px]. */
const CROWDED_PX = 9;

/** Stations above ground with verdicts, depth below against the expected band, current against the forecast band. */
export function TraceRibbon(p: {
  trace: Trace;
  format: Formatter;
  chosen: number | null;
  onChoose: (id: number) => void;
}) {
  const [box, width] = useWidth();
  const t = p.trace;
  const far = Math.max(t.length_m, ...t.stations.map((s) => s.distance_m));
  const x = scaleLinear()
    .domain([0, p.format.toUnit(far)])
    .range([LEFT, Math.max(width - 16, LEFT + 80)]);
  const at = (m: number) => x(p.format.toUnit(m));
  const deepest = Math.max(t.depth_max_m, ...t.stations.map((s) => s.depth_m ?? 0)) * 1.15;
  const d = scaleLinear()
    .domain([0, deepest])
    .range([GROUND, GROUND + DEPTH]);
  const most =
    Math.max(
      ...t.band.high_a,
      ...t.beside.flatMap((b) => b.band.high_a),
      ...t.stations.map((s) => s.current_a ?? 0),
      1e-4,
    ) * 1.1;
  const c = scaleLinear().domain([0, most]).range([BOTTOM, CURRENT_TOP]);
  const places = t.stations.map((s) => at(s.distance_m));
  const crowded = t.stations.length > (width - LEFT) / CROWDED_PX;
  const closest = Math.min(26, ...places.slice(1).map((v, i) => v - (places[i] ?? 0) - 1));
  const loudest = [...t.beside].sort((a, b) => strongest(b) - strongest(a)).slice(0, NAMED);
  const named = loudest.map((b) => b.name);
  return (
    <div ref={box}>
      <svg
        width={width}
        height={BOTTOM + 30}
        role="group"
        aria-label="Trace ribbon: stations, depth and current against distance"
      >
        <Grounds trace={t} at={at} d={d} right={x.range()[1] ?? 0} format={p.format} />
        <Currents trace={t} at={at} c={c} right={x.range()[1] ?? 0} />
        {t.beside.map((b, i) => (
          <Beside
            key={b.text}
            beside={b}
            at={at}
            c={c}
            dash={DASHES[i % DASHES.length] ?? ""}
            rank={named.indexOf(b.name)}
          />
        ))}
        <DistanceAxis scale={x} y={BOTTOM} width={width} format={p.format} />
        {t.events.map((e, i) => (
          <Happened
            key={`${e.kind}-${e.start_m}`}
            event={e}
            from={at(e.start_m)}
            to={at(e.end_m)}
            left={LEFT}
            right={x.range()[1] ?? 0}
            named={roomy(t.events, i, at)}
          />
        ))}
        {t.end ? (
          <Ends
            from={at(t.end.low_m)}
            to={at(t.end.high_m)}
            at={at(t.end.at_m)}
            right={x.range()[1] ?? 0}
            text={t.end_text}
          />
        ) : null}
        {crowded ? <Crowd stations={t.stations} at={at} d={d} c={c} onChoose={p.onChoose} /> : null}
        {(crowded ? t.stations.filter((s) => s.id === p.chosen) : t.stations).map((s) => (
          <StationFlag
            key={s.id}
            station={s}
            x={at(s.distance_m)}
            depthY={s.depth_m === null ? null : d(s.depth_m)}
            currentY={s.current_a === null ? null : c(s.current_a)}
            size={crowded ? 26 : Math.max(closest, 9)}
            chosen={p.chosen === s.id}
            onChoose={() => p.onChoose(s.id)}
          />
        ))}
      </svg>
    </div>
  );
}

type Event = Trace["events"][number];

/** Whether an event's name has room beside the one before it. */
function roomy(events: Event[], i: number, at: (m: number) => number) {
  const before = events[i - 1];
  const own = events[i];
  return !before || !own || at(own.at_m) - at(before.at_m) > 95;
}

/** Something that happened between two stations, named between the depths and the currents that show it. */
function Happened(p: {
  event: Event;
  from: number;
  to: number;
  left: number;
  right: number;
  named: boolean;
}) {
  const middle = (p.from + p.to) / 2;
  const anchor = middle > p.right - 60 ? "end" : middle < p.left + 60 ? "start" : "middle";
  const y = HAPPENED;
  return (
    <g data-event={p.event.kind}>
      <title>{p.event.text}</title>
      <rect
        x={p.from}
        y={GROUND}
        width={Math.max(p.to - p.from, 2)}
        height={BOTTOM - GROUND}
        fill="var(--care)"
        opacity={0.13}
      />
      <path
        d={`M${p.from} ${y - 4} V${y + 4} M${p.to} ${y - 4} V${y + 4} M${p.from} ${y} H${Math.max(p.to, p.from + 2)}`}
        stroke="var(--care)"
        strokeWidth={2.5}
      />
      {p.named ? (
        <text
          x={middle}
          y={y + 17}
          textAnchor={anchor}
          fontSize={13}
          fontWeight={700}
          fill="var(--care)"
          stroke="var(--sheet)"
          strokeWidth={4}
          paintOrder="stroke"
        >
          {p.event.label}
        </text>
      ) : null}
    </g>
  );
}

/** Where the current says that the wire ends, with its range. */
function Ends(p: { from: number; to: number; at: number; right: number; text: string }) {
  return (
    <g data-trace-end>
      <title>{p.text}</title>
      <rect
        x={p.from}
        y={GROUND}
        width={Math.max(Math.min(p.to, p.right) - p.from, 3)}
        height={BOTTOM - GROUND}
        fill="var(--need)"
        opacity={0.16}
      />
      <path d={`M${p.at} ${GROUND}V${BOTTOM}`} stroke="var(--need)" strokeWidth={2.5} strokeDasharray="7 4" />
      <text
        x={p.at - 6}
        y={GROUND + 16}
        textAnchor="end"
        fontSize={13}
        fontWeight={700}
        fill="var(--need)"
        stroke="var(--sheet)"
        strokeWidth={4}
        paintOrder="stroke"
      >
        signal ends
      </text>
    </g>
  );
}

function Grounds(p: { trace: Trace; at: (m: number) => number; d: Scale; right: number; format: Formatter }) {
  const { trace: t, d } = p;
  return (
    <g>
      <rect x={LEFT} y={GROUND} width={Math.max(p.right - LEFT, 0)} height={DEPTH} fill="var(--soil)" />
      <rect
        x={LEFT}
        y={d(t.depth_min_m)}
        width={Math.max(p.at(t.length_m) - LEFT, 0)}
        height={d(t.depth_max_m) - d(t.depth_min_m)}
        fill="var(--soil-line)"
        opacity={0.45}
      >
        <title>Expected depth</title>
      </rect>
      <line x1={LEFT} x2={p.right} y1={GROUND} y2={GROUND} stroke="var(--soil-line)" strokeWidth={4} />
      <text x={LEFT - 6} y={GROUND + 5} textAnchor="end" fontSize={12.5} fill="var(--ink)">
        ground
      </text>
      {[t.depth_min_m, t.depth_max_m].map((v) => (
        <text key={v} x={LEFT - 6} y={d(v) + 5} textAnchor="end" fontSize={12.5} fill="var(--ink)">
          {p.format.depth(v)}
        </text>
      ))}
      <text x={p.right} y={GROUND + DEPTH - 6} textAnchor="end" fontSize={12.5} fill="var(--ink)">
        depth; band: expected
      </text>
    </g>
  );
}

const along = (b: Trace["band"]) =>
  b.distance_m.map((m, i) => ({ m, low: b.low_a[i] ?? 0, high: b.high_a[i] ?? 0 }));

function Currents(p: { trace: Trace; at: (m: number) => number; c: Scale; right: number }) {
  const points = along(p.trace.band);
  const learned = p.trace.learned ? along(p.trace.learned) : null;
  const fill = area<(typeof points)[number]>()
    .x((q) => p.at(q.m))
    .y0((q) => p.c(q.low))
    .y1((q) => p.c(q.high));
  const edge = line<(typeof points)[number]>()
    .x((q) => p.at(q.m))
    .y((q) => p.c(q.high));
  return (
    <g>
      <path d={fill(points) ?? ""} fill="var(--deep)" opacity={0.28}>
        <title>{p.trace.band_text}</title>
      </path>
      <path d={edge(points) ?? ""} fill="none" stroke="var(--deep)" strokeWidth={2} strokeDasharray="5 4" />
      {learned ? (
        <path
          d={fill(learned) ?? ""}
          fill="var(--deep)"
          opacity={0.5}
          stroke="var(--deep)"
          strokeWidth={2}
          data-learned-band
        >
          <title>{p.trace.learned_text}</title>
        </path>
      ) : null}
      <line x1={LEFT} x2={p.right} y1={BOTTOM} y2={BOTTOM} stroke="var(--quiet)" />
      <ValueAxis scale={p.c} left={LEFT} right={p.right} text={(a) => (a === 0 ? "0 mA" : milliamps(a))} />
      <text x={p.right} y={CURRENT_TOP - 4} textAnchor="end" fontSize={12.5} fill="var(--quiet)">
        {learned ? "current; band: forecast, dark: as stations narrow it" : "current; band: forecast"}
      </text>
    </g>
  );
}

/** Forecast of a neighbour's current, greatest of what is possible: thin, dashed its own way, named at its peak. */
const strongest = (b: Trace["beside"][number]) => Math.max(...b.band.high_a);

/** Whom there is room to name in the picture: the two loudest. All stand in words below it. */
const NAMED = 2;

function Beside(p: {
  beside: Trace["beside"][number];
  at: (m: number) => number;
  c: Scale;
  dash: string;
  rank: number;
}) {
  const b = p.beside.band;
  const points = b.distance_m.map((m, i) => ({ m, high: b.high_a[i] ?? 0 })).filter((q) => q.high > 0);
  const peak = points.reduce((best, q) => (q.high > best.high ? q : best), points[0] ?? { m: 0, high: 0 });
  const path = line<(typeof points)[number]>()
    .x((q) => p.at(q.m))
    .y((q) => p.c(q.high));
  const [start, end] = [p.at(0), p.at(b.distance_m.at(-1) ?? 0)];
  const x = p.at(peak.m);
  const anchor = x > end - 90 ? "end" : x < start + 90 ? "start" : "middle";
  return (
    <g data-beside={p.beside.name}>
      <path d={path(points) ?? ""} fill="none" stroke="var(--hold)" strokeWidth={2} strokeDasharray={p.dash}>
        <title>{p.beside.text}</title>
      </path>
      {p.rank >= 0 ? (
        <text
          x={x}
          y={p.c(peak.high) - 5 - 15 * p.rank}
          textAnchor={anchor}
          fontSize={12.5}
          fill="var(--hold)"
          stroke="var(--sheet)"
          strokeWidth={4}
          paintOrder="stroke"
        >
          {p.beside.name}
        </text>
      ) : null}
    </g>
  );
}
