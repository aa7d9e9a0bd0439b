import { useParams } from "react-router";
import type { Before, Job } from "../../api/client";
import { useBefore, useJob } from "../../api/queries";
import { PageTop } from "../../ui/PageTop";
import { Views } from "../../ui/Views";
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
    <div className="flex min-h-0 min-w-0 flex-col gap-3 lg:overflow-y-auto">
      <PageTop job={job} title="Before anything is switched on" />
      <div role="status" data-state={b.state} className={`rounded-md border-2 p-3 ${TONE[b.state]}`}>
        <p className="text-lg font-bold">{b.headline}</p>
        <p>{b.advice}</p>
      </div>
      <Views
        label="Before the work"
        first={b.groups.find((g) => given(g) < g.checks.length)?.id}
        views={[
          ...b.groups.map((g) => ({
            id: g.id,
            label: g.title,
            note: `${given(g)} of ${g.checks.length}`,
            show: <Checks job={job} group={g} />,
          })),
          { id: "noise", label: "Noise", show: <NoiseCheck job={job} before={b} /> },
          {
            id: "passive",
            label: "Passive sweep",
            note: b.passive.hits.length ? String(b.passive.hits.length) : "",
            show: <PassiveSweep job={job} passive={b.passive} />,
          },
        ]}
      />
    </div>
  );
}

const given = (group: Before["groups"][number]) => group.checks.filter((c) => c.answer).length;
