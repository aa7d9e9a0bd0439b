import { Cable, Flag, Footprints, Map as MapIcon, RotateCw, Waypoints, Zap } from "lucide-react";
import { NavLink } from "react-router";
import type { LineState } from "../../api/client";

export const STEPS = [
  { id: "plan", label: "Plan", icon: MapIcon },
  { id: "hookup", label: "Hook up", icon: Cable },
  { id: "sweep", label: "Sweep", icon: RotateCw },
  { id: "trace", label: "Trace", icon: Footprints },
  { id: "sonde", label: "Sonde", icon: Waypoints },
  { id: "fault", label: "Fault", icon: Zap },
  { id: "mark", label: "Mark", icon: Flag },
] as const;

/** The steps of one line: a signal on its metal, a sonde through it, or both. */
export const stepsOf = (line: LineState) => STEPS.filter((s) => line.steps.includes(s.id));

/** Columns of the bar by how many steps there are. */
const COLUMNS: Record<number, string> = {
  3: "grid-cols-3",
  5: "grid-cols-5",
  4: "grid-cols-4",
  6: "grid-cols-6",
  7: "grid-cols-7",
};

/** The way of a line. At the thumb on a phone, above the work on a desk; the line's own place is named. */
export function StepBar(p: { line: LineState; current: string; to: (step: string) => string }) {
  // the first look at a sonde or a fault comes before the first run
  const steps = STEPS.filter((s) => p.line.steps.includes(s.id) || s.id === p.current);
  const here = steps.findIndex((s) => s.id === p.line.step);
  return (
    <nav
      aria-label="Steps of this line"
      className={`no-print fixed inset-x-0 bottom-0 z-30 grid ${COLUMNS[steps.length]} border-t-2 border-edge bg-sheet lg:static lg:grow lg:overflow-hidden lg:rounded-lg lg:border-2`}
    >
      {steps.map((s, i) => {
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
