import type { Schemas } from "../../api/client";
import { formatter, when } from "../../api/units";
import { FAULT_LOOK, FrameWalk } from "../../pictures/FrameWalk";
import { VerdictBadge } from "../../pictures/Verdict";
import { Struck } from "../history/Struck";

/** One walk with the frame on the record: how it was made ready, what it showed, and the faults. */
export function FaultRecord({
  record: r,
  line,
  job,
}: {
  record: Schemas["FaultRecord"];
  line: Schemas["LineState"];
  job: Schemas["JobView"];
}) {
  const { walk } = r;
  return (
    <div className="mt-4" data-walk={walk.id}>
      <h3>
        {walk.title}{" "}
        <span className="font-normal text-quiet">
          {walk.technician}, {when(walk.created_at)}
        </span>
      </h3>
      <p className="text-sm">
        {walk.ohms_text ? `Loop ${walk.ohms_text}. ` : "Loop not read. "}
        {walk.reference ? `Level at the stake ${walk.reference}. ` : "Level at the stake not read. "}
        {walk.steps.filter((s) => s.done).length} of {walk.steps.length} steps ticked.
      </p>
      {r.readings.length ? (
        <FrameWalk
          readings={r.readings}
          faults={r.faults}
          fitted={r.fitted}
          from={0}
          to={line.length_m}
          text="Level and direction of the frame along the cable"
          format={formatter(job.units)}
          chosen={null}
          onChoose={() => undefined}
        />
      ) : null}
      <ul>
        {r.faults.map((f) => (
          <li
            key={f.at_m}
            className="flex flex-wrap items-baseline gap-x-3 border-t border-edge py-1 text-sm"
          >
            <strong>{f.at_text}</strong>
            <VerdictBadge verdict={FAULT_LOOK[f.said]} label={f.label} />
            <span>{f.text}</span>
            {f.said === "found" ? null : <span className="w-full">{f.headline}</span>}
          </li>
        ))}
      </ul>
      <p className="text-sm">{r.readings.map((x) => x.text).join("; ")}</p>
      <Struck entries={r.struck} />
    </div>
  );
}
