import { Link, useParams } from "react-router";
import { useJob } from "../../api/queries";
import { PageTop } from "../../ui/PageTop";
import { Wait } from "../../ui/Wait";
import { FoundPlan } from "../site/FoundPlan";
import { JobCover } from "./JobCover";

/** All lines of a job at once: how far each is marked, what is doubtful, what is not located. */
export default function ProgressPage() {
  const { jobId } = useParams();
  const job = useJob(Number(jobId));
  return (
    <Wait query={job} doing="Reading the job">
      {(j) => (
        <div className="mx-auto flex w-full max-w-[70rem] flex-col gap-3 p-3 sm:p-5">
          <PageTop job={j} title="How far it is marked">
            <Link className="inline-flex min-h-11 items-center underline" to={`/jobs/${j.id}/marking`}>
              Colours and tolerance zone by the local rule
            </Link>
          </PageTop>
          <FoundPlan job={j} />
          <JobCover job={j} links />
        </div>
      )}
    </Wait>
  );
}
