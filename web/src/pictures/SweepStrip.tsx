import { scaleLinear } from "d3-scale";
import type { Schemas } from "../api/client";
import { AsTable } from "./AsTable";
import { BearingAxis } from "./Axes";
import { useWidth } from "./shared";

type Sweep = Schemas["SweepView"];

const HEIGHT = 190;
const FLOOR = 142;
const TOP = 30;
const BEYOND = 30; // degrees shown again past north, so that a line at 0 degrees is not cut in two

const TONE: Record<Schemas["CandidateView"]["role"], string> = {
  target: "var(--mark)",
  maybe: "var(--care)",
  beside: "var(--quiet)",
  unknown: "var(--hold)",
};

const percent = (share: number) => `${Math.round(100 * share)} %`;

/** The circle rolled out: expected lines as outlines, logged hits as stems, as high as their current. */
export function SweepStrip({ sweep, chosen }: { sweep: Sweep; chosen: number | null }) {
  const [box, width] = useWidth();
  const x = scaleLinear()
    .domain([-BEYOND, 360 + BEYOND])
    .range([8, Math.max(width - 8, 60)]);
  const y = scaleLinear().domain([0, 1]).range([FLOOR, TOP]);
  const words = sweep.from_north ? ["N", "E", "S", "W", "N"] : ["ahead", "right", "behind", "left", "ahead"];
  return (
    <div ref={box}>
      <svg
        width={width}
        height={HEIGHT}
        role="img"
        aria-label={`Round the hookup: ${sweep.expected.length} lines expected, ${sweep.candidates.length} met`}
      >
        <rect
          x={x(-BEYOND)}
          width={x(0) - x(-BEYOND)}
          y={TOP}
          height={FLOOR - TOP}
          fill="var(--edge)"
          opacity={0.35}
        />
        <rect
          x={x(360)}
          width={x(360 + BEYOND) - x(360)}
          y={TOP}
          height={FLOOR - TOP}
          fill="var(--edge)"
          opacity={0.35}
        />
        <BearingAxis scale={x} y={FLOOR} words={words} degrees={sweep.from_north} />
        {sweep.expected.flatMap((e) =>
          around(e.bearing_deg).map((deg) => (
            <g key={`${e.name}-${e.bearing_deg}-${deg}`}>
              <path
                d={`M${x(deg - 9)},${FLOOR} L${x(deg)},${y(Math.max(e.share, 0.04))} L${x(deg + 9)},${FLOOR} Z`}
                fill={e.ours ? "var(--mark)" : "var(--quiet)"}
                fillOpacity={e.ours ? 0.22 : 0.12}
                stroke={e.ours ? "var(--mark)" : "var(--quiet)"}
                strokeWidth={e.ours ? 2.5 : 1.5}
                strokeDasharray={e.ours ? undefined : "5 4"}
              >
                <title>{`${e.name}: ${e.text}`}</title>
              </path>
            </g>
          )),
        )}
        {sweep.candidates.flatMap((c) =>
          around(c.bearing_deg).map((deg) => (
            <g key={`${c.id}-${deg}`}>
              <title>{`${c.title}: ${c.readings_text}`}</title>
              <line
                x1={x(deg)}
                x2={x(deg)}
                y1={FLOOR}
                y2={y(c.share)}
                stroke={TONE[c.role]}
                strokeWidth={c.id === chosen ? 6 : 4}
              />
              <circle
                cx={x(deg)}
                cy={y(c.share)}
                r={c.id === chosen ? 8 : 6}
                fill={TONE[c.role]}
                stroke="var(--sheet)"
              />
              {c.role === "target" ? (
                <text
                  x={x(deg)}
                  y={y(c.share) - 12}
                  textAnchor="middle"
                  fontSize={13}
                  fontWeight={700}
                  fill="var(--ink)"
                >
                  target
                </text>
              ) : null}
              {c.role === "unknown" ? (
                <text
                  x={x(deg)}
                  y={y(c.share) - 12}
                  textAnchor="middle"
                  fontSize={15}
                  fontWeight={700}
                  fill="var(--hold)"
                >
                  ?
                </text>
              ) : null}
            </g>
          )),
        )}
      </svg>
      <p className="text-sm text-quiet">
        Outlines: lines to expect (full outline: this line). Stems: centre lines you logged. Both as high as
        the current.
      </p>
      <AsTable
        head={["Bearing", "Line", "Share of the greatest current"]}
        rows={[
          ...sweep.expected.map((e) => [
            `${Math.round(e.bearing_deg)}°`,
            `${e.name}, expected`,
            percent(e.share),
          ]),
          ...sweep.candidates.map((c) => [
            `${Math.round(c.bearing_deg)}°`,
            `${c.title}, met`,
            percent(c.share),
          ]),
        ]}
      />
    </div>
  );
}

/** A bearing, and again past north where the strip goes on. */
function around(deg: number): number[] {
  return [deg - 360, deg, deg + 360].filter((d) => d >= -BEYOND && d <= 360 + BEYOND);
}
