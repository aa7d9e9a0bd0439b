import { type FormEvent, useState } from "react";
import { api, asRefusal, type Job, type Refusal, type Schemas, take } from "../../api/client";
import { useChange } from "../../api/queries";
import { Button } from "../../ui/Button";
import { useDraft } from "../../ui/draft";
import { Choice, Field, FormError } from "../../ui/Field";

const EMPTY = { reason: "", offset: "", side: "left" };

/** Mark a station; where the verdict does not allow it, a written reason is kept and shown with the mark. */
export function MarkForm(p: { station: Schemas["StationView"]; job: Job; onDone: () => void }) {
  const s = p.station;
  const passed = s.proved;
  const [form, change, clear] = useDraft(`mark-${s.id}`, EMPTY);
  const [error, setError] = useState<Refusal | null>(null);
  const mark = useChange("mark", () =>
    take(
      api.POST("/api/stations/{station_id}/marks", {
        params: { path: { station_id: s.id } },
        body: {
          reason: form.reason,
          offset: form.offset,
          side: form.side === "right" ? "right" : "left",
          technician: p.job.technician,
        },
      }),
    ),
  );
  const submit = (e: FormEvent) => {
    e.preventDefault();
    setError(null);
    mark.mutateAsync(undefined).then(
      () => {
        clear(EMPTY);
        p.onDone();
      },
      (err) => setError(asRefusal(err)),
    );
  };
  return (
    <form
      onSubmit={submit}
      noValidate
      className={`mt-3 rounded-md border-2 p-3 ${passed ? "border-edge" : "border-hold bg-hold-bg"}`}
    >
      {passed ? null : (
        <p className="mb-2 font-bold text-hold">
          This station is not proved. A mark here needs your written reason; it stays on the record and the
          mark is labelled “NOT PROVED”.
        </p>
      )}
      <Field
        name="reason"
        label={passed ? "Note with the mark (optional)" : "Reason for marking anyway"}
        value={form.reason}
        onChange={(reason) => change({ reason })}
        error={error}
        required={!passed}
        multiline
      />
      <details className="mb-2" open={Boolean(form.offset)}>
        <summary className="min-h-11 cursor-pointer py-2 font-semibold">
          The ground over it cannot be painted
        </summary>
        <div className="grid gap-x-3 sm:grid-cols-2">
          <Field
            name="offset"
            label="Paint stands off by"
            quantity="distance"
            units={p.job.units}
            value={form.offset}
            onChange={(offset) => change({ offset })}
            error={error}
            hint="empty: over the line"
          />
          <Choice
            label="Looking from its near end, the paint is"
            name="side"
            value={form.side}
            error={error}
            onChange={(side) => change({ side })}
            options={[
              { id: "left", label: "left of the line" },
              { id: "right", label: "right of the line" },
            ]}
            hint="The label says the way back to it."
          />
        </div>
      </details>
      <FormError error={error} fields={["reason", "offset", "side"]} />
      <div className="flex flex-wrap gap-2">
        <Button type="submit" look={passed ? "main" : "stop"} disabled={mark.isPending}>
          {passed ? `Mark at ${s.distance_text}` : "Mark as not proved"}
        </Button>
        <Button onClick={p.onDone}>Cancel</Button>
      </div>
    </form>
  );
}
