import { lazy, Suspense } from "react";
import type { SitePlanProps } from "../../pictures/SitePlan";

// the plan, with what pans and zooms it, is only loaded where one is shown
const SitePlan = lazy(() => import("../../pictures/SitePlan"));

export function PlanPicture(p: SitePlanProps) {
  return (
    <Suspense fallback={<p className="card">Loading the plan</p>}>
      <SitePlan {...p} />
    </Suspense>
  );
}
