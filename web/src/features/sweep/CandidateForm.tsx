import { useWatch } from "react-hook-form";
import { api, type Job, type Schemas, take } from "../../api/client";
import { useChange } from "../../api/queries";
import { Button } from "../../ui/Button";
import { ChoiceEntry, EntryForm, FormError, TextEntry } from "../../ui/EntryForm";
import { useEntryForm } from "../../ui/useEntryForm";

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

/** Ways to choose from; one logged as a bearing in between keeps it. */
function ways(sweep: Schemas["SweepView"], bearing = "") {
  const kept = bearing && !sweep.ways.some((w) => w.id === bearing);
  return [
    { id: "", label: "choose" },
    ...(kept ? [{ id: bearing, label: `${bearing} degrees from the line` }] : []),
    ...sweep.ways,
  ];
}

/** One centre line met on the circle. */
export function CandidateForm(p: {
  sweep: Schemas["SweepView"];
  job: Job;
  editing: Schemas["CandidateView"] | null;
  onDone: () => void;
}) {
  const { sweep, editing } = p;
  const form = useEntryForm<Form>({
    start: editing ? { ...EMPTY, ...editing.typed, note: editing.note } : EMPTY,
    draft: editing ? `candidate-${editing.id}` : `candidate-new-${sweep.setup_id}`,
  });
  const { bearing } = useWatch({ control: form.control });
  // the answer is the sweep itself: the form is free at once, and what is typed next is not cleared later
  const shown = ["setup", sweep.setup_id, "sweep"];
  const add = (sent: Form) => {
    const body = {
      ...sent,
      direction: sent.direction as Schemas["CandidateForm"]["direction"],
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
  };
  const save = useChange("candidate", add, { shown });
  const send = async (typed: Form) => {
    await save.mutateAsync(typed);
    form.begin(EMPTY);
    // a new one ends no correction begun while it was still being saved
    if (editing) p.onDone();
    else form.goTo("bearing");
  };
  const { units } = p.job;
  const metric = units === "metric";
  return (
    <section className="card lg:p-3" aria-label={editing ? "Correct a centre line" : "Next centre line"}>
      <h2 className="mb-2">{editing ? `Correct the centre line ${editing.title}` : "Next centre line"}</h2>
      <EntryForm form={form} send={send} className="grid grid-cols-2 gap-x-3 sm:grid-cols-4 lg:grid-cols-2">
        {sweep.from_north ? (
          <TextEntry
            form={form}
            name="bearing"
            units={units}
            label="Bearing, degrees"
            quantity="bearing"
            required
            hint="clockwise from north"
          />
        ) : (
          <>
            <ChoiceEntry form={form} name="bearing" label="Which way" options={ways(sweep, bearing)} />
            <TextEntry form={form} name="note" units={units} label="What you see there" hint="the gate" />
          </>
        )}
        <TextEntry form={form} name="current" units={units} label="Current, mA" quantity="current" />
        <TextEntry
          form={form}
          name="depth"
          units={units}
          label="Depth"
          quantity="depth"
          hint={metric ? "0.74 or 74" : "1'11 or 23"}
        />
        <ChoiceEntry
          form={form}
          name="direction"
          label="Current direction"
          options={[
            { id: "", label: "not read" },
            { id: "away", label: "away from the hookup" },
            { id: "towards", label: "towards the hookup" },
          ]}
        />
        <TextEntry
          form={form}
          name="signal"
          units={units}
          label="Signal, gain locked"
          quantity="signal"
          hint="as displayed"
        />
        <TextEntry
          form={form}
          name="signal_lifted"
          units={units}
          label="Signal lifted"
          quantity="signal"
          hint="same gain"
        />
        <TextEntry
          form={form}
          name="lift_height"
          units={units}
          label="Lifted by"
          quantity="offset"
          hint={metric ? "0.5" : "20"}
        />
        {sweep.from_north ? <TextEntry form={form} name="note" units={units} label="Note" /> : null}
        <div className="col-span-full flex flex-wrap items-center gap-2 bg-sheet lg:sticky lg:-bottom-3 lg:pb-3">
          <div className="w-full">
            <FormError form={form} />
          </div>
          <Button type="submit" look="main" disabled={save.isPending} className="w-full text-lg sm:w-auto">
            {editing ? "Save and check again" : "Log this centre line"}
          </Button>
          {editing ? (
            <Button
              onClick={() => {
                form.begin(EMPTY);
                p.onDone();
              }}
            >
              Cancel
            </Button>
          ) : null}
        </div>
      </EntryForm>
    </section>
  );
}
