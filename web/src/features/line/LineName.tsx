import { ChevronDown, Pencil, ShieldAlert } from "lucide-react";
import { useState } from "react";
import type { Job, LineState } from "../../api/client";
import { UtilityTag } from "../../pictures/UtilityTag";
import { Button } from "../../ui/Button";
import { Sheet } from "../../ui/Sheet";
import { HistoryButton } from "../history/History";

/** The line that is worked on; behind its name stands all that the figures of the page rest on. */
export function LineName({ job, line, onEdit }: { job: Job; line: LineState; onEdit: () => void }) {
  const [open, setOpen] = useState(false);
  return (
    <div className="flex min-w-0 items-stretch gap-1 lg:w-72 lg:shrink-0">
      <button
        type="button"
        className="relative flex min-h-12 min-w-0 grow items-center gap-2 rounded-md text-left"
        aria-haspopup="dialog"
        onClick={() => setOpen(true)}
      >
        <span className="sr-only">About this line: </span>
        <UtilityTag utility={line.utility} />
        <strong className="line-clamp-2 min-w-0 leading-tight">{line.name}</strong>
        <ChevronDown aria-hidden className="size-5 shrink-0" />
      </button>
      <button
        type="button"
        className="flex min-h-12 min-w-11 items-center justify-center rounded-md"
        aria-label="Edit this line"
        onClick={onEdit}
      >
        <Pencil aria-hidden className="size-5" />
      </button>
      <Sheet title={line.name} open={open} onClose={() => setOpen(false)}>
        <Facts
          job={job}
          line={line}
          onEdit={() => {
            setOpen(false);
            onEdit();
          }}
        />
      </Sheet>
    </div>
  );
}

function Facts({ job, line, onEdit }: { job: Job; line: LineState; onEdit: () => void }) {
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
    <section aria-label="This line">
      <dl className="grid gap-x-6 gap-y-2 sm:grid-cols-2">
        {facts.map(([k, v]) => (
          <div key={k}>
            <dt className="text-sm text-quiet">{k}</dt>
            <dd className="leading-snug font-semibold">{v}</dd>
          </div>
        ))}
      </dl>
      <div className="my-3 flex flex-wrap items-center gap-2">
        <Button look="main" onClick={onEdit}>
          <Pencil aria-hidden className="size-4" /> Edit
        </Button>
        <HistoryButton jobId={job.id} kind="lines" entry={line.id} of="this line" label="Line's history" />
        <HistoryButton jobId={job.id} of="the whole job" label="Job's history" />
      </div>
      <p className="flex gap-2 text-sm">
        <ShieldAlert aria-hidden className="size-5 shrink-0" />
        <span>
          Local codes, the line's owner and qualified staff decide. A mark says where the line was found; it
          is never permission to dig.
        </span>
      </p>
    </section>
  );
}
