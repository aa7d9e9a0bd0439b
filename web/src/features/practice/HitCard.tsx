import { Link } from "react-router";
import { api, asRefusal, type Job, take } from "../../api/client";
import { useBefore, useChange } from "../../api/queries";
import { placeText } from "../../api/units";
import type { Corner } from "../../pictures/siteplan/planView";
import { Button, buttonClass } from "../../ui/Button";
import { Refused } from "../../ui/Refused";

/** The receiver's setting for mains, without a transmitter. */
export const PASSIVE = 0;

/** The receiver alone: what it hears is logged where it is heard, as on the Before page. */
export function HitCard(p: { job: Job; at: Corner }) {
  const passive = useBefore(p.job.id).data?.passive;
  const save = useChange(
    "passive",
    (place: string) =>
      take(
        api.PUT("/api/jobs/{job_id}/before/passive", {
          params: { path: { job_id: p.job.id } },
          body: {
            spacing: passive?.spacing ?? "",
            hits: [
              ...(passive?.hits ?? []).map((h) => ({ source: h.source, place: h.place, note: h.note })),
              { source: "mains" as const, place, note: "" },
            ],
          },
        }),
      ),
    { scope: `before-${p.job.id}` },
  );
  return (
    <section className="card lg:p-3" aria-label="Passive sweep">
      <h2>The receiver alone</h2>
      <p className="my-1 text-sm leading-snug text-quiet">
        Face it across your walk: what you cross is heard, what runs along your walk is not. Never trust the
        depth of a passive hit.
      </p>
      <div className="flex flex-wrap gap-2">
        <Button
          look="main"
          disabled={!passive || save.isPending}
          onClick={() => save.mutate(placeText(p.at, p.job.units))}
        >
          Log a hit here
        </Button>
        <Link className={buttonClass("quiet")} to={`/jobs/${p.job.id}/before`}>
          {passive?.hits.length ?? 0} logged
        </Link>
      </div>
      {save.error ? <Refused text={asRefusal(save.error).text} /> : null}
    </section>
  );
}
