import type { Job, Station } from "../../api/client";
import { useAcross } from "../../api/queries";
import { formatter } from "../../api/units";
import { AcrossLine } from "../../pictures/AcrossLine";
import { Wait } from "../../ui/Wait";

/** What the receiver should find going across the line at one place, if only what is entered lies there. */
export function AcrossCard({
  setupId,
  atM,
  job,
  best,
}: {
  setupId: number;
  atM: number;
  job: Job;
  best: Station["estimate"];
}) {
  const across = useAcross(setupId, atM);
  return (
    <section className="card" aria-label="Across the line">
      <Wait query={across} doing="Computing the field across the line">
        {(a) => (
          <>
            <h2>{a.title}</h2>
            <p className="mb-2">{a.text}</p>
            <AcrossLine across={a} best={best} format={formatter(job.units)} />
          </>
        )}
      </Wait>
    </section>
  );
}
