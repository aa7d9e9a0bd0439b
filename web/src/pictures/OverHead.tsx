import { scaleLinear } from "d3-scale";
import { line } from "d3-shape";
import type { Schemas } from "../api/client";
import type { Formatter } from "../api/units";
import { AsTable } from "./AsTable";
import { DistanceAxis } from "./Axes";
import { useWidth } from "./shared";

const TOP = 28;
const FIELD = 96;
const GROUND = TOP + FIELD;
const DEPTH = 84;

/** Along the pipe over one head: main peak, nulls and ghost peaks above ground, the head with its tilt below. */
export function OverHead({
  over: o,
  text,
  format,
}: {
  over: Schemas["OverView"];
  text: string;
  format: Formatter;
}) {
  const [box, width] = useWidth();
  const first = o.at_m[0] ?? 0;
  const last = o.at_m.at(-1) ?? 1;
  const x = scaleLinear()
    .domain([format.toUnit(first), format.toUnit(last)])
    .range([12, Math.max(width - 12, 60)]);
  const at = (m: number) => x(format.toUnit(m));
  const up = scaleLinear()
    .domain([0, 1])
    .range([GROUND - 5, TOP]);
  const down = scaleLinear()
    .domain([0, o.head_m * 1.45])
    .range([GROUND, GROUND + DEPTH]);
  const curve =
    line<number>()
      .x((_, i) => at(o.at_m[i] ?? 0))
      .y((v) => up(v))(o.level) ?? "";
  const words = (m: number, y: number, label: string, tone: string) => (
    <text
      key={`${label}-${m}`}
      x={at(m)}
      y={y}
      textAnchor="middle"
      fontSize={13}
      fill={tone}
      stroke="var(--sheet)"
      strokeWidth={4}
      paintOrder="stroke"
    >
      {label}
    </text>
  );
  return (
    <div ref={box}>
      <svg width={width} height={GROUND + DEPTH + 28} role="img" aria-label={text}>
        <rect x={0} y={GROUND} width={width} height={DEPTH} fill="var(--soil)" />
        <line x1={0} x2={width} y1={GROUND} y2={GROUND} stroke="var(--soil-line)" strokeWidth={4} />
        <path d={curve} fill="none" stroke="var(--deep)" strokeWidth={3} />
        {o.nulls_m.map((m) => (
          <line
            key={m}
            x1={at(m)}
            x2={at(m)}
            y1={TOP + 24}
            y2={GROUND + 8}
            stroke="var(--hold)"
            strokeWidth={1.5}
            strokeDasharray="4 3"
          />
        ))}
        <line
          x1={at(o.peak_m)}
          x2={at(o.peak_m)}
          y1={TOP - 8}
          y2={GROUND + 8}
          stroke="var(--ink)"
          strokeWidth={1.5}
        />
        {words(o.peak_m, TOP - 12, "main peak", "var(--ink)")}
        {o.nulls_m.map((m) => words(m, TOP + 18, "null", "var(--hold)"))}
        {o.ghosts.map((g) => words(g.at_m, up(g.level) - 8, "ghost", "var(--quiet)"))}
        <line
          x1={at(o.head_at_m)}
          x2={at(o.head_at_m)}
          y1={GROUND}
          y2={down(o.head_m)}
          stroke="var(--quiet)"
          strokeDasharray="2 4"
        />
        <g transform={`translate(${at(o.head_at_m)} ${down(o.head_m)}) rotate(${-o.tilt_deg})`} data-head>
          <line x1={-60} x2={60} y1={-9} y2={-9} stroke="var(--soil-line)" strokeWidth={2} />
          <line x1={-60} x2={60} y1={9} y2={9} stroke="var(--soil-line)" strokeWidth={2} />
          <rect
            x={-16}
            y={-6}
            width={32}
            height={12}
            rx={6}
            fill="var(--amber)"
            stroke="var(--ink)"
            strokeWidth={2}
          />
        </g>
        <text
          x={at(o.head_at_m) + 70}
          y={down(o.head_m) + 4}
          fontSize={13}
          fill="var(--ink)"
          stroke="var(--soil)"
          strokeWidth={4}
          paintOrder="stroke"
        >
          {format.depth(o.head_m)} deep
        </text>
        <DistanceAxis scale={x} y={GROUND + DEPTH} width={width} format={format} />
      </svg>
      <AsTable
        head={["Along the pipe", "What", "Level or depth"]}
        rows={[
          [format.distance(o.peak_m), "main peak", "100 %"],
          ...o.nulls_m.map((n) => [format.distance(n), "null", ""]),
          ...o.ghosts.map((g) => [format.distance(g.at_m), "ghost peak", `${Math.round(100 * g.level)} %`]),
          [format.distance(o.head_at_m), `head, tilted ${Math.round(o.tilt_deg)}°`, format.depth(o.head_m)],
        ]}
      />
    </div>
  );
}
