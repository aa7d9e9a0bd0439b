import { useState } from "react";
import { Link, NavLink, useParams } from "react-router";
import type { Job, Schemas } from "../../api/client";
import { useJob, useSite, useWork } from "../../api/queries";
import { formatter } from "../../api/units";
import type { Drafting } from "../../pictures/siteplan/DraftHandles";
import { PageTop } from "../../ui/PageTop";
import { StageBench } from "../../ui/StageBench";
import { Wait } from "../../ui/Wait";

import { DrawPanel } from "./DrawPanel";
import { PlanPicture } from "./PlanPicture";
import { WorkPanel } from "./WorkPanel";

export default function SitePage({ mode }: { mode: "work" | "draw" }) {
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

function SiteView({ job, site, mode }: { job: Job; site: Schemas["SiteView"]; mode: "work" | "draw" }) {
  const [chosen, setChosen] = useState<number | null>(null);
  const [drawing, setDrawing] = useState<Drafting | null>(null);
  const work = useWork(job.id, mode === "work" && job.lines.length > 0);
  const drawn = site.lines.length + site.access.length + site.structures.length > 0;
  const tab = ({ isActive }: { isActive: boolean }) =>
    `flex min-h-11 items-center border-b-4 px-3 font-semibold ${isActive ? "border-amber" : "border-transparent text-quiet"}`;
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
        </nav>
      </PageTop>
      <div className="min-h-0 lg:grow">
        <StageBench
          stageFirst
          stage={
            drawn || mode === "draw" ? (
              <section
                aria-label="Site plan"
                className={`h-[46dvh] min-h-72 lg:h-full ${drawing ? "max-lg:sticky max-lg:top-0 max-lg:z-20" : ""}`}
              >
                <PlanPicture
                  site={site}
                  work={mode === "work" ? work.data : null}
                  chosen={chosen}
                  onChoose={setChosen}
                  format={formatter(job.units)}
                  drafting={drawing}
                />
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
      </div>
    </div>
  );
}
