import type { Job, Schemas } from "../../api/client";
import { formatter } from "../../api/units";
import { ScanPicture } from "../../pictures/ScanPicture";
import { StageBench } from "../../ui/StageBench";
import { BackgroundPanel } from "./BackgroundPanel";
import type { Corner } from "./drawing";
import { PlanPicture } from "./PlanPicture";
import { useRoute } from "./RouteField";
import { useBackground } from "./useBackground";

/** Where a point is on the plan by what is typed: an access point, or a place the server understands. */
function usePlaced(job_id: number, site: Schemas["SiteView"], text: string): Corner[] {
  const named = site.access.find((a) => a.name.toLowerCase() === text.trim().toLowerCase());
  const found = useRoute(job_id, named ? "" : text);
  if (named) return [named.at];
  return found?.ok && found.corners.length === 1 ? found.corners : [];
}

/** A scanned plan or photo under the site plan: the picture is tapped, then its points are tapped on the plan. */
export function BackgroundStep({ job, site }: { job: Job; site: Schemas["SiteView"] }) {
  const picture = site.background;
  const state = useBackground(job, picture);
  const { target, points } = state;
  const first = usePlaced(job.id, site, points.firstAt);
  const second = usePlaced(job.id, site, points.secondAt);
  const inPicture = picture && (target?.endsWith("Px") || (!target && !picture.corners));
  return (
    <StageBench
      stageFirst
      stage={
        <section
          aria-label={inPicture ? "Picture" : "Site plan"}
          className={`h-[46dvh] min-h-72 lg:h-full ${target ? "max-lg:sticky max-lg:top-0 max-lg:z-20" : ""}`}
        >
          {inPicture ? (
            <ScanPicture
              key={picture.id}
              picture={picture}
              points={[points.firstPx, points.secondPx]}
              onTap={target ? state.onPicture : null}
            />
          ) : (
            <PlanPicture
              site={site}
              format={formatter(job.units)}
              draft={[...first, ...second]}
              onTap={target ? state.onPlan : undefined}
            />
          )}
        </section>
      }
      bench={<BackgroundPanel key={picture?.id ?? 0} job={job} site={site} state={state} />}
    />
  );
}
