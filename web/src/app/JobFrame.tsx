import { useState } from "react";
import { Outlet, useNavigate, useParams } from "react-router";
import type { Job } from "../api/client";
import { useJob } from "../api/queries";
import { fetched } from "../ui/fetched";
import { Sheet } from "../ui/Sheet";
import { Wait } from "../ui/Wait";
import { JobRail } from "./JobRail";

const JobForm = fetched(() => import("../features/jobs/JobForm"));
const LineForm = fetched(() => import("../features/line/LineForm"));

/** What a page inside the frame may ask of it. */
export interface Frame {
  job: Job;
  onNewLine: () => void;
}

/** Every page of a job: its rail of lines and places beside the page, which fills the window on a desk. */
export default function JobFrame() {
  const job = useJob(Number(useParams().jobId));
  return (
    <Wait query={job} doing="Reading the job">
      {(data) => <Framed job={data} />}
    </Wait>
  );
}

function Framed({ job }: { job: Job }) {
  const { lineId } = useParams();
  const go = useNavigate();
  const [sheet, setSheet] = useState<"job" | "new-line" | null>(null);
  const onNewLine = () => setSheet("new-line");
  return (
    <div className="mx-auto grid w-full max-w-[110rem] grid-cols-1 content-start gap-3 p-3 pb-40 lg:h-[calc(100dvh-3.75rem)] lg:min-h-[38rem] lg:grid-cols-[13rem_minmax(0,1fr)] lg:grid-rows-[minmax(0,1fr)] lg:pb-3">
      <JobRail
        job={job}
        lineId={lineId === undefined ? null : Number(lineId)}
        onJob={() => setSheet("job")}
        onNewLine={onNewLine}
      />
      <Outlet context={{ job, onNewLine } satisfies Frame} />
      <Sheet title="Job" open={sheet === "job"} onClose={() => setSheet(null)}>
        <JobForm job={job} onDone={() => setSheet(null)} />
      </Sheet>
      <Sheet title="New line" open={sheet === "new-line"} onClose={() => setSheet(null)}>
        <LineForm
          job={job}
          onDone={(id) => {
            setSheet(null);
            go(`/jobs/${job.id}/lines/${id}/plan`);
          }}
        />
      </Sheet>
    </div>
  );
}
