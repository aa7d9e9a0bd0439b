import { Link, useParams } from "react-router";
import { useJob, useStanding } from "../../api/queries";
import { PageTop } from "../../ui/PageTop";
import { Wait } from "../../ui/Wait";
import { FoundPlan } from "../site/FoundPlan";
import { JobCover } from "./JobCover";

/** All lines of a job at once: how far each is marked, what is doubtful, what is not located. */
export default function ProgressPage() {
  const { jobId } = useParams();
  const job = useJob(Number(jobId));
  const standing = useStanding(Number(jobId));
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
          <Wait query={standing} doing="Judging the traces">
            {(found) => <JobCover job={j} standing={found} links />}
          </Wait>
        </div>
      )}
    </Wait>
  );
}
