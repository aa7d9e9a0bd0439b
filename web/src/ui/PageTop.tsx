import { ArrowLeft } from "lucide-react";
import type { ReactNode } from "react";
import { Link } from "react-router";
import { useTitle } from "./useTitle";

/** Head of a page of a job: the way back, what it is, and what else stands beside it. */
export function PageTop(p: { job: { id: number; name: string }; title: string; children?: ReactNode }) {
  useTitle(p.title, p.job.name);
  return (
    <div className="flex flex-wrap items-center gap-x-6 gap-y-1">
      <div className="min-w-0">
        <Link
          to={`/jobs/${p.job.id}`}
          className="inline-flex min-h-11 items-center gap-1 underline lg:hidden"
        >
          <ArrowLeft aria-hidden className="size-4" /> {p.job.name}
        </Link>
        <h1 className="leading-tight">{p.title}</h1>
      </div>
      {p.children}
    </div>
  );
}
