import { useState } from "react";
import { Link, NavLink, useParams } from "react-router";
import type { Job, Schemas } from "../../api/client";
import { useJob, useSite, useWork } from "../../api/queries";
import { formatter } from "../../api/units";
import { PlanTable } from "../../pictures/PlanTable";
import type { Drafting } from "../../pictures/siteplan/DraftHandles";
import { PageTop } from "../../ui/PageTop";
import { StageBench } from "../../ui/StageBench";
import { Wait } from "../../ui/Wait";
import { BackgroundStep } from "./BackgroundStep";
import { DrawPanel } from "./DrawPanel";
import { PlanPicture } from "./PlanPicture";
import { WorkPanel } from "./WorkPanel";

type Mode = "work" | "draw" | "background";

export default function SitePage({ mode }: { mode: Mode }) {
  const { jobId } = useParams();
  const job = useJob(Number(jobId));
  const site = useSite(Number(jobId));
  return (
    <Wait query={job} doing="Reading the job">
      {(j) => (
        <Wait query={site} doing="Reading the site plan">
          {(s) => <SiteView job={j} site={s} mode={mode} />}
        </Wait>
      )}
    </Wait>
  );
}

function SiteView({ job, site, mode }: { job: Job; site: Schemas["SiteView"]; mode: Mode }) {
  const tab = ({ isActive }: { isActive: boolean }) =>
    `flex min-h-11 items-center border-b-4 px-2 font-semibold sm:px-3 ${isActive ? "border-amber" : "border-transparent text-quiet"}`;
  return (
    <div className="flex min-h-0 min-w-0 flex-col gap-3">
      <PageTop job={job} title="Site">
        <nav aria-label="Site" className="ml-auto flex">
          <NavLink end to={`/jobs/${job.id}/site`} className={tab}>
            Order of work
          </NavLink>
          <NavLink to={`/jobs/${job.id}/site/draw`} className={tab}>
            Draw the site
          </NavLink>
          <NavLink to={`/jobs/${job.id}/site/background`} className={tab}>
            Background
          </NavLink>
        </nav>
      </PageTop>
      <div className="min-h-0 lg:grow">
        {mode === "background" ? (
          <BackgroundStep key={site.background?.id ?? 0} job={job} site={site} />
        ) : (
          <Drawn job={job} site={site} mode={mode} />
        )}
      </div>
    </div>
  );
}

/** The plan with the order of work on it, or while it is drawn. */
function Drawn({ job, site, mode }: { job: Job; site: Schemas["SiteView"]; mode: "work" | "draw" }) {
  const [chosen, setChosen] = useState<number | null>(null);
  const [drawing, setDrawing] = useState<Drafting | null>(null);
  const work = useWork(job.id, mode === "work" && job.lines.length > 0);
  const drawn = site.lines.length + site.access.length + site.structures.length > 0;
  return (
    <StageBench
      stageFirst
      stage={
        drawn || mode === "draw" ? (
          <section
            aria-label="Site plan"
            className={`lg:flex lg:h-full lg:flex-col ${drawing ? "max-lg:sticky max-lg:top-0 max-lg:z-20" : ""}`}
          >
            <div className="h-[46dvh] min-h-72 lg:h-auto lg:min-h-0 lg:grow">
              <PlanPicture
                site={site}
                work={mode === "work" ? work.data : null}
                chosen={chosen}
                onChoose={setChosen}
                format={formatter(job.units)}
                drafting={drawing}
              />
            </div>
            {drawing ? null : (
              <div className="lg:max-h-1/2 lg:shrink-0 lg:overflow-y-auto">
                <PlanTable site={site} />
              </div>
            )}
          </section>
        ) : (
          <section className="card self-start" aria-label="Site plan">
            <h2>Nothing drawn yet</h2>
            <p className="my-2">
              Vessel plans from what you entered for each line. Draw the lines, and it also plans stakes,
              walking and bleed-off between them.
            </p>
            <Link className="font-semibold underline" to={`/jobs/${job.id}/site/draw`}>
              Draw the site
            </Link>
          </section>
        )
      }
      bench={
        mode === "draw" ? (
          <DrawPanel job={job} site={site} onDrawing={setDrawing} />
        ) : job.lines.length ? (
          <Wait query={work} doing="Simulating a trace for every setup on every line">
            {(w) => <WorkPanel job={job} site={site} work={w} chosen={chosen} onChoose={setChosen} />}
          </Wait>
        ) : (
          <section className="card self-start">
            <h2>No line yet</h2>
            <p>
              Add the lines of the job first: <Link to={`/jobs/${job.id}`}>to the job</Link>.
            </p>
          </section>
        )
      }
    />
  );
}
