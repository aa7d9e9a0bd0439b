import type { UseQueryResult } from "@tanstack/react-query";
import { type ReactNode, useEffect, useState } from "react";
import { asRefusal } from "../api/client";
import { Button } from "./Button";

/** Shows data, progress beyond 300 ms, or what went wrong with a way to try again. */
export function Wait<T>({
  query,
  doing,
  children,
}: {
  query: UseQueryResult<T>;
  doing: string;
  children: (data: T) => ReactNode;
}) {
  const [late, setLate] = useState(false);
  useEffect(() => {
    if (!query.isPending) return;
    const timer = setTimeout(() => setLate(true), 300);
    return () => clearTimeout(timer);
  }, [query.isPending]);
  if (query.data !== undefined) return <>{children(query.data)}</>;
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
  return late ? (
    <div role="status" className="card">
      <p className="mb-2 font-semibold">{doing}</p>
      <div className="h-2 overflow-hidden rounded bg-edge">
        <div className="h-full w-1/3 animate-pulse rounded bg-deep" />
      </div>
    </div>
  ) : null;
}
