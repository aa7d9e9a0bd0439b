import { type FormEvent, useState } from "react";
import { useParams } from "react-router";
import { api, asRefusal, type Job, type Refusal, type Schemas, take } from "../../api/client";
import { useChange, useJob, useMarking } from "../../api/queries";
import { when } from "../../api/units";
import { Button } from "../../ui/Button";
import { useDraft } from "../../ui/draft";
import { Field, FormError } from "../../ui/Field";
import { PageTop } from "../../ui/PageTop";
import { useToast } from "../../ui/Toasts";
import { Wait } from "../../ui/Wait";

import { type Look, LookRow } from "./LookRow";

type Marking = Schemas["MarkingView"];

/** How a job marks each kind of line, and how wide its tolerance zone is: a table that follows the local rule. */
export default function MarkingPage() {
  const jobId = Number(useParams().jobId);
  const job = useJob(jobId);
  const marking = useMarking(jobId);
  return (
    <Wait query={job} doing="Reading the job">
      {(j) => (
        <div className="mx-auto flex w-full max-w-[70rem] flex-col gap-3 p-3 sm:p-5">
          <PageTop job={j} title="Marking by the local rule" />
          <p className="max-w-prose">
            Colours, letters and patterns on the ground follow the local code, and so does the zone round a
            mark in which hand digging is asked for. What stands here to begin with is only usual: check it
            against the code that applies.
          </p>
          <Wait query={marking} doing="Reading the local rule">
            {(m) => <MarkingForm job={j} marking={m} />}
          </Wait>
        </div>
      )}
    </Wait>
  );
}

interface FormState {
  looks: Record<string, Look>;
  tolerance: string;
  source: string;
  technician: string;
}

const toForm = (m: Marking): FormState => ({
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
  const [form, change, clear] = useDraft<FormState>(`marking-${job.id}`, start);
  const [error, setError] = useState<Refusal | null>(null);
  const toast = useToast();
  const save = useChange("marking", (body: FormState) =>
    take(api.PUT("/api/jobs/{job_id}/marking", { params: { path: { job_id: job.id } }, body })),
  );
  const keep = (body: FormState, said: string, undo?: FormState) =>
    save.mutate(body, {
      onSuccess: (now) => {
        clear(toForm(now));
        toast(said, undo ? () => keep(undo, "Taken back.") : undefined);
      },
      onError: (e: unknown) => setError(asRefusal(e)),
    });
  const submit = (e: FormEvent) => {
    e.preventDefault();
    setError(null);
    keep(form, "Local rule kept. Marks on record stay as they were made.", start);
  };
  return (
    <form noValidate onSubmit={submit} className="grid gap-3">
      <section className="card" aria-label="Colours, letters and patterns">
        <h2>Colours, letters and patterns</h2>
        <ul>
          {m.looks.map((l) => (
            <LookRow
              key={l.id}
              kind={l}
              look={form.looks[l.id] ?? l.now}
              patterns={m.patterns}
              error={error}
              onChange={(look) => change({ looks: { ...form.looks, [l.id]: look } })}
            />
          ))}
        </ul>
      </section>
      <section className="card" aria-label="Tolerance zone">
        <h2>Tolerance zone</h2>
        <div className="grid gap-x-4 sm:grid-cols-3">
          <Field
            name="tolerance"
            label="To either side of a mark"
            required
            quantity="depth"
            units={job.units}
            value={form.tolerance}
            error={error}
            hint={`usual: ${m.usual_tolerance_text}`}
            onChange={(tolerance) => change({ tolerance })}
          />
          <Field
            name="source"
            label="Rule it follows"
            value={form.source}
            error={error}
            hint="As on the notice or in the code."
            onChange={(source) => change({ source })}
          />
          <Field
            name="technician"
            label="Entered by"
            value={form.technician}
            error={error}
            onChange={(technician) => change({ technician })}
          />
        </div>
      </section>
      <FormError error={error} fields={["looks", "tolerance", "source", "technician"]} />
      <div className="flex flex-wrap items-center gap-3">
        <Button type="submit" look="main" disabled={save.isPending}>
          Keep this rule
        </Button>
        {m.at ? (
          <p className="text-sm text-quiet">
            Last changed {when(m.at)}
            {m.by ? ` by ${m.by}` : ""}.
          </p>
        ) : (
          <p className="text-sm text-quiet">Not changed yet: the usual table.</p>
        )}
      </div>
    </form>
  );
}
