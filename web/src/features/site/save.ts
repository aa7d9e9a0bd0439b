import { api, type Schemas, take } from "../../api/client";
import { useChange } from "../../api/queries";

/** Saves the plan as a whole; what is refused leaves everything as it was. */
export const useSaveSite = (job_id: number) =>
  useChange(
    "site",
    (form: Schemas["SiteForm"]) =>
      take(api.PUT("/api/jobs/{job_id}/site", { params: { path: { job_id } }, body: form })) as Promise<
        Schemas["SiteView"]
      >,
  );
