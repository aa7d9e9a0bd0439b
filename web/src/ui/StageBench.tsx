import type { ReactNode } from "react";

/**
 * A step of a line on one screen: the stage shows the picture of it, the bench beside it holds the one thing needed
 * now. On a desk both fit the window and scroll by themselves; on a phone the bench comes first.
 */
export function StageBench({ stage, bench }: { stage: ReactNode; bench: ReactNode }) {
  return (
    <div className="grid grid-cols-1 gap-4 lg:h-full lg:grid-cols-[minmax(0,1fr)_22rem] lg:gap-3 xl:grid-cols-[minmax(0,1fr)_25rem]">
      <div
        className="grid min-h-0 min-w-0 grid-cols-1 content-start gap-4 lg:order-2 lg:gap-3 lg:overflow-y-auto"
        data-bench
      >
        {bench}
      </div>
      <div
        className="relative flex min-h-0 min-w-0 flex-col gap-4 lg:order-1 lg:gap-3 lg:overflow-y-auto"
        data-stage
      >
        {stage}
      </div>
    </div>
  );
}
