import type { Job, Schemas } from "../api/client";
import { formatter } from "../api/units";
import { OverHead } from "./OverHead";

/** What peak, nulls and ghosts will look like over a head in this pipe, and what the pipe takes of the signal. */
export function ExpectedOverHead({ sonde, job }: { sonde: Schemas["SondeView"]; job: Job }) {
  return (
    <section className="card lg:p-3" aria-label="What to expect over the head">
      <h2>What to expect over the head</h2>
      {sonde.shield_text ? <p className="mb-1 font-bold text-hold">{sonde.shield_text}</p> : null}
      <p className="mb-2">{sonde.forecast_text}</p>
      <OverHead over={sonde.expected} text={sonde.forecast_text} format={formatter(job.units)} />
      <p className="mt-1 text-sm text-quiet">
        Turned in line with the pipe, the receiver is loudest right over the head. At the nulls it goes
        silent; the ghosts beyond are a fifth as loud. Places are counted from the head.
      </p>
      {sonde.rod_text ? <p className="mt-2">{sonde.rod_text}</p> : null}
    </section>
  );
}
