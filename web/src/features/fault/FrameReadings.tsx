import { api, type Schemas, take } from "../../api/client";
import { useChange } from "../../api/queries";
import { Button } from "../../ui/Button";
import { HistoryButton } from "../history/History";
import { StrikeOut } from "../history/StrikeOut";
import { Struck } from "../history/Struck";

/** What the frame showed, place by place; each can be corrected and struck out. */
export function FrameReadings({
  jobId,
  shown,
  onEdit,
}: {
  jobId: number;
  shown: Schemas["FaultRecord"];
  onEdit: (id: number) => void;
}) {
  const restore = useChange("frame", (reading_id: number) =>
    take(api.POST("/api/frame-readings/{reading_id}/restore", { params: { path: { reading_id } } })),
  );
  const strike = useChange("frame", ({ id, why }: { id: number; why: string }) =>
    take(
      api.DELETE("/api/frame-readings/{reading_id}", {
        params: { path: { reading_id: id }, query: { why } },
      }),
    ),
  );
  return (
    <>
      {shown.readings.length ? null : <p>No reading yet.</p>}
      <ul className="grid gap-x-6 2xl:grid-cols-2">
        {shown.readings.map((r) => (
          <li
            key={r.id}
            data-reading={r.distance_text}
            className="flex flex-wrap items-center gap-x-2 border-t border-edge"
          >
            <span className="grow">{r.text}</span>
            <Button
              look="quiet"
              className="px-2.5"
              aria-label={`Correct the reading at ${r.distance_text}`}
              onClick={() => onEdit(r.id)}
            >
              Correct
            </Button>
            <HistoryButton
              jobId={jobId}
              kind="frame_readings"
              entry={r.id}
              of={`the reading at ${r.distance_text}`}
              className="px-2"
              bare
            />
            <StrikeOut
              what={`the reading at ${r.distance_text}`}
              busy={strike.isPending}
              onStrike={(why) => strike.mutate({ id: r.id, why })}
            />
          </li>
        ))}
      </ul>
      <Struck entries={shown.struck} onRestore={(id) => restore.mutate(id)} />
    </>
  );
}
