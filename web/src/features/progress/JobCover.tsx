import { TriangleAlert } from "lucide-react";
import { Link } from "react-router";
import type { Job, Standing } from "../../api/client";
import { CoverLengths, CoverStrip } from "../../pictures/CoverStrip";
import { UtilityTag } from "../../pictures/UtilityTag";

/** Every line with its strip and lengths, and the crossings at which two depths cannot both be true. */
export function JobCover({
  job,
  standing,
  links = false,
}: {
  job: Job;
  standing: Standing;
  links?: boolean;
}) {
  return (
    <>
      {standing.crossings.length ? (
        <ul aria-label="Depths that contradict each other" className="grid gap-2">
          {standing.crossings.map((text) => (
            <li
              key={text}
              className="flex gap-2 rounded-md border-2 border-hold bg-hold-bg p-3 font-semibold text-hold"
            >
              <TriangleAlert aria-hidden className="mt-0.5 size-5 shrink-0" /> {text}
            </li>
          ))}
        </ul>
      ) : null}
      {job.lines.length === 0 ? <p className="card">No line yet.</p> : null}
      <ul className="grid gap-3" aria-label="Lines">
        {job.lines.map((l) => (
          <li key={l.id} className={links ? "card" : "border-t border-edge pt-2"} data-progress={l.id}>
            <div className="flex flex-wrap items-center gap-3">
              <UtilityTag utility={l.utility} />
              <strong className="text-lg">{l.name}</strong>
              <span className="text-sm text-quiet">{l.cover.wanted_text} to be located</span>
              {links ? (
                <Link
                  to={`/jobs/${job.id}/lines/${l.id}/${l.step}`}
                  className="ml-auto inline-flex min-h-11 items-center font-semibold underline underline-offset-4"
                >
                  {l.next_text}
                </Link>
              ) : null}
            </div>
            <div className="my-2">
              <CoverStrip cover={l.cover} tall />
            </div>
            <CoverLengths cover={l.cover} />
          </li>
        ))}
      </ul>
      <p className="text-sm text-quiet">
        Marks no more than {job.mark_every_text} apart connect into a located stretch. A mark without proof
        counts as doubtful.
      </p>
    </>
  );
}
