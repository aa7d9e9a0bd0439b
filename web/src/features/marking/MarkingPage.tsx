import { useParams } from "react-router";
import { api, type Job, type Schemas, take } from "../../api/client";
import { useChange, useJob, useMarking } from "../../api/queries";
import { when } from "../../api/units";
import { Button } from "../../ui/Button";
import { EntryForm, FormError, TextEntry } from "../../ui/EntryForm";
import { PageTop } from "../../ui/PageTop";
import { useToast } from "../../ui/Toasts";
import { useEntryForm } from "../../ui/useEntryForm";
import { Wait } from "../../ui/Wait";
import { LookRow, type MarkingFormState } from "./LookRow";

type Marking = Schemas["MarkingView"];

/** How a job marks each kind of line, and how wide its tolerance zone is: a table that follows the local rule. */
export default function MarkingPage() {
  const jobId = Number(useParams().jobId);
  const job = useJob(jobId);
  const marking = useMarking(jobId);
  return (
    <Wait query={job} doing="Reading the job">
      {(j) => (
        <div className="relative flex min-h-0 min-w-0 max-w-[70rem] flex-col gap-3 lg:overflow-y-auto">
          <PageTop job={j} title="Marking by the local rule" />
          <p className="max-w-prose">
            Colours, letters and patterns on the ground follow the local code. So does the zone beside a mark
            where digging is by hand. These are usual values: check them against your local code.
          </p>
          <Wait query={marking} doing="Reading the local rule">
            {(m) => <MarkingForm job={j} marking={m} />}
          </Wait>
        </div>
      )}
    </Wait>
  );
}

const toForm = (m: Marking): MarkingFormState => ({
  looks: Object.fromEntries(
    m.looks.map((l) => [
      l.id,
      { colour: l.now.colour, hex: l.now.hex, letter: l.now.letter, pattern: l.now.pattern },
    ]),
  ),
  tolerance: m.tolerance_typed,
  source: m.source,
  technician: m.by,
});

function MarkingForm({ job, marking: m }: { job: Job; marking: Marking }) {
  const start = toForm(m);
  const form = useEntryForm({ start, draft: `marking-${job.id}` });
  const toast = useToast();
  const save = useChange("marking", (body: MarkingFormState) =>
    take(api.PUT("/api/jobs/{job_id}/marking", { params: { path: { job_id: job.id } }, body })),
  );
  const keep = async (typed: MarkingFormState, said: string, undo?: MarkingFormState) => {
    form.begin(toForm(await save.mutateAsync(typed)));
    toast(said, undo ? () => keep(undo, "Rule restored.").catch(form.refuse) : undefined);
  };
  const send = (typed: MarkingFormState) =>
    keep(typed, "Local rule saved. Marks on record stay as they were made.", start);
  return (
    <EntryForm form={form} send={send} className="grid gap-3">
      <section className="card" aria-label="Colours, letters and patterns">
        <h2>Colours, letters and patterns</h2>
        <ul>
          {m.looks.map((l) => (
            <LookRow key={l.id} kind={l} patterns={m.patterns} form={form} />
          ))}
        </ul>
      </section>
      <section className="card" aria-label="Tolerance zone">
        <h2>Tolerance zone</h2>
        <div className="grid gap-x-4 sm:grid-cols-3">
          <TextEntry
            form={form}
            name="tolerance"
            label="To either side of a mark"
            required
            quantity="depth"
            units={job.units}
            hint={`usual: ${m.usual_tolerance_text}`}
          />
          <TextEntry
            form={form}
            name="source"
            label="Rule it follows"
            hint="As on the notice or in the code."
          />
          <TextEntry form={form} name="technician" label="Entered by" />
        </div>
      </section>
      <FormError form={form} />
      <div className="flex flex-wrap items-center gap-3">
        <Button type="submit" look="main" disabled={save.isPending}>
          Save this rule
        </Button>
        {m.at ? (
          <p className="text-sm text-quiet">
            Last changed {when(m.at)}
            {m.by ? ` by ${m.by}` : ""}.
          </p>
        ) : (
          <p className="text-sm text-quiet">Usual values, not changed yet.</p>
        )}
      </div>
    </EntryForm>
  );
}
