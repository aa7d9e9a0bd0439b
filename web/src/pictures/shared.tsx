import { useEffect, useRef, useState } from "react";
import type { Verdict } from "../api/client";
import { VERDICTS } from "./Verdict";

/** Patterns of marking colours, so that no line is shown by colour alone. */
export const DASHES: Record<string, string> = {
  solid: "",
  dash: "10 6",
  "long-dash": "18 6",
  dot: "3 5",
  "dash-dot": "12 5 3 5",
  "long-dash-dot": "18 5 3 5",
  "double-dash": "8 3 8 9",
  "sparse-dot": "3 12",
};

/** Width of a box in pixels, followed as it changes, so that pictures draw text at its true size. */
export function useWidth() {
  const ref = useRef<HTMLDivElement>(null);
  const [width, setWidth] = useState(0);
  useEffect(() => {
    const box = ref.current;
    if (!box) return;
    const watch = new ResizeObserver(() => setWidth(box.clientWidth));
    watch.observe(box);
    setWidth(box.clientWidth);
    return () => watch.disconnect();
  }, []);
  return [ref, width] as const;
}

/** Fill patterns for verdict zones: never colour alone. Rendered once in every picture that uses them. */
export function ZonePatterns({ id }: { id: string }) {
  return (
    <defs>
      <pattern id={`${id}-mark`} width="8" height="8" patternUnits="userSpaceOnUse">
        <rect width="8" height="8" fill="var(--mark)" />
      </pattern>
      <pattern
        id={`${id}-mark_with_care`}
        width="8"
        height="8"
        patternUnits="userSpaceOnUse"
        patternTransform="rotate(45)"
      >
        <rect width="8" height="8" fill="var(--care-bg)" />
        <rect width="4" height="8" fill="var(--care)" />
      </pattern>
      <pattern id={`${id}-hold`} width="8" height="8" patternUnits="userSpaceOnUse">
        <rect width="8" height="8" fill="var(--hold-bg)" />
        <path d="M0 0L8 8M8 0L0 8" stroke="var(--hold)" strokeWidth="1.3" />
      </pattern>
      <pattern id={`${id}-need_more`} width="6" height="6" patternUnits="userSpaceOnUse">
        <rect width="6" height="6" fill="var(--need-bg)" />
        <circle cx="3" cy="3" r="1.4" fill="var(--need)" />
      </pattern>
    </defs>
  );
}

const LEGEND: [Verdict, string][] = [
  ["mark", "markable"],
  ["mark_with_care", "with care"],
  ["hold", "lost or distorted"],
  ["need_more", "not provable"],
];

/** What a zone of a forecast is called. */
export const zoneWord = (verdict: Verdict) => LEGEND.find(([v]) => v === verdict)?.[1] ?? "";

export function ZoneLegend({ id, present }: { id: string; present: Set<Verdict> }) {
  return (
    <ul className="flex flex-wrap gap-x-4 gap-y-1 text-sm">
      {LEGEND.filter(([v]) => present.has(v)).map(([v, text]) => (
        <li key={v} className="flex items-center gap-1.5">
          <svg width="26" height="14" aria-hidden>
            <title>{text}</title>
            <rect width="26" height="14" fill={`url(#${id}-${v})`} stroke={`var(--${VERDICTS[v].token})`} />
          </svg>
          {text}
        </li>
      ))}
    </ul>
  );
}
