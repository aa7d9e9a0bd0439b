import { api, type Hookup, take } from "../../api/client";
import { useChange } from "../../api/queries";
import { when } from "../../api/units";
import { Button } from "../../ui/Button";
import { useToast } from "../../ui/Toasts";

export function Readings({ hookup: h }: { hookup: Hookup }) {
  const toast = useToast();
  const path = (reading_id: number) => ({ params: { path: { reading_id } } });
  const restore = useChange("reading", (id: number) =>
    take(api.POST("/api/readings/{reading_id}/restore", path(id))),
  );
  const remove = useChange("reading", (id: number) =>
    take(api.DELETE("/api/readings/{reading_id}", path(id))),
  );
  if (!h.readings.length) return null;
  return (
    <ul className="grid gap-1">
      {h.readings.map((r) => (
        <li key={r.id} className="flex flex-wrap items-center gap-x-4 border-t border-edge py-1">
          <strong className="text-lg">
            {r.volts_text}, {r.amps_text}
          </strong>
          <span>
            {r.ohms_text} at {r.freq_text}
            {r.change_text ? <strong>, {r.change_text}</strong> : null}
          </span>
          {r.doubt_text ? <strong className="text-hold">{r.doubt_text}</strong> : null}
          <span className="text-sm text-quiet">
            {r.technician}, {when(r.taken_at)}
            {r.note ? ` · ${r.note}` : ""}
          </span>
          <Button
            look="quiet"
            className="ml-auto text-sm"
            aria-label={`Remove the reading ${r.volts_text}, ${r.amps_text}`}
            onClick={() =>
              remove.mutateAsync(r.id).then(
                () => toast("Reading removed.", () => restore.mutate(r.id)),
                (e) => toast(e.message),
              )
            }
          >
            Remove
          </Button>
        </li>
      ))}
    </ul>
  );
}
