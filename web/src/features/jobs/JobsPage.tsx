import { Download, Plus, Upload } from "lucide-react";
import { lazy, useRef, useState } from "react";
import { Link, useNavigate } from "react-router";
import { BASE } from "../../api/base";
import { api, asRefusal, type Refusal, type Schemas, take } from "../../api/client";
import { useChange, useJobs } from "../../api/queries";
import { when } from "../../api/units";
import { Button } from "../../ui/Button";
import { Refused } from "../../ui/Refused";
import { Sheet } from "../../ui/Sheet";
import { useToast } from "../../ui/Toasts";
import { useTitle } from "../../ui/useTitle";
import { Wait } from "../../ui/Wait";
import { WhoButton } from "../who/WhoWorks";
import { Backups } from "./Backups";
import { Devices } from "./Devices";

const JobForm = lazy(() => import("./JobForm"));

export default function JobsPage() {
  useTitle("Jobs");
  const jobs = useJobs();
  const go = useNavigate();
  const [open, setOpen] = useState(false);
  const [refused, setRefused] = useState<Refusal | null>(null);
  const file = useRef<HTMLInputElement>(null);
  const bring = useChange("jobs", (text: string) => take(api.POST("/api/jobs/import", { body: { text } })));
  const importFile = async (chosen: File | undefined) => {
    if (!chosen) return;
    setRefused(null);
    try {
      const made = await bring.mutateAsync(await chosen.text());
      go(`/jobs/${made.id}`);
    } catch (e) {
      setRefused(asRefusal(e));
    }
    if (file.current) file.current.value = "";
  };
  return (
    <div className="mx-auto w-full max-w-4xl p-4 sm:p-8">
      <div className="mb-4 flex flex-wrap items-center gap-3">
        <h1 className="mr-auto">Jobs</h1>
        <input
          ref={file}
          type="file"
          accept=".json"
          aria-label="Job file"
          className="sr-only"
          tabIndex={-1}
          onChange={(e) => importFile(e.target.files?.[0])}
        />
        <Button onClick={() => file.current?.click()}>
          <Upload aria-hidden className="size-5" /> Import a job
        </Button>
        <Button look="main" onClick={() => setOpen(true)}>
          <Plus aria-hidden className="size-5" /> New job
        </Button>
      </div>
      {refused ? <Refused text={refused.text} /> : null}
      <Wait query={jobs} doing="Reading the jobs">
        {({ pages }) =>
          pages[0]?.jobs.length === 0 ? (
            <div className="card mt-3">
              <h2>No jobs yet</h2>
              <p>Start one with where the dig is and what the soil is like; lines come next.</p>
            </div>
          ) : (
            <>
              <ul className="mt-3 grid gap-3">
                {pages.flatMap((page) => page.jobs.map((j) => <JobItem key={j.id} job={j} />))}
              </ul>
              {jobs.hasNextPage ? (
                <Button
                  className="mt-3"
                  disabled={jobs.isFetchingNextPage}
                  onClick={() => jobs.fetchNextPage()}
                >
                  Show older jobs
                </Button>
              ) : null}
            </>
          )
        }
      </Wait>
      <Backups />
      <Devices />
      <WhoButton className="mt-3 flex sm:hidden" />
      <Sheet title="New job" open={open} onClose={() => setOpen(false)}>
        <JobForm
          onDone={(id) => {
            setOpen(false);
            go(`/jobs/${id}`);
          }}
        />
      </Sheet>
    </div>
  );
}

function JobItem({ job }: { job: Schemas["JobListed"] }) {
  const toast = useToast();
  const path = { params: { path: { job_id: job.id } } };
  const restore = useChange("jobs", () => take(api.POST("/api/jobs/{job_id}/restore", path)));
  const remove = useChange("jobs", () => take(api.DELETE("/api/jobs/{job_id}", path)));
  const onRemove = () =>
    remove.mutateAsync(undefined).then(
      () => toast(`Removed “${job.name}”.`, () => restore.mutate(undefined)),
      (e) => toast(e.message),
    );
  return (
    <li className="card flex flex-wrap items-center gap-x-4 gap-y-2">
      <div className="min-w-0 grow basis-72">
        <Link to={`/jobs/${job.id}`} className="text-xl font-bold underline decoration-2 underline-offset-4">
          {job.name}
        </Link>
        <p className="text-quiet">{job.dig}</p>
        <p className="mt-1 text-sm">
          {job.technician}
          {job.due_at ? ` · due ${when(job.due_at)}` : ""} · {job.lines} {job.lines === 1 ? "line" : "lines"}{" "}
          · {job.marks} {job.marks === 1 ? "mark" : "marks"}
        </p>
      </div>
      <a
        href={`${BASE}/api/jobs/${job.id}/export`}
        download
        className="inline-flex min-h-11 items-center gap-2 font-semibold underline underline-offset-4"
      >
        <Download aria-hidden className="size-5" /> Export
      </a>
      <Button look="quiet" onClick={onRemove} aria-label={`Remove ${job.name}`}>
        Remove
      </Button>
    </li>
  );
}
