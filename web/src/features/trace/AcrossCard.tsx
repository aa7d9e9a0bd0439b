import type { Job, Station } from "../../api/client";
import { useAcross } from "../../api/queries";
import { formatter } from "../../api/units";
import { AcrossLine } from "../../pictures/AcrossLine";
import { Wait } from "../../ui/Wait";

/** What was read going across the line at a station; without that, what should be found if only what is entered lies there. */
export function AcrossCard(p: { setupId: number; atM: number; job: Job; station: Station | null }) {
  const read = p.station?.across;
  if (p.station && read)
    return (
      <section aria-label="Across the line" data-profile>
        <h2>{read.title}</h2>
        <p className="font-semibold">{read.text}</p>
        <p className="mb-1">{read.next_step}</p>
        <AcrossLine across={read} best={p.station.estimate} format={formatter(p.job.units)} />
      </section>
    );
  return <Foretold {...p} />;
}

function Foretold({ setupId, atM, job, station }: Parameters<typeof AcrossCard>[0]) {
  const across = useAcross(setupId, atM);
  return (
    <section aria-label="Across the line">
      <Wait query={across} doing="Computing the field across the line">
        {(a) => (
          <>
            <h2>{a.title}</h2>
            <p className="mb-2">{a.text}</p>
            <AcrossLine across={a} best={station?.estimate ?? null} format={formatter(job.units)} />
          </>
        )}
      </Wait>
    </section>
  );
}
