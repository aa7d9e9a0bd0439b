import { Link } from "react-router";
import type { Schemas } from "../../api/client";
import { CoverStrip } from "../../pictures/CoverStrip";
import { DASHES } from "../../pictures/shared";
import type { Job } from "./JobPage";

/** Marking colour with its pattern and letter: never colour alone. */
export function UtilityTag({ utility }: { utility: Schemas["UtilityView"] }) {
  return (
    <svg
      width="44"
      height="26"
      viewBox="0 0 44 26"
      className="shrink-0"
      role="img"
      aria-label={`${utility.label}, ${utility.colour}`}
    >
      <rect x="0.5" y="0.5" width="43" height="25" rx="4" fill="#1f2a30" />
      <line
        x1="2"
        x2="42"
        y1="21"
        y2="21"
        stroke={utility.hex}
        strokeWidth="4"
        strokeDasharray={DASHES[utility.pattern]}
      />
      <text x="22" y="15" textAnchor="middle" fontSize="14" fontWeight="700" fill="#fff">
        {utility.letter}
      </text>
    </svg>
  );
}

/** The lines of a job; on a phone `onlyCurrent` leaves room for the work. */
export function LineList({
  job,
  current,
  onlyCurrent,
}: {
  job: Job;
  current: number | null;
  onlyCurrent: boolean;
}) {
  return (
    <ul className="grid gap-2">
      {job.lines.map((l) => (
        <li key={l.id} className={onlyCurrent && current !== null && l.id !== current ? "max-lg:hidden" : ""}>
          <Link
            to={`/jobs/${job.id}/lines/${l.id}/${l.step}`}
            data-line={l.id}
            data-step={l.step}
            aria-current={current === l.id ? "true" : undefined}
            className={`flex items-start gap-3 rounded-lg border-2 p-3 ${current === l.id ? "border-ink bg-sheet" : "border-edge"}`}
          >
            <UtilityTag utility={l.utility} />
            <span className="min-w-0 grow">
              <strong className="block leading-tight">{l.name}</strong>
              <span className="block text-sm text-quiet">{l.next_text}</span>
              {l.stations ? (
                <span className="block text-sm">
                  {l.stations} {l.stations === 1 ? "station" : "stations"}, {l.marks} marked
                  {l.held ? `, ${l.held} not proved` : ""}
                </span>
              ) : null}
              {l.stations ? (
                <span className="mt-1 block">
                  <CoverStrip cover={l.cover} />
                </span>
              ) : null}
            </span>
          </Link>
        </li>
      ))}
    </ul>
  );
}
