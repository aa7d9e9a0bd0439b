import { lazy, Suspense, useState } from "react";
import { Navigate, useNavigate, useParams } from "react-router";
import type { Job, LineState } from "../api/client";
import { useJob } from "../api/queries";
import { LineName } from "../features/line/LineName";
import { STEPS, StepBar } from "../features/line/StepBar";
import { Button } from "../ui/Button";
import { useKeys } from "../ui/keys";
import { Sheet } from "../ui/Sheet";
import { useTitle } from "../ui/useTitle";
import { Loading, Wait } from "../ui/Wait";
import { JobRail } from "./JobRail";

const JobForm = lazy(() => import("../features/jobs/JobForm"));
const LineForm = lazy(() => import("../features/line/LineForm"));
const HookupPage = lazy(() => import("../features/hookup/HookupPage"));
const MarksPage = lazy(() => import("../features/marks/MarksPage"));
const PlanPage = lazy(() => import("../features/plan/PlanPage"));
const SweepPage = lazy(() => import("../features/sweep/SweepPage"));
const TracePage = lazy(() => import("../features/trace/TracePage"));

export default function JobPage() {
  const { jobId } = useParams();
  const job = useJob(Number(jobId));
  return (
    <div className="w-full">
      <Wait query={job} doing="Reading the job">
        {(data) => <JobView job={data} />}
      </Wait>
    </div>
  );
}

function JobView({ job }: { job: Job }) {
  const { lineId, step } = useParams();
  const go = useNavigate();
  const [sheet, setSheet] = useState<"job" | "line" | "new-line" | null>(null);
  const line = job.lines.find((l) => l.id === Number(lineId));
  useTitle(STEPS.find((s) => s.id === step)?.label ?? "", line?.name ?? "", job.name);
  const to = (l: LineState, s: string) => `/jobs/${job.id}/lines/${l.id}/${s}`;
  useKeys(Object.fromEntries(STEPS.map((s, i) => [String(i + 1), () => line && go(to(line, s.id))])));
  const first = job.lines[0];
  if (!line && first && !lineId) return <Navigate replace to={to(first, first.step)} />;
  return (
    <div className="mx-auto grid max-w-[110rem] grid-cols-1 gap-3 p-3 pb-24 lg:h-[calc(100dvh-3.75rem)] lg:min-h-[38rem] lg:grid-cols-[13rem_minmax(0,1fr)] lg:pb-3">
      <JobRail
        job={job}
        lineId={line?.id ?? null}
        onJob={() => setSheet("job")}
        onNewLine={() => setSheet("new-line")}
      />
      {line ? (
        <section aria-label={line.name} className="flex min-h-0 min-w-0 flex-col gap-3">
          <div className="flex flex-wrap items-stretch gap-3 lg:flex-nowrap">
            <LineName job={job} line={line} onEdit={() => setSheet("line")} />
            <StepBar line={line} current={step ?? ""} to={(s) => to(line, s)} />
          </div>
          <div className="relative min-h-0 lg:grow lg:overflow-y-auto">
            <Suspense fallback={<Loading />}>
              <Work job={job} line={line} step={step ?? ""} />
            </Suspense>
          </div>
        </section>
      ) : (
        <section className="card self-start">
          <h2>No line yet</h2>
          <p className="mb-3">
            Add the first line: what it carries, how it is made, how deep and how long it should be.
          </p>
          <Button look="main" onClick={() => setSheet("new-line")}>
            Add a line
          </Button>
        </section>
      )}
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
      {line ? (
        <Sheet title={line.name} open={sheet === "line"} onClose={() => setSheet(null)}>
          <LineForm
            job={job}
            lineId={line.id}
            onDone={() => setSheet(null)}
            onRemoved={() => {
              setSheet(null);
              go(`/jobs/${job.id}`);
            }}
          />
        </Sheet>
      ) : null}
    </div>
  );
}

function Work({ job, line, step }: { job: Job; line: LineState; step: string }) {
  switch (step) {
    case "plan":
      return <PlanPage job={job} line={line} />;
    case "hookup":
      return <HookupPage job={job} line={line} />;
    case "sweep":
      return <SweepPage job={job} line={line} />;
    case "trace":
      return <TracePage job={job} line={line} />;
    case "mark":
      return <MarksPage job={job} line={line} />;
    default:
      return <Navigate replace to={`/jobs/${job.id}/lines/${line.id}/${line.step}`} />;
  }
}
