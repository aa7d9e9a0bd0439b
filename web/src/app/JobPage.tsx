import { useState } from "react";
import { Navigate, useNavigate, useOutletContext, useParams } from "react-router";
import type { Job, LineState } from "../api/client";
import { LineName } from "../features/line/LineName";
import { STEPS, StepBar, stepsOf } from "../features/line/StepBar";
import { Button } from "../ui/Button";
import { fetched } from "../ui/fetched";
import { useKeys } from "../ui/keys";
import { Sheet } from "../ui/Sheet";
import { useTitle } from "../ui/useTitle";
import type { Frame } from "./JobFrame";
import { pageOf } from "./stepPages";

const LineForm = fetched(() => import("../features/line/LineForm"));

/** The line that is worked on, step by step; a job without lines asks for the first. */
export default function JobPage() {
  const { job, onNewLine } = useOutletContext<Frame>();
  const { lineId, step } = useParams();
  const go = useNavigate();
  const [editing, setEditing] = useState(false);
  const line = job.lines.find((l) => l.id === Number(lineId));
  const to = (l: LineState, s: string) => `/jobs/${job.id}/lines/${l.id}/${s}`;
  useTitle(STEPS.find((s) => s.id === step)?.label ?? "", line?.name ?? "", job.name);
  const steps = line ? stepsOf(line) : [];
  useKeys(Object.fromEntries(steps.map((s, i) => [String(i + 1), () => line && go(to(line, s.id))])));
  const first = job.lines[0];
  if (!line && first) return <Navigate replace to={to(first, first.step)} />;
  if (!line) return <NoLine onNewLine={onNewLine} />;
  return (
    <section aria-label={line.name} className="flex min-h-0 min-w-0 flex-col gap-3">
      <div className="flex flex-wrap items-stretch gap-3 lg:flex-nowrap">
        <LineName job={job} line={line} onEdit={() => setEditing(true)} />
        <StepBar line={line} current={step ?? ""} to={(s) => to(line, s)} />
      </div>
      <div className="relative min-h-0 lg:grow lg:overflow-y-auto">
        <Work job={job} line={line} step={step ?? ""} />
      </div>
      <Sheet title={line.name} open={editing} onClose={() => setEditing(false)}>
        <LineForm
          job={job}
          lineId={line.id}
          onDone={() => setEditing(false)}
          onRemoved={() => {
            setEditing(false);
            go(`/jobs/${job.id}`);
          }}
        />
      </Sheet>
    </section>
  );
}

function NoLine({ onNewLine }: { onNewLine: () => void }) {
  return (
    <section className="card self-start">
      <h2>No line yet</h2>
      <p className="mb-3">
        Add the first line: what it carries, how it is made, how deep and how long it should be.
      </p>
      <Button look="main" onClick={onNewLine}>
        Add a line
      </Button>
    </section>
  );
}

function Work({ job, line, step }: { job: Job; line: LineState; step: string }) {
  const Page = pageOf(step);
  return Page ? (
    <Page job={job} line={line} />
  ) : (
    <Navigate replace to={`/jobs/${job.id}/lines/${line.id}/${line.step}`} />
  );
}
