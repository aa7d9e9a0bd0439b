import type { UseQueryResult } from "@tanstack/react-query";
import { type ReactNode, useEffect, useState } from "react";
import { ErrorBoundary, type FallbackProps } from "react-error-boundary";
import { asRefusal } from "../api/client";
import { Button } from "./Button";

/** Shows data, progress beyond 300 ms, or what went wrong with a way to try again. */
export function Wait<T>({
  query,
  doing,
  children,
}: {
  query: Pick<UseQueryResult<T>, "data" | "isPending" | "isError" | "error" | "refetch">;
  doing: string;
  children: (data: T) => ReactNode;
}) {
  const late = useLate(query.isPending);
  if (query.data !== undefined) {
    const { data } = query;
    return (
      <ErrorBoundary FallbackComponent={BrokenPanel} resetKeys={[data]}>
        <Shown show={() => children(data)} />
      </ErrorBoundary>
    );
  }
  if (query.isError) {
    const e = asRefusal(query.error);
    return (
      <div role="alert" className="card border-hold">
        <p className="font-semibold">{e.message}</p>
        <p className="mb-3">{e.fix}</p>
        <Button onClick={() => query.refetch()}>Try again</Button>
      </div>
    );
  }
  return late ? <Progress doing={doing} /> : null;
}

// what a panel shows is made below its boundary, so that a mistake in it stays there
const Shown = ({ show }: { show: () => ReactNode }) => <>{show()}</>;

const Progress = ({ doing }: { doing: string }) => (
  <div role="status" className="card">
    <p className="mb-2 font-semibold">{doing}</p>
    <div className="h-2 overflow-hidden rounded bg-edge">
      <div className="h-full w-1/3 rounded motion-safe:animate-pulse bg-deep" />
    </div>
  </div>
);

/** Stands where a page is still being loaded; says so once it takes long. */
export function Loading() {
  const late = useLate(true);
  return <div aria-busy="true">{late ? <Progress doing="Loading the page" /> : null}</div>;
}

/** One panel failed: the others still work. */
function BrokenPanel({ resetErrorBoundary }: FallbackProps) {
  return (
    <div role="alert" className="card border-hold">
      <p className="font-semibold">This panel failed.</p>
      <p className="mb-3">Nothing saved is lost, and the rest of the page still works.</p>
      <Button onClick={resetErrorBoundary}>Show it again</Button>
    </div>
  );
}

/** Whether waiting has taken more than 300 ms. */
function useLate(waiting: boolean) {
  const [late, setLate] = useState(false);
  useEffect(() => {
    if (!waiting) return;
    const timer = setTimeout(() => setLate(true), 300);
    return () => clearTimeout(timer);
  }, [waiting]);
  return late;
}
