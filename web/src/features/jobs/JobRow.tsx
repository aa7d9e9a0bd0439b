import { Download, Trash2 } from "lucide-react";
import { useState } from "react";
import { Link } from "react-router";
import { BASE } from "../../api/base";
import { api, type Schemas, take } from "../../api/client";
import { useChange } from "../../api/queries";
import { when } from "../../api/units";
import { PlanSketch } from "../../pictures/PlanSketch";
import { Menu } from "../../ui/Menu";
import { useToast } from "../../ui/Toasts";
import { AskWhy } from "../history/StrikeOut";

/** A job in the list: what is drawn, where it is, when it is due and how many of its lines carry marks. */
export function JobRow({ job }: { job: Schemas["JobListed"] }) {
  const toast = useToast();
  const path = { params: { path: { job_id: job.id } } };
  const restore = useChange("jobs", () => take(api.POST("/api/jobs/{job_id}/restore", path)));
  const remove = useChange("jobs", (why: string) =>
    take(api.DELETE("/api/jobs/{job_id}", { params: { ...path.params, query: { why } } })),
  );
  const [asking, setAsking] = useState(false);
  const onRemove = (why: string) =>
    remove.mutateAsync(why).then(
      () => toast(`Removed “${job.name}”.`, () => restore.mutate(undefined)),
      (e) => toast(e.message),
    );
  return (
    <li className="border-b border-edge p-2 last:border-0 sm:px-3">
      <div className="flex items-center gap-3">
        <PlanSketch lines={job.sketch} />
        <div className="grid min-w-0 grow gap-x-4 lg:grid-cols-[minmax(0,1fr)_12rem_11rem] lg:items-center">
          <div className="min-w-0">
            <Link
              to={`/jobs/${job.id}`}
              className="text-lg leading-tight font-bold underline underline-offset-4"
            >
              {job.name}
            </Link>
            <p className="truncate text-sm text-quiet">
              {[job.address, job.notice && `notice ${job.notice}`].filter(Boolean).join(" · ") || job.dig}
            </p>
          </div>
          <p className="text-sm">
            {job.technician}
            <br className="max-lg:hidden" />
            <span className="lg:hidden"> · </span>
            {job.due_at ? (
              <span className={job.overdue ? "font-bold text-hold" : ""}>
                {job.overdue ? "overdue" : "due"} {when(job.due_at)}
              </span>
            ) : (
              <span className="text-quiet">no due date</span>
            )}
          </p>
          <Progress job={job} />
        </div>
        <Menu
          label={`More for ${job.name}`}
          choices={[
            { icon: Download, text: "Export as a file", href: `${BASE}/api/jobs/${job.id}/export` },
            { icon: Trash2, text: "Remove from the list", onChoose: () => setAsking(true) },
          ]}
        />
      </div>
      {asking ? (
        <div className="mt-2">
          <AskWhy
            what={`the job ${job.name}`}
            verb="Remove"
            says="Why? It can be restored, and its history stays."
            reasons={["Cancelled", "Entered twice", "Only a try"]}
            busy={remove.isPending}
            onGive={onRemove}
            onKeep={() => setAsking(false)}
          />
        </div>
      ) : null}
    </li>
  );
}

function Progress({ job }: { job: Schemas["JobListed"] }) {
  if (!job.lines) return <p className="text-sm text-quiet">no line yet</p>;
  return (
    <div className="text-sm">
      <p>
        {job.marks} {job.marks === 1 ? "mark" : "marks"} on {job.with_marks} of {job.lines}{" "}
        {job.lines === 1 ? "line" : "lines"}
      </p>
      <div aria-hidden className="mt-0.5 flex h-2 gap-0.5">
        {Array.from({ length: Math.min(job.lines, 20) }, (_, k) => (
          <span
            key={k}
            className={`grow rounded-sm ${k < (job.with_marks * Math.min(job.lines, 20)) / job.lines ? "bg-deep" : "bg-edge"}`}
          />
        ))}
      </div>
    </div>
  );
}
