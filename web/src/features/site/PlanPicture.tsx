import { lazy, Suspense } from "react";
import type { SitePlanProps } from "../../pictures/SitePlan";

// Leaflet is only loaded where a plan is shown
const SitePlan = lazy(() => import("../../pictures/SitePlan"));

export function PlanPicture(p: SitePlanProps) {
  return (
    <Suspense fallback={<p className="card">Loading the plan</p>}>
      <SitePlan {...p} />
    </Suspense>
  );
}
