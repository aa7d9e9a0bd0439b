import { Axis, Orientation, type TickRendererProps } from "@visx/axis";
import type { ScaleLinear } from "d3-scale";
import type { Formatter } from "../api/units";

type Scale = ScaleLinear<number, number>;

const tickText = (p: TickRendererProps) => (
  <text x={p.x} y={p.y} textAnchor={p.textAnchor} fontSize={p.fontSize} fill="var(--ink)">
    {p.formattedValue}
  </text>
);

/** Distance along or across a line, in the user's units; the unit is named once, at zero. */
export function DistanceAxis(p: {
  scale: Scale;
  y: number;
  width: number;
  format: Formatter;
  /** Above the axis line, with ticks; otherwise figures alone, below a picture that has its own line. */
  above?: boolean;
  /** Leave out figures past this place, where something else is written. */
  until?: number;
}) {
  const ticks = p.scale.ticks(p.width < 620 ? 4 : 8).filter((v) => p.scale(v) < (p.until ?? Infinity));
  return (
    <Axis
      scale={p.scale}
      top={p.y}
      orientation={p.above ? Orientation.top : Orientation.bottom}
      tickValues={ticks}
      tickFormat={(v) => (Number(v) === 0 ? `0 ${p.format.distanceUnit}` : String(Math.abs(Number(v))))}
      hideAxisLine={!p.above}
      hideTicks={!p.above}
      stroke="var(--quiet)"
      tickStroke="var(--quiet)"
      tickLength={p.above ? 5 : 0}
      tickLabelProps={(v) => ({
        fontSize: 13,
        textAnchor: p.above && Number(v) === 0 ? "start" : "middle",
        dy: 0,
      })}
      tickComponent={(t) => tickText({ ...t, y: t.y + (p.above ? -3 : 6) })}
    />
  );
}

/** A value up the left side, with a thin line across at each figure. */
export function ValueAxis(p: { scale: Scale; left: number; right: number; text: (value: number) => string }) {
  return (
    <Axis
      scale={p.scale}
      left={p.left}
      orientation={Orientation.left}
      numTicks={4}
      tickFormat={(v) => p.text(Number(v))}
      hideAxisLine
      tickLength={p.left - p.right}
      tickStroke="var(--edge)"
      tickLineProps={{ strokeWidth: 0.7 }}
      tickLabelProps={{ fontSize: 12.5, textAnchor: "end" }}
      tickComponent={(t) => tickText({ ...t, x: -6, y: t.y + 4 })}
    />
  );
}

/** Bearings round the hookup, each with its word below. */
export function BearingAxis(p: { scale: Scale; y: number; words: readonly string[]; degrees: boolean }) {
  return (
    <Axis
      scale={p.scale}
      top={p.y}
      orientation={Orientation.bottom}
      tickValues={p.words.map((_, i) => i * 90)}
      tickFormat={(v) => `${Number(v)}°`}
      stroke="var(--ink)"
      tickStroke="var(--ink)"
      tickLength={6}
      tickLabelProps={{ fontSize: 13, textAnchor: "middle" }}
      tickComponent={(t) => (
        <>
          {p.degrees ? tickText({ ...t, y: 22 }) : null}
          <text x={t.x} y={p.degrees ? 40 : 24} textAnchor="middle" fontSize={13} fill="var(--quiet)">
            {p.words[Math.round(p.scale.invert(t.x) / 90)]}
          </text>
        </>
      )}
    />
  );
}
