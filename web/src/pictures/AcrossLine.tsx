import { scaleLinear } from "d3-scale";
import { line } from "d3-shape";
import type { Schemas } from "../api/client";
import type { Formatter } from "../api/units";
import { AsTable } from "./AsTable";
import { DistanceAxis } from "./Axes";
import { useWidth } from "./shared";

const TOP = 26;
const FIELD = 110;
const GROUND = TOP + FIELD;
const DEPTH = 96;

const EVERY = 4;

/** The field at every few places across, what was read there, and the lines below. */
function rows(a: Schemas["AcrossView"], format: Formatter) {
  const where = (m: number) =>
    Math.abs(m) < 0.005 ? "over it" : `${format.depth(Math.abs(m))} ${m > 0 ? "left" : "right"}`;
  const share = (v: number) => `${Math.round(100 * v)} % of the greatest`;
  return [
    [where(a.peak_m), "peak", ""],
    [where(a.null_m), "null", ""],
    ...a.below.map((b) => [
      where(b.offset_m),
      `${b.name}, ${b.current_text}`,
      `${format.depth(b.depth_m)} deep`,
    ]),
    ...a.points.map((q) => [where(q.offset_m), "read", share(q.share)]),
    ...a.offsets_m
      .map((m, i) => [where(m), "peak signal, computed", share(a.horizontal[i] ?? 0)])
      .filter((_, i) => i % EVERY === 0),
  ];
}

/** A cut across the line, seen from the access point: the field above ground, the lines that make it below. */
export function AcrossLine({
  across,
  best,
  format,
}: {
  across: Schemas["AcrossView"];
  /** Where the station's own readings put the line, with the range of it. */
  best?: Schemas["EstimateView"] | null;
  format: Formatter;
}) {
  const [box, width] = useWidth();
  const a = across;
  const reach = Math.max(...a.offsets_m);
  const deepest = 1.35 * Math.max(...a.below.map((b) => b.depth_m), best ? best.depth_m : 0);
  const x = scaleLinear()
    .domain([format.toUnit(reach), -format.toUnit(reach)])
    .range([12, Math.max(width - 12, 60)]);
  const at = (m: number) => x(format.toUnit(m));
  const up = scaleLinear()
    .domain([0, 1])
    .range([GROUND - 6, TOP]);
  const down = scaleLinear()
    .domain([0, deepest])
    .range([GROUND, GROUND + DEPTH]);
  const curve = (values: number[]) =>
    line<number>()
      .x((_, i) => at(a.offsets_m[i] ?? 0))
      .y((v) => up(v))(values) ?? "";
  const near = a.below.filter((b) => Math.abs(b.offset_m) <= reach);
  return (
    <div ref={box}>
      <svg width={width} height={GROUND + DEPTH + 26} role="img" aria-label={`${a.title}. ${a.text}`}>
        <rect x={0} y={GROUND} width={width} height={DEPTH} fill="var(--soil)" />
        <line x1={0} x2={width} y1={GROUND} y2={GROUND} stroke="var(--soil-line)" strokeWidth={4} />
        <line
          x1={at(0)}
          x2={at(0)}
          y1={TOP - 8}
          y2={GROUND + DEPTH}
          stroke="var(--quiet)"
          strokeDasharray="2 4"
        />
        <path d={curve(a.horizontal)} fill="none" stroke="var(--deep)" strokeWidth={3} />
        <path
          d={curve(a.vertical)}
          fill="none"
          stroke="var(--deep)"
          strokeWidth={1.8}
          strokeDasharray="6 4"
        />
        {a.points.map((p) => (
          <circle
            key={p.offset_m}
            cx={at(p.offset_m)}
            cy={up(p.share)}
            r={5}
            fill="var(--sheet)"
            stroke="var(--ink)"
            strokeWidth={2.5}
          />
        ))}
        {[
          { m: a.peak_m, label: "peak", y: TOP - 10 },
          { m: a.null_m, label: "null", y: GROUND - 14 },
        ].map((p) => (
          <g key={p.label}>
            <line x1={at(p.m)} x2={at(p.m)} y1={TOP} y2={GROUND} stroke="var(--hold)" strokeWidth={1.5} />
            <text
              x={at(p.m) + (p.label === "null" ? 6 : 0)}
              y={p.y}
              textAnchor={p.label === "null" ? "start" : "middle"}
              fontSize={13}
              fill="var(--hold)"
              stroke="var(--sheet)"
              strokeWidth={4}
              paintOrder="stroke"
            >
              {p.label}
            </text>
          </g>
        ))}
        {near.map((b) => (
          <g key={`${b.name}${b.offset_m}`} data-below={b.name}>
            <circle
              cx={at(b.offset_m)}
              cy={down(b.depth_m)}
              r={8}
              fill={b.target ? "var(--deep)" : "var(--sheet)"}
              stroke="var(--deep)"
              strokeWidth={3}
            />
            <text
              x={at(b.offset_m)}
              y={down(b.depth_m) + (b.target ? 24 : -15)}
              textAnchor={at(b.offset_m) < 90 ? "start" : at(b.offset_m) > width - 90 ? "end" : "middle"}
              fontSize={13}
              fill="var(--ink)"
              stroke="var(--soil)"
              strokeWidth={4}
              paintOrder="stroke"
            >
              {b.target ? b.current_text : `${b.name}, ${b.current_text}`}
            </text>
          </g>
        ))}
        {best ? <BestEstimate best={best} at={at} down={down} /> : null}
        <DistanceAxis scale={x} y={GROUND + DEPTH} width={width} format={format} />
        <text x={12} y={14} fontSize={12.5} fill="var(--quiet)">
          left
        </text>
        <text x={width - 12} y={14} textAnchor="end" fontSize={12.5} fill="var(--quiet)">
          right
        </text>
      </svg>
      <p className="text-sm text-quiet">
        {best
          ? "Box: where the readings of this station put the line; depth and place are each right in 95 of 100. "
          : ""}
        {a.points.length ? "Rings: what was read. " : ""}Solid: horizontal field, what the peak shows. Dashed:
        vertical field, what the null shows. Both as a share of the greatest.
      </p>
      <AsTable head={["Where", "What", "Strength or depth"]} rows={rows(a, format)} />
    </div>
  );
}

/** The box in which the line lies by the station's readings; a bar where they tell its depth only. */
function BestEstimate(p: {
  best: Schemas["EstimateView"];
  at: (m: number) => number;
  down: (m: number) => number;
}) {
  const { offset_m, depth_m, depth_pm_m } = p.best;
  const aside = p.best.offset_pm_m ?? 0;
  const left = p.at(offset_m + aside) - 1;
  const top = p.down(Math.max(depth_m - depth_pm_m, 0));
  return (
    <rect
      data-best
      x={left}
      y={top}
      width={p.at(offset_m - aside) - left + 1}
      height={p.down(depth_m + depth_pm_m) - top}
      fill="var(--amber)"
      fillOpacity={0.45}
      stroke="var(--ink)"
      strokeWidth={2}
      strokeDasharray="4 3"
    />
  );
}
