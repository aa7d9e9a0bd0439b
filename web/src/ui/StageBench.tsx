import type { ReactNode } from "react";

/**
 * A step on one screen: the stage shows the picture of it, the bench beside it holds the one thing needed now. On a
 * desk both fit the window and scroll by themselves; on a phone the bench comes first.
 */
export function StageBench(p: {
  stage: ReactNode;
  bench: ReactNode;
  /** On a phone the picture comes first, and may stick there while something is tapped on it. */
  stageFirst?: boolean;
}) {
  const scrolls = "lg:relative lg:gap-3 lg:overflow-y-auto";
  return (
    <div className="grid grid-cols-1 gap-4 lg:h-full lg:grid-cols-[minmax(0,1fr)_22rem] lg:gap-3 xl:grid-cols-[minmax(0,1fr)_25rem]">
      <div
        className={`grid min-h-0 min-w-0 grid-cols-1 content-start gap-4 lg:order-2 lg:scroll-pb-20 ${scrolls} ${p.stageFirst ? "max-lg:order-2" : ""}`}
        data-bench
      >
        {p.bench}
      </div>
      <div
        className={`flex min-h-0 min-w-0 flex-col gap-4 lg:order-1 ${scrolls} ${p.stageFirst ? "max-lg:contents" : ""}`}
        data-stage
      >
        {p.stage}
      </div>
    </div>
  );
}
