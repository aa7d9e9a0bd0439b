import { api, type Schemas, take } from "../../api/client";

/** What the coach says of what was just done; nothing where it has nothing to say or cannot be asked. */
export const remarkOn = (job_id: number, body: Schemas["RemarkForm"]): Promise<string> =>
  take(api.POST("/api/jobs/{job_id}/yard/remark", { params: { path: { job_id } }, body })).then(
    (said) => said.text,
    () => "",
  );
