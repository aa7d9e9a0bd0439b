import type { Schemas } from "../../api/client";
import { formatter, when } from "../../api/units";
import { SondeRun } from "../../pictures/SondeRun";
import { VerdictBadge } from "../../pictures/Verdict";
import { Struck } from "../history/Struck";

/** One sonde run on the record: what was set, what was read at each stop, and what the stops show together. */
export function SondeRecord({
  record: r,
  line,
  job,
}: {
  record: Schemas["SondeRecord"];
  line: Schemas["LineState"];
  job: Schemas["JobView"];
}) {
  const { run } = r;
  return (
    <div className="mt-4" data-sonde={run.id}>
      <h3>
        {run.title}{" "}
        <span className="font-normal text-quiet">
          {run.technician}, {when(run.created_at)}
        </span>
      </h3>
      <p className="text-sm">
        {run.check_text} {run.steps.filter((s) => s.done).length} of {run.steps.length} steps ticked.
      </p>
      {r.fall_text ? <p className="font-semibold">{r.fall_text}</p> : null}
      {[...r.corners, ...r.agreement].map((text) => (
        <p key={text}>{text}</p>
      ))}
      {r.stops.length ? (
        <SondeRun
          sonde={{ ...r, length_m: line.length_m, depth_min_m: r.depth_min_m, depth_max_m: r.depth_max_m }}
          startM={run.start_m}
          way={run.way}
          format={formatter(job.units)}
          chosen={null}
          onChoose={() => undefined}
        />
      ) : null}
      <ul>
        {r.stops.map((s) => (
          <li key={s.id} className="flex flex-wrap items-baseline gap-x-3 border-t border-edge py-1 text-sm">
            <strong>{s.distance_text}</strong>
            <VerdictBadge verdict={s.verdict} />
            <span className="first-letter:uppercase">{s.read_text}.</span>
            <span>{s.head_text}</span>
            <span className="text-quiet">
              {s.technician}, {when(s.taken_at)}
              {s.note ? ` · ${s.note}` : ""}
            </span>
            {s.verdict === "mark" ? null : <span className="w-full">{s.headline}</span>}
          </li>
        ))}
      </ul>
      <Struck entries={r.struck} />
    </div>
  );
}
