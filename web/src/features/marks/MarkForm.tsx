import { api, type Job, type Schemas, take, type Verdict } from "../../api/client";
import { useChange } from "../../api/queries";
import { Button } from "../../ui/Button";
import { ChoiceEntry, EntryForm, FormError, TextEntry } from "../../ui/EntryForm";
import { Fold } from "../../ui/Fold";
import { useEntryForm } from "../../ui/useEntryForm";

/** Where a mark can go: a station of a trace, or a stop of a sonde run. */
export interface Markable {
  at: "station" | "stop";
  id: number;
  /** Where it is painted. */
  distance_text: string;
  verdict: Verdict;
  proved: boolean;
  headline: string;
  mark_id: number | null;
  /** What is painted, where that is known at once. */
  mark_label?: string;
}

export const ofStation = (s: Schemas["StationView"]): Markable => ({ ...s, at: "station" });
export const ofStop = (s: Schemas["StopView"]): Markable => ({
  ...s,
  at: "stop",
  distance_text: s.paint_text,
});

/** Keeps a mark. */
export const markAt = (m: Markable, body: Schemas["MarkForm"]) =>
  m.at === "station"
    ? take(api.POST("/api/stations/{station_id}/marks", { params: { path: { station_id: m.id } }, body }))
    : take(api.POST("/api/stops/{stop_id}/marks", { params: { path: { stop_id: m.id } }, body }));

const EMPTY = { reason: "", offset: "", side: "left" };

/** Mark a station or a stop; where the verdict does not allow it, a written reason is kept and shown with the mark. */
export function MarkForm(p: { station: Markable; job: Job; onDone: () => void }) {
  const s = p.station;
  const passed = s.proved;
  const form = useEntryForm({
    start: EMPTY,
    draft: s.at === "station" ? `mark-${s.id}` : `mark-stop-${s.id}`,
  });
  const mark = useChange("mark", (body: Schemas["MarkForm"]) => markAt(s, body));
  const send = async (typed: typeof EMPTY) => {
    const side = typed.side === "right" ? "right" : "left";
    await mark.mutateAsync({ ...typed, side });
    form.begin(EMPTY);
    p.onDone();
  };
  return (
    <EntryForm
      form={form}
      send={send}
      className={`mt-3 rounded-md border-2 p-3 ${passed ? "border-edge" : "border-hold bg-hold-bg"}`}
    >
      {passed ? null : (
        <p className="mb-2 font-bold text-hold">
          This place is not proved. A mark here needs your written reason; it stays on the record and the mark
          is labelled “NOT PROVED”.
        </p>
      )}
      <TextEntry
        form={form}
        name="reason"
        label={passed ? "Note with the mark (optional)" : "Reason for marking anyway"}
        required={!passed}
        multiline
      />
      <Fold
        needs={Boolean(form.getValues("offset"))}
        className="mb-2"
        summary="The ground over it cannot be painted"
      >
        <div className="grid gap-x-3 sm:grid-cols-2">
          <TextEntry
            form={form}
            name="offset"
            label="Paint is off the line by"
            quantity="distance"
            units={p.job.units}
            hint="empty: over the line"
          />
          <ChoiceEntry
            form={form}
            label="Looking from the near end, the paint is"
            name="side"
            options={[
              { id: "left", label: "left of the line" },
              { id: "right", label: "right of the line" },
            ]}
            hint="The label says which way the line is."
          />
        </div>
      </Fold>
      <FormError form={form} />
      <div className="flex flex-wrap gap-2">
        <Button type="submit" look={passed ? "main" : "stop"} disabled={mark.isPending}>
          {passed ? `Mark at ${s.distance_text}` : "Mark as not proved"}
        </Button>
        <Button onClick={p.onDone}>Cancel</Button>
      </div>
    </EntryForm>
  );
}
