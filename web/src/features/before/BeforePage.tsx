import { useParams } from "react-router";
import type { Before, Job } from "../../api/client";
import { useBefore, useJob } from "../../api/queries";
import { PageTop } from "../../ui/PageTop";
import { Wait } from "../../ui/Wait";

import { Checks } from "./Checks";
import { NoiseCheck } from "./NoiseCheck";
import { PassiveSweep } from "./PassiveSweep";

/** What is done before anything is switched on: the sheet, the noise, the receiver alone. */
export default function BeforePage() {
  const { jobId } = useParams();
  const job = useJob(Number(jobId));
  const before = useBefore(Number(jobId));
  return (
    <Wait query={job} doing="Reading the job">
      {(j) => (
        <Wait query={before} doing="Reading the sheet">
          {(b) => <BeforeView job={j} before={b} />}
        </Wait>
      )}
    </Wait>
  );
}

const TONE: Record<Before["state"], string> = {
  open: "border-need bg-need-bg text-need",
  stop: "border-hold bg-hold-bg text-hold",
  answered: "border-mark bg-mark-bg text-mark",
};

function BeforeView({ job, before: b }: { job: Job; before: Before }) {
  return (
    <div className="mx-auto grid w-full max-w-[90rem] gap-3 p-3 sm:p-5 lg:grid-cols-2">
      <PageTop job={job} title="Before anything is switched on" />
      <div
        role="status"
        data-state={b.state}
        className={`rounded-md border-2 p-3 lg:col-span-2 ${TONE[b.state]}`}
      >
        <p className="text-lg font-bold">{b.headline}</p>
        <p>{b.advice}</p>
      </div>
      <div className="grid content-start gap-3">
        {b.groups.map((g) => (
          <Checks key={g.id} job={job} group={g} />
        ))}
      </div>
      <div className="grid content-start gap-3">
        <NoiseCheck job={job} before={b} />
        <PassiveSweep job={job} passive={b.passive} />
      </div>
    </div>
  );
}
