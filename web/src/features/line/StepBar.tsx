import { Cable, Flag, Footprints, Map as MapIcon, RotateCw } from "lucide-react";
import { NavLink } from "react-router";
import type { LineState } from "../../api/client";

export const STEPS = [
  { id: "plan", label: "Plan", icon: MapIcon },
  { id: "hookup", label: "Hook up", icon: Cable },
  { id: "sweep", label: "Sweep", icon: RotateCw },
  { id: "trace", label: "Trace", icon: Footprints },
  { id: "mark", label: "Mark", icon: Flag },
] as const;

/** The way of a line. At the thumb on a phone, above the work on a desk; the line's own place is named. */
export function StepBar(p: { line: LineState; current: string; to: (step: string) => string }) {
  const here = STEPS.findIndex((s) => s.id === p.line.step);
  return (
    <nav
      aria-label="Steps of this line"
      className="no-print fixed inset-x-0 bottom-0 z-30 grid grid-cols-5 border-t-2 border-edge bg-sheet lg:static lg:grow lg:overflow-hidden lg:rounded-lg lg:border-2"
    >
      {STEPS.map((s, i) => {
        const Icon = s.icon;
        return (
          <NavLink
            key={s.id}
            to={p.to(s.id)}
            data-step={s.id}
            className={({ isActive }) =>
              `flex min-h-15 flex-col items-center justify-center gap-0.5 font-bold lg:min-h-11 lg:flex-row lg:gap-2 ${
                isActive ? "bg-deep text-on-deep" : i <= here ? "text-ink" : "text-quiet"
              }`
            }
          >
            <Icon aria-hidden className="size-5" />
            {s.label}
            {i === here ? <span className="sr-only"> (the line is here)</span> : null}
          </NavLink>
        );
      })}
    </nav>
  );
}
