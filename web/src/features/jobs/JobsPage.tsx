import { FlaskConical, Plus, Search, Upload } from "lucide-react";
import { useRef, useState } from "react";
import { useNavigate } from "react-router";
import { useDebounce } from "use-debounce";
import { api, asRefusal, type Refusal, take } from "../../api/client";
import { type Standing, useChange, useJobs } from "../../api/queries";
import { Button } from "../../ui/Button";
import { fetched } from "../../ui/fetched";
import { Menu } from "../../ui/Menu";
import { Refused } from "../../ui/Refused";
import { Sheet } from "../../ui/Sheet";
import { useToast } from "../../ui/Toasts";
import { useTitle } from "../../ui/useTitle";
import { Wait } from "../../ui/Wait";
import { WhoButton } from "../who/WhoWorks";
import { Backups } from "./Backups";
import { Devices } from "./Devices";
import { JobRow } from "./JobRow";

const JobForm = fetched(() => import("./JobForm"));

export default function JobsPage() {
  useTitle("Jobs");
  const [typed, setTyped] = useState("");
  const [standing, setStanding] = useState<Standing>("all");
  const [words] = useDebounce(typed.trim(), 200);
  const jobs = useJobs(words, standing);
  const go = useNavigate();
  const toast = useToast();
  const [open, setOpen] = useState(false);
  const [refused, setRefused] = useState<Refusal | null>(null);
  const file = useRef<HTMLInputElement>(null);
  const bring = useChange("jobs", (text: string) => take(api.POST("/api/jobs/import", { body: { text } })));
  const demo = useChange("jobs", () => take(api.POST("/api/jobs/demo")));
  const addDemo = () =>
    demo.mutateAsync(undefined).then(
      () => toast("Fresh demo jobs are in the list."),
      (e) => setRefused(asRefusal(e)),
    );
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
    <div className="mx-auto w-full max-w-6xl p-3 sm:p-5">
      <div className="mb-3 flex flex-wrap items-center gap-2">
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
        <Button look="main" onClick={() => setOpen(true)}>
          <Plus aria-hidden className="size-5" /> New job
        </Button>
        <Menu
          label="More for jobs"
          choices={[
            { icon: Upload, text: "Import a job", onChoose: () => file.current?.click() },
            { icon: FlaskConical, text: "Add fresh demo jobs", onChoose: addDemo },
          ]}
        />
      </div>
      {refused ? <Refused text={refused.text} /> : null}
      <div className="mb-3 flex flex-wrap items-center gap-2">
        <label className="relative min-w-0 grow basis-64">
          <span className="sr-only">Search jobs</span>
          <Search aria-hidden className="absolute top-3 left-3 size-5 text-quiet" />
          <input
            type="search"
            value={typed}
            maxLength={200}
            onChange={(e) => setTyped(e.target.value)}
            placeholder="Name, address, notice, line, technician"
            className="field pl-10"
          />
        </label>
        <fieldset className="grid grid-cols-4 overflow-hidden rounded-md border border-quiet max-sm:w-full">
          <legend className="sr-only">Which jobs</legend>
          {STANDINGS.map((s) => (
            <label
              key={s.id}
              className="relative flex min-h-11 items-center justify-center px-3 font-semibold has-checked:bg-deep has-checked:text-on-deep has-focus-visible:outline-2 has-focus-visible:-outline-offset-4"
            >
              <input
                type="radio"
                name="standing"
                checked={standing === s.id}
                onChange={() => setStanding(s.id)}
                className="absolute inset-0 cursor-pointer opacity-0"
              />
              {s.label}
            </label>
          ))}
        </fieldset>
      </div>
      <Wait query={jobs} doing="Reading the jobs">
        {({ pages }) =>
          pages[0]?.jobs.length === 0 ? (
            words || standing !== "all" ? (
              <p className="card">No job fits. Search for other words, or show all.</p>
            ) : (
              <div className="card">
                <h2>No jobs yet</h2>
                <p className="mb-3">
                  Start one with where the dig is and what the soil is like; lines come next.
                </p>
                <div className="flex flex-wrap gap-2">
                  <Button onClick={() => file.current?.click()}>Import a job</Button>
                  <Button onClick={addDemo}>Add the demo jobs</Button>
                </div>
              </div>
            )
          ) : (
            <>
              <ul className="overflow-hidden rounded-lg border border-edge bg-sheet">
                {pages.flatMap((page) => page.jobs.map((j) => <JobRow key={j.id} job={j} />))}
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

const STANDINGS: { id: Standing; label: string }[] = [
  { id: "all", label: "All" },
  { id: "overdue", label: "Overdue" },
  { id: "unmarked", label: "No mark" },
  { id: "marked", label: "Marked" },
];
