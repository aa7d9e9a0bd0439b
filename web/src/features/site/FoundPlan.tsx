import type { Job } from "../../api/client";
import { useFound, useSite } from "../../api/queries";
import { formatter } from "../../api/units";
import { Wait } from "../../ui/Wait";

import { PlanPicture } from "./PlanPicture";

/** The plan with what was found on it; of one line, it shows the surroundings of its hookup and the circle walked. */
export function FoundPlan({ job, lineId, fills }: { job: Job; lineId?: number; fills?: boolean }) {
  const site = useSite(job.id);
  const found = useFound(job.id);
  const own = found.data?.lines.find((l) => l.line_id === lineId);
  if (site.data && !site.data.lines.length) return null;
  if (lineId !== undefined && found.data && !own?.centre) return null;
  const near = own?.centre
    ? ([-1, 1] as const).map((k): [number, number] => [
        (own.centre?.[0] ?? 0) + 1.3 * k * own.radius_m,
        (own.centre?.[1] ?? 0) + 1.3 * k * own.radius_m,
      ])
    : undefined;
  const faults = found.data?.lines.some((l) => l.points.some((x) => x.kind === "fault"))
    ? "Triangles: ground faults, underlined where marked."
    : "";
  return (
    <section className={`card lg:p-2 ${fills ? "lg:flex lg:grow lg:flex-col" : ""}`} aria-label="On the plan">
      <h2 className={lineId === undefined ? "mb-2" : "sr-only"}>On the plan</h2>
      <div className={fills ? "h-[44dvh] min-h-72 lg:h-auto lg:min-h-0 lg:grow" : "h-80"}>
        <Wait query={site} doing="Reading the site plan">
          {(s) => (
            <PlanPicture
              site={s}
              found={found.data}
              foundOf={lineId}
              zoomTo={near}
              format={formatter(job.units)}
            />
          )}
        </Wait>
      </div>
      <p className="mt-2 text-sm text-quiet">
        {lineId === undefined
          ? `${found.data?.zone_text ?? ""} Letters: marks. Dots: stations without a mark, by their verdict. ${faults} Thick and broken: doubtful or not located.`
          : "Dotted: the circle to walk. Diamonds: centre lines you logged, the target with a dot."}
      </p>
    </section>
  );
}
