import { Link, useParams } from "react-router";
import type { Job, Standing } from "../../api/client";
import { useJob, useSite, useStanding } from "../../api/queries";
import { PageTop } from "../../ui/PageTop";
import { StageBench } from "../../ui/StageBench";
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
        <div className="flex min-h-0 min-w-0 flex-col gap-3">
          <PageTop job={j} title="How far it is marked">
            <Link className="inline-flex min-h-11 items-center underline" to={`/jobs/${j.id}/marking`}>
              Colours and tolerance zone by the local rule
            </Link>
          </PageTop>
          <div className="min-h-0 lg:grow">
            <Wait query={standing} doing="Judging the traces">
              {(found) => <Progress job={j} standing={found} />}
            </Wait>
          </div>
        </div>
      )}
    </Wait>
  );
}

function Progress({ job, standing }: { job: Job; standing: Standing }) {
  const drawn = useSite(job.id).data?.lines.length;
  const lines = <JobCover job={job} standing={standing} links />;
  return drawn ? (
    <StageBench stageFirst stage={<FoundPlan job={job} fills />} bench={lines} />
  ) : (
    <div className="grid max-w-4xl gap-3 lg:h-full lg:overflow-y-auto">{lines}</div>
  );
}
