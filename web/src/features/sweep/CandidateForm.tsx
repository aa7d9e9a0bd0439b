import { type FormEvent, useRef, useState } from "react";
import { api, asRefusal, type Job, type Refusal, type Schemas, take } from "../../api/client";
import { useChange } from "../../api/queries";
import { Button } from "../../ui/Button";
import { useDraft } from "../../ui/draft";
import { Choice, Field, FormError } from "../../ui/Field";

const EMPTY = {
  bearing: "",
  current: "",
  depth: "",
  direction: "",
  signal: "",
  signal_lifted: "",
  lift_height: "",
  note: "",
};
type Form = typeof EMPTY;

/** One centre line met on the circle. */
export function CandidateForm(p: {
  sweep: Schemas["SweepView"];
  job: Job;
  editing: Schemas["CandidateView"] | null;
  onDone: () => void;
}) {
  const { sweep, editing } = p;
  const start = editing ? { ...EMPTY, ...editing.typed, note: editing.note } : EMPTY;
  const [form, change, clear] = useDraft<Form>(
    editing ? `candidate-${editing.id}` : `candidate-new-${sweep.setup_id}`,
    start,
  );
  const [error, setError] = useState<Refusal | null>(null);
  const first = useRef<HTMLInputElement>(null);
  const save = useChange("candidate", (sent: Form) => {
    const body = {
      ...sent,
      direction: sent.direction as Schemas["CandidateForm"]["direction"],
      technician: p.job.technician,
    };
    return editing
      ? take(
          api.PUT("/api/candidates/{candidate_id}", { params: { path: { candidate_id: editing.id } }, body }),
        )
      : take(
          api.POST("/api/setups/{setup_id}/candidates", {
            params: { path: { setup_id: sweep.setup_id } },
            body,
          }),
        );
  });
  const submit = (e: FormEvent) => {
    e.preventDefault();
    setError(null);
    save.mutate(form, {
      onSuccess: () => {
        clear(EMPTY);
        p.onDone();
        if (!editing) first.current?.focus({ preventScroll: true });
      },
      onError: (err) => setError(asRefusal(err)),
    });
  };
  const text = (name: keyof Form) => ({
    name,
    value: form[name],
    units: p.job.units,
    error,
    onChange: (v: string) => change({ [name]: v }),
  });
  const metric = p.job.units === "metric";
  return (
    <section className="card" aria-label={editing ? "Correct a centre line" : "Next centre line"}>
      <h2 className="mb-2">{editing ? `Correct the centre line at ${editing.title}` : "Next centre line"}</h2>
      <form onSubmit={submit} noValidate className="grid grid-cols-2 gap-x-3 md:grid-cols-4">
        <Field
          {...text("bearing")}
          label="Bearing, degrees"
          quantity="bearing"
          required
          inputRef={first}
          hint={sweep.from_north ? "clockwise from north" : "clockwise from the line"}
        />
        <Field {...text("current")} label="Current, mA" quantity="current" />
        <Field
          {...text("depth")}
          label="Depth"
          quantity="depth"
          hint={metric ? "0.74 or 74" : "1'11 or 23"}
        />
        <Choice
          name="direction"
          label="Current runs"
          value={form.direction}
          error={error}
          onChange={(v) => change({ direction: v })}
          options={[
            { id: "", label: "not read" },
            { id: "away", label: "away from the hookup" },
            { id: "towards", label: "towards the hookup" },
          ]}
        />
        <Field {...text("signal")} label="Signal, gain locked" quantity="signal" hint="as displayed" />
        <Field {...text("signal_lifted")} label="Signal lifted" quantity="signal" hint="same gain" />
        <Field {...text("lift_height")} label="Lifted by" quantity="offset" hint={metric ? "0.5" : "20"} />
        <Field {...text("note")} label="Note" />
        <div className="col-span-full flex flex-wrap items-center gap-2">
          <div className="w-full">
            <FormError error={error} fields={Object.keys(EMPTY)} />
          </div>
          <Button type="submit" look="main" disabled={save.isPending} className="w-full text-lg sm:w-auto">
            {editing ? "Save and check again" : "Log this centre line"}
          </Button>
          {editing ? (
            <Button
              onClick={() => {
                clear(EMPTY);
                p.onDone();
              }}
            >
              Cancel
            </Button>
          ) : null}
        </div>
      </form>
    </section>
  );
}
