import type { Schemas } from "../api/client";
import { useWidth } from "./shared";

type Loop = Schemas["LoopView"];

const PLACE: Record<string, { x: number; y: number; anchor: "start" | "middle" | "end" }> = {
  "Clip contact": { x: 0.47, y: 44, anchor: "start" },
  "Stake lead": { x: 0.2, y: 44, anchor: "middle" },
  "Ground stake": { x: 0.02, y: 128, anchor: "start" },
  "Along the metal": { x: 0.72, y: 112, anchor: "middle" },
  "Metal to soil, along the way": { x: 0.66, y: 156, anchor: "middle" },
  "Earth at the near end": { x: 0.42, y: 176, anchor: "middle" },
  "Earth at the far end": { x: 0.98, y: 188, anchor: "end" },
};

/** On a phone only the parts that matter, in a word each; the table below has them all. */
const SHORT: Record<string, string> = {
  "Ground stake": "Stake",
  "Along the metal": "Metal",
  "Metal to soil, along the way": "To soil",
  "Earth at the near end": "Near earth",
  "Earth at the far end": "Far earth",
};

/** The loop drawn in the ground: each part with its share of the transmitter's volts. */
export function VoltsLoop({ loop, compare }: { loop: Loop; compare: Loop[] }) {
  const [box, width] = useWidth();
  const w = Math.max(width, 280);
  const px = (f: number) => f * w;
  const small = w < 480;
  const shown = loop.shares.filter((s) => PLACE[s.label] && (!small || SHORT[s.label]));
  return (
    <div ref={box}>
      <svg
        width={w}
        height={200}
        role="img"
        aria-label={`${loop.title}: ${shown.map((s) => `${s.label} ${s.text}`).join(", ")}`}
      >
        <rect x={0} y={70} width={w} height={130} fill="var(--soil)" />
        <line x1={0} x2={w} y1={70} y2={70} stroke="var(--soil-line)" strokeWidth={3} />
        <path
          d={`M${px(0.08)} 106 V62 H${px(0.3)} M${px(0.42)} 62 H${px(0.45)} V132 H${px(0.95)}`}
          fill="none"
          stroke="var(--ink)"
          strokeWidth={4}
        />
        <path
          d={`M${px(0.95)} 132 C ${px(0.9)} 196, ${px(0.2)} 210, ${px(0.08)} 108`}
          fill="none"
          stroke="var(--soil-line)"
          strokeWidth={3}
          strokeDasharray="7 6"
        />
        <rect x={px(0.3)} y={46} width={px(0.12)} height={26} rx={4} fill="#123b4a" />
        <path d={`M${px(0.36) - 9} 59 q4.5 -9 9 0 t9 0`} stroke="#f4c64e" strokeWidth={2.5} fill="none" />
        <text x={px(0.36)} y={16} fontSize={14} fontWeight={700} textAnchor="middle" fill="var(--ink)">
          {loop.text}
        </text>
        {shown.map((s) => {
          const at = PLACE[s.label]!;
          return (
            <text
              key={s.label}
              x={px(at.x)}
              y={at.y}
              textAnchor={at.anchor}
              fontSize={13.5}
              fill="var(--ink)"
              stroke={at.y > 70 ? "var(--soil)" : "var(--sheet)"}
              strokeWidth={4}
              paintOrder="stroke"
            >
              {small ? SHORT[s.label] : s.label} <tspan fontWeight={700}>{s.text}</tspan>
            </text>
          );
        })}
      </svg>
      <Shares loops={[loop, ...compare]} />
    </div>
  );
}

/** The same shares as bars, what was read against the forecasts. */
function Shares({ loops }: { loops: Loop[] }) {
  const labels = [...new Set(loops.flatMap((l) => l.shares.map((s) => s.label)))];
  const top = Math.max(...loops.flatMap((l) => l.shares.map((s) => Math.abs(s.volts))), 0.1);
  return (
    <div className="mt-3 overflow-x-auto">
      <table className="w-full table-fixed text-sm">
        <caption className="sr-only">Share of the volts, part by part</caption>
        <thead>
          <tr className="text-left align-bottom">
            <th className="py-1 pr-3">Part of the loop</th>
            {loops.map((l) => (
              <th key={l.title} className="min-w-24 py-1 pr-3 font-semibold">
                {l.title}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {labels.map((label) => (
            <tr key={label} className="border-t border-edge">
              <th scope="row" className="py-1.5 pr-3 text-left font-normal">
                {label}
              </th>
              {loops.map((l, i) => {
                const share = l.shares.find((s) => s.label === label);
                return (
                  <td key={l.title} className="py-1.5 pr-3 align-middle">
                    <span className={i === 0 ? "font-bold" : ""}>{share?.text ?? "–"}</span>
                    <span
                      aria-hidden
                      className={`mt-0.5 block h-2 rounded-sm ${i === 0 ? "bg-deep" : "border border-quiet"}`}
                      style={{
                        width: `${(100 * Math.abs(share?.volts ?? 0)) / top}%`,
                        minWidth: share ? 2 : 0,
                      }}
                    />
                  </td>
                );
              })}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
