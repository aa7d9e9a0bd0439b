import { Link } from "react-router";
import type { Job } from "../../api/client";
import { useStanding } from "../../api/queries";
import { CoverStrip } from "../../pictures/CoverStrip";
import { UtilityTag } from "../../pictures/UtilityTag";

/** What was taken on a line: stations of its trace, or stops of a sonde. */
const counted = (l: Job["lines"][number]) =>
  `${l.steps.includes("trace") ? "station" : "stop"}${l.stations === 1 ? "" : "s"}`;

/** The lines of a job, each with how it stands. */
export function LineList({ job, current }: { job: Job; current: number | null }) {
  const standing = useStanding(job.id, current === null);
  const held = new Map(standing.data?.lines.map((l) => [l.id, l.held]));
  return (
    <ul className="grid gap-1.5">
      {job.lines.map((l) => (
        <li key={l.id}>
          <Link
            to={`/jobs/${job.id}/lines/${l.id}/${l.step}`}
            data-line={l.id}
            data-step={l.step}
            aria-current={current === l.id ? "true" : undefined}
            className={`flex items-start gap-2 rounded-lg border-2 p-2 ${current === l.id ? "border-ink bg-sheet" : "border-edge"}`}
          >
            <UtilityTag utility={l.utility} />
            <span className="min-w-0 grow">
              <strong className="block leading-tight">{l.name}</strong>
              <span className="block text-sm leading-tight text-quiet">{l.next_text}</span>
              {l.stations ? (
                <span className="block text-sm">
                  {l.stations} {counted(l)}, {l.marks} marked
                  {held.get(l.id) ? `, ${held.get(l.id)} not proved` : ""}
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
