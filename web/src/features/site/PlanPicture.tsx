import { Suspense } from "react";
import type { SitePlanProps } from "../../pictures/SitePlan";
import { fetched } from "../../ui/fetched";

// the plan, with what pans and zooms it, is only loaded where one is shown
const SitePlan = fetched(() => import("../../pictures/SitePlan"));

export function PlanPicture(p: SitePlanProps) {
  return (
    <Suspense fallback={<p className="card">Loading the plan</p>}>
      <SitePlan {...p} />
    </Suspense>
  );
}
