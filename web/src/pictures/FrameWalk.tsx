import { scaleLinear, scalePow } from "d3-scale";
import { line } from "d3-shape";
import type { Schemas, Verdict } from "../api/client";
import type { Formatter } from "../api/units";
import { DistanceAxis } from "./Axes";
import { useWidth } from "./shared";
import { VERDICTS } from "./Verdict";

type Level = Schemas["LevelView"];
type Reading = Schemas["FrameReadingView"];
type Fault = Schemas["FaultFound"];

const LEFT = 58;
const TOP = 44;
const HALF = 78;
const ZERO = TOP + HALF;
const CABLE = ZERO + HALF + 16;

/** How the verdict on a fault looks: the same colours, icons and patterns as any verdict. */
export const FAULT_LOOK: Record<Fault["said"], Verdict> = {
  found: "mark",
  narrow: "mark_with_care",
  not_proved: "hold",
};

/** Levels along the walk: above the line the frame points on, below it back; faults where it turns round. */
export function FrameWalk(p: {
  readings: Reading[];
  faults: Fault[];
  fitted: Level | null;
  /** From where to where it goes [m]. */
  from: number;
  to: number;
  text: string;
  format: Formatter;
  chosen: number | null;
  onChoose: (at_m: number) => void;
}) {
  const [box, width] = useWidth();
  const x = scaleLinear()
    .domain([p.format.toUnit(p.from), p.format.toUnit(p.to)])
    .range([LEFT, Math.max(width - 16, LEFT + 80)]);
  const at = (m: number) => x(p.format.toUnit(m));
  const right = x.range()[1] ?? 0;
  const levels = [...p.readings.map((r) => r.level ?? 0), ...(p.fitted?.level ?? [])];
  const most = Math.max(...levels.map(Math.abs), 1e-9);
  // a weak fault must be seen beside a strong one
  const y = scalePow()
    .exponent(0.5)
    .domain([-most, most])
    .range([ZERO + HALF, TOP]);
  const curve = p.fitted
    ? line<number>()
        .x((_, i) => at(p.fitted?.at_m[i] ?? 0))
        .y((v) => y(v))(p.fitted.level)
    : null;
  const words = (top: number, text: string) => (
    <text x={LEFT - 6} y={top} textAnchor="end" fontSize={12.5} fill="var(--ink)">
      {text}
    </text>
  );
  return (
    <div ref={box}>
      <svg width={width} height={CABLE + 46} role="group" aria-label={p.text}>
        <rect x={LEFT} y={CABLE - 8} width={Math.max(right - LEFT, 0)} height={26} fill="var(--soil)" />
        <line
          x1={LEFT}
          x2={right}
          y1={CABLE + 5}
          y2={CABLE + 5}
          stroke="var(--ink)"
          strokeWidth={4}
          strokeLinecap="round"
        />
        <line x1={LEFT} x2={right} y1={ZERO} y2={ZERO} stroke="var(--quiet)" />
        {words(TOP + 10, "on")}
        {words(ZERO + HALF, "back")}
        {words(CABLE + 9, "cable")}
        {curve ? <path d={curve} fill="none" stroke="var(--deep)" strokeWidth={2.5} data-fitted /> : null}
        {p.readings.map((r) => (
          <Shown key={r.id} reading={r} x={at(r.distance_m)} y={y(r.level ?? 0)} />
        ))}
        {p.faults.map((f) => (
          <Found
            key={f.at_m}
            fault={f}
            x={at(f.at_m)}
            from={at(f.at_m - f.pm_m)}
            to={at(f.at_m + f.pm_m)}
            chosen={p.chosen === f.at_m}
            onChoose={() => p.onChoose(f.at_m)}
          />
        ))}
        <DistanceAxis scale={x} y={CABLE + 24} width={width} format={p.format} />
      </svg>
    </div>
  );
}

const ARROW = {
  on: "M-4 -5 L5 0 L-4 5 z",
  back: "M4 -5 L-5 0 L4 5 z",
  null: "M0 -6 L6 0 L0 6 L-6 0 z",
} as const;

/** One reading: an arrow the way the frame points, hollow where it nulls or shows no level. */
function Shown({ reading: r, x, y }: { reading: Reading; x: number; y: number }) {
  return (
    <path
      d={ARROW[r.arrow]}
      transform={`translate(${x} ${y})`}
      fill={r.arrow === "null" || r.level === null ? "var(--sheet)" : "var(--ink)"}
      stroke="var(--ink)"
      strokeWidth={1.5}
      data-frame={r.id}
    >
      <title>{r.text}</title>
    </path>
  );
}

function Found(p: {
  fault: Fault;
  x: number;
  from: number;
  to: number;
  chosen: boolean;
  onChoose: () => void;
}) {
  const v = VERDICTS[FAULT_LOOK[p.fault.said]];
  const Icon = v.icon;
  const ink = `var(--${v.token})`;
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: the list of faults below offers the same by keyboard
    <g data-fault={p.fault.said} onClick={p.onChoose} className="cursor-pointer">
      <title>{`${p.fault.label}: ${p.fault.text}`}</title>
      <rect
        x={p.from}
        y={TOP}
        width={Math.max(p.to - p.from, 3)}
        height={CABLE + 10 - TOP}
        fill={ink}
        opacity={0.16}
      />
      <line x1={p.x} x2={p.x} y1={34} y2={CABLE - 6} stroke={ink} strokeWidth={p.chosen ? 4 : 2} />
      <rect
        x={p.x - 13}
        y={6}
        width={26}
        height={28}
        rx={5}
        fill={`var(--${v.token}-bg)`}
        stroke={ink}
        strokeWidth={p.chosen ? 3 : 1.5}
      />
      <Icon x={p.x - 9} y={11} width={18} height={18} color={ink} strokeWidth={2.6} aria-hidden />
      <path
        d={`M${p.x - 7} ${CABLE - 5} l5 9 l4 -4 l6 12`}
        fill="none"
        stroke="var(--hold)"
        strokeWidth={3}
        strokeLinejoin="round"
      />
      {p.fault.mark_id !== null ? (
        <path d={`M${p.x - 7} ${CABLE - 8} l7 -8 l7 8 z`} fill="var(--ink)">
          <title>marked</title>
        </path>
      ) : null}
    </g>
  );
}
