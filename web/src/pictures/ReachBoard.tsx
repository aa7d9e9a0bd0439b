import { scaleLinear } from "d3-scale";
import type { Schemas, Verdict } from "../api/client";
import type { Formatter } from "../api/units";
import { AsTable } from "./AsTable";
import { DistanceAxis } from "./Axes";
import { useWidth, ZoneLegend, ZonePatterns, zoneWord } from "./shared";

type Option = Pick<
  Schemas["OptionView"],
  "key" | "hookup_label" | "freq_text" | "output_text" | "forecasts"
> & { reason?: string; rejected?: string | null };
type Landmark = Schemas["LandmarkView"];

const BAR = 14;
const GAP = 3;

/** One row per setup on a common distance axis: where a trace would be markable, shaky or lost. */
export function ReachBoard(p: {
  options: Option[];
  lengthM: number;
  landmarks: Landmark[];
  format: Formatter;
  chosen: string | null;
  onChoose?: (key: string) => void;
}) {
  const [box, width] = useWidth();
  const present = new Set<Verdict>(
    p.options.flatMap((o) => o.forecasts.flatMap((f) => f.zones.map((z) => z.verdict))),
  );
  const narrow = width < 620;
  const labelWidth = narrow ? 0 : 176;
  const caseWidth = 68;
  const x = scaleLinear()
    .domain([0, p.format.toUnit(p.lengthM)])
    .range([labelWidth + caseWidth, Math.max(width - 14, labelWidth + caseWidth + 60)]);
  const at = (m: number) => x(p.format.toUnit(m));
  return (
    <div ref={box}>
      <ZoneLegend id="reach" present={present} />
      <Ground x={x} width={width} format={p.format} lengthM={p.lengthM} landmarks={p.landmarks} at={at} />
      <ul className="grid gap-1">
        {p.options.map((o, i) => (
          <li key={o.key}>
            <button
              type="button"
              data-option={o.key}
              aria-pressed={p.chosen === o.key}
              onClick={() => p.onChoose?.(o.key)}
              disabled={!p.onChoose}
              className={`block w-full rounded-md border-2 py-1 text-left ${p.chosen === o.key ? "border-ink bg-sheet" : "border-transparent"}`}
            >
              <Row option={o} rank={i + 1} width={width - 4} labelWidth={labelWidth} at={at} />
            </button>
          </li>
        ))}
      </ul>
      <AsTable
        head={["Setup", "Far end", "From", "To", "What to expect"]}
        rows={p.options.flatMap((o) =>
          o.forecasts.flatMap((f) =>
            f.zones.map((z) => [
              `${o.hookup_label}, ${o.freq_text}, ${o.output_text}`,
              f.far_case,
              p.format.distance(z.start_m),
              p.format.distance(z.end_m),
              z.why ? `${zoneWord(z.verdict)}: ${z.why}` : zoneWord(z.verdict),
            ]),
          ),
        )}
      />
    </div>
  );
}

function Ground(p: {
  x: ReturnType<typeof scaleLinear<number, number>>;
  width: number;
  format: Formatter;
  lengthM: number;
  landmarks: Landmark[];
  at: (m: number) => number;
}) {
  const end = p.x.range()[1] ?? 0;
  return (
    <svg
      width={p.width}
      height={44}
      role="img"
      aria-label={`Distance from the access point to ${p.format.distance(p.lengthM)}`}
    >
      <DistanceAxis scale={p.x} y={36} width={p.width} format={p.format} above until={end - 60} />
      <text x={end} y={28} textAnchor="end" fontSize={13} fill="var(--ink)">
        {p.format.distance(p.lengthM)}
      </text>
      {p.landmarks.map((m) => (
        <g key={`${m.kind}-${m.at_m}`} transform={`translate(${p.at(m.at_m)},36)`}>
          <LandmarkSign kind={m.kind} />
          <title>{m.text}</title>
        </g>
      ))}
      <rect x={p.at(0) - 4} y={32} width={8} height={8} fill="var(--ink)" />
      <circle cx={end} cy={36} r={4.5} fill="var(--sheet)" stroke="var(--ink)" strokeWidth={2} />
      <text x={p.at(0)} y={12} fontSize={12.5} fill="var(--quiet)">
        ■ access point
        {p.landmarks.some((m) => m.kind === "bend") ? " ⌃ bend" : ""}
        {p.landmarks.some((m) => m.kind === "bond") ? " ◆ bond" : ""}
        {p.landmarks.some((m) => m.kind === "earth") ? " ▼ earth" : ""}
      </text>
      <text x={end} y={12} textAnchor="end" fontSize={12.5} fill="var(--quiet)">
        far end ○
      </text>
    </svg>
  );
}

function LandmarkSign({ kind }: { kind: Landmark["kind"] }) {
  if (kind === "access") return <rect x={-4} y={-4} width={8} height={8} fill="var(--ink)" />;
  if (kind === "bond") return <path d="M0,-5 L5,0 L0,5 L-5,0 Z" fill="var(--ink)" />;
  if (kind === "earth") return <path d="M-5,-4 H5 L0,5 Z" fill="var(--ink)" />;
  return <path d="M-5,4 L0,-4 L5,4" fill="none" stroke="var(--ink)" strokeWidth={2} />;
}

function Row(p: {
  option: Option;
  rank: number;
  width: number;
  labelWidth: number;
  at: (m: number) => number;
}) {
  const o = p.option;
  const title = `${p.rank}. ${o.hookup_label}`;
  const what = `${o.freq_text}, ${o.output_text}`;
  const top = p.labelWidth ? 2 : 22;
  const height = Math.max(top + o.forecasts.length * (BAR + GAP), p.labelWidth ? 38 : 0);
  return (
    <svg
      width={Math.max(p.width, 0)}
      height={height}
      role="img"
      aria-label={`${title}, ${what}: ${o.reason || o.rejected}`}
    >
      <ZonePatterns id="reach" />
      <text x={6} y={15} fontSize={15} fontWeight={700} fill="var(--ink)">
        {p.labelWidth ? title : `${title}, ${what}`}
      </text>
      {p.labelWidth ? (
        <text x={24} y={33} fontSize={14} fill="var(--quiet)">
          {what}
        </text>
      ) : null}
      {o.forecasts.map((f, i) => (
        <g key={f.far_case} transform={`translate(0,${top + i * (BAR + GAP)})`}>
          {f.zones.map((z) => (
            <rect
              key={z.start_m}
              x={p.at(z.start_m)}
              width={Math.max(p.at(z.end_m) - p.at(z.start_m), 0.5)}
              height={BAR}
              fill={`url(#reach-${z.verdict})`}
            >
              <title>{`${f.far_case}: ${z.why}`}</title>
            </rect>
          ))}
          <text x={p.at(0) - 8} y={BAR - 2.5} textAnchor="end" fontSize={13} fill="var(--ink)">
            {f.far_case.replace("far end ", "")}
          </text>
        </g>
      ))}
    </svg>
  );
}
