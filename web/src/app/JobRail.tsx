import { ClipboardCheck, Footprints, Map as MapIcon, Pencil, Plus, Printer, Ruler } from "lucide-react";
import { useState } from "react";
import { NavLink, useLocation } from "react-router";
import type { Job } from "../api/client";
import { when } from "../api/units";
import { LineList } from "../features/line/LineList";
import { Button } from "../ui/Button";

const PLACES = [
  { to: "before", label: "Before", icon: ClipboardCheck },
  { to: "site", label: "Site", icon: MapIcon },
  { to: "progress", label: "Marked", icon: Ruler },
  { to: "record", label: "Record", icon: Printer },
] as const;
const YARD = { to: "yard", label: "Yard", icon: Footprints } as const;
const ROW = "flex min-h-11 items-center gap-2 rounded-md px-2 text-sm font-semibold lg:min-h-9";

/** The job and its lines: a narrow rail on a desk; on a phone it stands back while a line is worked on. */
export function JobRail(p: { job: Job; lineId: number | null; onJob: () => void; onNewLine: () => void }) {
  const { job } = p;
  const [all, setAll] = useState(false);
  const { pathname } = useLocation();
  const places = job.practice ? [YARD, ...PLACES] : PLACES;
  const place =
    places.some(({ to }) => pathname.includes(`/${job.id}/${to}`)) || pathname.endsWith("/marking");
  const JobName = place ? "p" : "h1"; // a place of the job names itself
  const back = p.lineId !== null && !all ? "max-lg:hidden" : "";
  return (
    <section
      aria-label="Job and lines"
      className={`relative min-w-0 lg:overflow-y-auto lg:pr-1 ${place ? "max-lg:hidden" : ""}`}
    >
      <div className="flex items-baseline justify-between gap-2 lg:block">
        <JobName className="truncate text-lg leading-tight font-bold lg:whitespace-normal">
          {job.name}
        </JobName>
        <p className={`text-sm text-quiet ${back}`}>
          {job.technician}
          {job.due_at ? ` · due ${when(job.due_at)}` : ""}
        </p>
        {p.lineId === null ? null : (
          <Button
            look="quiet"
            className="shrink-0 px-0 lg:hidden"
            aria-expanded={all}
            onClick={() => setAll(!all)}
          >
            {all ? "Only this line" : `Job and all lines (${job.lines.length})`}
          </Button>
        )}
      </div>
      <nav aria-label="Job" className={`my-2 grid grid-cols-2 gap-x-1 lg:grid-cols-1 ${back}`}>
        {places.map(({ to, label, icon: Icon }) => (
          <NavLink
            key={to}
            to={`/jobs/${job.id}/${to}`}
            className={({ isActive }) =>
              `${ROW} ${isActive ? "bg-deep text-on-deep" : to === "before" && job.before_state === "stop" ? "bg-hold-bg text-hold" : ""}`
            }
          >
            <Icon aria-hidden className="size-4" /> {label}
            {to === "before" ? <span className="font-normal opacity-90">{job.before_text}</span> : null}
          </NavLink>
        ))}
        <button type="button" className={ROW} onClick={p.onJob}>
          <Pencil aria-hidden className="size-4" /> Job
        </button>
      </nav>
      <div className={back}>
        <LineList job={job} current={p.lineId} />
        <button type="button" className={`${ROW} mt-1`} onClick={p.onNewLine}>
          <Plus aria-hidden className="size-4 shrink-0" /> Add a line
        </button>
      </div>
    </section>
  );
}
