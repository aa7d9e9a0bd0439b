import type { ReactNode } from "react";
import type { Schemas } from "../../api/client";
import { type PlanView, usePlanView } from "./planView";
import { Area, Pin, Way } from "./shapes";

type FoundLine = Schemas["FoundView"]["lines"][number];
type FoundPoint = Schemas["FoundPoint"];

/** Tolerance zones of what is marked, and, just as loud, what is doubtful or not located. */
export function FoundStretches({ lines }: { lines: FoundLine[] }) {
  return lines.flatMap((l) =>
    l.stretches.map((s) =>
      s.state === "marked" ? (
        <Area
          key={s.text}
          corners={s.zone}
          stroke="var(--mark)"
          strokeWidth={2}
          fill="var(--mark)"
          fillOpacity={0.25}
        />
      ) : (
        <Way
          key={s.text}
          corners={s.corners}
          stroke={s.state === "missing" ? "var(--hold)" : "var(--care)"}
          strokeWidth={13}
          opacity={s.state === "missing" ? 0.45 : 0.6}
          strokeDasharray={s.state === "missing" ? "3 7" : "10 4"}
        />
      ),
    ),
  );
}

/** The circle of one line's first sweep. */
export function SweepCircle({ line }: { line?: FoundLine }) {
  const view = usePlanView();
  if (!line?.centre) return null;
  const [cx, cy] = view.toPicture(line.centre);
  return (
    <circle
      cx={cx}
      cy={cy}
      r={view.scale * line.radius_m}
      fill="none"
      stroke="var(--ink)"
      strokeWidth={2}
      strokeDasharray="2 6"
    />
  );
}

const TONE: Record<string, string> = {
  mark: "mark",
  target: "mark",
  mark_with_care: "care",
  maybe: "care",
  need_more: "need",
  hold: "hold",
  unknown: "hold",
  beside: "quiet",
};
const tone = (p: FoundPoint) => `var(--${TONE[p.state] ?? "quiet"})`;

/** Inside of a station's dot, so that no verdict is shown by its colour alone. */
const SIGN: Record<string, string> = {
  mark: "M4 8l3 3 5-6",
  mark_with_care: "M8 4v5M8 11v1.5",
  need_more: "M5 8h6",
  hold: "M5 5l6 6M11 5l-6 6",
};

const FACE: Record<FoundPoint["kind"], { size: number; draw: (p: FoundPoint) => ReactNode }> = {
  station: {
    size: 18,
    draw: (p) => (
      <>
        <circle cx="8" cy="8" r="7" fill={tone(p)} stroke="var(--sheet)" strokeWidth="1.5" />
        <path d={SIGN[p.state] ?? ""} fill="none" stroke="var(--sheet)" strokeWidth="2" />
      </>
    ),
  },
  centre_line: {
    size: 22,
    draw: (p) => (
      <>
        <path d="M8 1l7 7-7 7-7-7z" fill={tone(p)} stroke="var(--ink)" strokeWidth="1.5" />
        {p.state === "target" ? <circle cx="8" cy="8" r="2.4" fill="var(--sheet)" /> : null}
      </>
    ),
  },
  fault: {
    size: 24,
    draw: (p) => (
      <>
        <path d="M8 0.8l7.2 13.4H0.8z" fill="var(--sheet)" stroke={tone(p)} strokeWidth="2" />
        <path d="M9 4.5L6.6 9h2.6L7.4 12.6" fill="none" stroke={tone(p)} strokeWidth="1.8" />
        {p.label ? <path d="M2 15.4h12" stroke="var(--ink)" strokeWidth="1.6" /> : null}
      </>
    ),
  },
  mark: { size: 24, draw: () => null },
};

/** What is shown first where there is no room for all: paint, then what most needs a look. */
const FIRST = ["hold", "unknown", "need_more", "mark_with_care", "maybe"];
const rank = (p: FoundPoint) => {
  const state = FIRST.indexOf(p.state);
  return (p.kind === "mark" || p.kind === "fault" ? 0 : 10) + (state < 0 ? FIRST.length : state);
};
const NEAR = 0.8;

/** Points that do not cover each other at this zoom; closer in, the others come out. */
function thinned(points: FoundPoint[], view: PlanView): FoundPoint[] {
  const shown: { x: number; y: number; size: number; kind: string }[] = [];
  return [...points]
    .sort((a, b) => rank(a) - rank(b))
    .filter((p) => {
      const [x, y] = view.toPicture(p.at);
      const { size } = FACE[p.kind];
      const room = shown.every(
        (s) => Math.hypot(s.x - x, s.y - y) >= NEAR * Math.max(size, s.size) || s.kind !== p.kind,
      );
      if (room) shown.push({ x, y, size, kind: p.kind });
      return room;
    });
}

/** Stations, centre lines and marks where they were read; where they would cover each other, some of them. */
export function FoundPoints({ points }: { points: FoundPoint[] }) {
  return thinned(points, usePlanView()).map((p) => {
    const { size, draw } = FACE[p.kind];
    return (
      <Pin
        key={`${p.kind}-${p.text}`}
        at={p.at}
        text={p.text}
        size={size}
        above={p.kind === "centre_line" || p.kind === "fault" ? 600 : 0}
        className={p.kind === "mark" ? "plan-mark" : ""}
      >
        {p.kind === "mark" ? (
          p.label.split(" ")[0]
        ) : (
          <svg width={size} height={size} viewBox="0 0 16 16" aria-hidden>
            {draw(p)}
          </svg>
        )}
      </Pin>
    );
  });
}
