import { fetched } from "../../ui/fetched";

/** The plan, with what pans and zooms it: only loaded where one is shown. */
export const PlanPicture = fetched(
  () => import("../../pictures/SitePlan"),
  () => <p className="card">Loading the plan</p>,
);
