import { Pencil, ShieldAlert } from "lucide-react";
import type { Job, LineState } from "../../api/client";
import { Button } from "../../ui/Button";
import { HistoryButton } from "../history/History";

/** The site as it is known: what every figure on the page rests on. */
export function LineSide({ job, line, onEdit }: { job: Job; line: LineState; onEdit: () => void }) {
  const facts = [
    ["Carries", line.utility.label],
    ["Construction", line.preset_label],
    ["Length", line.length_text],
    ["Depth", line.depth_text],
    ["Near end", line.near_text],
    ["Far end", line.far_text],
    ...(line.points_text ? [["On it", line.points_text]] : []),
    ["Beside it", line.beside_text],
    ["Soil", job.soil_text],
    ["Kit", job.kit_name],
    ["In use", line.setup_text ?? "no setup yet"],
  ];
  return (
    <aside aria-label="This line" className="min-w-0 lg:col-start-2 xl:col-start-auto">
      <div className="card">
        <div className="mb-2 flex items-center justify-between gap-2">
          <h2>This line</h2>
          <Button onClick={onEdit} className="px-3 text-sm">
            <Pencil aria-hidden className="size-4" /> Edit
          </Button>
        </div>
        <dl className="grid gap-2 text-sm">
          {facts.map(([k, v]) => (
            <div key={k}>
              <dt className="text-quiet">{k}</dt>
              <dd className="text-base leading-snug font-semibold">{v}</dd>
            </div>
          ))}
        </dl>
      </div>
      <div className="flex flex-wrap">
        <HistoryButton
          jobId={job.id}
          kind="lines"
          entry={line.id}
          of="this line"
          label="Line's history"
          className="text-sm"
        />
        <HistoryButton jobId={job.id} of="the whole job" label="Job's history" className="text-sm" />
      </div>
      <p className="mt-3 flex gap-2 text-sm">
        <ShieldAlert aria-hidden className="size-5 shrink-0" />
        <span>
          Local codes, the line's owner and qualified staff decide. A mark says where the line was found; it
          is never permission to dig.
        </span>
      </p>
    </aside>
  );
}
