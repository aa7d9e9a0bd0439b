import { ClipboardCheck, Map as MapIcon, Pencil, Plus, Printer, Ruler } from "lucide-react";
import { lazy, Suspense, useState } from "react";
import { Link, Navigate, useNavigate, useParams } from "react-router";
import type { Job, LineState } from "../api/client";
import { useJob } from "../api/queries";
import { when } from "../api/units";
import { LineList } from "../features/line/LineList";
import { LineSide } from "../features/line/LineSide";
import { STEPS, StepBar } from "../features/line/StepBar";
import { Button } from "../ui/Button";
import { useKeys } from "../ui/keys";
import { Sheet } from "../ui/Sheet";
import { Loading, Wait } from "../ui/Wait";

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
  const [allLines, setAllLines] = useState(false);
  const [sheet, setSheet] = useState<"job" | "line" | "new-line" | null>(null);
  const line = job.lines.find((l) => l.id === Number(lineId));
  const to = (l: LineState, s: string) => `/jobs/${job.id}/lines/${l.id}/${s}`;
  useKeys(Object.fromEntries(STEPS.map((s, i) => [String(i + 1), () => line && go(to(line, s.id))])));
  const first = job.lines[0];
  if (!line && first && !lineId) return <Navigate replace to={to(first, first.step)} />;
  return (
    <div className="mx-auto grid max-w-[100rem] gap-4 p-3 pb-24 sm:p-5 lg:grid-cols-[15rem_minmax(0,1fr)] lg:pb-6 xl:grid-cols-[15rem_minmax(0,1fr)_17rem]">
      <section aria-label="Job and lines" className="min-w-0">
        <div className="mb-3">
          <h1 className="truncate text-lg leading-tight lg:whitespace-normal">{job.name}</h1>
          <p className="text-sm text-quiet">
            {job.technician}
            {job.due_at ? ` · due ${when(job.due_at)}` : ""}
          </p>
          <div
            className={`mt-2 flex flex-wrap gap-2 lg:grid lg:grid-cols-2 ${line && !allLines ? "max-lg:hidden" : ""}`}
          >
            <Button onClick={() => setSheet("job")} className="px-2 text-sm whitespace-nowrap lg:order-last">
              <Pencil aria-hidden className="size-4" /> Job
            </Button>
            <Link
              to={`/jobs/${job.id}/before`}
              className={`inline-flex min-h-11 items-center gap-2 rounded-md border px-3 text-sm font-semibold lg:col-span-2 ${job.before_state === "stop" ? "border-hold bg-hold-bg text-hold" : "border-quiet bg-sheet"}`}
            >
              <ClipboardCheck aria-hidden className="size-4" /> Before
              <span className="font-normal">{job.before_text}</span>
            </Link>
            <Link
              to={`/jobs/${job.id}/record`}
              className="inline-flex min-h-11 items-center gap-2 rounded-md border border-quiet bg-sheet px-3 text-sm font-semibold"
            >
              <Printer aria-hidden className="size-4" /> Record
            </Link>
            <Link
              to={`/jobs/${job.id}/site`}
              className="inline-flex min-h-11 items-center gap-2 rounded-md border border-quiet bg-sheet px-3 text-sm font-semibold"
            >
              <MapIcon aria-hidden className="size-4" /> Site
            </Link>
            <Link
              to={`/jobs/${job.id}/progress`}
              className="inline-flex min-h-11 items-center gap-2 rounded-md border border-quiet bg-sheet px-3 text-sm font-semibold"
            >
              <Ruler aria-hidden className="size-4" /> Marked
            </Link>
            <Button
              onClick={() => setSheet("new-line")}
              className="px-2 text-sm whitespace-nowrap lg:order-last lg:col-span-2"
            >
              <Plus aria-hidden className="size-4 shrink-0" /> Add a line
            </Button>
          </div>
        </div>
        <LineList job={job} current={line?.id ?? null} onlyCurrent={!allLines} />
        {line ? (
          <Button
            look="quiet"
            className="lg:hidden"
            aria-expanded={allLines}
            onClick={() => setAllLines(!allLines)}
          >
            {allLines ? "Only this line" : `Job and all lines (${job.lines.length})`}
          </Button>
        ) : null}
      </section>
      {line ? (
        <>
          <section aria-label={line.name} className="min-w-0">
            <StepBar line={line} current={step ?? ""} to={(s) => to(line, s)} />
            <Suspense fallback={<Loading />}>
              <Work job={job} line={line} step={step ?? ""} />
            </Suspense>
          </section>
          <LineSide job={job} line={line} onEdit={() => setSheet("line")} />
        </>
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
